<?php

declare(strict_types=1);

namespace PinYard\Formula;

/**
 * Dates, times of day and moments as text: `2026-05-01`, `06:30` or `06:30:15`, `2026-05-01T06:30:00Z`. In these forms
 * the order of texts is the order of time. Years run from 1000 to 9999, as in the database.
 */
final class Moment
{
    public const DATE = '/^([1-9]\d{3})-(\d\d)-(\d\d)$/D';

    public const TIME = '/^([01]\d|2[0-3]):([0-5]\d)(?::([0-5]\d))?$/D';

    /** RFC 3339, section 5.6; a fraction of a second is dropped. */
    private const INSTANT = '/^[1-9]\d{3}-\d\d-\d\d[Tt]([01]\d|2[0-3]):[0-5]\d:[0-5]\d(\.\d{1,9})?([Zz]|[+-]([01]\d|2[0-3]):[0-5]\d)$/D';

    public static function date(mixed $text): ?string
    {
        return is_string($text) &&
            preg_match(self::DATE, $text, $m) === 1 &&
            checkdate((int) $m[2], (int) $m[3], (int) $m[1])
            ? $text
            : null;
    }

    /** @return string|null in its shortest form: seconds only where there are some */
    public static function time(mixed $text): ?string
    {
        if (! is_string($text) || preg_match(self::TIME, $text, $m) !== 1) {
            return null;
        }

        return ($m[3] ?? '00') === '00' ? "$m[1]:$m[2]" : $text;
    }

    /** @return string|null in UTC, to the second */
    public static function instant(mixed $text): ?string
    {
        if (! is_string($text) || preg_match(self::INSTANT, $text) !== 1 || self::date(substr($text, 0, 10)) === null) {
            return null;
        }
        $utc = (new \DateTimeImmutable($text))->setTimezone(new \DateTimeZone('UTC'));

        return $utc->format('Y') < 1000 || $utc->format('Y') > 9999 ? null : self::of($utc);
    }

    public static function of(\DateTimeInterface $moment): string
    {
        return gmdate('Y-m-d\TH:i:s\Z', $moment->getTimestamp());
    }

    /** Seconds since 1970 of a moment, or of the beginning of a date in UTC. */
    public static function seconds(string $text): int
    {
        return (int) gmmktime(
            (int) (substr($text, 11, 2) ?: 0),
            (int) (substr($text, 14, 2) ?: 0),
            (int) (substr($text, 17, 2) ?: 0),
            (int) substr($text, 5, 2),
            (int) substr($text, 8, 2),
            (int) substr($text, 0, 4),
        );
    }

    /** Days of the Gregorian calendar from one date to another. */
    public static function days(string $from, string $to): int
    {
        return intdiv(self::seconds($to) - self::seconds($from), 86_400);
    }

    /** Whole calendar months from one date to another, towards zero. */
    public static function months(string $from, string $to): int
    {
        $months =
            ((int) substr($to, 0, 4) - (int) substr($from, 0, 4)) * 12 +
            (int) substr($to, 5, 2) -
            (int) substr($from, 5, 2);
        [$a, $b] = [substr($from, 8, 2), substr($to, 8, 2)];

        return $months > 0 && $b < $a ? $months - 1 : ($months < 0 && $b > $a ? $months + 1 : $months);
    }

    public static function addDays(string $date, int $days): ?string
    {
        return self::date(gmdate('Y-m-d', self::seconds($date) + $days * 86_400));
    }

    /** The same day of another month, or its last day where it is shorter. */
    public static function addMonths(string $date, int $months): ?string
    {
        $all = (int) substr($date, 0, 4) * 12 + (int) substr($date, 5, 2) - 1 + $months;
        [$year, $month] = [intdiv($all, 12), ($all % 12) + 1];
        if ($year < 1000 || $year > 9999) {
            return null;
        }

        return sprintf(
            '%04d-%02d-%02d',
            $year,
            $month,
            min((int) substr($date, 8, 2), (int) gmdate('t', (int) gmmktime(0, 0, 0, $month, 1, $year))),
        );
    }

    /**
     * The moment when a clock of the zone shows this; of an hour that comes twice the first, of one that is left out
     * the later.
     */
    public static function at(string $date, string $time, \DateTimeZone $zone): string
    {
        $wall = self::seconds("{$date}T$time");
        $offset = static fn (int $at): int => $zone->getOffset(new \DateTimeImmutable("@$at"));
        // The offsets a day before and after bracket any change; the earlier one rules in doubt.
        [$before, $after] = [$offset($wall - 86_400), $offset($wall + 86_400)];
        $later = $before !== $after && $offset($wall - $before) !== $before && $offset($wall - $after) === $after;

        return gmdate('Y-m-d\TH:i:s\Z', $wall - ($later ? $after : $before));
    }

    /** @param  'Y-m-d'|'H:i:s'|'H:i'  $format */
    public static function local(string $instant, \DateTimeZone $zone, string $format): string
    {
        return (new \DateTimeImmutable($instant))->setTimezone($zone)->format($format);
    }
}
