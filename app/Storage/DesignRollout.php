<?php

declare(strict_types=1);

namespace App\Storage;

use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Conversion;
use PinYard\Design\DesignChange;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;

/**
 * Carries a decided design change out on the records: turned values, moved choices, filled gaps.
 * Runs under the layer's lock, in the transaction that makes the new version; each touched record gets a change number, so phones hear of it.
 */
final class DesignRollout
{
    private const ROWS = 1_000;

    public function __construct(private readonly Layer $layer)
    {
    }

    public function run(DesignChange $change): void
    {
        foreach ($change->turned as [$from, $to]) {
            if ($to->kind !== FieldKind::Calculated) {
                $this->turn($from, $to);
            }
        }
        foreach ($change->moves as $key => $codes) {
            $this->move($this->layer->columnOf($key), $this->layer->kindOf($key) === FieldKind::SeveralChoices, $codes);
        }
        foreach ($change->fills as $key => $value) {
            $kind = $this->layer->kindOf($key);
            if ($kind !== null) {
                $this->touch($this->records()->whereNull($this->layer->columnOf($key)), [$this->layer->columnOf($key) => StoredValue::toColumn($kind, $value)]);
            }
        }
    }

    private function turn(Field $from, Field $to): void
    {
        [$old, $new] = [Field::columnName($to->key, $this->layer->generationOf($to->key) - 1), $this->layer->columnOf($to->key)];
        $last = '';
        do {
            $rows = $this->records()->where('id', '>', $last)->whereNotNull($old)->orderBy('id')->limit(self::ROWS)->get(['id', "$old as v"]);
            $cases = '';
            $bindings = [];
            foreach ($rows as $row) {
                [, $value] = Conversion::of(StoredValue::fromColumn($from->valueKind(), $row->v), $from, $to);
                $cases .= ' when ? then ?';
                array_push($bindings, $row->id, StoredValue::toColumn($to->valueKind(), $value));
                $last = $row->id;
            }
            if ($rows->isNotEmpty()) {
                $ids = $rows->pluck('id')->all();
                DB::update("update {$this->layer->table()} set $new = case id$cases end, change_number = {$this->counter()} where id in (".implode(',', array_fill(0, count($ids), '?')).')', [...$bindings, ...$ids]);
                $this->countOn(count($ids));
            }
        } while ($rows->count() === self::ROWS);
    }

    /** @param  array<string, string>  $codes */
    private function move(string $column, bool $several, array $codes): void
    {
        if (! $several) {
            foreach ($codes as $from => $to) {
                $this->touch($this->records()->where($column, (string) $from), [$column => $to]);
            }

            return;
        }
        // Few distinct lists stand for many records.
        foreach ($this->records()->whereNotNull($column)->distinct()->pluck($column) as $list) {
            $moved = implode(',', array_unique(array_map(static fn (string $c): string => $codes[$c] ?? $c, explode(',', $list))));
            if ($moved !== $list) {
                $this->touch($this->records()->where($column, $list), [$column => $moved]);
            }
        }
    }

    /** @param  array<string, string|int|float|null>  $change */
    private function touch(Builder $records, array $change): void
    {
        $counter = $this->counter();
        $this->countOn($records->update([...$change, 'change_number' => DB::raw($counter)]));
    }

    /** Numbers must differ, so that a page of news never ends between two alike. */
    private function counter(): string
    {
        DB::statement("set @change_number := {$this->layer->change_number}");

        return '(@change_number := @change_number + 1)';
    }

    private function countOn(int $rows): void
    {
        $this->layer->change_number += $rows;
    }

    private function records(): Builder
    {
        return DB::table($this->layer->table());
    }
}
