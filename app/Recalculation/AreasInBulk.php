<?php

declare(strict_types=1);

namespace App\Recalculation;

use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Models\Layer;
use App\Records\RecordWriter;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Field;
use PinYard\Formula\Formula;
use PinYard\Geo\AreaCells;
use PinYard\Geo\PointInArea;
use PinYard\Geo\Wkb;

/** Gives all records of a layer the area that they lie in, in one walk over the Z-order ({@see AreaCells}). */
final class AreasInBulk
{
    private const ROWS = 50_000;

    /** Beyond the edge of the Mercator square the Z-order says nothing. */
    private const POLAR = 85.0;

    /**
     * @return bool false where the formula is more than the question for an area, or no file can be loaded from here
     */
    public static function run(LayerParts $parts, Layer $layer, Field $field, Formula $formula): bool
    {
        if (
            ($formula->tree[0] ?? null) !== 'area_of' ||
            ! is_string($formula->tree[1] ?? null) ||
            ! is_string($formula->tree[2] ?? null) ||
            PHP_SAPI !== 'cli'
        ) {
            return false;
        }
        $areas = Layer::areasOf($layer->programme)->firstWhere('title', $formula->tree[1]);
        if ($areas === null) {
            return false;
        }
        $rings = $values = [];
        foreach (LayerRows::live($areas)->whereNotNull('area_m2')->orderBy('area_m2')->get() as $row) {
            $rings[] = Wkb::allRings($row->shape);
            $value = StoredRow::values($areas->design(), $row)[$formula->tree[2]] ?? null;
            $values[] = StoredValue::toColumn($field->valueKind(), $value);
        }
        $file = (string) tempnam(sys_get_temp_dir(), 'areas');
        try {
            // What changes while the layer is read was worked out by whoever changed it.
            $before = (int) Layer::withTrashed()->whereKey($layer->id)->value('change_number');
            self::find($layer, $rings, $values, $file);
            self::load($parts, $layer, $field, $file, $before);
        } finally {
            unlink($file);
        }

        return true;
    }

    /**
     * Writes for each record the value of the area that it lies in, one line each, without touching any.
     *
     * @param  list<list<list<array{float, float}>>>  $rings  of each area, the smallest area first
     * @param  list<string|int|float|null>  $values  of each area
     */
    public static function find(Layer $layer, array $rings, array $values, string $file): void
    {
        $cells = new AreaCells($rings);
        $texts = array_map(
            static fn (string|int|float|null $v): string => $v === null
                ? '\\N'
                : strtr((string) $v, ['\\' => '\\\\', "\t" => '\\t', "\n" => '\\n']),
            $values,
        );
        $out = fopen($file, 'wb') ?: throw new \RuntimeException("cannot write $file");
        $pdo = DB::connection()->getPdo();
        $pdo->setAttribute(\PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, false);
        try {
            $statement = $pdo->query(
                "select hex(id), z, lon, lat from {$layer->table()} force index (z_order) order by z",
            );
            $buffer = '';
            while ($statement !== false && ($row = $statement->fetch(\PDO::FETCH_NUM)) !== false) {
                [$id, $z, $lon, $lat] = [$row[0], (int) $row[1], (float) $row[2], (float) $row[3]];
                $area = abs($lat) < self::POLAR ? $cells->at($z, $lon, $lat) : self::polar($rings, $lon, $lat);
                $buffer .= "$id\t".($area === null ? '\\N' : $texts[$area])."\n";
                if (strlen($buffer) > 262_144) {
                    fwrite($out, $buffer);
                    $buffer = '';
                }
            }
            fwrite($out, $buffer);
        } finally {
            $pdo->setAttribute(\PDO::MYSQL_ATTR_USE_BUFFERED_QUERY, true);
            fclose($out);
        }
    }

    private static function load(LayerParts $parts, Layer $layer, Field $field, string $file, int $before): void
    {
        $column = $field->column();
        DB::statement('drop temporary table if exists lies_in');
        // As the column is, but in a table that keeps no order and no log.
        DB::statement(
            'create temporary table lies_in engine=Aria transactional=0 as select id, '
                ."`$column` as value from {$layer->table()} limit 0",
        );
        DB::connection()
            ->getPdo()
            ->exec(
                'load data local infile '.
                    DB::connection()->getPdo()->quote($file).
                    ' into table lies_in character set utf8mb4 (@id, value) set id = unhex(@id)',
            );
        DB::statement('alter table lies_in add primary key (id)');
        $column = $field->column();
        $parts->each(self::ROWS, static function (RecordWriter $writer, string $after, ?string $last) use (
            $column,
            $field,
            $before,
        ): void {
            $writer->many(
                static function (int $from) use ($writer, $after, $last, $column, $before): int {
                    DB::statement("set @change_number := $from");
                    $between = $last === null ? '' : ' and r.id <= ?';

                    return DB::update(
                        "update {$writer->layer->table()} r join lies_in l on r.id = l.id set "
                            ."r.`$column` = l.value, r.change_number = (@change_number := @change_number + 1)".
                            " where r.id > ?$between and r.change_number <= ? and not (r.`$column` <=> l.value)",
                        [$after, ...$last === null ? [] : [$last], $before],
                    );
                },
                [$field->key],
            );
        });
        DB::statement('drop temporary table lies_in');
    }

    /** @param  list<list<list<array{float, float}>>>  $rings */
    private static function polar(array $rings, float $lon, float $lat): ?int
    {
        foreach ($rings as $i => $one) {
            if (PointInArea::of($one, $lon, $lat)) {
                return $i;
            }
        }

        return null;
    }
}
