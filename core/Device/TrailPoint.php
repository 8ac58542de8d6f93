<?php

declare(strict_types=1);

namespace PinYard\Device;

use PinYard\Geo\Position;
use PinYard\Refused;

/**
 * One point of a trail, as a phone sends it: `[milliseconds since 1970, longitude, latitude, accuracy in metres or
 * null]`.
 */
final readonly class TrailPoint
{
    /** Days: what is older is no trail of this season, and a clock further ahead is wrong. */
    private const OLDEST = 400;

    private const AHEAD = 1;

    private function __construct(public \DateTimeImmutable $at, public Position $place, public ?float $accuracy)
    {
    }

    /** Null for what is no point: a trail is no record, so one bad point is left out and the rest is kept. */
    public static function read(mixed $in, \DateTimeImmutable $now, int $clockOff = 0): ?self
    {
        if (! is_array($in) || ! array_is_list($in) || count($in) < 3 || (! is_int($in[0]) && ! is_float($in[0]))) {
            return null;
        }
        $ms = $in[0] + $clockOff * 1000;
        $age = $now->getTimestamp() - $ms / 1000;
        if ($age > self::OLDEST * 86_400 || $age < -self::AHEAD * 86_400) {
            return null;
        }
        $at =
            \DateTimeImmutable::createFromFormat(
                'U.v',
                sprintf('%d.%03d', (int) floor($ms / 1000), (int) $ms % 1000),
            ) ?:
            null;
        $number = static fn (mixed $v): ?float => is_int($v) || is_float($v) ? (float) $v : null;
        [$lon, $lat] = [$number($in[1]), $number($in[2])];
        if ($at === null || $lon === null || $lat === null) {
            return null;
        }
        try {
            $place = Position::of($lon, $lat);
        } catch (Refused) {
            return null;
        }
        $accuracy = $number($in[3] ?? null);

        return new self($at, $place, $accuracy === null || $accuracy < 0 || $accuracy > 1e6 ? null : $accuracy);
    }
}
