<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Field;
use PinYard\Refused;
use PinYard\Stats\Classes;
use PinYard\Stats\Method;

/** How a look puts the numbers of its field into classes; classes are known by `0`, `1` and so on from the lowest. */
final readonly class NumberClasses
{
    private const LONGEST_LABEL = 80;

    /**
     * @param  list<float>  $breaks  ascending
     * @param  list<string|null>  $labels  of each class, where it has one of its own
     */
    private function __construct(
        public Method $method,
        public Scheme $scheme,
        public array $breaks,
        public array $labels,
    ) {
    }

    /** @param  list<float>  $breaks  ascending */
    public static function of(Method $method, Scheme $scheme, array $breaks): self
    {
        return new self($method, $scheme, $breaks, array_fill(0, count($breaks) + 1, null));
    }

    /**
     * @param  array<mixed>  $in
     *
     * @throws Refused
     */
    public static function read(array $in): self
    {
        $breaks = $in['breaks'] ?? null;
        if (! is_array($breaks) || ! array_is_list($breaks) || count($breaks) >= Classes::MOST) {
            throw Refused::because('look_breaks', 'look/breaks', null, ['most' => Classes::MOST - 1]);
        }
        $numbers = [];
        foreach ($breaks as $break) {
            if (
                (! is_int($break) && ! is_float($break)) ||
                ! is_finite((float) $break) ||
                abs($break) > Field::DECIMAL_MOST ||
                ($numbers !== [] && $break <= $numbers[count($numbers) - 1])
            ) {
                throw Refused::because('look_breaks', 'look/breaks', null, ['most' => Classes::MOST - 1]);
            }
            $numbers[] = (float) $break;
        }
        $classes = is_array($in['classes'] ?? null) ? array_values($in['classes']) : [];
        if (count($classes) > count($numbers) + 1) {
            throw Refused::because('look_classes', 'look/classes', count($classes));
        }
        $labels = [];
        for ($i = 0; $i <= count($numbers); $i++) {
            $label = is_array($classes[$i] ?? null) ? $classes[$i]['label'] ?? null : null;
            if ($label !== null && (! is_string($label) || mb_strlen($label) > self::LONGEST_LABEL)) {
                throw Refused::because('look_label', "look/classes/$i", null, ['most' => self::LONGEST_LABEL]);
            }
            $labels[] = $label === null || trim($label) === '' ? null : trim($label);
        }

        return new self(
            Method::tryFrom(is_string($in['method'] ?? null) ? $in['method'] : '') ?? Method::Hand,
            Scheme::tryFrom(is_string($in['scheme'] ?? null) ? $in['scheme'] : '') ?? Scheme::Tide,
            $numbers,
            $labels,
        );
    }

    /** @return string|null the class of a value; null where it is missing */
    public function codeOf(mixed $value): ?string
    {
        return is_numeric($value) && is_finite((float) $value)
            ? (string) Classes::indexOf($this->breaks, (float) $value)
            : null;
    }

    /** @return array{float|null, float|null} from where up to where a class goes; null: without an end */
    public function rangeOf(int $class): array
    {
        return [$this->breaks[$class - 1] ?? null, $this->breaks[$class] ?? null];
    }
}
