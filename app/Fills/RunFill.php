<?php

declare(strict_types=1);

namespace App\Fills;

use App\Models\Fill;
use App\Models\User;
use App\Recalculation\Recalculate;
use App\Records\Cause;
use App\Records\RecordWriter;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use PinYard\Design\FieldKind;

/**
 * Writes a formula's values into a field. What changes is worked out first, into a table of the fill's own; then the
 * records, their versions and their history are written in one transaction under the layer's lock. The table stays, for
 * the undo.
 */
final class RunFill implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    private const AT_ONCE = 20_000;

    private const ROWS = 2_000;

    public int $timeout = 3600;

    public int $tries = 1;

    public function __construct(private readonly int $fill)
    {
    }

    public static function soon(Fill $fill): void
    {
        DB::table($fill->layer->table())->count() <= self::AT_ONCE
            ? self::dispatchSync($fill->id)
            : self::dispatch($fill->id);
    }

    public function handle(): void
    {
        $fill = Fill::query()->with('layer.programme')->find($this->fill);
        if ($fill === null || $fill->state !== 'working') {
            return;
        }
        try {
            $plan = FillPlan::of($fill->layer, $fill->field, $fill->formula, $fill->slice_id, $fill->user_id);
            $this->collect($fill, $plan);
            self::write($fill);
            $fill->skipped = max(0, $plan->records()->count() - $fill->changed);
            $fill->save();
        } catch (\Throwable $e) {
            Schema::dropIfExists($fill->table());
            $fill->update(['state' => 'failed']);
            throw $e;
        }
        self::recalculate($fill);
    }

    private function collect(Fill $fill, FillPlan $plan): void
    {
        $column = $plan->field->column();
        Schema::dropIfExists($fill->table());
        Schema::create($fill->table(), static function (Blueprint $table) use ($plan): void {
            $table->binary('id', 16, true)->primary();
            $table->unsignedBigInteger('seq')->index();
            $table->unsignedInteger('after_version')->nullable();
            $table->unsignedInteger('undone_version')->nullable();
            foreach (['before_value', 'after_value'] as $name) {
                match ($plan->field->kind) {
                    FieldKind::WholeNumber => $table->bigInteger($name)->nullable(),
                    FieldKind::Decimal => $table->double($name)->nullable(),
                    FieldKind::YesNo => $table->boolean($name)->nullable(),
                    FieldKind::Date => $table->date($name)->nullable(),
                    FieldKind::Time => $table->time($name)->nullable(),
                    FieldKind::DateTime => $table->dateTime($name)->nullable(),
                    default => $table->text($name)->charset('utf8mb4')->collation('utf8mb4_bin')->nullable(),
                };
            }
        });
        if ($this->collectInSql($fill, $plan)) {
            return;
        }
        $last = '';
        $seq = 0;
        do {
            $rows = $plan->records()->where('id', '>', $last)->orderBy('id')->limit(self::ROWS)->get();
            $changes = [];
            $around = $plan->around($rows);
            foreach ($rows as $row) {
                $after = $plan->after($row, $around);
                if ($after !== null && (string) $after !== (string) $row->$column) {
                    $changes[] = [
                        'id' => $row->id,
                        'seq' => ++$seq,
                        'after_version' => $row->version + 1,
                        'before_value' => $row->$column,
                        'after_value' => $after,
                    ];
                }
                $last = $row->id;
            }
            foreach (array_chunk($changes, 1_000) as $some) {
                DB::table($fill->table())->insert($some);
            }
        } while ($rows->count() === self::ROWS);
    }

    /** The same in one statement, where SQL gives the same values as PHP and the field's rules can be said in it. */
    private function collectInSql(Fill $fill, FillPlan $plan): bool
    {
        $sql = $plan->sql();
        if ($sql === null) {
            return false;
        }
        $column = $plan->field->column();
        $query = $plan
            ->records()
            ->selectRaw("id, version + 1 as after_version, $column as before_value, $sql[0] as after_value")
            ->whereRaw($sql[1]);
        DB::insert(
            "insert into {$fill->table()} (id, seq, after_version, before_value, after_value) select id, "
                .'row_number() over (order by id), after_version, before_value, after_value from '
                    ."({$query->toSql()}) x where after_value is not null and not (after_value <=> before_value)",
            $query->getBindings(),
        );

        return true;
    }

    /**
     * Writes what was worked out, where the record is still what it was then. The fill's own table remembers the
     * version that each record got: history (App\Records\Versions) and news for phones (App\Sync\News) read it there,
     * for a row and a new place in the index for each of a million records would cost more than the change itself.
     */
    private static function write(Fill $fill): void
    {
        RecordWriter::locked(
            $fill->layer_id,
            Cause::Fill,
            $fill->user_id,
            static function (RecordWriter $writer) use ($fill): void {
                $layer = $writer->layer;
                [$records, $changes, $column] = [$layer->table(), $fill->table(), $layer->columnOf($fill->field)];
                DB::delete(
                    "delete f from $changes f left join "
                        ."$records r on r.id = f.id where r.id is null or r.deleted = 1 or r.version + 1 <> "
                            .'f.after_version',
                );
                $from = $writer->many(
                    static function () use ($records, $changes, $column): int {
                        DB::update(
                            "update $records r join $changes f on f.id = r.id set "
                                ."r.$column = f.after_value, r.version = f.after_version",
                        );

                        return self::numbers($changes);
                    },
                    [$fill->field],
                );
                $fill->numbers = self::numbers($changes);
                $fill->fill([
                    'state' => 'done',
                    'changed' => DB::table($changes)->count(),
                    'from_number' => $from,
                    'kind' => $layer->kindOf($fill->field)?->value,
                    'design_version' => $layer->design_version,
                    'written_at' => now(),
                ]);
                $fill->save();
            },
            1,
        );
    }

    /** Puts back what was there before, but for records that were changed since. */
    public static function undo(Fill $fill, ?User $by): void
    {
        RecordWriter::locked(
            $fill->layer_id,
            Cause::FillUndone,
            $by?->id,
            static function (RecordWriter $writer) use ($fill): void {
                $layer = $writer->layer;
                [$records, $changes, $column] = [$layer->table(), $fill->table(), $layer->columnOf($fill->field)];
                $undone = DB::update(
                    "update $changes f join $records r on r.id = f.id set f.undone_version = r.version + 1 where "
                        ."r.$column <=> f.after_value and r.deleted = 0",
                );
                $from = $writer->many(
                    static function () use ($records, $changes, $column): int {
                        DB::update(
                            "update $records r join $changes f on f.id = r.id set "
                                ."r.$column = f.before_value, r.version = f.undone_version where f.undone_version "
                                    .'is not null',
                        );

                        return self::numbers($changes);
                    },
                    [$fill->field],
                );
                $fill->fill(['state' => 'undone', 'undone_from' => $from, 'undone_at' => now()]);
                $fill->kept = $fill->changed - $undone;
                $fill->save();
            },
            1,
        );
        self::recalculate($fill);
    }

    /** How many change numbers a fill takes: as many as its last row's `seq`. */
    private static function numbers(string $changes): int
    {
        return (int) DB::table($changes)->max('seq');
    }

    /** Calculated fields may read what was filled. */
    private static function recalculate(Fill $fill): void
    {
        $layer = $fill->layer->refresh();
        $keys = $layer->design()->rules->readers($fill->field);
        if ($keys !== []) {
            Recalculate::dispatchSync($layer->id, $keys, Cause::Formulas, $fill->user_id);
        }
    }
}
