<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\Peg;
use PinYard\Carto\Scheme;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/**
 * Colours that pass into each other with a number, without classes. They go in so many steps that two neighbours can
 * hardly be told apart, and a feature tells its step, not the number itself.
 */
final readonly class Shades extends Marks
{
    public const STEPS = 64;

    /** Colours that the legend's ramp is drawn from. */
    private const ON_RAMP = 9;

    /**
     * @param  float  $from  the number of the scheme's first colour; what is below has it too
     * @param  float  $to  of its last; above $from
     */
    private function __construct(
        public Field $field,
        public Scheme $scheme,
        public float $from,
        public float $to,
        Peg $other,
    ) {
        parent::__construct(
            array_map(static fn (string $c): Peg => Peg::of('disc', $c), $scheme->colours(self::STEPS)),
            $other,
        );
    }

    /**
     * Reads `{field, scheme, from, to, other}`.
     *
     * @param  array<mixed>  $in
     *
     * @throws Refused
     */
    public static function read(array $in, LayerDesign $design): self
    {
        [$from, $to] = [self::end($in['from'] ?? null, 'from'), self::end($in['to'] ?? null, 'to')];
        if ($from >= $to) {
            throw Refused::because('look_ends', 'look/to', $to);
        }

        return new self(
            NumberField::of($in['field'] ?? null, $design),
            Scheme::tryFrom(is_string($in['scheme'] ?? null) ? $in['scheme'] : '') ?? Scheme::Tide,
            $from,
            $to,
            isset($in['other']) ? Peg::read($in['other'], 'look/other') : Peg::missing(),
        );
    }

    /** @throws Refused */
    private static function end(mixed $end, string $name): float
    {
        return (is_int($end) || is_float($end)) && abs($end) <= Field::DECIMAL_MOST
            ? (float) $end
            : throw Refused::because('look_ends', "look/$name", is_scalar($end) ? $end : null);
    }

    public function fields(): array
    {
        return [$this->field->key];
    }

    public function classOf(callable $stored): ?string
    {
        $value = $stored($this->field->key);
        if (! is_numeric($value) || ! is_finite((float) $value)) {
            return null;
        }
        $at = (((float) $value - $this->from) / ($this->to - $this->from)) * self::STEPS;

        return (string) (int) max(0, min(self::STEPS - 1, floor($at)));
    }

    public function fills(): bool
    {
        return true;
    }

    /** Neighbours are not meant to be told apart. */
    protected function compared(): array
    {
        return [];
    }

    public function carries(): array
    {
        return ['by' => $this->field->key, 'from' => $this->from, 'to' => $this->to];
    }

    public function toArray(): array
    {
        return [
            'kind' => 'shades',
            'field' => $this->field->key,
            'scheme' => $this->scheme->value,
            'from' => $this->from,
            'to' => $this->to,
            'other' => $this->other->toArray(),
        ];
    }

    /** One line with the ramp, for all that have the number. */
    public function legend(array $counts, array $drawn): array
    {
        $missing = ['' => $counts[''] ?? 0];
        unset($counts['']);
        $middle = $this->classes[intdiv(self::STEPS, 2)];

        return [
            ['code' => 'shades', 'label' => null] +
            $middle->toArray() + ['count' => array_sum($counts)] +
            $drawn + [
                'ramp' => $this->scheme->colours(self::ON_RAMP),
                'from' => $this->from,
                'to' => $this->to,
            ],
            ...$this->rest($missing, $drawn),
        ];
    }
}
