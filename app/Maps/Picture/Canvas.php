<?php

declare(strict_types=1);

namespace App\Maps\Picture;

use GdImage;
use PinYard\Geo\Box;

/**
 * A small picture in Web Mercator, drawn twice as large as it is given out, so that edges are smooth. Everything is
 * drawn wherever the picture shows it: the antimeridian is no edge.
 */
final class Canvas
{
    private const FINER = 2;

    /** Pixels beside the picture: a mark reaches a little beyond its place. */
    private const EDGE = 60;

    private GdImage $image;

    /** @var array<string, int> */
    private array $colours = [];

    private float $scale;

    private float $middleX;

    private float $middleY;

    /**
     * @param  Box  $extent  what is seen at least; of a box over the antimeridian the east is below the west
     * @param  int<1, 2000>  $width  pixels of what is given out
     * @param  int<1, 2000>  $height
     */
    public function __construct(Box $extent, private readonly int $width, private readonly int $height)
    {
        $this->image = imagecreatetruecolor($width * self::FINER, $height * self::FINER)
            ?: throw new \RuntimeException('no picture');
        [$x1, $y1, $x2, $y2] = self::sides($extent);
        $this->middleX = ($x1 + $x2) / 2;
        $this->middleY = ($y1 + $y2) / 2;
        $this->scale = self::scale($extent, $width * self::FINER, $height * self::FINER);
    }

    /** The zoom at which a page of so many pixels shows an extent: the world is 512 pixels wide at zoom 0. */
    public static function zoomOf(Box $extent, int $width, int $height): float
    {
        return log(self::scale($extent, $width, $height) / 512, 2);
    }

    /** @return float pixels of the whole world's width */
    private static function scale(Box $extent, int $width, int $height): float
    {
        [$x1, $y1, $x2, $y2] = self::sides($extent);

        return min($width / max($x2 - $x1, 1e-7), $height / max($y2 - $y1, 1e-7));
    }

    /** @return array{float, float, float, float} west, north, east, south */
    private static function sides(Box $extent): array
    {
        $east = $extent->east < $extent->west ? $extent->east + 360 : $extent->east;

        return [self::x($extent->west), self::y($extent->north), self::x($east), self::y($extent->south)];
    }

    public function background(string $colour): void
    {
        imagefilledrectangle(
            $this->image,
            0,
            0,
            $this->width * self::FINER,
            $this->height * self::FINER,
            $this->colour($colour, 1),
        );
    }

    /**
     * @param  list<list<array{float, float}>>  $rings  the outline first, then its holes
     * @param  string|null  $inHoles  what holes show; null: they are left to what lies below, as far as can be
     */
    public function area(array $rings, string $colour, float $opacity, ?string $inHoles = null): void
    {
        foreach ($rings as $i => $ring) {
            if ($i > 0 && $inHoles === null) {
                continue;
            }
            $ink = $i === 0 ? $this->colour($colour, $opacity) : $this->colour((string) $inHoles, 1);
            foreach ($this->shown($ring) as $points) {
                if (count($points) >= 6) {
                    imagefilledpolygon($this->image, $points, $ink);
                }
            }
        }
    }

    /** @param  list<array{float, float}>  $line */
    public function line(array $line, string $colour, float $width, float $opacity = 1): void
    {
        imagesetthickness($this->image, max(1, (int) round($width * self::FINER)));
        $ink = $this->colour($colour, $opacity);
        foreach ($this->shown($line) as $points) {
            for ($i = 2, $n = count($points); $i < $n; $i += 2) {
                imageline($this->image, $points[$i - 2], $points[$i - 1], $points[$i], $points[$i + 1], $ink);
            }
        }
    }

    /** @param  float  $radius  pixels of what is given out */
    public function dot(float $lon, float $lat, float $radius, string $colour, float $opacity = 1): void
    {
        $side = (int) round(2 * $radius * self::FINER);
        $edge = $side + 2 * self::FINER;
        foreach ($this->shown([[$lon, $lat]]) as [$x, $y]) {
            imagefilledellipse($this->image, $x, $y, $edge, $edge, $this->colour('#FFFFFF', $opacity));
            imagefilledellipse($this->image, $x, $y, $side, $side, $this->colour($colour, $opacity));
        }
    }

