<?php

declare(strict_types=1);

namespace PinYard\Geo;

/** Degrees around the world. */
final class Longitude
{
    /** Degrees from one longitude to another, the short way: the antimeridian is no border. */
    public static function eastward(float $from, float $to): float
    {
        $by = fmod($to - $from, 360);

        return $by > 180 ? $by - 360 : ($by < -180 ? $by + 360 : $by);
    }
}
