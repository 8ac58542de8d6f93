<?php

declare(strict_types=1);

namespace App\Maps;

use App\Answers\KeptAnswer;
use App\Backdrops;
use App\Maps\Tallies\AreaTallies;
use App\Models\Attachment;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Slice;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use App\Texts;
use Illuminate\Http\Request;
use PinYard\Audience\Sharpness;
use PinYard\Carto\LayerOnMap;
use PinYard\Carto\MapTable;
use PinYard\Carto\MapWeight;
use PinYard\Carto\Peg;
use PinYard\Filter\Filter;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/** What the audience of a map gets of it. */
final class MapPage
{
    private const MOST_PEGS = 6;

    /** @var array<string, LayerPage>|null */
    private ?array $layers = null;

    private ?LayersOfMap $there = null;

    /** @var array<string, true> parts whose areas have no colours, because what they count is closed to this viewer */
    private array $untold = [];

    /**
     * @param  string|null  $search  id of a search of the map that is asked; null: all that the map shows
     * @param  (\Closure(Layer): list<Filter>)|null  $picked  what was picked beside it, where it stands on a board
     */
    public function __construct(
        private readonly Map $map,
        private readonly Viewer $viewer,
        private readonly ?string $search = null,
        private readonly ?\Closure $picked = null,
    ) {
    }

    public static function asked(Request $request): ?string
    {
        $search = $request->query('search');

        return is_string($search) && preg_match('/\As[a-z0-9]{7}\z/', $search) === 1 ? $search : null;
    }

    /** @return list<array{id: string, title: string, part: string, slice: Slice}> those that can be asked */
    private function searches(): array
    {
        $there = $this->there();
        $found = [];
        foreach ($this->map->searches ?? [] as $search) {
            $document = array_column($this->map->layers, null, 'id')[$search['part']] ?? null;
            $slice = $there->slice($search['slice'], $document === null ? null : $there->layer($document['layer']));
            if ($slice !== null) {
                $found[] = ['slice' => $slice] + $search;
            }
        }

        return $found;
    }

    /** @return array{id: string, title: string, part: string, slice: Slice}|null the search that is asked, if there */
    private function found(): ?array
    {
        return $this->search === null ? null : array_column($this->searches(), null, 'id')[$this->search] ?? null;
    }

    private function there(): LayersOfMap
    {
        return $this->there ??= new LayersOfMap($this->map);
    }

    /** @return array<string, LayerPage> its layers that are there, by their part of the map, the topmost first */
    public function layers(): array
    {
        return $this->layers ??= $this->read();
    }

    /** @return array<string, LayerPage> */
    private function read(): array
    {
        $there = $this->there();
        $pages = [];
        $asked = $this->found();
        foreach ($this->map->layers as $document) {
            $layer = $there->layer($document['layer']);
            $slice = $there->slice($document['slice'] ?? null, $layer);
            // Without its slice a part would show more than it was made to show.
            if ($layer === null || ($document['slice'] ?? null) !== null && $slice === null) {
                continue;
            }
            $part = $there->part($document, $layer);
            $tallies = $this->tallies($part, $layer, $there);
            if ($tallies?->seesNothing() === true) {
                // Its breaks and its name would tell of records that are closed.
                $this->untold[$part->id] = true;
                [$part, $tallies] = [$part->uncoloured(), null];
            } elseif (($tallies?->least() ?? 1) > 1) {
                $part = $part->withLeast($tallies->least());
            }
            $pages[$part->id] = new LayerPage(
                $part,
                $layer,
                $slice,
                $this->viewer,
                $tallies,
                $asked !== null && $asked['part'] === $part->id ? $asked['slice'] : null,
                $this->picked === null ? [] : ($this->picked)($layer),
            );
        }

        return $pages;
    }

