<?php

declare(strict_types=1);

namespace App\Export;

use App\Layers\PlaceColumns;
use App\Models\Export;
use PinYard\Export\GeoJson;
use PinYard\Export\SafeCell;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Wkt;
use stdClass;

/** Records as CSV (RFC 4180) and GeoJSON (RFC 7946). */
final class TextExport
{
    private const BUFFER = 262_144;

    /** @param  iterable<stdClass>  $rows */
    public function csv(Export $export, ExportColumns $columns, iterable $rows): int
    {
        return $this->table($export, $export->path(), $columns, $rows, true);
    }

    /**
     * @param  iterable<stdClass>  $rows
     * @param  bool  $forPeople  labels as heads, latitude and longitude, texts that no spreadsheet carries out; else
     *     keys, well-known text, texts as they are
     */
    public function table(Export $export, string $path, ExportColumns $columns, iterable $rows, bool $forPeople): int
    {
        $kind = $export->layer->design()->geometry;
        $out = fopen($path, 'wb') ?: throw new \RuntimeException("cannot write $path");
        $point = $forPeople && $kind === GeometryKind::Point;
        $heads = [
            ...$point ? ['Latitude', 'Longitude'] : ['WKT'],
            ...array_column($columns->columns, $forPeople ? 'label' : 'key'),
        ];
        $heads = $forPeople ? array_map(SafeCell::text(...), $heads) : $heads;
        // A mark tells spreadsheets that the text is UTF-8.
        $buffer = ($forPeople ? "\xEF\xBB\xBF" : '').implode(',', array_map(self::quoted(...), $heads))."\r\n";
        $values = array_column($columns->columns, 'value');
        $texts = array_column($columns->columns, 'text');
        $times = array_map(
            static fn (string $t): bool => $t === 'DateTime' && ! $forPeople,
            array_column($columns->columns, 'type'),
        );
        $count = 0;
        $sql = $forPeople ? LineSql::csv($export->layer, $columns) : null;
        if ($sql !== null) {
            return $this->lines($export, $sql, $out, $buffer, "\r\n", 1, '');
        }
        foreach ($rows as $row) {
            $line = $point
                ? "$row->lat,$row->lon"
                : self::quoted(match (true) {
                    // Of a place that is not told there is none.
                    $row->lon === null => '',
                    $kind === GeometryKind::Point => "POINT ($row->lon $row->lat)",
                    default => Wkt::of(PlaceColumns::geoJson($row, $kind, 9)),
                });
            foreach ($values as $i => $value) {
                $text = $value($row);
                if ($text === null) {
                    $line .= ',';
                } elseif ($texts[$i]) {
                    $text = (string) $text;
                    $text = $forPeople ? SafeCell::text($text) : $text;
                    $line .=
                        strpbrk($text, "\",\r\n") === false && trim($text) === $text
                            ? ",$text"
                            : ',"'.str_replace('"', '""', $text).'"';
                } elseif (is_bool($text)) {
                    $line .= $forPeople ? ($text ? ',yes' : ',no') : ($text ? ',1' : ',0');
                } else {
                    $line .= ','.($times[$i] ? self::forGdal((string) $text) : $text);
                }
            }
            $buffer .= $line."\r\n";
            RunExport::report($export, ++$count);
            if (strlen($buffer) > self::BUFFER) {
                fwrite($out, $buffer);
                $buffer = '';
            }
        }
        fwrite($out, $buffer);
        fclose($out);

        return $count;
    }

    /** @param  iterable<stdClass>  $rows */
    public function geoJson(Export $export, ExportColumns $columns, iterable $rows): int
    {
        $kind = $export->layer->design()->geometry;
        $out = fopen($export->path(), 'wb') ?: throw new \RuntimeException('cannot write');
        $buffer = '{"type":"FeatureCollection","name":'.self::json($export->layer->title).',"features":[';
        $sql = LineSql::geoJson($export->layer, $columns);
        if ($sql !== null) {
            return $this->lines($export, $sql, $out, $buffer."\n", ",\n", 0, "\n]}\n");
        }
        $heads = [];
        foreach ($columns->columns as $i => $c) {
            if ($c['key'] !== 'id') {
                $heads[] = [($i > 1 ? ',' : '').self::json($c['key']).':', $c['value']];
            }
        }
        $id = $columns->columns[0]['value'];
        $count = 0;
        foreach ($rows as $row) {
            $geometry = match (true) {
                $row->lon === null => 'null',
                $kind === GeometryKind::Point => '{"type":"Point","coordinates":['.
                    round($row->lon, GeoJson::DECIMALS).
                    ','.
                    round($row->lat, GeoJson::DECIMALS).
                    ']}',
                default => self::json(PlaceColumns::geoJson($row, $kind)),
            };
            $line =
                ($count === 0 ? "\n" : ",\n").
                '{"type":"Feature","id":"'.
                $id($row).
                '","geometry":'.
                $geometry.
                ',"properties":{';
            foreach ($heads as [$head, $value]) {
                $v = $value($row);
                $line .=
                    $head.
                    match (true) {
                        $v === null => 'null',
                        is_int($v) => (string) $v,
                        is_bool($v) => $v ? 'true' : 'false',
                        is_float($v) => self::json($v),
                        default => self::json((string) $v),
                    };
            }
            $buffer .= $line.'}}';
            RunExport::report($export, ++$count);
            if (strlen($buffer) > self::BUFFER) {
                fwrite($out, $buffer);
                $buffer = '';
            }
        }
        fwrite($out, $buffer."\n]}\n");
        fclose($out);

        return $count;
    }

    /**
     * What the database has written line by line.
     *
     * @param  resource  $out
     * @param  string  $by  between lines, or behind each
     */
    private function lines(Export $export, string $sql, $out, string $buffer, string $by, int $behind, string $end): int
    {
        $count = 0;
        foreach (RunExport::rows($export, $sql) as $row) {
            $buffer .= $behind === 1 ? $row->line.$by : ($count === 0 ? '' : $by).$row->line;
            RunExport::report($export, ++$count);
            if (strlen($buffer) > self::BUFFER) {
                fwrite($out, $buffer);
                $buffer = '';
            }
        }
        fwrite($out, $buffer.$end);
        fclose($out);

        return $count;
    }

    /** `2026-05-01T06:30:00Z` is no date and time to GDAL's CSV driver; this is. */
    private static function forGdal(string $moment): string
    {
        return strtr(substr($moment, 0, 10), '-', '/').
            ' '.
            substr($moment, 11, 8).
            (str_ends_with($moment, 'Z') ? '+00' : substr($moment, 19, 3));
    }

    private static function quoted(string $text): string
    {
        return strpbrk($text, "\",\r\n") === false ? $text : '"'.str_replace('"', '""', $text).'"';
    }

    private static function json(mixed $value): string
    {
        return (string) json_encode(
            $value,
            JSON_UNESCAPED_UNICODE |
                JSON_UNESCAPED_SLASHES |
                JSON_PRESERVE_ZERO_FRACTION |
                JSON_INVALID_UTF8_SUBSTITUTE,
        );
    }
}
