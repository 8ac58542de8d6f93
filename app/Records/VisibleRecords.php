<?php

declare(strict_types=1);

namespace App\Records;

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
        return $this->cut()->of(LayerRows::live($this->layer));
    }

    /**
     * In a layer of visits: those to one record.
     *
     * @param  string  $record  16 bytes, of a record that may be seen
     */
    public function visitsTo(string $record): Builder
    {
        return $this->cut()->of(LayerRows::live($this->layer)->where('parent', $record));
    }

    /** In a layer of visits: how many there are to each record, as `visited` (16 bytes) and `visits`. */
    public function visitsByRecord(): Builder
    {
        return $this->cut()->only(LayerRows::live($this->layer))
            ->groupBy('parent')
            ->selectRaw('parent as visited, count(*) as visits');
    }

    /** Also those that are deleted, for histories, news and restoring. */
    public function withDeleted(): Builder
    {
        return $this->cut()->of(LayerRows::all($this->layer));
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
     * @return array<int, array{int, int, int}> by layer: all, those since, those that nobody has accepted as they are
     */
    public static function counts(User $person, iterable $layers, ?string $since = null): array
    {
        $counts = [];
        $union = null;
        foreach ($layers as $layer) {
            $counts[$layer->id] = [0, 0, 0];
            $visible = self::for($person, $layer);
            if ($visible->seesNothing()) {
                continue;
            }
            $one = $visible->rows()->selectRaw(
                "$layer->id as layer, count(*) as n, "
                    .($since === null ? '0 as new, 0 as waiting' : 'coalesce(sum(received_at >= ?), 0) as new, '
                        .'coalesce(sum(accepted_at is null), 0) as waiting'),
                $since === null ? [] : [$since],
            );
            $union = $union === null ? $one : $union->unionAll($one);
        }
        foreach ($union?->get() ?? [] as $row) {
            $counts[$row->layer] = [(int) $row->n, (int) $row->new, (int) $row->waiting];
        }

        return $counts;
    }

    /** Narrows to those in a box, by the place that this viewer may have. */
    public function within(Builder $rows, Box $box): Builder
    {
        return $this->places()->within($rows, $box);
    }

    /** Whether of some lines and areas more is told than one place: themselves, or the cells that they touch. */
    public function showsShapes(): bool
    {
        return $this->places()->areShapes();
    }

    /** Rows in a box, by the place that this viewer may have. */
    public function rowsIn(Box $box): Builder
    {
        return $this->places()->in($box);
    }

    /** In order of the places that this viewer may have, so many at most. */
    public function drawn(int $most, ?Box $box = null): Builder
    {
        return $this->places()->inOrder($most, $box, $this->filters !== [] || $this->visited !== []);
    }

    private function places(): RowsByPlace
    {
        return new RowsByPlace($this->layer, $this->sight, $this->cut());
    }

    /** Whether a record that is not among them has changed since a change number: it may be one that was. */
    public function someLeft(int $since): bool
    {
        return LayerRows::live($this->layer)
            ->where('change_number', '>', $since)
            // What nobody has ever accepted was never seen.
            ->when($this->sight->waitsForAcceptance(), static fn (Builder $q) => $q->whereNotNull('accepted_by'))
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

    private function cut(): CutRows
    {
        return new CutRows($this->viewer, $this->layer, $this->sight, $this->filters, $this->visited);
    }
}
