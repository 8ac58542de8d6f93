<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use App\Answers\KeptFiles;
use App\Maps\StateOf;
use App\Models\Layer;
use App\Models\Slice;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Database\Query\Builder;
use PinYard\Carto\Look;
use PinYard\Carto\Tally;
use PinYard\Carto\TallyMeasure;
use PinYard\Carto\TallyState;
use PinYard\Geo\Wkb;
use PinYard\Stats\Spread;

/**
 * What areas are coloured by, for one viewer: of the areas that they see, what lies in them of the records that they
 * see. Nothing is told where it may not be known in which of them those records lie. Of records that are told in
 * figures alone the areas with too few are held back, and others with them that would tell those.
 */
final class AreaTallies
{
    private const KEPT = 'tallies';

    /** From so many records on they are not gone through at each change. */
    private const LARGE = 20_000;

    /** @var array<string, array{TallyState, float|null}>|null */
    private ?array $states = null;

    public readonly Tally $tally;

    /**
     * @param  Slice|null  $slice  whose records are counted
     * @param  Slice|null  $share  whose share is told
     */
    public function __construct(
        Tally $tally,
        private readonly Layer $areas,
        public readonly Layer $counted,
        public readonly ?Slice $slice,
        public readonly ?Slice $share,
        private readonly Viewer $viewer,
    ) {
        $this->tally = $this->least() > 1 ? $tally->withLeast($this->least()) : $tally;
    }

    /** Those that are seen one by one, or else those that are told in figures. */
    private function source(): VisibleRecords
    {
        $records = VisibleRecords::of($this->viewer, $this->counted);

        return $records->seesNothing() ? $records->counted() ?? $records : $records;
    }

    /** Records that every figure must be of. */
    public function least(): int
    {
        return $this->source()->sight->least;
    }

    public function seesNothing(): bool
    {
        $records = $this->source();

        return $records->seesNothing() || ! $records->areToldIn($this->areas);
    }

    /** Names all that could change it; it stays on the server. */
    public function state(): string
    {
        return implode('|', [
            StateOf::records($this->viewer, $this->areas),
            StateOf::records($this->viewer, $this->counted, $this->slice, $this->share),
            $this->counted->title,
            $this->slice?->name,
            $this->share?->name,
            json_encode($this->tally->toArray()),
        ]);
    }

    /** @return array<string, array{TallyState, float|null}> by area (16 bytes), with what a rate is told by */
    public function all(): array
    {
        return $this->states ??= $this->seesNothing() ? [] : $this->told($this->kept());
    }

    /**
     * The class of an area; null where it has none, or nothing is told.
     *
     * @param  string  $area  16 bytes
     */
    public function classOf(Look $look, string $area): ?string
    {
        $of = $this->all()[$area] ?? null;

        return $of === null ? null : $look->classOfArea(...$of);
    }

    /**
     * As it stands beside an area: the number alone.
     *
     * @param  string  $area  16 bytes
     */
    public function textOf(string $area): ?string
    {
        $value = $this->valueOf($area);

        return $value === null ? null : TallyText::number($this->tally, $value);
    }

    /**
     * As a card says it, with of how many records it is.
     *
     * @param  string  $area  16 bytes
     * @return array{label: string, text: string}|null null where nothing is told
     */
    public function onCard(string $area): ?array
    {
        $of = $this->all()[$area] ?? null;

        return $of === null
            ? null
            : ['label' => $this->text(), 'text' => TallyText::value($this->tally, $this->counted, ...$of)];
    }

    /**
     * @param  string  $area  16 bytes
     * @return float|null the number itself; null too where too few records say it
     */
    public function valueOf(string $area): ?float
    {
        $of = $this->all()[$area] ?? null;

        return $of === null || $this->tally->isFew($of[0]) ? null : $this->tally->valueOf(...$of);
    }

    /**
     * @param  Builder  $areas  rows of areas
     * @return array<array-key, int> how many of them are in each class; '' where there is none
     */
    public function counts(Look $look, Builder $areas): array
    {
        $counts = [];
        foreach ($areas->pluck('id') as $id) {
            $code = $this->classOf($look, (string) $id) ?? '';
            $counts[$code] = ($counts[$code] ?? 0) + 1;
        }

        return $counts;
    }

    /** What it is, in words. */
    public function text(): string
    {
        return TallyText::of($this->tally, $this->counted, $this->slice, $this->share);
    }

    /** How the numbers of the areas lie. */
    public function spread(): Spread
    {
        return Spread::ofValues(array_map($this->valueOf(...), array_keys($this->all())));
    }

