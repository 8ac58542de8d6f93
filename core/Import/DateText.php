<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Formula\Moment;

/**
 * Dates, times and moments as tables write them. The order of day and month is told from outside, for the text alone
 * cannot say it. Two figures for a year mean 1970 to 2069, as POSIX `strptime` has it (%y: 69 to 99 are 19xx; 1969 is
 * left to the former century).
 */
final class DateText
{
    public const ORDERS = ['ymd', 'dmy', 'mdy'];

    private const MONTHS = [
        'jan' => 1,
        'feb' => 2,
        'mar' => 3,
        'apr' => 4,
        'may' => 5,
        'jun' => 6,
        'jul' => 7,
        'aug' => 8,
        'sep' => 9,
        'oct' => 10,
        'nov' => 11,
        'dec' => 12,
        'mär' => 3,
        'mrz' => 3,
        'maa' => 3,
        'mai' => 5,
        'maj' => 5,
        'okt' => 10,
        'dez' => 12,
        'ene' => 1,
        'abr' => 4,
        'ago' => 8,
        'agu' => 8,
        'dic' => 12,
        'des' => 12,
        'fév' => 2,
        'fev' => 2,
        'avr' => 4,
        'jui' => null,
        'juin' => 6,
        'juil' => 7,
        'aoû' => 8,
        'aou' => 8,
        'déc' => 12,
        'gen' => 1,
        'mag' => 5,
        'giu' => 6,
        'lug' => 7,
        'set' => 9,
        'ott' => 10,
        'mei' => 5,
        'out' => 10,
    ];

    private const DATE = '/^(?:[^\W\d]{2,9}\.?,? )?(\d{1,4})(?:\. |[-.\/ ])(\d{1,2}|[^\W\d]{3,10}\.?)(?:\. |[-.\/ '
        .'])(\d{1,4})$/uD';

    private const NAMED = '/^(?:[^\W\d]{2,9}\.?, )?([^\W\d]{3,10})\.? (\d{1,2})(?:st|nd|rd|th)?,? (\d{4})$/uD';

    private const TIME = '/^(\d{1,2})[:.h](\d{2})(?:[:.](\d{2})(?:[.,]\d+)?)?\s*([AaPp])?\.?(?(4)[Mm]\.?)$/D';

    private const CLOCK = '/^(.+?)(?:[T]|,? '
        .'+)(\d{1,2}[:.h]\d{2}(?:[:.]\d{2}(?:[.,]\d+)?)?\s*(?:[AaPp]\.?[Mm]\.?)?)\s*(Z|UTC|GMT|[+-]\d{2}:?(?:\d{2})?)?$/uD';

    /** @return string|null `2026-05-01` */
    public static function date(string $text, string $order): ?string
    {
        // The form of the standard needs no order, and is the most frequent.
        if (strlen($text) === 10 && $text[4] === '-' && $text[7] === '-') {
            return Moment::date($text);
        }
        $text = trim($text);
        if (preg_match('/^(\d{4})(\d{2})(\d{2})$/D', $text, $m) === 1) {
            return self::of((int) $m[1], (int) $m[2], (int) $m[3]);
        }
        if (preg_match(self::NAMED, $text, $m) === 1) {
            return self::of((int) $m[3], self::month($m[1]), (int) $m[2]);
        }
        if (preg_match(self::DATE, $text, $m) !== 1) {
            return null;
        }
        if (! ctype_digit($m[2])) {
            return strlen($m[1]) > 2
                ? self::of((int) $m[1], self::month($m[2]), (int) $m[3])
                : self::of(self::year($m[3]), self::month($m[2]), (int) $m[1]);
        }
        if (strlen($m[1]) > 2) {
            return strlen($m[1]) === 4 ? self::of((int) $m[1], (int) $m[2], (int) $m[3]) : null;
        }

        return match ($order) {
            'dmy' => self::of(self::year($m[3]), (int) $m[2], (int) $m[1]),
            'mdy' => self::of(self::year($m[3]), (int) $m[1], (int) $m[2]),
            default => strlen($m[3]) > 2 ? null : self::of(self::year($m[1]), (int) $m[2], (int) $m[3]),
        };
    }

    /** @return string|null `06:30` or `06:30:15` */
    public static function time(string $text): ?string
    {
        if (preg_match(self::TIME, trim($text), $m) !== 1) {
            return null;
        }
        $hour = (int) $m[1];
        $half = strtolower($m[4] ?? '');
        if ($half !== '' && ($hour < 1 || $hour > 12)) {
            return null;
        }
        if ($half !== '') {
            $hour = ($hour % 12) + ($half === 'p' ? 12 : 0);
        }

        return Moment::time(sprintf('%02d:%s:%s', $hour, $m[2], ($m[3] ?? '') === '' ? '00' : $m[3]));
    }

