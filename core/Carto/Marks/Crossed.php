<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\Peg;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Refused;
use PinYard\Stats\Classes;

/**
 * Two numbers at once: each in up to three classes, crossed, with a colour for each pair. Whoever lacks either of them
 * is in none.
 */
final readonly class Crossed extends Marks
{
    private const MOST_BREAKS = 2;

    /**
     * @param  array{Field, Field}  $of
     * @param  array{list<float>, list<float>}  $breaks  ascending
     */
    private function __construct(public array $of, public array $breaks, public TwoScheme $scheme, Peg $other)
    {
        parent::__construct(
            array_map(
                static fn (string $colour): Peg => Peg::of('disc', $colour),
                $scheme->colours(count($breaks[0]) + 1, count($breaks[1]) + 1),
            ),
            $other,
        );
    }

    /**
     * Reads `{fields: [a, b], breaks: [[…], […]], scheme, other}`.
     *
     * @param  array<mixed>  $in
     *
     * @throws Refused
     */
    public static function read(array $in, LayerDesign $design): self
    {
        $keys = is_array($in['fields'] ?? null) ? array_values($in['fields']) : [];
        $of = [
            NumberField::of($keys[0] ?? null, $design, 'look/fields/0'),
            NumberField::of($keys[1] ?? null, $design, 'look/fields/1'),
        ];
        if ($of[0]->key === $of[1]->key) {
            throw Refused::because('look_twice', 'look/fields/1', $of[1]->key);
        }
        $breaks = is_array($in['breaks'] ?? null) ? array_values($in['breaks']) : [];

        return new self(
            $of,
            [self::breaks($breaks[0] ?? null, 0), self::breaks($breaks[1] ?? null, 1)],
            TwoScheme::tryFrom(is_string($in['scheme'] ?? null) ? $in['scheme'] : '') ?? TwoScheme::Reef,
            isset($in['other']) ? Peg::read($in['other'], 'look/other') : Peg::missing(),
        );
    }

    /**
     * @return list<float>
     *
     * @throws Refused
     */
    private static function breaks(mixed $in, int $which): array
    {
        $refuse = static fn (): Refused => Refused::because('look_breaks', "look/breaks/$which", null, [
            'most' => self::MOST_BREAKS,
        ]);
        if (! is_array($in) || ! array_is_list($in) || count($in) > self::MOST_BREAKS) {
            throw $refuse();
        }
        $numbers = [];
        foreach ($in as $break) {
            if (
                (! is_int($break) && ! is_float($break)) ||
                ! (abs($break) <= Field::DECIMAL_MOST) ||
                ($numbers !== [] && $break <= $numbers[count($numbers) - 1])
            ) {
                throw $refuse();
            }
            $numbers[] = (float) $break;
        }

        return $numbers;
    }

    public function fields(): array
    {
        return [$this->of[0]->key, $this->of[1]->key];
    }

    public function classOf(callable $stored): ?string
    {
        $codes = [];
        foreach ($this->of as $i => $field) {
            $value = $stored($field->key);
            if (! is_numeric($value) || ! is_finite((float) $value)) {
                return null;
            }
            $codes[] = Classes::indexOf($this->breaks[$i], (float) $value);
        }

        return implode('-', $codes);
    }

    public function fills(): bool
    {
        return true;
    }

    public function carries(): array
    {
        return ['crossed' => $this->fields(), 'breaks' => $this->breaks];
    }

    public function toArray(): array
    {
        return [
            'kind' => 'crossed',
            'fields' => $this->fields(),
            'breaks' => $this->breaks,
            'scheme' => $this->scheme->value,
            'other' => $this->other->toArray(),
        ];
    }

    /** A line for each pair, with `at`: its classes of both numbers, and `ranges`, where they go from and to. */
    public function legend(array $counts, array $drawn): array
    {
        $lines = [];
        foreach ($this->classes as $code => $peg) {
            $at = array_map(intval(...), explode('-', (string) $code));
            $lines[] =
                ['code' => (string) $code, 'label' => null] +
                $peg->toArray() + ['count' => $counts[$code] ?? 0] +
                $drawn + (isset($drawn['geometry']) && isset($drawn['plain']) ? ['filled' => true] : []) + [
                    'at' => $at,
                    'ranges' => array_map(
                        fn (int $i): array => [
                            $this->breaks[$i][$at[$i] - 1] ?? null,
                            $this->breaks[$i][$at[$i]] ?? null,
                        ],
                        [0, 1],
                    ),
                ];
            unset($counts[$code]);
        }

        return [...$lines, ...$this->rest($counts, $drawn)];
    }
}
