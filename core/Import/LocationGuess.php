<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Geo\Box;

/** Which columns say where a row is: found by name in several languages, and by value. */
final class LocationGuess
{
    private const LAT = [
        'lat',
        'latitude',
        'latitud',
        'latitudine',
        'latitude_dd',
        'breite',
        'breitengrad',
        'geographische breite',
        'breddegrad',
        'latitud_y',
        'lintang',
        'szerokość',
        'широта',
        '緯度',
        '纬度',
        'decimallatitude',
        'y',
        'ycoord',
        'y_coord',
        'coord_y',
        'gps_lat',
        'lat_dd',
        'point_y',
    ];

    private const LON = [
        'lon',
        'lng',
        'long',
        'longitude',
        'longitud',
        'longitudine',
        'länge',
        'laenge',
        'längengrad',
        'laengengrad',
        'geographische länge',
        'lengdegrad',
        'longitud_x',
        'bujur',
        'długość',
        'долгота',
        '経度',
        '经度',
        'decimallongitude',
        'x',
        'xcoord',
        'x_coord',
        'coord_x',
        'gps_lon',
        'gps_long',
        'lon_dd',
        'point_x',
    ];

    private const NORTH = ['northing', 'north', 'nord', 'norte', 'hochwert', 'utm_n', 'utm_y', 'northings', 'noord'];

    private const EAST = ['easting', 'east', 'ost', 'este', 'est', 'rechtswert', 'utm_e', 'utm_x', 'eastings', 'oost'];

    private const PLACE = [
        'location',
        'place',
        'coordinates',
        'coordinate',
        'coords',
        'gps',
        'latlong',
        'lat_long',
        'latlon',
        'position',
        'ort',
        'lage',
        'koordinaten',
        'standort',
        'lugar',
        'ubicación',
        'ubicacion',
        'coordenadas',
        'lieu',
        'emplacement',
        'coordonnées',
        'localisation',
        'luogo',
        'posizione',
        'coordinate gps',
        'local',
        'lokasi',
        'address',
        'adresse',
        'dirección',
        'direccion',
        'indirizzo',
        'endereço',
        'alamat',
        'site',
        'town',
        'city',
        'village',
        'stadt',
        'ville',
        'ciudad',
        'city/town',
    ];

    /**
     * @param  list<string>  $names
     * @param  list<ColumnTally>  $tallies
     * @param  Box|null  $area  where the programme works; without it only numbers that cannot be anything else are
     *     taken by their value
     * @return array{way: 'pair', x: int, y: int, metres: bool}|array{way: 'text',
     *     columns: list<int>}|array{way: 'none'}
     */
    public static function of(array $names, array $tallies, ?Box $area = null): array
    {
        $plain = array_map(self::plain(...), $names);
        $numbers = static fn (int $i): bool => $tallies[$i]->filled > 0 &&
            self::share($tallies[$i], max($tallies[$i]->could['point'], $tallies[$i]->could['comma'])) >= 0.5;
        $angles = static fn (int $i): bool => $tallies[$i]->filled > 0 &&
            ($numbers($i) || self::looksLikeAngle($tallies[$i]));
        [$y, $x] = [self::named($plain, self::LAT, $angles), self::named($plain, self::LON, $angles)];
        if ($x !== null && $y !== null) {
            $degrees = self::degrees($tallies[$x], 'lon') && self::degrees($tallies[$y], 'lon');

            return ['way' => 'pair', 'x' => $x, 'y' => $y, 'metres' => ! $degrees];
        }
        [$y, $x] = [self::named($plain, self::NORTH, $numbers), self::named($plain, self::EAST, $numbers)];
        if ($x !== null && $y !== null) {
            return ['way' => 'pair', 'x' => $x, 'y' => $y, 'metres' => true];
        }
        foreach ($tallies as $i => $t) {
            // Pairs in one cell, whatever the column is called.
            if (
                $t->filled > 0 &&
                self::share($t, $t->could['place']) >= 0.5 &&
                $t->could['date'] + $t->could['moment'] === 0 &&
                $t->could['point'] < $t->looked / 2
            ) {
                return ['way' => 'text', 'columns' => [$i]];
            }
        }
        $texts = static fn (int $i): bool => $tallies[$i]->filled > 0 && ! $numbers($i);
        $place = self::named($plain, self::PLACE, $texts);
        if ($place !== null) {
            return ['way' => 'text', 'columns' => [$place]];
        }

        return self::byValue($tallies, $area) ?? ['way' => 'none'];
    }