    /** @return string|null in UTC; a date alone is none */
    public static function moment(string $text, string $order, \DateTimeZone $zone): ?string
    {
        // What the standard writes is taken as it is.
        if (
            strlen($text) === 20 &&
            $text[10] === 'T' &&
            $text[19] === 'Z' &&
            preg_match('/^(?:[01]\d|2[0-3]):[0-5]\d:[0-5]\d$/D', substr($text, 11, 8)) === 1
        ) {
            return Moment::date(substr($text, 0, 10)) === null ? null : $text;
        }
        if (preg_match(self::CLOCK, trim($text), $m) !== 1) {
            return null;
        }
        [$date, $time] = [self::date($m[1], $order), self::time($m[2])];
        if ($date === null || $time === null) {
            return null;
        }
        $offset = $m[3] ?? '';
        if ($offset === '') {
            return self::local($date, $time, $zone);
        }
        $clock = strlen($time) === 5 ? "$time:00" : $time;
        if (! ctype_alpha($offset)) {
            $digits = str_pad(str_replace(':', '', substr($offset, 1)), 4, '0');

            return Moment::instant("{$date}T$clock$offset[0]".substr($digits, 0, 2).':'.substr($digits, 2));
        }

        return Moment::instant("{$date}T{$clock}Z");
    }

    /** Whether a moment without an offset falls into an hour that a clock change of the zone skips, or shows twice. */
    public static function isOdd(string $text, string $order, \DateTimeZone $zone): bool
    {
        if (
            (strlen($text) === 20 && $text[19] === 'Z') ||
            preg_match(self::CLOCK, trim($text), $m) !== 1 ||
            ($m[3] ?? '') !== ''
        ) {
            return false;
        }
        [$date, $time] = [self::date($m[1], $order), self::time($m[2])];
        if ($date === null || $time === null || self::offset($date, $zone) !== null) {
            return false;
        }
        $wall = Moment::seconds("{$date}T".(strlen($time) === 5 ? "$time:00" : $time));
        $fits = [];
        foreach ([$wall - 129_600, $wall + 129_600] as $around) {
            $at = $wall - $zone->getOffset(new \DateTimeImmutable("@$around"));
            if ($at + $zone->getOffset(new \DateTimeImmutable("@$at")) === $wall) {
                $fits[$at] = true;
            }
        }

        return count($fits) !== 1;
    }

    /** As {@see Moment::at()}, remembering the days on which a zone changes nothing. */
    private static function local(string $date, string $time, \DateTimeZone $zone): string
    {
        $offset = self::offset($date, $zone);

        return $offset === null
            ? Moment::at($date, $time, $zone)
            : gmdate('Y-m-d\TH:i:s\Z', Moment::seconds("{$date}T$time") - $offset);
    }

    /** @return int|null seconds of the zone on a day; null where they change around it */
    private static function offset(string $date, \DateTimeZone $zone): ?int
    {
        /** @var array<string, int|null> $offsets */
        static $offsets = [];
        $key = $zone->getName().$date;
        if (! array_key_exists($key, $offsets)) {
            $offsets = count($offsets) > 20_000 ? [] : $offsets;
            $noon = Moment::seconds("{$date}T12:00:00");
            $around = array_map(static fn (int $at): int => $zone->getOffset(new \DateTimeImmutable("@$at")), [
                $noon - 129_600,
                $noon + 129_600,
            ]);
            $offsets[$key] = $around[0] === $around[1] ? $around[0] : null;
        }

        return $offsets[$key];
    }

    /**
     * What a text says of the order of day and month.
     *
     * @return 'ymd'|'dmy'|'mdy'|'either'|null null where it is no date
     */
    public static function order(string $text): ?string
    {
        $text = trim($text);
        if (
            (preg_match(self::NAMED, $text) === 1 && self::date($text, 'ymd') !== null) ||
            (preg_match('/^\d{8}$/D', $text) === 1 && self::date($text, 'ymd') !== null)
        ) {
            return 'ymd';
        }
        if (preg_match(self::DATE, $text, $m) !== 1) {
            return null;
        }
        if (strlen($m[1]) > 2 || ! ctype_digit($m[2])) {
            return self::date($text, 'dmy') !== null ? 'ymd' : null;
        }
        [$dmy, $mdy] = [self::date($text, 'dmy') !== null, self::date($text, 'mdy') !== null];

        return match (true) {
            $dmy && $mdy => $m[1] === $m[2] ? 'ymd' : 'either',
            $dmy => 'dmy',
            $mdy => 'mdy',
            default => self::date($text, 'ymd') !== null ? 'ymd' : null,
        };
    }

    private static function of(int $year, ?int $month, int $day): ?string
    {
        return $month === null ? null : Moment::date(sprintf('%04d-%02d-%02d', $year, $month, $day));
    }

    private static function year(string $text): int
    {
        return strlen($text) > 2 ? (int) $text : (int) $text + ((int) $text >= 70 ? 1900 : 2000);
    }

    private static function month(string $name): ?int
    {
        $name = rtrim(mb_strtolower($name), '.');

        return self::MONTHS[mb_substr($name, 0, 4)] ?? (self::MONTHS[mb_substr($name, 0, 3)] ?? null);
    }
}
