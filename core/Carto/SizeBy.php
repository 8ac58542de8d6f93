<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/**
 * How large a record is drawn, by a number: the areas of circles are in the ratio of the numbers, and so are the widths
 * of lines. Zero is drawn as small as can be seen; what has no number, or one below zero, has no size.
 */
final readonly class SizeBy
{
    /** Pixels of the largest circle from side to side, and of the widest line, where nothing is said. */
    private const CIRCLE = 44;

    private const LINE = 14;

    private const SMALLEST = 4;

    private const LARGEST = 80;

    /** Features tell sizes in so many steps: enough for eyes, and not the number itself. */
    private const STEPS = 60;

    /**
     * @param  float  $most  the number that the largest stands for; what is above is as large
     * @param  int  $pixels  how large that is: a circle from side to side, a line's width
     */
    private function __construct(public Field $field, public float $most, public int $pixels)
    {
    }

    /**
     * Reads `{field, most, pixels?}`.
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design): self
    {
        $key = is_array($in) ? $in['field'] ?? null : null;
        $field = is_string($key) ? $design->field($key) : null;
        if ($field === null || ! Look::countsBy($field)) {
            throw Refused::because('size_field', 'size/field', is_scalar($key) ? $key : null);
        }
        if ($design->geometry === GeometryKind::Area) {
            throw Refused::because('size_geometry', 'size');
        }
        $most = $in['most'] ?? null;
        if (! is_int($most) && ! is_float($most) || ! is_finite((float) $most) || $most <= 0) {
            throw Refused::because('size_most', 'size/most', is_scalar($most) ? $most : null);
        }

        $pixels = $in['pixels'] ?? null;
        $pixels ??= $design->geometry === GeometryKind::Line ? self::LINE : self::CIRCLE;
        if (! is_int($pixels) || $pixels < self::SMALLEST || $pixels > self::LARGEST) {
            throw Refused::because('size_pixels', 'size/pixels', is_scalar($pixels) ? $pixels : null, [
                'least' => self::SMALLEST,
                'most' => self::LARGEST,
            ]);
        }

        return new self($field, (float) $most, $pixels);
    }

    /** @return float|null 0 to 1: the share of the largest radius or width; null where there is none */
    public function of(string|int|float|null $stored, GeometryKind $geometry): ?float
    {
        $number = $stored === null ? null : (float) $stored;
        if ($number === null || $number < 0 || ! is_finite($number)) {
            return null;
        }
        $share = min(1.0, $number / $this->most);

        return round(($geometry === GeometryKind::Line ? $share : sqrt($share)) * self::STEPS) / self::STEPS;
    }

    /**
     * Three sizes to read others by, the smallest first.
     *
     * @return list<array{value: float, size: float}>
     */
    public function marks(GeometryKind $geometry): array
    {
        $marks = [];
        foreach ([0.2, 0.5, 1.0] as $share) {
            $value = $share === 1.0 ? $this->most : self::twoDigits($this->most * $share);
            $marks[(string) $value] = ['value' => $value, 'size' => $this->of($value, $geometry) ?? 0.0];
        }

        return array_values($marks);
    }

    /** Rounded to two digits that count. */
    private static function twoDigits(float $number): float
    {
        $step = 10 ** (floor(log10($number)) - 1);

        return round($number / $step) * $step;
    }

    /** @return array{field: string, most: float, pixels: int} */
    public function toArray(): array
    {
        return ['field' => $this->field->key, 'most' => $this->most, 'pixels' => $this->pixels];
    }
}
