<?php

declare(strict_types=1);

namespace App\Formulas;

use App\Models\Fill;
use App\Models\Layer;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use PinYard\Design\FieldKind;

/**
 * Writes a formula's values into a field. What changes is worked out first, into a table of the fill's own; then the records,
 * their versions and their history are written in one transaction under the layer's lock. The table stays, for the undo.
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
        DB::table($fill->layer->table())->count() <= self::AT_ONCE ? self::dispatchSync($fill->id) : self::dispatch($fill->id);
    }

    public function handle(): void
    {
        $fill = Fill::query()->with('layer.programme')->find($this->fill);
        if ($fill === null || $fill->state !== 'working') {
            return;
        }
        try {
            $plan = FillPlan::of($fill->layer, $fill->field, $fill->formula, $fill->slice_id);
            $this->collect($fill, $plan);
            $fill->changed = DB::table($fill->table())->count();
            $fill->skipped = $plan->records()->count() - $fill->changed;
            self::write($fill, 'after');
            $fill->state = 'done';
            $fill->save();
        } catch (\Throwable $e) {
            Schema::dropIfExists($fill->table());
            $fill->update(['state' => 'failed']);
            throw $e;
        }
        self::recalculate($fill);
    }

    /** Puts back what was there before, but for records that were changed since. */
    public static function undo(Fill $fill): void
    {
        $column = $fill->layer->columnOf($fill->field);
        $fill->kept = $fill->changed - DB::table($fill->table().' as f')->join($fill->layer->table().' as r', 'r.id', '=', 'f.id')->whereRaw("r.$column <=> f.after_value")->count();
        self::write($fill, 'before');
        $fill->state = 'undone';
        $fill->save();
        self::recalculate($fill);
    }

    private function collect(Fill $fill, FillPlan $plan): void
    {
        $column = $plan->field->column();
        Schema::dropIfExists($fill->table());
        Schema::create($fill->table(), static function (Blueprint $table) use ($plan): void {
            $table->binary('id', 16, true)->primary();
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
        do {
            $rows = $plan->records()->where('id', '>', $last)->orderBy('id')->limit(self::ROWS)->get();
            $changes = [];
            $around = $plan->around($rows);
            foreach ($rows as $row) {
                $after = $plan->after($row, $around);
                if ($after !== null && (string) $after !== (string) $row->$column) {
                    $changes[] = ['id' => $row->id, 'before_value' => $row->$column, 'after_value' => $after];
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
        $query = $plan->records()->selectRaw("id, $column as before_value, $sql[0] as after_value")->whereRaw($sql[1]);
        DB::insert("insert into {$fill->table()} (id, before_value, after_value) select id, before_value, after_value from ({$query->toSql()}) x where after_value is not null and not (after_value <=> before_value)", $query->getBindings());

        return true;
    }

    /** @param  'before'|'after'  $which */
    private static function write(Fill $fill, string $which): void
    {
        DB::transaction(static function () use ($fill, $which): void {
            $layer = Layer::query()->lockForUpdate()->findOrFail($fill->layer_id);
            $column = $layer->columnOf($fill->field);
            $kind = $layer->kindOf($fill->field);
            [$records, $changes] = [$layer->table(), $fill->table()];
            // Only where the record still has what it had when the change was worked out, or what the fill wrote.
            $still = $which === 'after' ? 'before_value' : 'after_value';
            DB::statement("set @change_number := {$layer->change_number}");
            $count = DB::update("update $records r join $changes f on f.id = r.id set r.$column = f.{$which}_value, r.version = r.version + 1, r.change_number = (@change_number := @change_number + 1) where r.$column <=> f.$still");
            // The new version in history is the one before it, with the one value changed.
            $value = match ($kind) {
                FieldKind::YesNo => "if(f.{$which}_value is null, null, json_extract(if(f.{$which}_value, 'true', 'false'), '\$'))",
                FieldKind::Time => "if(second(f.{$which}_value) = 0, time_format(f.{$which}_value, '%H:%i'), time_format(f.{$which}_value, '%H:%i:%s'))",
                FieldKind::DateTime => "date_format(f.{$which}_value, '%Y-%m-%dT%H:%i:%sZ')",
                FieldKind::Date => "cast(f.{$which}_value as char)",
                default => "f.{$which}_value",
            };
            $now = now()->format('Y-m-d H:i:s.v');
            DB::insert("insert into record_history (layer_id, record_id, version, kind, user_id, design_version, captured_at, received_at, lon, lat, `values`)
                select h.layer_id, h.record_id, r.version, 'change', ?, ?, ?, ?, r.lon, r.lat, json_set(h.values, ?, $value)
                from $changes f join $records r on r.id = f.id join record_history h on h.layer_id = ? and h.record_id = r.id and h.version = r.version - 1
                where r.change_number > ?", [$fill->user_id, $layer->design_version, $now, $now, '$.'.$fill->field, $layer->id, $layer->change_number]);
            $layer->change_number += $count;
            $layer->save();
        });
    }

    /** Calculated fields may read what was filled. */
    private static function recalculate(Fill $fill): void
    {
        $layer = $fill->layer->refresh();
        $keys = array_keys($layer->design()->rules->formulas);
        if ($keys !== []) {
            Recalculate::dispatchSync($layer->id, array_map(strval(...), $keys));
        }
    }
}
