<?php

declare(strict_types=1);

namespace App\Recalculation;

use App\Layers\LayerRows;
use App\Models\Layer;
use App\Records\Cause;
use App\Records\RecordWriter;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** Goes through all records of a layer in parts, each written in a transaction of its own. */
final class LayerParts
{
    /** Records of a part that one statement writes: well under a second of the layer's lock. */
    private const ROWS = 20_000;

    /** Whether the design became another on the way; what is left is then not written. */
    public bool $overtaken = false;

    private readonly int $run;

    public function __construct(
        private readonly Layer $layer,
        private readonly Cause $cause,
        private readonly ?int $user,
    ) {
        $this->run = random_int(1, PHP_INT_MAX);
    }

    /**
     * @param  array<string, string>  $set  column to SQL, in the order in which they read each other
     * @param  list<string>  $fields  their keys
     * @param  \Closure(Builder): Builder|null  $narrow
     */
    public function update(array $set, array $fields, ?\Closure $narrow = null): void
    {
        $this->each(self::ROWS, static function (RecordWriter $writer, string $after, ?string $last) use (
            $set,
            $fields,
            $narrow,
        ): void {
            foreach ($set as $column => $sql) {
                $which = self::between($writer->records(), $after, $last)->whereRaw("not (`$column` <=> $sql)");
                $writer->update($narrow === null ? $which : $narrow($which), [$column => DB::raw($sql)], $fields);
            }
        });
    }

    /**
     * @param  \Closure(RecordWriter, string, string|null): void  $do  is told the id (16 bytes) before the part and the
     *     last in it, null to the end
     */
    public function each(int $rows, \Closure $do): void
    {
        $after = '';
        while (! $this->overtaken) {
            $last = LayerRows::all($this->layer)
                ->where('id', '>', $after)
                ->orderBy('id')
                ->offset($rows - 1)
                ->limit(1)
                ->value('id');
            RecordWriter::locked(
                $this->layer->id,
                $this->cause,
                $this->user,
                function (RecordWriter $writer) use ($do, $after, $last): void {
                    if ($writer->layer->design_version !== $this->layer->design_version) {
                        $this->overtaken = true;
                    } else {
                        $do($writer, $after, $last);
                    }
                },
                run: $this->run,
            );
            if ($last === null) {
                break;
            }
            $after = $last;
        }
    }

    public static function between(Builder $query, string $after, ?string $last): Builder
    {
        return $query
            ->where('id', '>', $after)
            ->when($last !== null, static fn (Builder $q) => $q->where('id', '<=', $last))
            ->orderBy('id');
    }
}
