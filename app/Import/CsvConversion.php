<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use PinYard\Device\PhotoFacts;
use PinYard\Import\CsvDialect;
use PinYard\Problem;
use PinYard\Refused;

/** Makes one CSV text in UTF-8 of whatever was sent; a CSV file in UTF-8 stays where it is. */
final class CsvConversion
{
    /**
     * @param  string|null  $table  which of the file's tables; the first with rows where none is named
     * @param  string|null  $system  reference system, where the file does not say its own
     * @return array{array<string, mixed>, list<Problem>} what the import keeps as its source, and notes
     *
     * @throws Refused
     */
    public static function run(Import $import, FileContents $contents, ?string $table, ?string $system): array
    {
        $made = match ($contents->kind) {
            'csv' => self::csv($import, array_values($contents->paths)[0]),
            'sheet' => self::sheet($import, $contents, $table),
            'geo' => self::geo($import, $contents, $table, $system),
            'photos' => self::photos($import, $contents->paths),
        };

        return [
            [
                'kind' => $contents->kind,
                'driver' => $contents->driver,
                'file' => (string) array_key_first($contents->paths),
            ] + $made[0],
            [...$contents->notes, ...$made[1]],
        ];
    }

    /** @return array{array<string, mixed>, list<Problem>} */
    private static function csv(Import $import, string $path): array
    {
        $head = (string) file_get_contents($path, length: CsvDialect::HEAD);
        $dialect = CsvDialect::of($head, filesize($path) <= CsvDialect::HEAD);
        $note = $dialect->note();
        if ($dialect->encoding === 'UTF-8') {
            return [
                [
                    'path' => substr($path, strlen($import->folder()) + 1),
                    'mark' => $dialect->mark,
                    'delimiter' => $dialect->delimiter,
                    'tables' => [],
                ],
                [],
            ];
        }
        $in = fopen($path, 'rb') ?: throw new \RuntimeException("cannot read $path");
        fseek($in, $dialect->mark);
        stream_filter_append($in, "convert.iconv.$dialect->encoding/UTF-8//IGNORE", STREAM_FILTER_READ);
        $out = fopen($import->folder('rows.csv'), 'wb') ?: throw new \RuntimeException('cannot write');
        stream_copy_to_stream($in, $out);
        fclose($in);
        fclose($out);

        return [
            ['path' => 'rows.csv', 'mark' => 0, 'delimiter' => $dialect->delimiter, 'tables' => []],
            $note === null ? [] : [$note],
        ];
    }

    /** @return array{array<string, mixed>, list<Problem>} */
    private static function sheet(Import $import, FileContents $contents, ?string $wanted): array
    {
        $name = (string) array_key_first($contents->paths);
        /** @var array{tables: list<array{name: string, rows: int}>, table: string} $made */
        $made = SheetRows::inChild($import, array_values($contents->paths)[0], $name, $wanted);
        $filled = count(array_filter($made['tables'], static fn (array $t): bool => $t['rows'] > 0));

        return [
            [
                'path' => 'rows.csv',
                'mark' => 0,
                'delimiter' => ',',
                'tables' => $made['tables'],
                'table' => $made['table'],
            ],
            $filled > 1 && $wanted === null
                ? [
                    new Problem('intake_sheets', 'file', $made['table'], [
                        'table' => $made['table'],
                        'count' => $filled,
                    ]),
                ]
                : [],
        ];
    }