    private function tallies(LayerOnMap $part, Layer $areas, LayersOfMap $there): ?AreaTallies
    {
        $tally = $part->look->tally();
        $counted = $tally === null ? null : $there->layer($tally->layer);

        return $tally === null || $counted === null
            ? null
            : new AreaTallies(
                $tally,
                $areas,
                $counted,
                $there->slice($tally->slice, $counted),
                $there->slice($tally->share, $counted),
                $this->viewer,
            );
    }

    /** @return LayerPage|null null where this viewer sees nothing of it */
    public function layer(string $part): ?LayerPage
    {
        $layer = $this->layers()[$part] ?? null;

        return $layer === null || $layer->seesNothing() ? null : $layer;
    }

    /** The table beside the map; null where there is none that this viewer may read. */
    public function beside(): ?MapTable
    {
        $stored = $this->map->beside;
        $layer = $stored === null ? null : $this->layer((string) $stored['part']);

        return $stored === null || $layer === null
            ? null
            : MapTable::stored($stored, $layer->layer->design(), $layer->tallies !== null);
    }

    /**
     * @return array<string, mixed>|null null where there is no table
     *
     * @throws Refused
     */
    public function rows(Request $request): ?array
    {
        $table = $this->beside();
        $layer = $table === null ? null : $this->layer($table->part);

        return $table === null || $layer === null
            ? null
            : $layer->table($table)->answer(TableAsked::of($request, $table, $this->viewer));
    }

    /**
     * Its records by their photos.
     *
     * @param  string|null  $part  of one of its layers alone; null: of all
     */
    public function wall(?string $part = null): PhotoWall
    {
        $layers = array_filter(
            $this->layers(),
            static fn (LayerPage $l): bool => ! $l->seesNothing() && ($part === null || $l->part->id === $part),
        );

        return new PhotoWall(array_values($layers), $this->viewer);
    }

    /** What is seen when it opens. */
    public function extent(): Box
    {
        return Box::of(...$this->map->extent);
    }

    /** @return list<array{head: string, colour: string}> the first marks of the map, to know it by */
    public function pegs(): array
    {
        $pegs = [];
        foreach ($this->layers() as $layer) {
            if (! $layer->seesNothing()) {
                array_push($pegs, ...$layer->part->look->pegs());
            }
        }

        return array_map(
            static fn (Peg $p): array => ['head' => $p->head, 'colour' => $p->colour],
            array_slice($pegs, 0, self::MOST_PEGS),
        );
    }

    /** The view, made once for each way of seeing and state of the map and its layers. */
    public function kept(): KeptAnswer
    {
        $map = $this->map;
        $state = implode('|', [
            $map->id,
            (string) $map->getRawOriginal('updated_at'),
            md5((string) json_encode($map->getAttributes())),
            $map->programme->name,
            Backdrops::version(),
            $this->viewer->isLink() ? 'link' : 'person',
            $this->found()['id'] ?? '',
            ...array_map(static fn (LayerPage $l): string => $l->state(), array_values($this->layers())),
        ]);

        // The versions of what it draws are made of ids, by which each link knows records in its own way.
        return KeptAnswer::of("map|{$this->viewer->ids()}|$state", $this->view(...));
    }

    /** @return array<string, mixed> */
    private function view(): array
    {
        $layers = array_filter($this->layers(), static fn (LayerPage $l): bool => ! $l->seesNothing());

        return [
            'title' => $this->map->title,
            'about' => $this->map->about ?? '',
            'programme' => $this->map->programme->name,
            'extent' => $this->map->extent,
            'viewpoints' => $this->map->viewpoints ?? [],
            'backdrops' => Backdrops::for(Box::of(...$this->map->extent)),
            // What is closed to this viewer is not called by its name.
            'layers' => array_map(static fn (LayerPage $l): array => $l->view(), array_values($layers)),
            'notes' => $this->notes(count($layers)),
            'searches' => array_values(array_map(
                static fn (array $s): array => ['id' => $s['id'], 'title' => $s['title']],
                array_filter($this->searches(), fn (array $s): bool => $this->layer($s['part']) !== null),
            )),
            'beside' => $this->beside()?->toArray(),
            'photos' => ! $this->wall()->isEmpty(),
        ];
    }

