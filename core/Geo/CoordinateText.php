<?php

declare(strict_types=1);

namespace PinYard\Geo;

use PinYard\Refused;

/**
 * A place as people type it: decimal degrees, degrees with minutes and seconds, or UTM. A bare pair is latitude first,
 * as it is spoken, unless only the other way round lies on earth.
 */
final readonly class CoordinateText
{
    /**
     * @param  'decimal'|'minutes'|'utm'|'swapped'  $as how it was read; `swapped` says that longitude came first
     * @param  bool  $lettered  whether letters say which half is which, and on what side
     */
    private function __construct(public Position $position, public string $as, public bool $lettered = false)
    {
    }

    /** @throws Refused */
    public static function read(string $text): self
    {
        $plain = self::plain($text);
        if (mb_strlen($plain) > 100) {
            throw self::unreadable($text);
        }
        if (
            preg_match(
                '/^(\d{1,2}) ?([A-Za-z]+) (\d{5,7}(?:[.,]\d+)?) ?(?:m ?E)?[ ,]+(\d{1,8}(?:[.,]\d+)?) ?(?:m ?N)?$/iD',
                $plain,
                $m,
            ) === 1
        ) {
            $north = match (strtolower($m[2])) {
                'north' => true,
                'south' => false,
                default => strlen($m[2]) === 1 ? Utm::isNorthern($m[2]) : null,
            };
            if ($north === null) {
                throw Refused::because('utm_band', 'place', $m[2], ['band' => $m[2]]);
            }

            return new self(Utm::of((int) $m[1], $north, self::number($m[3]), self::number($m[4]))->position(), 'utm');
        }
        $parts = self::parts($plain);
        if ($parts === null) {
            throw self::unreadable($text);
        }
        [$first, $second] = [self::angle($parts[0], $text), self::angle($parts[1], $text)];
        $as = $first['minutes'] || $second['minutes'] ? 'minutes' : 'decimal';
        if ($first['axis'] !== null && $first['axis'] === $second['axis']) {
            throw self::unreadable($text);
        }
        $lonFirst = $first['axis'] === 'lon' || $second['axis'] === 'lat';
        if (
            $first['axis'] === null &&
            $second['axis'] === null &&
            abs($first['degrees']) > 90 &&
            abs($second['degrees']) <= 90
        ) {
            [$lonFirst, $as] = [true, 'swapped'];
        }

        return new self(
            $lonFirst
                ? Position::of($first['degrees'], $second['degrees'])
                : Position::of($second['degrees'], $first['degrees']),
            $as,
            $first['axis'] !== null || $second['axis'] !== null,
        );
    }

    /**
     * The two halves: parted by a semicolon, by a letter for the direction, by a comma that is no decimal comma, or by
     * a blank.
     *
     * @return array{string, string}|null
     */
    private static function parts(string $text): ?array
    {
        $ways = [
            '/^([^;]+);([^;]+)$/D',
            '/^(.*?\d.*?[NSEWO])[ ,]*((?:[^A-Z]*)[NSEWO])$/iD',
            '/^([NSEWO][^A-Z]+?)[ ,]+([NSEWO][^A-Z]+)$/iD',
            '/^([^,]+), ?([^,]+)$/D',
            '/^(-?\d+,\d+),? (-?\d+,\d+)$/D',
            '/^([-+]?[\d.]+) ([-+]?[\d.]+)$/D',
        ];
        foreach ($ways as $i => $way) {
            if (preg_match($way, $text, $m) === 1) {
                return [trim($m[1]), trim($m[2])];
            }
        }

        return null;
    }

    /**
     * Half a place: the one coordinate that a column of its own holds.
     *
     * @param  'lat'|'lon'  $axis
     *
     * @throws Refused
     */
    public static function half(string $text, string $axis): float
    {
        $plain = self::plain($text);
        $angle = self::angle($plain, $text);
        if ($angle['axis'] !== null && $angle['axis'] !== $axis) {
            throw Refused::because('place_axis', 'place', mb_substr($text, 0, 60), ['axis' => $axis]);
        }

        return $angle['degrees'];
    }

    private static function plain(string $text): string
    {
        return trim(
            (string) preg_replace(
                '/\s+/u',
                ' ',
                strtr($text, [
                    '−' => '-',
                    '–' => '-',
                    'º' => '°',
                    '˚' => '°',
                    '’' => "'",
                    '′' => "'",
                    '´' => "'",
                    '”' => '"',
                    '″' => '"',
                    '“' => '"',
                    "''" => '"',
                ]),
            ),
        );
    }

    /** @return array{degrees: float, axis: 'lat'|'lon'|null, minutes: bool} */
    private static function angle(string $part, string $whole): array
    {
        $number = '\d+(?:[.,]\d+)?';
        if (
            preg_match(
                '/^(?<before>[NSEWO])? ?(?<sign>[-+])? '
                    ."?(?<d>$number) ?°? ?(?:(?<m>$number) ?(?:'|min)? "
                        ."?)?(?:(?<s>$number) ?(?:\"|sec)? ?)?(?<after>[NSEWO])?\$/iuD",
                $part,
                $m,
            ) !== 1
        ) {
            throw self::unreadable($whole);
        }
        $letter = strtoupper($m['before'] !== '' ? $m['before'] : (string) ($m['after'] ?? ''));
        [$minutes, $seconds] = [
            ($m['m'] ?? '') === '' ? 0.0 : self::number($m['m']),
            ($m['s'] ?? '') === '' ? 0.0 : self::number($m['s']),
        ];
        if ($minutes >= 60 || $seconds >= 60) {
            throw Refused::because('place_minutes', 'place', $part, ['part' => $part]);
        }
        $degrees = self::number($m['d']) + $minutes / 60 + $seconds / 3600;
        $negative = $m['sign'] === '-' || $letter === 'S' || $letter === 'W';

        return [
            'degrees' => $negative ? -$degrees : $degrees,
            // O is east in German and west in French and Spanish; nobody can tell, so it is not taken.
            'axis' => match ($letter) {
                'N', 'S' => 'lat',
                'E', 'W' => 'lon',
                '' => null,
                default => throw Refused::because('place_letter', 'place', $letter),
            },
            'minutes' => ($m['m'] ?? '') !== '',
        ];
    }

    private static function number(string $text): float
    {
        return (float) str_replace(',', '.', $text);
    }

    private static function unreadable(string $text): Refused
    {
        return Refused::because('place_unreadable', 'place', mb_substr($text, 0, 60));
    }
}