    /** @return array{array<string, mixed>, list<Problem>} */
    private static function geo(Import $import, FileContents $contents, ?string $wanted, ?string $system): array
    {
        $path = array_values($contents->paths)[0];
        $driver = (string) $contents->driver;
        $stop = static function () use ($import): bool {
            // Still at it, for whoever looks after imports that went silent.
            $import->progress(0);

            return $import->wantsStop();
        };
        $tables = Gdal::tables($path, $driver, $stop);
        $found = null;
        foreach ($tables as $t) {
            if (
                $wanted === null
                    ? $t['rows'] > 0 &&
                        ($found === null || ($found['geometry'] === 'None' && $t['geometry'] !== 'None'))
                    : $t['name'] === $wanted
            ) {
                $found = $t;
            }
        }
        $found ??= $tables[0] ?? throw Refused::because('intake_empty', 'file');
        $hasPlaces = $found['geometry'] !== 'None';
        $notes = [];
        $assumed = null;
        $bounds = null;
        if ($hasPlaces && str_starts_with($found['geometry'], '3D ')) {
            $notes[] = new Problem('intake_heights_dropped', 'location');
        }
        if ($hasPlaces && $found['system'] === null && $system === null && $found['rows'] > 0) {
            $bounds = Gdal::extent($path, $driver, $found['name'], $stop);
            if ($found['strange']) {
                // It names a system that nobody knows; degrees it may be, or not.
                $notes[] = new Problem('intake_system_strange', 'location');
            } elseif (
                $bounds !== null &&
                $bounds[0] >= -180.5 &&
                $bounds[2] <= 180.5 &&
                $bounds[1] >= -90.5 &&
                $bounds[3] <= 90.5
            ) {
                $assumed = 'EPSG:4326';
                $notes[] = new Problem('intake_degrees_assumed', 'location');
            }
        }
        $out = $import->folder('rows.csv');
        @unlink($out);
        @unlink($import->folder('rows.csvt'));
        $given = $found['system'] === null ? $system ?? $assumed : null;
        $turn = $hasPlaces && ($found['system'] !== null || $given !== null);
        Gdal::run(
            [
                'ogr2ogr',
                '-f',
                'CSV',
                $out,
                $path,
                $found['name'],
                '-lco',
                'CREATE_CSVT=YES',
                '-lco',
                'STRING_QUOTING=IF_AMBIGUOUS',
                ...$hasPlaces ? ['-lco', 'GEOMETRY=AS_WKT', '-dim', 'XY'] : [],
                ...$turn ? [...$given === null ? [] : ['-s_srs', $given], '-t_srs', 'OGC:CRS84', '-skipfailures'] : [],
            ],
            $driver,
            $stop,
        );
        if (! is_file($out)) {
            throw Refused::because('intake_empty', 'file');
        }
        $told = [];
        foreach (str_getcsv(trim((string) @file_get_contents($import->folder('rows.csvt'))), ',', '"', '') as $type) {
            $told[] = match (true) {
                $type === null, $type === '' => null,
                str_contains($type, 'Boolean') => 'yes_no',
                str_starts_with($type, 'Integer') => 'whole_number',
                str_starts_with($type, 'Real') => 'decimal',
                str_starts_with($type, 'DateTime') => 'date_time',
                str_starts_with($type, 'Date') => 'date',
                str_starts_with($type, 'Time') => 'time',
                default => null,
            };
        }
        if ($hasPlaces) {
            array_shift($told);
        }

        return [
            [
                'path' => 'rows.csv',
                'mark' => 0,
                'delimiter' => ',',
                'wkt' => $hasPlaces,
                'told' => $told,
                'tables' => array_map(
                    static fn (array $t): array => [
                        'name' => $t['name'],
                        'rows' => $t['rows'],
                        'geometry' => $t['geometry'],
                    ],
                    $tables,
                ),
                'table' => $found['name'],
                'system' => $found['system'],
                'given' => $given,
                'bounds' => $bounds,
                'turned' => $turn,
                'rows' => $found['rows'],
            ],
            $notes,
        ];
    }

    /**
     * @param  array<string, string>  $paths
     * @return array{array<string, mixed>, list<Problem>}
     */
    private static function photos(Import $import, array $paths): array
    {
        $out = fopen($import->folder('rows.csv'), 'wb') ?: throw new \RuntimeException('cannot write');
        fputcsv($out, ['Photo', 'Taken', 'Direction', 'Height', 'Longitude', 'Latitude'], ',', '"', '');
        $kept = $sideless = [];
        uksort($paths, strnatcasecmp(...));
        foreach ($paths as $name => $path) {
            $facts = PhotoFacts::of(@exif_read_data($path) ?: []);
            fputcsv(
                $out,
                [$name, $facts->taken, $facts->direction, $facts->altitude, $facts->lon, $facts->lat],
                ',',
                '"',
                '',
            );
            if ($facts->sideless) {
                $sideless[] = (string) $name;
            }
            $kept[$name] = substr($path, strlen($import->folder()) + 1);
        }
        fclose($out);

        return [
            [
                'path' => 'rows.csv',
                'mark' => 0,
                'delimiter' => ',',
                'tables' => [],
                'photos' => $kept,
                'told' => ['short_text', 'date_time', 'decimal', 'decimal', null, null],
            ],
            $sideless === []
                ? []
                : [
                    new Problem('intake_photo_side', 'file', null, [
                        'count' => count($sideless),
                        'names' => implode(', ', array_slice($sideless, 0, 4)),
                    ]),
                ],
        ];
    }
}
