<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\FilterSql;
use App\Layers\LayerRows;
use App\Models\Layer;
use App\Models\User;
use App\Records\Bits\BitColumn;
use App\Records\Bits\BitFilter;
use App\Records\Bits\BitLayer;
use App\Rights\Viewer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Rows;
use PinYard\Audience\Sharpness;
use PinYard\Audience\Sight;
use PinYard\Bits\NotByBits;
use PinYard\Bits\Slots;
use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\ZOrder;
use stdClass;

/**
 * The records of a layer as one viewer may see them: the one place where whatever shows, counts, finds, draws or takes
 * them out begins. It gives no rows but relations to compose on, already cut down: to the records, the columns and the
 * place that this viewer may have. A column that is not let through is not in the relation, so nothing built on it can
 * tell it.
 */
final readonly class VisibleRecords
{
    /** Columns of every record beside its fields; whoever holds a link gets but those of the first list. */
    private const FOR_LINKS = ['id', 'change_number', 'collected_at'];

    private const PLACE = ['lon', 'lat', 'z'];

    private const SHAPE = ['shape', 'length_m', 'area_m2'];

    /**
     * @param  list<Filter>  $filters
     * @param  list<self>  $visited  records whose visits these are
     */
    private function __construct(
        public Viewer $viewer,
        public Layer $layer,
        public Sight $sight,
        private array $filters,
        private array $visited = [],
    ) {
    }

    public static function of(Viewer $viewer, Layer $layer): self
    {
        $sight = $viewer->sightOf($layer);

        return new self($viewer, $layer, $sight, $sight->only === null ? [] : [$sight->only]);
    }

    public static function for(User $person, Layer $layer): self
    {
        return self::of(Viewer::person($person), $layer);
    }

    /**
     * What a thing shows of them, never more than its viewer may see.
     *
     * @param  list<string>  $fields  keys
     */
    public function showing(array $fields, bool $photos = false): self
    {
        return new self(
            $this->viewer,
            $this->layer,
            $this->sight->narrowedTo($fields, $photos),
            $this->filters,
            $this->visited,
        );
    }

    /** Those that a filter lets through; it may ask for fields that are not shown. */
    public function filtered(Filter $filter): self
    {
        return new self(
            $this->viewer,
            $this->layer,
            $this->sight,
            [...$this->filters, $filter],
            $this->visited,
        );
    }

    /** In a layer of visits: those to some records. */
    public function visiting(self $records): self
    {
        return new self($this->viewer, $this->layer, $this->sight, $this->filters, [...$this->visited, $records]);
    }

    /** Names this way of seeing: what is kept for it is given to nobody who sees in another. */
    public function key(): string
    {
        return $this->layer->id.
            ':'.
            $this->sight->key().
            ($this->sight->rows === Rows::Own ? ":{$this->viewer->person?->id}" : '').
            ($this->viewer->isLink() ? ':link' : '').
            ($this->layer->stands() === null ? '' : ' as on '.$this->layer->stands());
    }

    public function shows(string $field): bool
    {
        return in_array($field, $this->sight->fieldsOf($this->layer->design()), true);
    }

    public function seesNothing(): bool
    {
        return $this->sight->rows === Rows::None;
    }

    /** The design with the fields that are let through. */
    public function design(): LayerDesign
    {
        $design = $this->layer->design();

        return $this->sight->isWhole() ? $design : $design->showing($this->sight->fieldsOf($design));
    }

    /** Rows of records that are not deleted. */
    public function rows(): Builder
    {
        return $this->cut(LayerRows::live($this->layer));
    }

    /**
     * In a layer of visits: those to one record.
     *
     * @param  string  $record  16 bytes, of a record that may be seen
     */
    public function visitsTo(string $record): Builder
    {
        return $this->cut(LayerRows::live($this->layer)->where('parent', $record));
    }

    /** In a layer of visits: how many there are to each record, as `visited` (16 bytes) and `visits`. */
    public function visitsByRecord(): Builder
    {
        return $this->only(LayerRows::live($this->layer))
            ->groupBy('parent')
            ->selectRaw('parent as visited, count(*) as visits');
    }

    /** Also those that are deleted, for histories, news and restoring. */
    public function withDeleted(): Builder
    {
        return $this->cut(LayerRows::all($this->layer));
    }

    public function count(): int
    {
        return $this->rows()->count();
    }

    /**
     * How many records of each of several layers somebody may see, in one question.
     *
     * @param  iterable<Layer>  $layers
     * @param  string|null  $since  a moment (UTC, as the database has it): how many of them arrived from then on
     * @return array<int, array{int, int}> by layer: all, and those since
     */
    public static function counts(User $person, iterable $layers, ?string $since = null): array
    {
        $counts = [];
        $union = null;
        foreach ($layers as $layer) {
            $counts[$layer->id] = [0, 0];
            $visible = self::for($person, $layer);
            if ($visible->seesNothing()) {
                continue;
            }
            $one = $visible->rows()->selectRaw(
                "$layer->id as layer, count(*) as n, "
                    .($since === null ? '0' : 'coalesce(sum(received_at >= ?), 0)').' as new',
                $since === null ? [] : [$since],
            );
            $union = $union === null ? $one : $union->unionAll($one);
        }
        foreach ($union?->get() ?? [] as $row) {
            $counts[$row->layer] = [(int) $row->n, (int) $row->new];
        }

        return $counts;
    }

    /** Narrows to those in a box, by the place that this viewer may have. */
    public function within(Builder $rows, Box $box): Builder
    {
        return match ($this->sight->place) {
            Sharpness::Exact => LayerRows::within(
                $rows,
                $box,
                $this->layer->has_shapes ? $this->layer->design()->geometry : GeometryKind::Point,
            ),
            Sharpness::Cell => LayerRows::between($rows, $box),
            Sharpness::None => $rows->whereRaw('1 = 0'),
        };
    }

    /** Rows in a box, by the place that this viewer may have. */
    public function rowsIn(Box $box): Builder
    {
        $blur = $this->sight->blur;
        if ($blur === null) {
            return $this->within($this->rows(), $box);
        }
        // Of those in the cells that it touches: more are not gone through, and which they are is told anyway. Where a
        // record is told to be is worked out for those alone whose cell lies across the edge.
        $place = new BlurredPlace($this->layer, $blur);
        $rows = LayerRows::live($this->layer)->where(static function (Builder $any) use ($box, $blur, $place): void {
            foreach ($blur->around($box) as $i => [$outer, $inner]) {
                $any->orWhere(static function (Builder $in) use ($outer, $inner, $place, $box, $i): void {
                    LayerRows::between($in, $outer)->where(static function (Builder $within) use ($outer): void {
                        foreach (ZOrder::ranges($outer) as $range) {
                            $within->orWhereBetween('z', $range);
                        }
                    })->where(static fn (Builder $told): Builder => $place->within(
                        $inner === null ? $told : LayerRows::between($told, $inner),
                        $box->parts()[$i],
                    ));
                });
            }
        });

        return $this->cut($rows);
    }

    /** In order of the places that this viewer may have, so many at most. */
    public function drawn(int $most, ?Box $box = null): Builder
    {
        if ($box !== null) {
            return $this->rowsIn($box)->orderBy('z')->limit($most);
        }
        $rows = LayerRows::live($this->layer);
        if ($this->filters === [] && $this->visited === [] && $this->sight->rows === Rows::All) {
            // Cells follow one another as their places do, so what lies behind that of the last one need not be gone
            // through: MariaDB would sort all of a large layer.
            $last = LayerRows::live($this->layer)->orderBy('z')->offset($most - 1)->limit(1)->value('z');
            if (is_int($last)) {
                $rows->where('z', '<=', $this->sight->blur?->lastOf($last) ?? $last);
            }
        }

        return $this->cut($rows)->orderBy('z')->limit($most);
    }

    /** @param  string  $id  16 bytes */
    public function find(string $id): ?stdClass
    {
        return $this->rows()->where('id', $id)->first();
    }

    /** @param  string  $id  16 bytes */
    public function has(string $id): bool
    {
        return $this->rows()->where('id', $id)->exists();
    }

    /**
     * The same records as slots of what is counted by bits.
     *
     * @throws NotByBits where that does not know them
     */
    public function slots(BitLayer $bits): \GMP
    {
        if ($this->visited !== []) {
            throw new NotByBits('visits of some records');
        }
        $found = match ($this->sight->rows) {
            Rows::All => $bits->all(),
            Rows::Own => $bits->numbers(BitColumn::PERSON)->equalTo($this->viewer->person->id ?? 0),
            Rows::None => Slots::none(),
        };
        $filter = new BitFilter($bits, $this->layer, $this->viewer->person?->id);
        foreach ($this->filters as $one) {
            $found &= $filter->of($one);
        }

        return $found;
    }

    private function cut(Builder $rows): Builder
    {
        $this->only($rows);
        if ($this->sight->isWhole() && ! $this->viewer->isLink()) {
            return $rows;
        }

        $rows->select($this->columns());
        if ($this->sight->blur !== null) {
            (new BlurredPlace($this->layer, $this->sight->blur))->select($rows);
        }

        return DB::query()->fromSub($rows, 'records');
    }

    /** Cuts down to the records, and not to what is told of them. */
    private function only(Builder $rows): Builder
    {
        match ($this->sight->rows) {
            Rows::All => null,
            Rows::Own => $rows->where('created_by', $this->viewer->person?->id),
            Rows::None => $rows->whereRaw('1 = 0'),
        };
        foreach ($this->visited as $visited) {
            $rows->whereIn('parent', $visited->rows()->select('id'));
        }
        if ($this->filters !== []) {
            $sql = new FilterSql(
                $this->layer,
                $this->viewer->person?->id,
                $this->sight->place === Sharpness::Exact,
            );
            foreach ($this->filters as $filter) {
                $sql->apply($rows, $filter);
            }
        }

        return $rows;
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
