<?php

declare(strict_types=1);

namespace App\Maps;

use App\Layers\StoredRow;
use App\Records\VisibleRecords;
use App\Texts;
use PinYard\Formula\Formula;
use PinYard\Formula\Surroundings;
use stdClass;

/** What a formula of a map comes to for a record, in words; the phone says the same (field/map/labels.ts). */
final class WorkedOut
{
    private const SAID_DECIMALS = 2;

    /** @return string|null null where it cannot be worked out */
    public static function text(Formula $formula, stdClass $row, VisibleRecords $records): ?string
    {
        $layer = $records->layer;
        $value = $formula->value(
            new Surroundings(
                StoredRow::values($records->design(), $row),
                now()->toDateTimeImmutable(),
                new \DateTimeZone($layer->programme->time_zone),
                $layer->design()->rules->labels,
            ),
        );
        $said = match (true) {
            is_bool($value) => Texts::of($value ? 'value.yes' : 'value.no'),
            is_float($value) => is_finite($value) ? LegendText::number(round($value, self::SAID_DECIMALS)) : null,
            default => $value,
        };

        return $said === '' ? null : $said;
    }

    /** Names the time as far as it matters to formulas that move with the clock: days begin on a quarter everywhere. */
    public static function clock(): string
    {
        return (string) intdiv(now()->getTimestamp(), 900);
    }
}
