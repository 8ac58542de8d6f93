<?php

declare(strict_types=1);

namespace PinYard\Formula;

use PinYard\Problem;
use PinYard\Refused;

/** Where in a formula something is off, counted in characters from 0, with the text that stands there. */
final class Place
{
    /** @param  array<string, scalar|null>  $params */
    public static function problem(string $text, string $code, int $byte, int $bytes, array $params = []): Problem
    {
        $part = mb_strcut($text, $byte, max(1, $bytes), 'UTF-8');

        return new Problem($code, null, $part, [
            'at' => mb_strlen(mb_strcut($text, 0, $byte, 'UTF-8')),
            'length' => max(1, mb_strlen($part)),
            'part' => mb_strlen($part) > 60 ? mb_substr($part, 0, 60).'…' : $part,
        ] + $params);
    }

    /** @param  array<string, scalar|null>  $params */
    public static function refuse(string $text, string $code, int $byte, int $bytes, array $params = []): Refused
    {
        return Refused::for([self::problem($text, $code, $byte, $bytes, $params)]);
    }
}
