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
use PinYard\Filter\Subject;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\ZOrder;
use PinYard\Refused;
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

    /** Of whoever belongs to the programme beside those for links. */
    private const OF_RECORDS = ['version', 'design_version', 'deleted', 'created_by', 'received_at'];

    /** What the device said of the place; how high it is tells of it too. */
    private const FIX = ['accuracy', 'altitude', 'satellites', 'fix_type', 'fix_at'];

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

        return new self($viewer, $layer, $sight, []);
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

    /**
     * Those that a filter of the viewer's own lets through, which may only ask for what they may know.
     *
     * @throws Refused
     */
    public function asked(Filter $filter): self
    {
        if (! $this->sight->isWhole()) {
            foreach ($filter->conditions() as $condition) {
                $subject = $condition->subject;
                $of = $subject->ofVisit && $this->layer->visitsLayer !== null
                    ? self::of($this->viewer, $this->layer->visitsLayer)
                    : $this;
                $hidden = $subject->field === null
                    // Where it is, or of its visits: both are asked of what is there and not of what is shown.
                    ? $subject->key === Subject::PLACE || $subject->key === Subject::VISITS
                    : self::hides($of, $subject->field->key);
                if ($hidden) {
                    throw Refused::because('filter_hidden', 'filter');
                }
            }
        }

        return $this->filtered($filter);
    }

    /** Whether a field is hidden of any of the records. */
    private static function hides(self $records, string $field): bool
    {
        foreach ($records->sight->ways === [] ? [$records->sight] : $records->sight->ways as $way) {
            if (! in_array($field, $way->fieldsOf($records->layer->design()), true)) {
                return true;
            }
        }

        return false;
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
            ($this->sight->isOnesOwn() ? ":{$this->viewer->person?->id}" : '').
            ($this->viewer->isLink() ? ':link' : '').
            $this->ofAreas().
            ($this->layer->stands() === null ? '' : ' as on '.$this->layer->stands());
    }

    /** Where areas stand for places, as of which state of them. */
    private function ofAreas(): string
    {
        $areas = [];
        foreach ([$this->sight, $this->sight->figures, ...$this->sight->ways] as $way) {
            $areas[] = $way?->place === Sharpness::Area ? $way->areas : null;
        }
        $areas = array_filter($areas);

        return $areas === [] ? '' : ':'.DB::table('layers')->whereIn('id', $areas)->whereNull('deleted_at')
            ->orderBy('id')->selectRaw("concat(id, 'as', change_number) as state")->pluck('state')->implode(',');
    }

    /** Whether they are told by areas of a layer, so that how many lie in each is told. */
    public function areToldIn(Layer $areas): bool
    {
        foreach ($this->sight->ways === [] ? [$this->sight] : $this->sight->ways as $way) {
            if ($way->place !== Sharpness::Exact
                && ! ($way->place === Sharpness::Area && $way->areas === $areas->id)) {
                return false;
            }
        }

        return true;
    }

    /**
     * Those that figures may be made of, but that are not told one by one; null where there are none. Whatever is
     * built on it must hold small figures back ({@see \PinYard\Board\HeldFigures}).
     */
    public function counted(): ?self
    {
        return $this->sight->figures === null
            ? null
            : new self($this->viewer, $this->layer, $this->sight->figures, $this->filters, $this->visited);
    }

    public function shows(string $field): bool
    {
        return in_array($field, $this->sight->fieldsOf($this->layer->design()), true);
    }

    public function seesNothing(): bool
    {
        return $this->sight->rows === Rows::None;
    }

    /**
     * What is let through, in words for whoever looks.
     *
     * @return array{place: string, metres: int|null, fields: list<string>, photos: bool}
     */
    public function told(): array
    {
        return [
            'place' => $this->sight->place->value,
            'metres' => $this->sight->blur?->metres,
            'fields' => $this->sight->fieldsOf($this->layer->design()),
            'photos' => $this->sight->photos,
        ];
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
            Sharpness::None => $this->sight->ways === []
                ? $rows->whereRaw('1 = 0')
                : $this->toldWithin($rows, $box),
            default => $this->toldWithin($rows, $box),
        };
    }

    /** By what is told of each: its shape or cells, or else one place. */
    private function toldWithin(Builder $rows, Box $box): Builder
    {
        return $this->showsShapes()
            ? $rows->where(fn (Builder $any): Builder => LayerRows::within(
                $any,
                $box,
                $this->layer->design()->geometry,
            )->orWhere(static fn (Builder $placed): Builder => LayerRows::between($placed->whereNull('shape'), $box)))
            : LayerRows::between($rows, $box);
    }

    /** Whether of some lines and areas more is told than one place: themselves, or the cells that they touch. */
    public function showsShapes(): bool
    {
        $ways = $this->sight->ways === [] ? [$this->sight] : $this->sight->ways;
        $told = array_filter($ways, static fn (Sight $way): bool => in_array(
            $way->place,
            [Sharpness::Exact, Sharpness::Cell],
            true,
        ));

        return $told !== [] && $this->layer->has_shapes && $this->layer->design()->geometry !== GeometryKind::Point;
    }

    /** Rows in a box, by the place that this viewer may have. */
    public function rowsIn(Box $box): Builder
    {
        $blur = $this->sight->blur;
        if ($blur === null || $this->sight->ways !== [] || ToldPlaces::areKept($this->layer, $this->sight)) {
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
            return $this->placed($this->rowsIn($box))->orderBy('z')->limit($most);
        }
        $rows = LayerRows::live($this->layer);
        if ($this->filters === [] && $this->visited === [] && $this->sight->rows === Rows::All
            && ! $this->sight->chooses() && ! ToldPlaces::areKept($this->layer, $this->sight)) {
            // Cells follow one another as their places do, so what lies behind that of the last one need not be gone
            // through: MariaDB would sort all of a large layer.
            $last = LayerRows::live($this->layer)->orderBy('z')->offset($most - 1)->limit(1)->value('z');
            if (is_int($last)) {
                $rows->where('z', '<=', $this->sight->blur?->lastOf($last) ?? $last);
            }
        }

        return $this->placed($this->cut($rows))->orderBy('z')->limit($most);
    }

    /** Without those of whose place nothing is told. */
    private function placed(Builder $rows): Builder
    {
        return $this->sight->place === Sharpness::Exact ? $rows : $rows->whereNotNull('lon');
    }

    /** Whether a record that is not among them has changed since a change number: it may be one that was. */
    public function someLeft(int $since): bool
    {
        return LayerRows::live($this->layer)
            ->where('change_number', '>', $since)
            ->whereNotIn('id', $this->rows()->where('change_number', '>', $since)->select('id'))
            ->exists();
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
     * @param  string  $id  16 bytes
     * @param  bool  $asTheyAre  also the files themselves, which may say where they were taken
     */
    public function showsPhotosOf(string $id, bool $asTheyAre = false): bool
    {
        $row = $this->find($id);

        return $row !== null && ($row->seen_photos ?? true) && (! $asTheyAre || ($row->seen_exact ?? true));
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
        if ($this->sight->ways !== []) {
            throw new NotByBits('seen in several ways');
        }
        $found = match ($this->sight->rows) {
            Rows::All => $bits->all(),
            Rows::Own => $bits->numbers(BitColumn::PERSON)->equalTo($this->viewer->person->id ?? 0),
            Rows::None => Slots::none(),
        };
        $filter = new BitFilter($bits, $this->layer, $this->viewer->person?->id);
        foreach ([...$this->sight->only === null ? [] : [$this->sight->only], ...$this->filters] as $one) {
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
            (new BlurredPlace($this->layer, $this->sight->blur))->select($rows);
        }

        return DB::query()->fromSub($rows, 'records');
    }

    /** Cuts down to the records, and not to what is told of them. */
    private function only(Builder $rows): Builder
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
