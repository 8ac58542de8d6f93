<?php

declare(strict_types=1);

namespace App\Boards;

use App\Maps\MapPage;
use App\Models\Audience;
use App\Models\Layer;
use App\Models\Map;
use App\Rights\ShownTo;
use Illuminate\Database\Eloquent\Collection;
use PinYard\Board\Frame;
use PinYard\Board\Pick;
use PinYard\Board\Tiles\DetailsTile;
use PinYard\Board\Tiles\MapTile;
use PinYard\Carto\LayerOnMap;
use PinYard\Design\Field;
use PinYard\Refused;

/** The map in a tile: one of the programme's, or one of a single layer that is made for the tile alone. */
final readonly class TileMap
{
    /** The only layer of a map that is made for a tile. */
    private const PART = 'l0000000';

    public function __construct(private BoardSources $sources)
    {
    }

    /**
     * @param  array<string, Pick>  $picks
     * @param  \Closure(bool): void  $heard  is told of each layer whether it follows
     *
     * @throws Refused where the map is not there any more
     */
    public function page(MapTile $tile, array $picks, \Closure $heard): MapPage
    {
        return new MapPage(
            $tile->map === null ? $this->ofLayer($tile) : $this->map($tile->map),
            $this->sources->viewer,
            null,
            static function (Layer $layer) use ($picks, $heard): array {
                $filters = [];
                foreach ($picks as $pick) {
                    $filter = BoardPicks::on($pick, $layer);
                    $heard($filter !== null);
                    if ($filter !== null) {
                        $filters[] = $filter;
                    }
                }

                return $filters;
            },
        );
    }

    /** Of it only the cards are asked for. */
    public function detailsOf(DetailsTile $tile): MapPage
    {
        $layer = $this->sources->layer($tile->reading->layer);
        $design = $layer->design();
        $name = $design->nameField()?->key;
        $fields = $tile->fields === []
            ? array_map(static fn (Field $f): string => $f->key, $design->valueFields())
            : $tile->fields;
        $named = $tile->names || ! $this->sources->viewer->isLink();
        $document = LayerOnMap::suggest(self::PART, $layer->id, $design)->toArray();
        $document['label'] = null;
        $document['card'] = [
            'fields' => array_values(array_unique([
                ...$named && $name !== null ? [$name] : [],
                ...array_filter($fields, static fn (string $key): bool => $named || $key !== $name),
            ])),
            'photos' => $tile->photos && $design->photos->allowed,
        ];

        return new MapPage($this->of($layer, $tile->frame, $tile->reading->slice, $document), $this->sources->viewer);
    }

    private function map(int $number): Map
    {
        $map = Map::query()->where('programme_id', $this->sources->board->programme_id)->find($number);

        $map = $map?->setRelation('programme', $this->sources->board->programme)
            ?? throw Refused::because('tile_map', 'map', $number);
        if (! $this->admits($map)) {
            throw Refused::because('tile_hidden', 'map');
        }
        if ($this->sources->stood !== null) {
            $map->mapped->merge($map->counted)->each($this->sources->stand(...));
        }

        return $map;
    }

    /** What is shown to few is shown to no more by a board. */
    private function admits(Map $map): bool
    {
        $person = $this->sources->viewer->person;

        return $person === null
            ? $map->audience === Audience::Programme || $map->audience === Audience::Link
            : ShownTo::admits($map, $person);
    }

    private function ofLayer(MapTile $tile): Map
    {
        $layer = $this->sources->layer($tile->reading->layer ?? 0);
        $design = $layer->design();
        $name = $design->nameField();
        $named = $name !== null && ($tile->names || ! $this->sources->viewer->isLink());
        $document = LayerOnMap::suggest(self::PART, $layer->id, $design)->toArray();
        $document['card']['fields'] = $named
            ? array_values(array_unique([$name->key, ...$document['card']['fields']]))
            : [];
        if (! $tile->names && $this->sources->viewer->isLink()) {
            $document['label'] = null;
            $document['card']['photos'] = false;
        }

        return $this->of($layer, $tile->frame, $tile->reading?->slice, $document);
    }

    /** @param  array<string, mixed>  $document  how its only layer is shown */
    private function of(Layer $layer, Frame $frame, ?int $slice, array $document): Map
    {
        $board = $this->sources->board;
        $map = new Map([
            'title' => $frame->title,
            'layers' => [['slice' => $slice, 'called' => $layer->title] + $document],
            'extent' => $board->programme->area()->toArray(),
        ]);
        $map->programme_id = $board->programme_id;
        $map->setRelation('programme', $board->programme);
        $map->setRelation('mapped', new Collection([$layer]));
        $map->setRelation('counted', new Collection);

        return $map;
    }
}