    /**
     * That places are not where they are drawn.
     *
     * @return list<string>
     */
    private function blurred(LayerPage $page): array
    {
        $sight = VisibleRecords::of($this->viewer, $page->layer)->sight;
        if ($page->seesNothing() || $sight->place === Sharpness::Exact) {
            return [];
        }
        if ($sight->blur === null) {
            return [Texts::of(
                // Where the areas are gone nothing is told.
                $sight->place === Sharpness::Area && $sight->areasTitle !== null ? 'map.inareas' : 'map.placeless',
                ['layer' => $page->title()],
            )];
        }
        [$west, $south, $east, $north] = $this->map->extent;
        [$least, $most] = $sight->blur->sizeAt($west + fmod($east - $west + 360, 360) / 2, ($south + $north) / 2);

        $point = $page->layer->design()->geometry === GeometryKind::Point;

        return [Texts::of(
            $point ? 'map.blurred' : 'map.blurred.shapes',
            ['layer' => $page->title(), 'least' => $least, 'most' => $most],
        )];
    }

    /**
     * That not all of the map is here. Whoever holds a link hears no names: a layer that is gone may have been closed.
     *
     * @return list<string>
     */
    private function notes(int $shown): array
    {
        $missing = count($this->map->layers) - $shown;
        $notes = [];
        foreach ($this->layers() as $id => $page) {
            array_push($notes, ...$this->blurred($page));
            // What is counted is not called by its name: it may be closed.
            $document = array_column($this->map->layers, null, 'id')[$id];
            if (isset($document['look']['of']) && $page->tallies === null && ! $page->seesNothing()) {
                $notes[] = Texts::of(
                    isset($this->untold[$id]) ? 'map.note.untold' : 'map.note.uncounted',
                    ['layer' => $page->title()],
                );
            }
        }
        if ($missing === 0) {
            return $notes;
        }
        if ($this->viewer->isLink()) {
            return [...$notes, Texts::of('map.note.missing', ['n' => $missing])];
        }
        foreach ($this->map->layers as $document) {
            $page = $this->layers()[$document['id']] ?? null;
            if ($page === null) {
                $notes[] = Texts::of('map.note.gone', ['layer' => $document['title'] ?? $document['called'] ?? '']);
            } elseif ($page->seesNothing()) {
                $notes[] = Texts::of('map.note.closed', ['layer' => $page->title()]);
            }
        }

        return $notes;
    }

    /** @return array<string, mixed> what whoever makes the map should know of its marks and its weight */
    public function advice(): array
    {
        $weight = new MapWeight(array_values(array_map(
            static fn (LayerPage $l): \PinYard\Carto\WeightOfLayer => $l->weight(),
            $this->layers(),
        )));

        return [
            'warnings' => (object) array_filter(
                array_map(static fn (LayerPage $l): array => $l->warnings(), $this->layers()),
            ),
            'why' => (object) array_filter(
                array_map(static fn (LayerPage $l): ?string => $l->why(), $this->layers()),
            ),
            'weight' => [
                'level' => $weight->level(),
                'shapes' => $weight->shapes(),
                'reasons' => array_map(
                    static fn (array $r): string => Texts::of("map.weight.{$r['code']}", [
                        ...array_diff_key($r, ['code' => 1, 'bytes' => 1]),
                        ...isset($r['bytes']) ? ['megabytes' => round($r['bytes'] / 1e6, 1)] : [],
                    ]),
                    $weight->reasons(),
                ),
            ],
        ];
    }

    /**
     * A photo, if a card shows photos and it belongs to a record of this map.
     *
     * @param  string  $photo  as this viewer knows it
     */
    public function photo(string $photo): ?Attachment
    {
        try {
            $found = Attachment::query()->find($this->viewer->idFrom($photo));
        } catch (Refused) {
            return null;
        }
        foreach ($this->layers() as $layer) {
            if ($found !== null && $layer->shows($found)) {
                return $found;
            }
        }

        return null;
    }
}
