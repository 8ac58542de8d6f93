<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\FilterSql;
use App\Models\Layer;
use App\Rights\Viewer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Rows;
use PinYard\Audience\Sharpness;
use PinYard\Audience\Sight;
use PinYard\Filter\Filter;
use PinYard\Geo\Box;

/** What the one reader ({@see VisibleRecords}) lets through of rows, in SQL: which of them, and which columns. */
final readonly class CutRows
{
    /** Columns of every record beside its fields; whoever holds a link gets but those of the first list. */
    private const FOR_LINKS = ['id', 'change_number', 'collected_at'];

    private const PLACE = ['lon', 'lat', 'z'];

    private const SHAPE = ['shape', 'length_m', 'area_m2'];

    /** Of whoever belongs to the programme beside those for links. */
    private const OF_RECORDS = [
        'version', 'design_version', 'deleted', 'created_by', 'received_at', 'accepted_at', 'accepted_by',
    ];

    /** What the device said of the place; how high it is tells of it too. */
    private const FIX = ['accuracy', 'altitude', 'satellites', 'fix_type', 'fix_at'];

    /**
     * @param  list<Filter>  $filters
     * @param  list<VisibleRecords>  $visited  records whose visits these are
     */
    public function __construct(
        private Viewer $viewer,
        private Layer $layer,
        private Sight $sight,
        private array $filters,
        private array $visited,
    ) {
    }

    /**
     * Cuts rows of the layer's table down to the records, the columns and the place that are let through.
     *
     * @param  Box|null  $in  that all rows lie in, as they are
     */
    public function of(Builder $rows, ?Box $in = null): Builder
    {
        $this->only($rows);
        if ($this->sight->isWhole() && ! $this->viewer->isLink()) {
            return $rows;
        }
        if (! $this->viewer->isLink()) {
            return (new MaskedRows($this->layer, $this->sight->ways === [] ? [$this->sight] : $this->sight->ways))
                ->of($rows, fn (Builder $admitted, Sight $way): Builder => $this->admitted($admitted, $way), [
                    ...self::FOR_LINKS,
                    ...self::OF_RECORDS,
                    ...$this->layer->visits_of === null ? [] : ['parent'],
                ], [...self::PLACE, ...self::FIX, ...$this->layer->has_shapes ? self::SHAPE : []]);
        }

        $rows->select($this->columns());
        if (ToldPlaces::areKept($this->layer, $this->sight)) {
            $told = ToldPlaces::of($this->layer, $this->sight)?->join($rows) ?? [];
            foreach (['lon', 'lat', 'z', ...$this->layer->has_shapes ? ['shape'] : []] as $column) {
                $rows->selectRaw(($told[$column] ?? 'null')." as $column");
            }
            $rows->selectRaw('? as seen_place', [$this->sight->place->value]);
        } elseif ($this->sight->blur !== null) {
            (new BlurredPlace($this->layer, $this->sight->blur, $in))->select($rows);
        }

        return DB::query()->fromSub($rows, 'records');
    }

    /** Cuts down to the records, and not to what is told of them. */
    public function only(Builder $rows): Builder
    {
        $this->sight->ways === []
            ? $this->admitted($rows, $this->sight)
            : $rows->where(function (Builder $any): void {
                foreach ($this->sight->ways as $way) {
                    $any->orWhere(fn (Builder $one): Builder => $this->admitted($one, $way));
                }
            });
        foreach ($this->visited as $visited) {
            $rows->whereIn('parent', $visited->rows()->select('id'));
        }
        if ($this->filters !== []) {
            $sql = $this->filterSql($this->sight);
            foreach ($this->filters as $filter) {
                $sql->apply($rows, $filter);
            }
        }

        return $rows;
    }

    /** Those that one way of seeing admits. */
    private function admitted(Builder $rows, Sight $way): Builder
    {
        match ($way->rows) {
            Rows::All => $rows->whereRaw('1 = 1'),
            Rows::Own => $rows->where('created_by', $this->viewer->person?->id),
            Rows::None => $rows->whereRaw('1 = 0'),
        };

        return $way->only === null ? $rows : $this->filterSql($way)->apply($rows, $way->only);
    }

    private function filterSql(Sight $way): FilterSql
    {
        return new FilterSql($this->layer, $this->viewer->person?->id, $way->place === Sharpness::Exact);
    }

    /** @return list<string> */
    private function columns(): array
    {
        $design = $this->layer->design();
        $fields = [];
        foreach ($this->sight->fieldsOf($design) as $key) {
            $fields[] = (string) $design->field($key)?->column();
        }

        return [
            ...self::FOR_LINKS,
            ...$this->sight->place === Sharpness::Exact
                ? [...self::PLACE, ...$this->layer->has_shapes ? self::SHAPE : []]
                : [],
            ...$fields,
        ];
    }
}
