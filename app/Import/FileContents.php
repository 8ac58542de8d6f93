<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use PinYard\Problem;
use PinYard\Refused;

/**
 * Finds out what was sent, by the first bytes of the files and never by their names alone, and lays it ready for
 * reading.
 */
final class FileContents
{
    private const PARTS_OF_SHAPEFILE = ['shp', 'shx', 'dbf', 'prj', 'cpg', 'qpj', 'sbn', 'sbx'];

    /**
     * @param  'csv'|'sheet'|'geo'|'photos'  $kind
     * @param  string|null  $driver  of GDAL
     * @param  array<string, string>  $paths  of the files, by their names
     * @param  list<Problem>  $notes
     */
    private function __construct(
        public string $kind,
        public array $paths,
        public ?string $driver = null,
        public array $notes = [],
    ) {
    }

    /** @throws Refused */
    public static function of(Import $import): self
    {
        $files = [];
        foreach ($import->files as $n => $file) {
            $files[$file['name']] = $import->file($n);
        }
        if (count($files) === 1) {
            $path = array_values($files)[0];
            if (self::head($path) === "PK\x03\x04" && self::packed($path) === 'zip') {
                $files = Archive::unpack($path, $import->folder('unpacked'));
                if ($files === []) {
                    throw Refused::because('intake_zip_empty', 'file');
                }
            }
        }

        return self::among($files, $import);
    }

    /** @param  array<string, string>  $files */
    private static function among(array $files, Import $import): self
    {
        $kinds = [];
        foreach ($files as $name => $path) {
            $kinds[self::kind($path, $name)][$name] = $path;
        }
        if (isset($kinds['shp'])) {
            return self::shapefile($files, $import);
        }
        foreach (
            [
                'gpkg' => 'GPKG',
                'fgb' => 'FlatGeobuf',
                'geojson' => 'GeoJSON',
                'kml' => 'LIBKML',
                'kmz' => 'LIBKML',
                'gpx' => 'GPX',
            ] as $kind => $driver
        ) {
            if (isset($kinds[$kind])) {
                return new self(
                    'geo',
                    self::first($kinds[$kind], $import, $kind),
                    $driver,
                    self::leftOut($files, $kinds[$kind]),
                );
            }
        }
        if (isset($kinds['sheet'])) {
            return new self('sheet', array_slice($kinds['sheet'], 0, 1), null, self::leftOut($files, $kinds['sheet']));
        }
        if (isset($kinds['photo'])) {
            $other = array_diff_key($files, $kinds['photo']);

            return new self(
                'photos',
                $kinds['photo'],
                null,
                $other === []
                    ? []
                    : [new Problem('intake_left_out', 'file', null, ['names' => self::some(array_keys($other))])],
            );
        }
        if (isset($kinds['csv'])) {
            return new self('csv', array_slice($kinds['csv'], 0, 1), null, self::leftOut($files, $kinds['csv']));
        }
        foreach (
            [
                'part' => 'intake_shp_missing',
                'ole' => 'intake_ole',
                'rar' => 'intake_packed',
                'heic' => 'intake_heic',
                'pdf' => 'intake_pdf',
            ] as $kind => $code
        ) {
            if (isset($kinds[$kind])) {
                throw Refused::because($code, 'file', (string) array_key_first($kinds[$kind]), [
                    'name' => (string) array_key_first($kinds[$kind]),
                ]);
            }
        }
        throw Refused::because('intake_no_text', 'file', (string) array_key_first($files));
    }