    /**
     * Two neighbouring columns of numbers with fractions that fall into the area where the programme works; where that
     * is not known, of which one goes beyond ±90. Ordinary numbers are no places, however many decimals they have.
     *
     * @param  list<ColumnTally>  $tallies
     * @return array{way: 'pair', x: int, y: int, metres: bool}|null
     */
    private static function byValue(array $tallies, ?Box $area): ?array
    {
        $numbers = static fn (ColumnTally $t): array => array_map(
            static fn (string $s): float => (float) (NumberText::read($s, $t->could['comma'] > $t->could['point']) ??
                NAN),
            $t->samples,
        );
        $in = static fn (ColumnTally $x, ColumnTally $y): bool => $area !== null &&
            self::within($area, $numbers($x), $numbers($y));
        $fine = static fn (ColumnTally $t): bool => $t->filled > 0 &&
            $t->filled >= $t->could['whole'] * 10 &&
            $t->could['lon'] === $t->filled &&
            self::share($t, self::decimals($t)) > 0.8;
        for ($i = 0; $i + 1 < count($tallies); $i++) {
            [$a, $b] = [$tallies[$i], $tallies[$i + 1]];
            if (! $fine($a) || ! $fine($b)) {
                continue;
            }

            // Latitude first, as people write it, where both ways round would do.
            $found = match (true) {
                $in($b, $a) => [$i + 1, $i],
                $in($a, $b) => [$i, $i + 1],
                $area !== null => null,
                // Only what lies beyond 90 is certainly a longitude.
                $a->could['lat'] < $a->looked => [$i, $i + 1],
                $b->could['lat'] < $b->looked => [$i + 1, $i],
                default => null,
            };
            if ($found !== null) {
                return ['way' => 'pair', 'x' => $found[0], 'y' => $found[1], 'metres' => false];
            }
        }

        return null;
    }

    /**
     * Whether samples fall into an area or half its size around it. An area that is most of the world says nothing.
     *
     * @param  list<float>  $x
     * @param  list<float>  $y
     */
    private static function within(Box $area, array $x, array $y): bool
    {
        $width = fmod($area->east - $area->west + 360, 360);
        $height = $area->north - $area->south;
        if ($width > 120 || $height > 60) {
            return false;
        }
        $good = static fn (array $of, \Closure $fits): bool => $of !== [] &&
            count(array_filter($of, $fits)) >= 0.8 * count($of);

        return $good(
            $x,
            static fn (float $lon): bool => fmod($lon - ($area->west - $width / 2) + 720, 360) <= 2 * $width,
        ) && $good($y, static fn (float $lat): bool => abs($lat - ($area->south + $area->north) / 2) <= $height);
    }

    /** How many of the cells kept for show have four decimals or more, scaled up to all. */
    private static function decimals(ColumnTally $t): int
    {
        $fine = count(array_filter($t->samples, static fn (string $s): bool => preg_match('/[.,]\d{4,}$/D', $s) === 1));

        return $t->samples === [] ? 0 : intdiv($fine * $t->looked, count($t->samples));
    }

    private static function degrees(ColumnTally $t, string $what): bool
    {
        $numbers = max($t->could['point'], $t->could['comma']);

        return $numbers === 0 || $numbers < $t->could[$what] * 2;
    }

    /** Half a coordinate with its letter or minutes: `17° 5' S`. */
    private static function looksLikeAngle(ColumnTally $t): bool
    {
        return count(
            array_filter($t->samples, static fn (string $s): bool => preg_match('/\d\s*[°º]|\d\s*[NSEW]$/u', $s) === 1),
        ) *
            2 >
            count($t->samples);
    }

    /**
     * @param  list<string>  $plain
     * @param  list<string>  $known
     * @param  \Closure(int): bool  $fits
     */
    private static function named(array $plain, array $known, \Closure $fits): ?int
    {
        foreach ($known as $name) {
            foreach ($plain as $i => $given) {
                if ($given === str_replace(' ', '_', $name) && $fits($i)) {
                    return $i;
                }
            }
        }

        return null;
    }

    private static function share(ColumnTally $t, int $count): float
    {
        return $count / max(1, $t->looked);
    }

    private static function plain(string $name): string
    {
        $name = mb_strtolower(trim((string) preg_replace('/\s*[(\[][^)\]]*[)\]]\s*$/u', '', $name)));

        return rtrim(str_replace([' ', '-', '.'], ['_', '_', ''], $name), '_:');
    }
}
