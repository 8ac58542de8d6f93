<?php

declare(strict_types=1);

namespace App\Boards;

use App\Answers\KeptAnswer;
use App\Layers\StoredRow;
use App\Maps\MapFeatures;
use App\Models\Layer;
use App\Models\Slice;
use App\Records\VisibleRecords;
use App\Texts;
use LogicException;
use PinYard\Board\BoardPlan;
use PinYard\Board\Tile;
use PinYard\Board\TileKind;
use PinYard\Carto\Look;
use PinYard\Problem;
use PinYard\Refused;

/** Answers all tiles of a board at once; kept until a layer that the board reads has changed. */
final class BoardAnswers
{
    private const LATEST = 8;

    /** @var list<Tile|array{raw: array<string, mixed>, problems: list<Problem>}> */
    private array $tiles = [];

    private function __construct(private readonly BoardSources $sources)
    {
        $designs = $sources->layers->map(static fn (Layer $l) => $l->design())->all();
        $sliceLayers = $sources->slices->map(static fn (Slice $s): int => $s->layer_id)->all();
        foreach ($sources->board->tiles as $raw) {
            try {
                $this->tiles[] = BoardPlan::read([$raw], $designs, $sliceLayers)->tiles[0];
            } catch (Refused $e) {
                // A design may have changed since; one tile that cannot be answered must not take the board with it.
                $this->tiles[] = ['raw' => $raw, 'problems' => $e->problems];
            }
        }
    }

    public static function of(BoardSources $sources): KeptAnswer
    {
        return KeptAnswer::of("board|{$sources->state()}", static fn (): array => (new self($sources))->answer(), [
            'as_of',
        ]);
    }

    /** @return array<string, mixed> */
    private function answer(): array
    {
        $board = $this->sources->board;

        return [
            'title' => $board->title,
            'programme' => $board->programme->name,
            'area' => $board->programme->area()->toArray(),
            'as_of' => now()->toIso8601ZuluString(),
            'tiles' => array_map(
                fn (Tile|array $tile): array => $tile instanceof Tile
                    ? $this->tile($tile)
                    : $this->broken($tile['raw'], $tile['problems']),
                $this->tiles,
            ),
        ];
    }

    /** @return array<string, mixed> */
    private function tile(Tile $tile): array
    {
        if ($this->visible($tile)->seesNothing()) {
            // Neither a number (0 would be a lie) nor what its fields and choices are called; the title was written for
            // the audience.
            return $this->closed($tile->toArray());
        }
        try {
            return $this->answered($tile);
        } catch (Refused $e) {
            return $this->broken($tile->toArray(), $e->problems);
        }
    }

    /**
     * A tile that says why it has no answer.
     *
     * @param  array<string, mixed>  $tile
     * @param  list<Problem>  $problems
     * @return array<string, mixed>
     */
    private function broken(array $tile, array $problems): array
    {
        // What is wrong with a design is for those who work with it: its sentences name fields and choices.
        return $this->sources->viewer->isLink()
            ? $this->closed($tile)
            : [
                'kind' => 'broken',
                'slice_name' => null,
                'answer' => ['messages' => array_column(Texts::problems($problems), 'message')],
            ] + $tile;
    }

    /**
     * @param  array<string, mixed>  $tile
     * @return array<string, mixed> that there is a tile, its place and title, and nothing of what it reads
     */
    private function closed(array $tile): array
    {
        return ['kind' => 'broken', 'slice_name' => null, 'answer' => ['messages' => [Texts::of('tile.closed')]]] +
            array_intersect_key($tile, array_flip(['id', 'title', 'width', 'height']));
    }

    /** @return array<string, mixed> */
    private function answered(Tile $tile): array
    {
        $slice = $tile->slice === null ? null : $this->sources->slices[$tile->slice];

        return $tile->toArray() + [
            'slice_name' => $slice?->name,
            'answer' => match ($tile->kind) {
                TileKind::Count => $this->count($tile),
                TileKind::Breakdown => $this->breakdown($tile),
                TileKind::Latest => $this->latest($tile),
                TileKind::Map => $this->map($tile),
            },
        ];
    }

    private function visible(Tile $tile): VisibleRecords
    {
        return VisibleRecords::of($this->sources->viewer, $this->layer($tile));
    }

    private function layer(Tile $tile): Layer
    {
        return $this->sources->layers->get($tile->layer) ?? throw new LogicException('a tile without its layer');
    }

    /**
     * The records of a tile with what it was told to show, and nothing else; names leave to a link only where that was
     * chosen.
     *
     * @param  list<string|null>  $fields  keys
     */
    private function records(Tile $tile, array $fields = []): VisibleRecords
    {
        $visible = $this->visible($tile);
        $design = $visible->layer->design();
        $name = $tile->names || ! $this->sources->viewer->isLink() ? $design->nameField()?->key : null;
        $visible = $visible->showing(array_values(array_filter([...$fields, $name], is_string(...))));

        if ($tile->slice === null) {
            return $visible;
        }
        $slice = $this->sources->slices->get($tile->slice) ?? throw new LogicException('a tile without its slice');

        return $visible->filtered($visible->layer->filter($slice->filter));
    }

    /** @return array{value: int} */
    private function count(Tile $tile): array
    {
        return ['value' => $this->records($tile)->rows()->count()];
    }

    /** @return array{total: int, rows: list<array<string, mixed>>} */
    private function breakdown(Tile $tile): array
    {
        $look = Look::suggest($this->layer($tile)->design(), $tile->field);
        $counts = MapFeatures::countsByClass($this->records($tile, $look->fields()), $look);

        return ['total' => array_sum($counts), 'rows' => $look->legend($counts)];
    }

    /** @return array{records: list<array<string, mixed>>} */
    private function latest(Tile $tile): array
    {
        $whole = $this->layer($tile)->design();
        $field = $whole->choiceFields()[0] ?? null;
        $shown = $this->records($tile, [$field?->key]);
        $design = $shown->design();
        $records = [];
        foreach ($shown->rows()->orderByDesc('change_number')->limit(self::LATEST)->get() as $row) {
            $code = $field === null ? null : $row->{$field->column()};
            $records[] = [
                // Without its own field a design would call records by whatever is shown; that is told beside it.
                'name' => $shown->shows((string) $whole->nameField()?->key) ? StoredRow::name($design, $row) : null,
                'detail' => $code === null ? null : $field?->choice($code)->label ?? $code,
                'class' => $code,
                'collected_at' => StoredRow::instant($row->collected_at),
            ];
        }

        return ['records' => $records, 'legend' => Look::suggest($whole, $field?->key)->legend([])];
    }

    /** @return array<string, mixed> */
    private function map(Tile $tile): array
    {
        $look = Look::suggest($this->layer($tile)->design());

        return MapFeatures::view($this->records($tile, $look->fields()), $look);
    }
}
