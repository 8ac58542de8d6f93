<?php

declare(strict_types=1);

namespace App\Export;

use App\Import\Gdal;
use App\Models\Export;
use Illuminate\Support\Str;
use PinYard\Export\Format;
use PinYard\Export\ShortNames;
use PinYard\Geo\GeometryKind;
use stdClass;

/** Records in the formats that GDAL writes: a table of ours, with its kinds told, turned by ogr2ogr. */
final class GdalExport
{
    /** @param  iterable<stdClass>  $rows */
    public static function write(
        Export $export,
        Format $format,
        string $work,
        ExportColumns $columns,
        iterable $rows,
    ): int {
        $count = (new TextExport)->table($export, "$work/records.csv", $columns, $rows, false);
        file_put_contents(
            "$work/records.csvt",
            '"WKT",'.
                implode(
                    ',',
                    array_map(
                        static fn (array $c): string => '"'.self::type($c['type'], $format).'"',
                        $columns->columns,
                    ),
                ),
        );
        $name = Str::slug($export->layer->title, '_') ?: 'records';
        $out = "$work/out/$name.".$format->value;
        mkdir("$work/out", 0o700);
        $design = $export->layer->design();
        $geometry = match ($design->geometry) {
            GeometryKind::Point => 'POINT',
            GeometryKind::Line => 'MULTILINESTRING',
            GeometryKind::Area => 'MULTIPOLYGON',
        };
        $select =
            $format === Format::Shapefile
                ? self::renamed($columns)
                : ($format === Format::Gpx
                    ? self::named($export, $columns)
                    : null);
        Gdal::run(
            [
                'ogr2ogr',
                '-f',
                (string) $format->driver(),
                $out,
                "$work/records.csv",
                '-a_srs',
                'EPSG:4326',
                '-nln',
                $format === Format::Gpx
                    ? ($design->geometry === GeometryKind::Point
                        ? 'waypoints'
                        : 'tracks')
                    : ($format === Format::Shapefile
                        ? $name
                        : Str::limit($export->layer->title, 60, '')),
                '-nlt',
                $geometry,
                '-oo',
                'GEOM_POSSIBLE_NAMES=WKT',
                '-oo',
                'KEEP_GEOM_COLUMNS=NO',
                '-oo',
                'EMPTY_STRING_AS_NULL=YES',
                ...match ($format) {
                    Format::Shapefile => ['-lco', 'ENCODING=UTF-8', '-lco', 'RESIZE=YES'],
                    Format::Gpx => ['-dsco', 'GPX_USE_EXTENSIONS=YES'],
                    Format::GeoPackage => ['-lco', 'FID=fid'],
                    Format::Kml => [
                        '-dsco',
                        'NAME='.$export->layer->title,
                        ...$design->nameField !== null ? ['-dsco', 'LIBKML_NAME_FIELD='.$design->nameField] : [],
                    ],
                    default => [],
                },
                ...$select === null ? [] : ['-dialect', 'OGRSQL', '-sql', $select],
            ],
            (string) $format->driver(),
        );
        if ($format === Format::GeoPackage) {
            self::related($export, $work, $out);
        }
        if ($format === Format::Shapefile) {
            self::pack($export, "$work/out", $columns);
        } else {
            rename($out, $export->path());
        }

        return $count;
    }

    /**
     * None of them has a kind for times of day; a shapefile has none for moments, KML and GPX none for dates: there
     * they are texts.
     */
    private static function type(string $type, Format $format): string
    {
        return match (true) {
            $type === 'Time', $type === 'DateTime' && $format === Format::Shapefile => 'String',
            $format === Format::Kml || $format === Format::Gpx => str_starts_with($type, 'Date') ? 'String' : $type,
            default => $type,
        };
    }

    /** Choices and files of the records as tables of their own. */
    private static function related(Export $export, string $work, string $out): void
    {
        $choices = [['field', 'code', 'label', 'retired', 'colour']];
        foreach ($export->layer->design()->fields as $field) {
            foreach ($field->choices as $c) {
                $choices[] = [$field->key, $c->code, $c->label, $c->retired ? '1' : '0', $c->colour ?? ''];
            }
        }
        foreach (['choices' => $choices, 'attachments' => PhotoExport::list($export)] as $table => $rows) {
            if (count($rows) < 2) {
                continue;
            }
            $file = fopen("$work/$table.csv", 'wb') ?: throw new \RuntimeException('cannot write');
            foreach ($rows as $row) {
                fputcsv($file, $row, ',', '"', '');
            }
            fclose($file);
            file_put_contents("$work/$table.csvt", implode(',', array_fill(0, count($rows[0]), '"String"')));
            Gdal::run(
                ['ogr2ogr', '-f', 'GPKG', '-update', $out, "$work/$table.csv", '-nln', $table, '-nlt', 'NONE'],
                'GPKG',
            );
        }
    }

    private static function renamed(ExportColumns $columns): string
    {
        $parts = [];
        foreach (ShortNames::of(array_column($columns->columns, 'key')) as $key => $short) {
            $parts[] = "\"$key\" AS \"$short\"";
        }

        return 'SELECT '.implode(', ', $parts).' FROM records';
    }

    /** A waypoint has a name and a description of its own in GPX; the rest are extensions. */
    private static function named(Export $export, ExportColumns $columns): string
    {
        $name = $export->layer->design()->nameField;
        $parts = [];
        foreach (array_column($columns->columns, 'key') as $key) {
            // `name`, `time` and the like are GPX's own words, with kinds of their own.
            $parts[] = $key === $name ? "\"$key\" AS \"name\"" : "\"$key\" AS \"py_$key\"";
        }

        return 'SELECT '.implode(', ', $parts).' FROM records';
    }

    private static function pack(Export $export, string $folder, ExportColumns $columns): void
    {
        $zip = new \ZipArchive;
        $zip->open($export->path(), \ZipArchive::CREATE | \ZipArchive::OVERWRITE);
        foreach (glob("$folder/*") ?: [] as $file) {
            $zip->addFile($file, basename($file));
        }
        $names = "Short name,Field,Label\r\n";
        $labels = array_column($columns->columns, 'label', 'key');
        foreach (ShortNames::of(array_column($columns->columns, 'key')) as $key => $short) {
            $names .= "$short,$key,\"".str_replace('"', '""', $labels[$key])."\"\r\n";
        }
        $zip->addFromString('field-names.csv', $names);
        $zip->close();
    }
}
