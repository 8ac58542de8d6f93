<?php

declare(strict_types=1);

namespace Demo;

use Random\Randomizer;

/** Draws a small made-up picture of a nest on a beach: sky, sea, sand, a mound, a stake with its code. */
final class BeachPicture
{
    private const WIDTH = 640;

    private const HEIGHT = 480;

    /** @return string JPEG */
    public static function draw(Randomizer $dice, string $code, string $status): string
    {
        $image = imagecreatetruecolor(self::WIDTH, self::HEIGHT);
        imageantialias($image, true);
        $horizon = $dice->getInt(120, 190);
        $dawn = $dice->getInt(0, 100) / 100;
        self::bands(
            $image,
            0,
            $horizon,
            [228 - 60 * $dawn, 205 - 10 * $dawn, 180 + 40 * $dawn],
            [246, 222 - 20 * $dawn, 190],
        );
        $shore = $horizon + $dice->getInt(50, 90);
        self::bands($image, $horizon, $shore, [96, 140, 150], [150, 186, 186]);
        self::bands($image, $shore, self::HEIGHT, [214, 192, 148], [236, 220, 182]);
        self::waves($image, $dice, $shore);
        self::grains($image, $dice, $shore + 14);
        $x = $dice->getInt(210, 430);
        $y = $dice->getInt($shore + 110, self::HEIGHT - 90);
        self::mound($image, $dice, $x, $y, $status);
        self::stake($image, $x + $dice->getInt(50, 95), $y - 4, $code);
        ob_start();
        imagejpeg($image, null, 80);

        return (string) ob_get_clean();
    }

    /**
     * @param  array{int|float, int|float, int|float}  $top
     * @param  array{int|float, int|float, int|float}  $bottom
     */
    private static function bands(\GdImage $image, int $from, int $to, array $top, array $bottom): void
    {
        for ($y = $from; $y < $to; $y++) {
            $t = ($y - $from) / max(1, $to - $from);
            $mix = static fn (int $i): int => (int) round($top[$i] + ($bottom[$i] - $top[$i]) * $t);
            imageline($image, 0, $y, self::WIDTH, $y, self::ink($image, $mix(0), $mix(1), $mix(2)));
        }
    }

    private static function waves(\GdImage $image, Randomizer $dice, int $shore): void
    {
        $foam = self::ink($image, 245, 244, 236);
        $phase = $dice->getInt(0, 60) / 10;
        for ($row = 0; $row < 3; $row++) {
            for ($x = 0; $x < self::WIDTH; $x += 2) {
                $y =
                    $shore -
                    $row * 16 +
                    (int) (5 * sin($x / (34 + 9 * $row) + $phase + $row * 2) + 3 * sin($x / 13 + $phase));
                imagefilledrectangle($image, $x, $y, $x + 2, $y + 3 - $row, $foam);
            }
        }
    }

    private static function grains(\GdImage $image, Randomizer $dice, int $from): void
    {
        $dark = self::ink($image, 190, 166, 120);
        $light = self::ink($image, 250, 240, 212);
        for ($i = 0; $i < 2600; $i++) {
            imagesetpixel(
                $image,
                $dice->getInt(0, self::WIDTH - 1),
                $dice->getInt($from, self::HEIGHT - 1),
                $i % 3 === 0 ? $light : $dark,
            );
        }
    }

    private static function mound(\GdImage $image, Randomizer $dice, int $x, int $y, string $status): void
    {
        imagefilledellipse($image, $x, $y + 16, 250, 74, self::ink($image, 198, 174, 128));
        imagefilledellipse($image, $x, $y, 210, 78, self::ink($image, 226, 205, 160));
        imagefilledellipse($image, $x - 20, $y - 8, 130, 42, self::ink($image, 238, 222, 184));
        $eggs = match ($status) {
            'opened' => 9,
            'lost' => 5,
            default => 0,
        };
        for ($i = 0; $i < $eggs; $i++) {
            $ex = $x + $dice->getInt(-80, 70);
            $ey = $y + $dice->getInt(-4, 34);
            imagefilledellipse($image, $ex, $ey + 3, 20, 14, self::ink($image, 180, 158, 114));
            imagefilledellipse($image, $ex, $ey, 19, 16, self::ink($image, 250, 247, 238));
        }
    }

    private static function stake(\GdImage $image, int $x, int $foot, string $code): void
    {
        $wood = self::ink($image, 200, 66, 14);
        imagefilledrectangle($image, $x - 5, $foot - 130, $x + 5, $foot + 30, $wood);
        imagefilledrectangle($image, $x - 5, $foot - 130, $x - 2, $foot + 30, self::ink($image, 226, 100, 40));
        imagefilledrectangle($image, $x - 48, $foot - 132, $x + 48, $foot - 96, self::ink($image, 255, 252, 245));
        imagerectangle($image, $x - 48, $foot - 132, $x + 48, $foot - 96, self::ink($image, 29, 43, 46));
        imagestring($image, 5, (int) ($x - 4.5 * strlen($code)), $foot - 122, $code, self::ink($image, 29, 43, 46));
    }

    private static function ink(\GdImage $image, int $red, int $green, int $blue): int
    {
        return imagecolorallocate($image, max(0, min(255, $red)), max(0, min(255, $green)), max(0, min(255, $blue))) ?:
            0;
    }
}
