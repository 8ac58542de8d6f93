<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\Layer;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use PinYard\Design\Column;
use PinYard\Design\FieldKind;
use PinYard\Geo\GeometryKind;

/** Makes and widens the typed table of a layer. Columns are only ever added. */
final class LayerTable
{
    /** All that tells whether a record is in a box, also where it is told by its cell. */
    public const Z_ORDER = ['z', 'deleted', 'lon', 'lat', ToldColumns::HASH, ToldColumns::DOWN];

    private const MOST_VARCHARS = 40;

    /** @param  list<Column>  $columns */
    public static function make(Layer $layer, array $columns, GeometryKind $geometry): void
    {
        self::outsideOfTransactions();
        $visits = $layer->visits_of !== null;
        $shapes = $geometry !== GeometryKind::Point;
        self::inOne($layer->table(), static function (Blueprint $table) use ($layer, $columns, $visits, $shapes): void {
            $table->create();
            $table->binary('id', 16, true)->primary();
            $table->double('lon');
            $table->double('lat');
            $table->unsignedBigInteger('z')->comment('Z-order number of the place');
            $table->unsignedInteger('version');
            $table->unsignedBigInteger('change_number');
            $table->unsignedInteger('design_version');
            $table->boolean('deleted')->default(false);
            $table->unsignedBigInteger('created_by')->nullable();
            $table->dateTime('collected_at', 3);
            $table->dateTime('received_at', 3);
            $table->float('accuracy')->nullable()->comment('metres, as the fix said');
            $table->double('altitude')->nullable()->comment('metres');
            $table->unsignedSmallInteger('satellites')->nullable();
            $table->string('fix_type', 10)->nullable();
            $table->dateTime('fix_at')->nullable();
            $table->dateTime('accepted_at', 3)->nullable()->comment('missing: to be looked at');
            $table->unsignedBigInteger('accepted_by')->nullable()->comment('0: nobody in person');
            if ($visits) {
                $table->binary('parent', 16, true)->comment('the record that was visited');
                $table->index(['parent', 'deleted', 'collected_at'], 'visits');
            }
            ToldColumns::add($table, $layer->id);
            self::add($table, $columns, 0);
            $table->index(self::Z_ORDER, 'z_order');
            $table->index('change_number');
            $table->index(['created_by', 'change_number'], 'own');
            if ($shapes) {
                $table->geometry('shape');
                self::sizes($table);
                $table->spatialIndex('shape', 'shapes');
            }
        });
        if ($shapes) {
            $layer->update(['has_shapes' => true]);
        }
    }

    /**
     * With one statement that makes the table and one that alters it: the framework has one for each column and index,
     * and MariaDB takes as long for every one of them as for the table.
     *
     * @param  \Closure(Blueprint): void  $do
     */
    public static function inOne(string $name, \Closure $do): void
    {
        $alter = 'alter table `'.$name.'` ';
        $altered = [];
        foreach ((new Blueprint(Schema::getConnection(), $name, $do))->toSql() as $sql) {
            if (str_starts_with($sql, $alter)) {
                $altered[] = substr($sql, strlen($alter));
            } else {
                DB::statement($sql);
            }
        }
        if ($altered !== []) {
            DB::statement($alter.implode(', ', $altered));
        }
    }

    private static function sizes(Blueprint $table): void
    {
        $table->double('length_m')->nullable()->comment('along a line, or around an area');
        $table->double('area_m2')->nullable();
    }

    /**
     * Gives a table room for lines and areas. Records that were places until then stay so until someone draws them.
     * A spatial index wants a shape in every row, so theirs is the point.
     */
    public static function shapes(Layer $layer): void
    {
        if ($layer->has_shapes) {
            return;
        }
        self::outsideOfTransactions();
        $table = $layer->table();
        self::inOne($table, static function (Blueprint $blueprint): void {
            $blueprint->geometry('shape')->nullable();
            self::sizes($blueprint);
        });
        DB::statement("update $table set shape = point(lon, lat)");
        DB::statement("alter table $table modify shape geometry not null, add spatial index shapes (shape)");
        $layer->update(['has_shapes' => true]);
    }

    /** For good, with all that is in it. */
    public static function drop(Layer $layer): void
    {
        self::outsideOfTransactions();
        Schema::dropIfExists($layer->table());
    }

    /**
     * MariaDB commits before it alters a table: half of somebody's work would stand, and the other half could not be
     * taken back.
     */
    private static function outsideOfTransactions(): void
    {
        if (DB::transactionLevel() > 0) {
            throw new \LogicException('tables are made, altered and dropped outside of transactions');
        }
    }

    public static function hasColumn(Layer $layer, string $column): bool
    {
        return Schema::hasColumn($layer->table(), $column);
    }

    /** @param  list<Column>  $columns */
    public static function widen(Layer $layer, array $columns): void
    {
        if ($columns !== []) {
            self::outsideOfTransactions();
            $words = count(
                array_filter(
                    $layer->columns,
                    static fn (string $kind): bool => in_array(
                        explode(':', $kind)[0],
                        [FieldKind::ShortText->value, FieldKind::OneChoice->value],
                        true,
                    ),
                ),
            );
            self::inOne($layer->table(), static fn (Blueprint $table) => self::add($table, $columns, $words));
        }
    }

    /**
     * A row of MariaDB holds 65,535 bytes at the most, counted by what its columns could hold, and a page less;
     * beyond the first texts and codes the others become TEXT, which counts for little and is only slower to group by.
     *
     * @param  list<Column>  $columns
     */
    private static function add(Blueprint $table, array $columns, int $wordsBefore): void
    {
        foreach ($columns as $column) {
            match ($column->type) {
                'text' => $wordsBefore++ < self::MOST_VARCHARS
                    ? $table->string($column->name, $column->length)->nullable()
                    : $table->text($column->name)->nullable(),
                'long' => $table->text($column->name)->nullable(),
                'whole' => $table->bigInteger($column->name)->nullable(),
                'decimal' => $table->double($column->name)->nullable(),
                'yes_no' => $table->boolean($column->name)->nullable(),
                'codes' => $table->text($column->name)->charset('ascii')->collation('ascii_bin')->nullable(),
                'time' => $table->time($column->name)->nullable(),
                'date_time' => $table->dateTime($column->name)->nullable(),
                'code' => ($wordsBefore++ < self::MOST_VARCHARS
                    ? $table->string($column->name, $column->length)
                    : $table->text($column->name)
                )
                    ->charset('ascii')
                    ->collation('ascii_bin')
                    ->nullable(),
                'date' => $table->date($column->name)->nullable(),
            };
        }
    }
}
