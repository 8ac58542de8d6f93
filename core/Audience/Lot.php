<?php

declare(strict_types=1);

namespace PinYard\Audience;

/** Numbers drawn by a text: the same each time, and without the text's key nobody finds them again. */
final class Lot
{
    /** @return array{int, int, int, int} of 32 bits each */
    public static function of(string $text): array
    {
        [$a, $b, $c, $d] = str_split(md5($text), 8);

        return [intval($a, 16), intval($b, 16), intval($c, 16), intval($d, 16)];
    }

    /** A place between two ends. */
    public static function between(float $from, float $to, int $drawn): float
    {
        return $from + ($to - $from) * ($drawn + 0.5) / 2 ** 32;
    }
}