    private static function kind(string $path, string $name): string
    {
        $head = self::head($path, 1_000);
        $extension = strtolower(pathinfo($name, PATHINFO_EXTENSION));
        $text = ltrim(str_starts_with($head, "\xEF\xBB\xBF") ? substr($head, 3) : $head);

        return match (true) {
            filesize($path) === 0 => 'csv',
            str_starts_with($head, "PK\x03\x04") => self::packed($path),
            str_starts_with($head, "\xD0\xCF\x11\xE0") => 'ole',
            str_starts_with($head, 'SQLite format 3') => 'gpkg',
            str_starts_with($head, "fgb\x03") => 'fgb',
            str_starts_with($head, "\x00\x00\x27\x0A") && $extension !== 'shx' => 'shp',
            in_array($extension, self::PARTS_OF_SHAPEFILE, true) => 'part',
            str_starts_with($head, "\xFF\xD8\xFF"),
            str_starts_with($head, "\x89PNG"),
            str_starts_with($head, 'RIFF') && substr($head, 8, 4) === 'WEBP' => 'photo',
            substr($head, 4, 4) === 'ftyp'
                && in_array(substr($head, 8, 4), ['heic', 'heix', 'mif1', 'hevc'], true) => 'heic',
            str_starts_with($head, 'Rar!'),
            str_starts_with($head, "7z\xBC\xAF"),
            str_starts_with($head, "\x1F\x8B") => 'rar',
            str_starts_with($head, '%PDF') => 'pdf',
            str_starts_with($text, '{') && preg_match('/"(type|features|geometry|coordinates)"\s*:/', $head) === 1 => 'geojson',
            str_starts_with($text, '<') && stripos($head, '<gpx') !== false => 'gpx',
            str_starts_with($text, '<') && (stripos($head, '<kml') !== false || $extension === 'kml') => 'kml',
            default => 'csv',
        };
    }

    /** What kind of thing is packed as a zip. */
    private static function packed(string $path): string
    {
        $zip = new \ZipArchive;
        if ($zip->open($path, \ZipArchive::RDONLY) !== true) {
            throw Refused::because('intake_zip', 'file');
        }
        $has = static fn (string $name): bool => $zip->locateName($name) !== false;
        $mime = $has('mimetype') ? (string) $zip->getFromName('mimetype', 100) : '';
        $kind = match (true) {
            $has('xl/workbook.xml') => 'sheet',
            str_contains($mime, 'opendocument.spreadsheet') => 'sheet',
            $has('doc.kml') => 'kmz',
            default => 'zip',
        };
        $zip->close();

        return $kind;
    }

    /** @param  array<string, string>  $files */
    private static function shapefile(array $files, Import $import): self
    {
        $stem = null;
        foreach ($files as $name => $path) {
            if (self::kind($path, $name) === 'shp') {
                $stem ??= pathinfo($name, PATHINFO_FILENAME);
            }
        }
        @mkdir($import->folder('shape'), 0o700, true);
        $parts = $notes = [];
        foreach ($files as $name => $path) {
            $extension = strtolower(pathinfo($name, PATHINFO_EXTENSION));
            if (
                mb_strtolower(pathinfo($name, PATHINFO_FILENAME)) === mb_strtolower((string) $stem) &&
                in_array($extension, self::PARTS_OF_SHAPEFILE, true)
            ) {
                copy($path, $import->folder("shape/layer.$extension"));
                $parts[] = $extension;
            }
        }
        foreach (['dbf' => 'intake_no_dbf', 'shx' => 'intake_no_shx'] as $part => $code) {
            if (! in_array($part, $parts, true)) {
                $notes[] = new Problem($code, 'file');
            }
        }
        $others = array_filter(
            array_keys($files),
            static fn (string $n): bool => str_ends_with(strtolower($n), '.shp') &&
                pathinfo($n, PATHINFO_FILENAME) !== $stem,
        );
        if ($others !== []) {
            $notes[] = new Problem('intake_left_out', 'file', null, ['names' => self::some($others)]);
        }

        return new self('geo', ["$stem.shp" => $import->folder('shape/layer.shp')], 'ESRI Shapefile', $notes);
    }

    /**
     * GDAL goes by the ending of a name as well.
     *
     * @param  array<string, string>  $files
     * @return array<string, string>
     */
    private static function first(array $files, Import $import, string $extension): array
    {
        $name = (string) array_key_first($files);
        $path = $import->folder("read.$extension");
        copy($files[$name], $path);

        return [$name => $path];
    }

    /**
     * @param  array<string, string>  $files
     * @param  array<string, string>  $of
     * @return list<Problem>
     */
    private static function leftOut(array $files, array $of): array
    {
        $left = array_slice(array_keys($of), 1);
        $left = [...$left, ...array_keys(array_diff_key($files, $of))];

        return $left === [] ? [] : [new Problem('intake_left_out', 'file', null, ['names' => self::some($left)])];
    }

    /** @param  array<string>  $names */
    private static function some(array $names): string
    {
        return implode(', ', array_slice($names, 0, 4)).(count($names) > 4 ? ', …' : '');
    }

    private static function head(string $path, int $bytes = 4): string
    {
        return (string) file_get_contents($path, length: max(0, $bytes));
    }
}
