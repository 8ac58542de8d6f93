<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\ToldColumns;
use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Sharpness;
use PinYard\Audience\Sight;

/**
 * Rows as somebody sees them who sees some of them less than whole: all columns are there, and those that a row may not
 * tell are empty in it. `seen_photos` says whether its photos may be seen, `seen_place` how much of its place ({@see
 * Sharpness}), `seen_exact` whether that is as it is, `seen_whole` whether nothing of it is hidden.
 */
final readonly class MaskedRows
{
    /** @param  non-empty-list<Sight>  $ways  in which records are seen */
    public function __construct(private Layer $layer, private array $ways)
    {
    }

    /**
     * @param  Builder  $rows  over the layer's table itself
     * @param  \Closure(Builder, Sight): Builder  $admitted  narrows rows to those that a way of seeing admits
     * @param  list<string>  $open  columns that are told of every record
     * @param  list<string>  $places  columns that are told where the place is
     */
    public function of(Builder $rows, \Closure $admitted, array $open, array $places): Builder
    {
        $rows->selectRaw($rows->getGrammar()->wrapTable($rows->from).'.*');
        $blurred = array_filter($this->ways, static fn (Sight $way): bool => $way->blur !== null);
        if ($blurred !== [] && $this->layer->stands() === null) {
            $rows->addSelect([ToldColumns::HASH, ToldColumns::DOWN]);
        }
        $standIns = [];
        foreach ($this->ways as $i => $way) {
            foreach (ToldPlaces::of($this->layer, $way)?->join($rows, "told_$i") ?? [] as $column => $sql) {
                $rows->selectRaw("$sql as told_{$i}_$column");
                $standIns[$i][$column] = "told_{$i}_$column";
            }
        }
        foreach ($this->ways as $i => $way) {
            $is = $admitted($rows->forNestedWhere(), $way);
            $sql = substr($rows->getGrammar()->compileWheres($is), strlen('where '));
            $rows->selectRaw("($sql) is true as way_$i", $is->getRawBindings()['where']);
        }
        $told = DB::query()->fromSub($rows, 'told')->select($open);
        foreach ($places as $column) {
            $told->selectRaw($this->place($column, $standIns)." as $column");
        }
        foreach ($this->layer->design()->valueFields() as $field) {
            $column = $field->column();
            $telling = array_filter(
                $this->ways,
                fn (Sight $way): bool => in_array($field->key, $way->fieldsOf($this->layer->design()), true),
            );
            $told->selectRaw("{$this->where($telling, $column)} as $column");
        }

        return DB::query()->fromSub(
            $told
                ->selectRaw($this->is(static fn (Sight $way): bool => $way->photos).' as seen_photos')
                ->selectRaw($this->is(static fn (Sight $w): bool => $w->place === Sharpness::Exact).' as seen_exact')
                ->selectRaw("{$this->sharpness()} as seen_place")
                ->selectRaw($this->is(static fn (Sight $way): bool => $way->isWhole()).' as seen_whole'),
            'records',
        );
    }

    /**
     * The place by the sharpest way that admits a row.
     *
     * @param  array<int, array<string, string>>  $standIns  by way: columns that are told instead of those of the row
     */
    private function place(string $column, array $standIns): string
    {
        $exact = array_filter($this->ways, static fn (Sight $w): bool => $w->place === Sharpness::Exact);
        if (! in_array($column, ['lon', 'lat', 'z', 'shape'], true)) {
            return $this->where($exact, $column);
        }
        $dull = array_diff_key($this->ways, $exact);
        uasort($dull, static fn (Sight $a, Sight $b): int => $b->isSharperThan($a) <=> $a->isSharperThan($b));
        $cases = $exact === [] ? '' : " when {$this->any($exact)} then $column";
        foreach ($dull as $i => $way) {
            $told = $standIns[$i][$column] ?? null;
            if ($column !== 'shape' && $way->blur !== null && ! ToldPlaces::areKept($this->layer, $way)) {
                $told = (new BlurredPlace($this->layer, $way->blur))->columns()[$column];
            }
            $cases .= $told === null ? '' : " when way_$i then $told";
        }

        return $cases === '' ? 'null' : "case$cases end";
    }

    private function sharpness(): string
    {
        $cases = '';
        foreach ([Sharpness::Exact, Sharpness::Cell, Sharpness::Area] as $place) {
            $ways = array_filter($this->ways, static fn (Sight $w): bool => $w->place === $place);
            $cases .= $ways === [] ? '' : " when {$this->any($ways)} then '$place->value'";
        }

        return "case$cases when 1 then '".Sharpness::None->value."' end";
    }

    /** @param  array<int, Sight>  $ways  that let a column through */
    private function where(array $ways, string $column): string
    {
        return match (count($ways)) {
            0 => 'null',
            count($this->ways) => $column,
            default => "case when {$this->any($ways)} then $column end",
        };
    }

    /** @param  \Closure(Sight): bool  $of */
    private function is(\Closure $of): string
    {
        $ways = array_filter($this->ways, $of);

        return $ways === [] ? '0' : "({$this->any($ways)})";
    }

    /** @param  non-empty-array<int, Sight>  $ways */
    private function any(array $ways): string
    {
        return implode(' or ', array_map(static fn (int $i): string => "way_$i", array_keys($ways)));
    }
}