    /**
     * @param  array<string, array{TallyState, float|null}>  $states
     * @return array<string, array{TallyState, float|null}> those that may not be told are held
     */
    private function told(array $states): array
    {
        if ($this->least() > 1) {
            $narrowed = $this->slice !== null || $this->share !== null;
            $held = new HeldAreas($this->tally, $this->least());
            $held->holdBack(
                array_column($states, 0),
                // All that lie in them, so that what a slice leaves is known.
                $narrowed ? array_column($this->whole()->all(), 0) : null,
                $this->records()->count(),
            );
        }

        return $states;
    }

    private function whole(): self
    {
        return new self($this->tally->counting(), $this->areas, $this->counted, null, null, $this->viewer);
    }

    /** @return array<string, array{TallyState, float|null}> */
    private function kept(): array
    {
        $kept = KeptFiles::get(self::KEPT, 'of|'.$this->state());
        if ($kept !== null) {
            $states = [];
            foreach ((array) json_decode($kept, true) as $area => [$state, $by]) {
                $states[(string) hex2bin((string) $area)] = [TallyState::fromArray($state), $by];
            }

            return $states;
        }
        $states = $this->count();
        KeptFiles::put(
            self::KEPT,
            'of|'.$this->state(),
            (string) json_encode(
                (object) array_combine(
                    array_map(bin2hex(...), array_keys($states)),
                    array_map(
                        static fn (array $s): array => [$s[0]->toArray(), $s[1]],
                        array_values($states),
                    ),
                ),
                JSON_PRESERVE_ZERO_FRACTION,
            ),
        );

        return $states;
    }

    /** @return array<string, array{TallyState, float|null}> */
    private function count(): array
    {
        $tally = $this->tally;
        $by = $tally->byGround() ? 'area_m2' : $tally->by?->column();
        $ids = $states = $amounts = [];
        foreach ($this->areas()->get(['id', ...$by === null ? [] : [$by]]) as $row) {
            $ids[] = (string) $row->id;
            $states[] = new TallyState;
            $amounts[] = $by === null || $row->$by === null ? null : (float) $row->$by;
        }
        $records = new CountedRecords(
            $this->records(),
            $tally->field,
            $this->share === null ? null : $this->counted->filter($this->share->filter),
        );
        if ($this->isLarge()) {
            $states = $this->ledger($records, count($ids))->states();
        } else {
            $records->perArea($this->rings(), static function (string $id, int $area, ?float $value, bool $share) use (
                $states,
            ): void {
                $states[$area]->add($value, $share);
            });
        }

        return array_combine(
            $ids,
            array_map(static fn (TallyState $s, ?float $amount): array => [$s, $amount], $states, $amounts),
        );
    }

    /** Of a few it is quicker to go through all. There are no more records than there were changes. */
    private function isLarge(): bool
    {
        // What is kept of changes is of today.
        return $this->counted->stands() === null
            && $this->counted->change_number > (int) config('app.tally_ledger_from', self::LARGE);
    }

    private function ledger(CountedRecords $records, int $areas): TallyLedger
    {
        $tally = $this->tally;

        return new TallyLedger(
            implode('|', [
                StateOf::records($this->viewer, $this->areas),
                StateOf::withoutRecords($this->viewer, $this->counted, $this->slice, $this->share),
                "field {$tally->field?->key}",
                "slices {$this->slice?->id} {$this->share?->id}",
                // The same areas in the same order.
                config('app.version'),
            ]),
            $this->source(),
            $records,
            $areas,
            $this->rings(...),
            $tally->measure === TallyMeasure::Least || $tally->measure === TallyMeasure::Most,
        );
    }

    private function areas(): Builder
    {
        return VisibleRecords::of($this->viewer, $this->areas)
            ->showing(array_values(array_filter([$this->tally->by?->key])))
            ->rows()
            ->whereNotNull('area_m2')
            ->orderBy('id');
    }

    /** @return list<list<list<array{float, float}>>> of each area, in the same order */
    private function rings(): array
    {
        return array_values(
            array_map(
                static fn (mixed $shape): array => Wkb::allRings(is_string($shape) ? $shape : null),
                $this->areas()->pluck('shape')->all(),
            ),
        );
    }

    private function records(): VisibleRecords
    {
        $records = $this->source()
            ->showing(array_values(array_filter([$this->tally->field?->key])));

        return $this->slice === null ? $records : $records->filtered($this->counted->filter($this->slice->filter));
    }
}
