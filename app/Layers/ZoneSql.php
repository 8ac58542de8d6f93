<?php

declare(strict_types=1);

namespace App\Layers;

/** Moments by the clocks of a zone, in SQL; MariaDB's own zone tables may not be loaded. */
final class ZoneSql
{
    /** Records are dated within these years or so; beyond them a clock may be an hour off. */
    private const FROM = '1970-01-01';

    private const TO = '2040-01-01';

    /** @param  string  $utc  a column or an expression that is a moment in UTC */
    public static function local(string $utc, \DateTimeZone $zone): string
    {
        $changes = $zone->getTransitions((int) strtotime(self::FROM.' UTC'), (int) strtotime(self::TO.' UTC')) ?: [];
        $before = (int) ($changes[0]['offset'] ?? 0);
        // The latest come first: most records are of these days.
        $case = '';
        foreach (array_reverse(array_slice($changes, 1)) as $change) {
            $case .= " when $utc >= '".gmdate('Y-m-d H:i:s', $change['ts'])."' then {$change['offset']}";
        }
        $offset = $case === '' ? (string) $before : "(case$case else $before end)";

        return "date_add($utc, interval $offset second)";
    }
}
