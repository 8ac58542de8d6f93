<?php

declare(strict_types=1);

namespace PinYard\Geo;

use PinYard\Refused;

/** Reads well-known text (OGC 06-103r4, section 7) as the geometry of GeoJSON; heights and measures are left out. */
final class Wkt
{
    private const TYPES = [
        'POINT' => 'Point',
        'LINESTRING' => 'LineString',
        'POLYGON' => 'Polygon',
        'MULTIPOINT' => 'MultiPoint',
        'MULTILINESTRING' => 'MultiLineString',
        'MULTIPOLYGON' => 'MultiPolygon',
    ];

    /**
     * @return array{type: string, coordinates: mixed}|null null for an empty geometry
     *
     * @throws Refused for collections, curves and what is no geometry
     */
    public static function geometry(string $text): ?array
    {
        if (
            preg_match('/^\s*([A-Z]+)\s*(?:ZM|Z|M)?\s*(EMPTY|\(.*\))\s*$/Ds', strtoupper($text), $m) !== 1 ||
            ! isset(self::TYPES[$m[1]])
        ) {
            throw Refused::because('wkt_kind', 'geometry', mb_substr($text, 0, 40), [
                'value' => mb_substr($text, 0, 40),
            ]);
        }
        if ($m[2] === 'EMPTY') {
            return null;
        }
        // Numbers become pairs, brackets those of JSON: the rest is reading JSON.
        $json = preg_replace_callback(
            '/[^(),]+/',
            static function (array $one): string {
                $numbers = preg_split('/\s+/', trim($one[0]), -1, PREG_SPLIT_NO_EMPTY);

                return is_array($numbers) && count($numbers) >= 2 && is_numeric($numbers[0]) && is_numeric($numbers[1])
                    ? '['.(float) $numbers[0].','.(float) $numbers[1].']'
                    : '';
            },
            $m[2],
        );
        $coordinates = json_decode(strtr((string) $json, '()', '[]'), true);
        if (! is_array($coordinates)) {
            throw Refused::because('wkt_kind', 'geometry', mb_substr($text, 0, 40), [
                'value' => mb_substr($text, 0, 40),
            ]);
        }
        $type = self::TYPES[$m[1]];

        return [
            'type' => $type,
            'coordinates' => match ($type) {
                'Point' => $coordinates[0] ??
                    throw Refused::because('wkt_kind', 'geometry', mb_substr($text, 0, 40), [
                        'value' => mb_substr($text, 0, 40),
                    ]),
                // Both `(1 2, 3 4)` and `((1 2), (3 4))` are in use.
                'MultiPoint' => array_map(
                    static fn (mixed $p): mixed => is_array($p) && is_array($p[0] ?? null) ? $p[0] : $p,
                    $coordinates,
                ),
                default => $coordinates,
            },
        ];
    }

    /**
     * Which column of a table holds well-known text.
     *
     * @param  array<int, list<string>>  $rows  the first rows, by number
     * @param  int  $headRow  rows up to here are heads
     */
    public static function column(array $rows, int $headRow): ?int
    {
        $found = [];
        foreach ($rows as $number => $cells) {
            foreach ($number > $headRow ? $cells : [] as $i => $cell) {
                if (trim($cell) !== '') {
                    $found[$i] =
                        ($found[$i] ?? true) &&
                        preg_match('/^\s*(MULTI)?(POINT|LINESTRING|POLYGON)\s*Z?M?\s*(\(|EMPTY)/i', $cell) === 1;
                }
            }
        }
        $column = array_search(true, $found, true);

        return $column === false ? null : $column;
    }

    /** @param  array{type: string, coordinates: list<mixed>}  $geometry */
    public static function of(array $geometry): string
    {
        return strtoupper($geometry['type']).
            ' '.
            self::brackets($geometry['coordinates'], $geometry['type'] === 'Point');
    }

    private static function brackets(mixed $c, bool $point = false): string
    {
        if (is_array($c) && ! is_array($c[0] ?? null)) {
            $pair = implode(
                ' ',
                array_map(static fn (mixed $n): string => is_numeric($n) ? (string) (float) $n : '0', $c),
            );

            return $point ? "($pair)" : $pair;
        }

        return '('.
            implode(', ', array_map(static fn (mixed $one): string => self::brackets($one), is_array($c) ? $c : [])).
            ')';
    }
}
