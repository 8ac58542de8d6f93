<?php

declare(strict_types=1);

namespace PinYard\Geo;

use PinYard\Refused;

/**
 * A box of longitudes and latitudes; where `west` is greater than `east` it crosses the antimeridian (RFC 7946, section
 * 5.2).
 */
final readonly class Box
{
    private function __construct(public float $west, public float $south, public float $east, public float $north)
    {
    }

    /** @throws Refused */
    public static function of(mixed $west, mixed $south, mixed $east, mixed $north): self
    {
        [$w, $s, $e, $n] = [self::number($west), self::number($south), self::number($east), self::number($north)];
        if (min($w, $e) < -180 || max($w, $e) > 180 || $s < -90 || $n > 90) {
            throw Refused::because('box_outside_world', 'area', "$w, $s, $e, $n");
        }
        if ($s >= $n || $w === $e) {
            throw Refused::because('box_empty', 'area', "$w, $s, $e, $n");
        }

        return new self($w, $s, $e, $n);
    }

    private static function number(mixed $side): float
    {
        if (! is_numeric($side) || ! is_finite((float) $side)) {
            throw Refused::because('box_no_numbers', 'area', is_scalar($side) ? $side : null);
        }

        return (float) $side;
    }

    /** @throws Refused */
    public static function fromText(string $text): self
    {
        $sides = explode(',', $text);
        if (count($sides) !== 4) {
            throw Refused::because('box_no_numbers', 'area', $text);
        }

        return self::of(...$sides);
    }

    /** @return non-empty-list<self> one box, or two where it crosses the antimeridian */
    public function parts(): array
    {
        return $this->west < $this->east
            ? [$this]
            : [
                new self($this->west, $this->south, 180.0, $this->north),
                new self(-180.0, $this->south, $this->east, $this->north),
            ];
    }

    public function contains(Position $p): bool
    {
        $inLon =
            $this->west < $this->east
                ? $p->lon >= $this->west && $p->lon <= $this->east
                : $p->lon >= $this->west || $p->lon <= $this->east;

        return $inLon && $p->lat >= $this->south && $p->lat <= $this->north;
    }

    /** @return array{float, float, float, float} west, south, east, north */
    public function toArray(): array
    {
        return [$this->west, $this->south, $this->east, $this->north];
    }
}
