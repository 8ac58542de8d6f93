<?php

declare(strict_types=1);

namespace App\Records\Stood;

use App\Layers\BulkInsert;
use App\Models\Fill;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * The records of layers as they were when a day had ended, put into a table of their own that this connection alone
 * has. Whatever begins at the one reader then tells of that day, with today's rights, designs and labels.
 *
 * Records that did not change since are taken over as they are; of the others the version of that day is put together
 * out of history. What was worked out for all records of a layer at once, and what such work had changed, has no
 * history: of that it tells what is so today.
 */
final class AsItStood
{
    private const AT_ONCE = 1_000;

    /** @var array<int, string> tables by layer */
    private array $tables = [];

    public function __construct(private readonly StoodDay $day)
    {
    }

    /** From now on all that is read of a layer, and of the visits to it, is read as it stood. */
    public function stand(Layer $layer): void
    {
        foreach (array_filter([$layer, $layer->visitsLayer]) as $one) {
            if ($one->stands() === null) {
                $one->standOn($this->day->key(), $this->day->until, fn (): string => $this->tableOf($one));
                $one->loadMissing('programme')->programme->standOn($this->day->day);
            }
        }
    }

    private function tableOf(Layer $layer): string
    {
        return $this->tables[$layer->id] ??= $this->lay($layer);
    }

    private function lay(Layer $layer): string
    {
        $now = "records_$layer->id";
        $known = (int) DB::table('record_changes')
            ->where('layer_id', $layer->id)->where('made_at', '<', $this->day->until)->max('to_number');
        $fills = Fill::query()->where('layer_id', $layer->id)->whereNotNull('written_at')->orderBy('id')->get();
        $late = $fills->filter(
            fn (Fill $f): bool => $f->written_at >= $this->day->until || $f->undone_at >= $this->day->until,
        );
        if ($known >= $layer->change_number && $late->isEmpty()) {
            return $now;
        }
        [$stood, $others] = ["stood_$layer->id", "stood_others_$layer->id"];
        DB::statement("drop temporary table if exists $stood, $others");
        [$came, $made] = $this->day->byCollecting ? ['collected_at', 'captured_at'] : ['received_at', 'received_at'];
        $until = $this->day->until;
        DB::statement("create temporary table $others (id binary(16) primary key)");
        // Changed since, and there before: those alone are put together one by one.
        DB::insert(
            "insert into $others select r.id from $now r where r.change_number > ? and r.$came < ? and ("
            ."exists (select 1 from record_history h where h.layer_id = ? and h.record_id = r.id and h.$made >= ?) "
            .'or exists (select 1 from record_workings w where w.layer_id = ? and w.record_id = r.id '
            .'and w.made_at >= ?) or (r.deleted = 1 and not exists (select 1 from record_history d '
            .'where d.layer_id = ? and d.record_id = r.id and d.version >= r.version)))',
            [$known, $until, $layer->id, $until, $layer->id, $until, $layer->id],
        );
        // Visits are asked for by the record that they belong to; all else is gone through.
        $keys = $layer->visits_of === null ? '' : '(primary key (id), index (parent))';
        // Nobody else sees it and nothing is rolled back: it needs no transactions, which take twice as long.
        DB::statement(
            "create temporary table $stood $keys engine=Aria transactional=0 as "
            ."select r.* from $now r left join $others o on o.id = r.id "
            ."where o.id is null and r.$came < ?",
            [$until],
        );
        foreach ($late->reverse() as $fill) {
            $this->takeBack($stood, $layer, $fill);
        }
        $rows = new StoodRows($layer, $this->day, $fills->all());
        $after = '';
        do {
            $some = DB::table("$now as r")->join("$others as o", 'o.id', '=', 'r.id')->where('r.id', '>', $after)
                ->orderBy('r.id')->limit(self::AT_ONCE)->get('r.*')->all();
            BulkInsert::into($stood, $rows->of($some));
            $last = end($some);
            $after = $last instanceof stdClass ? (string) $last->id : '';
        } while (count($some) === self::AT_ONCE);

        return $stood;
    }

    /** What a fill, or its undoing, changed after the day. */
    private function takeBack(string $stood, Layer $layer, Fill $fill): void
    {
        if ($layer->kindOf($fill->field)?->value !== $fill->kind) {
            // The field is of another kind since; its column is not the one that was filled.
            return;
        }
        $column = $layer->columnOf($fill->field);
        $until = $this->day->until;
        if ($fill->written_at >= $until) {
            DB::update("update $stood s join {$fill->table()} f on f.id = s.id set s.$column = f.before_value "
                .'where f.after_version is not null');
        } elseif ($fill->undone_at >= $until) {
            DB::update("update $stood s join {$fill->table()} f on f.id = s.id set s.$column = f.after_value "
                .'where f.undone_version is not null');
        }
    }
}
