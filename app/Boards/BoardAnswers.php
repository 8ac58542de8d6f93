<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Board;
use App\Models\Layer;
use App\Models\Slice;
use App\Models\User;
use App\Rights\LayerRights;
use App\Storage\FilterSql;
use App\Storage\MapFeatures;
use App\Storage\Records;
use App\Texts;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\Cache;
use PinYard\Board\BoardPlan;
use PinYard\Board\Filter;
use PinYard\Board\Tile;
use PinYard\Board\TileKind;
use PinYard\Carto\Look;
use PinYard\Problem;
use PinYard\Refused;

/** Answers all tiles of a board at once; kept until a layer that the board reads has changed. */
final class BoardAnswers
{
    private const LATEST = 8;

    private const KEEP_SECONDS = 3600;

    /** @var Collection<int, Layer> */
    private Collection $layers;

    /** @var Collection<int, Slice> */
    private Collection $slices;

    /** @var list<Tile|array{raw: array<string, mixed>, problems: list<Problem>}> */
    private array $tiles = [];

    /** @param  User|null  $viewer null for whoever has the board's link */
    public function __construct(private readonly Board $board, private readonly ?User $viewer)
    {
        $this->layers = $board->programme->layers()->get()->keyBy('id');
        $this->slices = Slice::query()->whereIn('layer_id', $this->layers->keys())->get()->keyBy('id');
        $designs = $this->layers->map(static fn (Layer $l) => $l->design())->all();
        $sliceLayers = $this->slices->map(static fn (Slice $s): int => $s->layer_id)->all();
        foreach ($board->tiles as $raw) {
            try {
                $this->tiles[] = BoardPlan::read([$raw], $designs, $sliceLayers)->tiles[0];
            } catch (Refused $e) {
                // A design may have changed since; one tile that cannot be answered must not take the board with it.
                $this->tiles[] = ['raw' => $raw, 'problems' => $e->problems];
            }
        }
    }

    /** Changes whenever an answer could: with the board, its slices, the layers that it reads, and the day. */
    public function tag(): string
    {
        $parts = [$this->board->id, $this->board->updated_at->getTimestamp(), md5((string) json_encode($this->board->tiles)), $this->today()];
        foreach ($this->tiles as $tile) {
            if (! $tile instanceof Tile) {
                continue;
            }
            $layer = $this->layers[$tile->layer];
            $slice = $tile->slice === null ? null : $this->slices[$tile->slice];
            $ownOnly = $this->viewer !== null && ! LayerRights::of($this->viewer, $layer)->seesAll();
            array_push($parts, $ownOnly ? $this->viewer->id : 'all', $layer->id, $layer->change_number, $layer->design_version, md5((string) json_encode($slice?->filter)), $slice?->name);
        }

        return hash('xxh128', implode('|', $parts));
    }

    /** @return array<string, mixed> */
    public function get(): array
    {
        return Cache::remember("board:{$this->tag()}", self::KEEP_SECONDS, fn (): array => [
            'title' => $this->board->title,
            'programme' => $this->board->programme->name,
            'area' => $this->board->programme->area()->toArray(),
            'as_of' => now()->toIso8601ZuluString(),
            'tiles' => array_map(
                fn (Tile|array $tile): array => $tile instanceof Tile ? $this->tile($tile) : self::broken($tile['raw'], $tile['problems']),
                $this->tiles,
            ),
        ]);
    }

    /** @return array<string, mixed> */
    private function tile(Tile $tile): array
    {
        try {
            return $this->answered($tile);
        } catch (Refused $e) {
            return self::broken($tile->toArray(), $e->problems);
        }
    }

    /**
     * A tile that says why it has no answer.
     *
     * @param  array<string, mixed>  $tile
     * @param  list<Problem>  $problems
     * @return array<string, mixed>
     */
    private static function broken(array $tile, array $problems): array
    {
        return ['kind' => 'broken', 'slice_name' => null, 'answer' => ['messages' => array_column(Texts::problems($problems), 'message')]] + $tile;
    }

    /** @return array<string, mixed> */
    private function answered(Tile $tile): array
    {
        $slice = $tile->slice === null ? null : $this->slices[$tile->slice];

        return $tile->toArray() + ['slice_name' => $slice?->name, 'answer' => match ($tile->kind) {
            TileKind::Count => $this->count($tile),
            TileKind::Breakdown => $this->breakdown($tile),
            TileKind::Latest => $this->latest($tile),
            TileKind::Map => $this->map($tile),
        }];
    }

    private function records(Tile $tile): Builder
    {
        $layer = $this->layers[$tile->layer];
        $design = $layer->design();
        $query = Records::seenBy($this->viewer, $layer);
        if ($tile->slice !== null) {
            $filter = Filter::read($this->slices[$tile->slice]->filter, $design);
            (new FilterSql($design, new \DateTimeZone($this->board->programme->time_zone)))->apply($query, $filter);
        }

        return $query;
    }

    /** @return array{value: int} */
    private function count(Tile $tile): array
    {
        return ['value' => $this->records($tile)->count()];
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} */
    private function breakdown(Tile $tile): array
    {
        $look = Look::suggest($this->layers[$tile->layer]->design(), $tile->field);
        $counts = MapFeatures::countsByClass($this->records($tile), $look);

        return ['total' => array_sum($counts), 'rows' => $look->legend($counts)];
    }

    /** @return array{records: list<array<string, mixed>>} */
    private function latest(Tile $tile): array
    {
        $layer = $this->layers[$tile->layer];
        $design = $layer->design();
        $field = $design->choiceFields()[0] ?? null;
        $records = [];
        foreach ($this->records($tile)->orderByDesc('change_number')->limit(self::LATEST)->get() as $row) {
            $code = $field === null ? null : $row->{$field->column()};
            $records[] = [
                'name' => Records::name($design, $row),
                'detail' => $code === null ? null : ($field?->choice($code)->label ?? $code),
                'class' => $code,
                'collected_at' => Records::instant($row->collected_at),
            ];
        }

        return ['records' => $records, 'legend' => Look::suggest($design)->legend([])];
    }

    /** @return array<string, mixed> */
    private function map(Tile $tile): array
    {
        $design = $this->layers[$tile->layer]->design();

        return MapFeatures::view($this->records($tile), $design, Look::suggest($design));
    }

    private function today(): string
    {
        return now($this->board->programme->time_zone)->toDateString();
    }
}
