<?php

declare(strict_types=1);

namespace App\Boards;

use App\Boards\Figures\BitFigures;
use App\Boards\Figures\EffortFigures;
use App\Boards\Figures\SqlFigures;
use App\Maps\MapPage;
use App\Models\Attachment;
use App\Models\Layer;
use App\Records\VisibleRecords;
use App\Rights\LayerRights;
use LogicException;
use PinYard\Board\Facts;
use PinYard\Board\Figures;
use PinYard\Board\Grouping;
use PinYard\Board\HeldBack;
use PinYard\Board\HeldFigures;
use PinYard\Board\Measure;
use PinYard\Board\Pick;
use PinYard\Board\Quantity;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\Tiles\CoverageTile;
use PinYard\Board\Tiles\CrewsTile;
use PinYard\Board\Tiles\DetailsTile;
use PinYard\Board\Tiles\FormTile;
use PinYard\Board\Tiles\LatestTile;
use PinYard\Board\Tiles\MapTile;
use PinYard\Board\Tiles\MeasuringTile;
use PinYard\Board\Tiles\OutingsTile;
use PinYard\Board\Tiles\PhotosTile;
use PinYard\Refused;

/** What one tile's answer is made of, for one viewer, under what was picked in the other tiles. */
final class BoardFacts implements Facts
{
    private bool $follows = true;

    /** @param  array<string, Pick>  $picks  by the tile that they were made in */
    public function __construct(
        private readonly BoardSources $sources,
        private readonly Tile $tile,
        private readonly array $picks,
        private readonly ?string $find,
    ) {
    }

    /** Whether all that was picked elsewhere says something of what the tile has read. */
    public function follows(): bool
    {
        return $this->follows;
    }

    public function figures(): Figures
    {
        $seen = $this->figuresOf(false);
        $least = $this->least();

        return $least === null
            ? $seen
            : new HeldFigures(
                $this->figuresOf(true),
                $least,
                $seen,
                $this->layersWhere(static fn (VisibleRecords $r): bool => $r->counted() !== null),
                $this->layersWhere(static fn (VisibleRecords $r): bool => ! $r->seesNothing()),
            );
    }

    /** @param  bool  $counted  of what is not told one by one, wherever there is such */
    private function figuresOf(bool $counted): Figures
    {
        $records = fn (Reading $reading, ?int $slice, array $fields): VisibleRecords => $this->records(
            $reading,
            array_values(array_filter($fields, is_string(...))),
            $slice,
            false,
            $counted,
        );
        $asked = new SqlFigures(
            $records,
            $this->sources->layer(...),
            new EffortFigures(
                $this->sources->board->programme,
                $this->sources->viewer,
                $this->picksElsewhere(),
                $this->heard(...),
                $this->sources->layer(...),
            ),
        );

        return new BitFigures($records, $this->sources->bits->of(...), $asked);
    }

    /** The least count that all of the tile keeps to; null where it reads nothing that is told in figures alone. */
    private function least(): ?int
    {
        $least = null;
        foreach ($this->tile->tellsFigures() ? $this->tile->layers() : [] as $number) {
            $counted = VisibleRecords::of($this->sources->viewer, $this->sources->layer($number))->counted();
            $least = max($least ?? 0, $counted->sight->least ?? 0) ?: null;
        }

        return $least;
    }

    /**
     * @param  \Closure(VisibleRecords): bool  $is
     * @return list<int> numbers of layers that the tile reads
     */
    private function layersWhere(\Closure $is): array
    {
        return array_values(array_filter(
            $this->tile->layers(),
            fn (int $n): bool => $is(VisibleRecords::of($this->sources->viewer, $this->sources->layer($n))),
        ));
    }

    public function today(): string
    {
        return $this->sources->board->programme->today();
    }

    public function lines(int $layer, Grouping $by, array $codes): array
    {
        return (new GroupLines($this->sources))->of($layer, $by, $codes);
    }

    public function latest(LatestTile $tile): array
    {
        $layer = $this->sources->layer($tile->reading->layer);
        $name = $layer->design()->nameField()?->key;
        $named = $tile->names || ! $this->sources->viewer->isLink();

        return LatestRecords::of(
            $this->records(
                $tile->reading,
                [...$tile->fields, ...$named && $name !== null ? [$name] : []],
                null,
                $tile->photo,
            ),
            $tile,
            $named,
            $this->find,
            $this->sources->bits->of($layer),
        );
    }

    public function details(DetailsTile $tile): array
    {
        // Which record is asked for apart, by whoever picks one.
        $layer = $this->sources->layer($tile->reading->layer);

        return ['of' => $layer->title, 'may_show' => $this->mayShow()];
    }

    public function form(FormTile $tile): array
    {
        $layer = $this->sources->layer($tile->layer);
        $person = $this->sources->viewer->person;

        return [
            'may_add' => $person !== null && $this->sources->stood === null
                && LayerRights::of($person, $layer)->mayAdd(),
            'visits_of' => $layer->visits_of,
        ];
    }

    /** Visitors pick, and look at what was picked, only where that was opened. */
    public function mayShow(): bool
    {
        return ! $this->sources->viewer->isLink() || $this->sources->board->visitors_pick;
    }