    public function png(): string
    {
        $small = imagecreatetruecolor($this->width, $this->height) ?: throw new \RuntimeException('no picture');
        imagecopyresampled(
            $small,
            $this->image,
            0,
            0,
            0,
            0,
            $this->width,
            $this->height,
            $this->width * self::FINER,
            $this->height * self::FINER,
        );
        ob_start();
        imagepng($small, null, 9);

        return (string) ob_get_clean();
    }

    /**
     * Where a shape is in the picture: mostly nowhere, or once; again where the picture goes around the world.
     *
     * @param  list<array{float, float}>  $places
     * @return list<non-empty-list<int>> x and y in turns
     */
    private function shown(array $places): array
    {
        [$halfWidth, $halfHeight] = [($this->width * self::FINER) / 2, ($this->height * self::FINER) / 2];
        if ($places === [] || $this->isFurther($places, ($halfHeight + self::EDGE) / $this->scale)) {
            return [];
        }
        // Parts of the world's width. A side goes the shorter way, as over the antimeridian; one that goes all around,
        // as where land was cut at a pole, does that.
        $xs = [];
        $turns = 0.0;
        $before = $west = $east = self::x($places[0][0]);
        foreach ($places as [$lon]) {
            $x = self::x($lon);
            if (abs($x - $before) < 1 - 1e-9) {
                $turns -= round($x - $before);
            }
            $before = $x;
            $xs[] = $x + $turns;
            $west = min($west, $x + $turns);
            $east = max($east, $x + $turns);
        }
        $beyond = ($halfWidth + self::EDGE) / $this->scale;
        $first = (int) ceil($this->middleX - $beyond - $east);
        $shown = [];
        for ($around = $first; $around <= $this->middleX + $beyond - $west; $around++) {
            $points = [];
            foreach ($xs as $i => $x) {
                $points[] = self::whole(($x + $around - $this->middleX) * $this->scale + $halfWidth);
                $points[] = self::whole((self::y($places[$i][1]) - $this->middleY) * $this->scale + $halfHeight);
            }
            $shown[] = $points;
        }

        return $shown;
    }

    /**
     * Whether all of it lies north or south of the picture, as most of the world does.
     *
     * @param  non-empty-list<array{float, float}>  $places
     * @param  float  $beyond  from the picture's middle, in parts of the world's width
     */
    private function isFurther(array $places, float $beyond): bool
    {
        $south = $north = $places[0][1];
        foreach ($places as [, $lat]) {
            if ($lat < $south) {
                $south = $lat;
            } elseif ($lat > $north) {
                $north = $lat;
            }
        }

        return self::y($north) > $this->middleY + $beyond || self::y($south) < $this->middleY - $beyond;
    }

    /** GD reckons with 32 bits: what lies that far off is drawn at the edge of what it knows. */
    private static function whole(float $pixels): int
    {
        return (int) max(-10_000_000, min(10_000_000, round($pixels)));
    }

    private function colour(string $hex, float $opacity): int
    {
        $key = "$hex $opacity";

        $part = static fn (int $at): int => max(0, min(255, (int) hexdec(substr($hex, $at, 2))));

        return $this->colours[$key] ??= (int) imagecolorallocatealpha(
            $this->image,
            $part(1),
            $part(3),
            $part(5),
            max(0, min(127, (int) round(127 * (1 - $opacity)))),
        );
    }

    /** Of the way around the world, from Greenwich's other side. */
    private static function x(float $lon): float
    {
        return ($lon + 180) / 360;
    }

    private static function y(float $lat): float
    {
        $lat = max(-85.05, min(85.05, $lat));

        return (1 - asinh(tan(deg2rad($lat))) / M_PI) / 2;
    }
}