    public function map(MapTile $tile): array
    {
        $view = json_decode($this->page($tile)->kept()->text(), true, 512, JSON_THROW_ON_ERROR);

        return ['view' => $view, 'bare' => $tile->map === null];
    }

    /** @throws Refused where the map is not there any more */
    public function page(MapTile|DetailsTile $tile): MapPage
    {
        if ($tile instanceof DetailsTile) {
            return (new TileMap($this->sources))->detailsOf($tile);
        }

        return (new TileMap($this->sources))->page($tile, $this->picksElsewhere(), $this->heard(...));
    }

    public function coverage(CoverageTile $tile): array
    {
        return Coverage::of($this->sources, $this->records($tile->reading, []), $tile);
    }

    public function crews(CrewsTile $tile): array
    {
        if ($this->sources->stood !== null) {
            throw Refused::because('stood_crews', 'kind');
        }

        return CrewsNow::of($this->sources->board->programme, $this->sources->viewer, $tile->open);
    }

    public function outings(OutingsTile $tile): array
    {
        return OutingsOnBoard::of($this->sources);
    }

    public function photos(PhotosTile $tile): array
    {
        $records = $this->photographed($tile);
        if (! $records->sight->photos) {
            // That there are none would be a lie.
            throw Refused::because('tile_hidden', 'layer');
        }

        return LatestPhotos::of($records, $tile);
    }

    public function showsPhoto(PhotosTile $tile, Attachment $photo): bool
    {
        return LatestPhotos::shows($this->photographed($tile), $photo);
    }

    /** Whether a list has a photo beside one of its records. */
    public function lists(LatestTile $tile, Attachment $photo): bool
    {
        return $tile->photo && LatestPhotos::shows($this->records($tile->reading, [], null, true), $photo);
    }

    private function photographed(PhotosTile $tile): VisibleRecords
    {
        $name = $this->sources->layer($tile->reading->layer)->design()->nameField()?->key;
        $named = $tile->names || ! $this->sources->viewer->isLink();

        return $this->records($tile->reading, $named && $name !== null ? [$name] : [], null, true);
    }

    /** @return array<string, Pick> those that were made in other tiles */
    private function picksElsewhere(): array
    {
        return array_diff_key($this->picks, [$this->tile->frame->id => true]);
    }

    private function heard(bool $follows): void
    {
        $this->follows = $this->follows && $follows;
    }

    /**
     * The records of a reading with what the tile was told to show of them, and nothing else.
     *
     * @param  list<string>  $fields  keys
     * @param  bool  $counted  also where they are told in figures alone
     */
    private function records(
        Reading $reading,
        array $fields,
        ?int $slice = null,
        bool $photos = false,
        bool $counted = false,
    ): VisibleRecords {
        $layer = $this->sources->layer($reading->layer);
        $visible = VisibleRecords::of($this->sources->viewer, $layer);
        $figures = $visible->counted();
        if ($counted && $figures !== null && $this->sources->stood !== null) {
            // From one day to the next it would tell what is held back.
            throw HeldBack::because('held_stood', 'layer');
        }
        $visible = $counted ? $figures ?? $visible : $visible;
        if ($visible->seesNothing()) {
            throw Refused::because('tile_hidden', 'layer');
        }
        if ($this->sources->viewer->isLink()) {
            $visible = $visible->showing($fields, $photos || $this->countsPhotos());
        }
        foreach ([$reading->slice, $slice] as $number) {
            if ($number !== null) {
                $found = $this->sources->slices->get($number) ?? throw new LogicException('a tile without its slice');
                $visible = $visible->filtered($layer->filter($found->filter));
            }
        }
        if ($reading->span() !== null) {
            $visible = $visible->filtered($layer->filter($reading->span()));
        }
        foreach ($this->picksElsewhere() as $pick) {
            if ($this->least() !== null) {
                // Nothing narrows what is told of so many at least.
                $this->heard(false);

                continue;
            }
            $filter = BoardPicks::on($pick, $layer);
            $visited = $filter === null ? $this->visited($pick, $layer) : null;
            $this->heard($filter !== null || $visited !== null);
            $visible = match (true) {
                $filter !== null => $visible->filtered($filter),
                $visited !== null => $visible->visiting($visited),
                default => $visible,
            };
        }

        return $visible;
    }

    /** In a layer of visits: the records that were picked, whose visits follow them. */
    private function visited(Pick $pick, Layer $visits): ?VisibleRecords
    {
        $layer = $visits->visits_of === null ? null : $this->sources->layers->get($visits->visits_of);
        $filter = $layer === null ? null : BoardPicks::on($pick, $layer);

        return $layer === null || $filter === null
            ? null
            : VisibleRecords::of($this->sources->viewer, $layer)->filtered($filter);
    }

    /** How many photos there are is told by whoever measures just that. */
    private function countsPhotos(): bool
    {
        return $this->tile instanceof MeasuringTile
            && array_filter(
                $this->tile->measure->all(),
                static fn (Measure $m): bool => $m->quantity?->key === Quantity::PHOTOS,
            ) !== [];
    }
}
