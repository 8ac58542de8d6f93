<?php

declare(strict_types=1);

namespace App\Boards;

use App\Answers\KeptAnswer;
use App\Records\VisibleRecords;
use App\Rights\WorkSeen;
use App\Texts;
use PinYard\Board\BoardPlan;
use PinYard\Board\HeldBack;
use PinYard\Board\Pick;
use PinYard\Board\Tile;
use PinYard\Board\Tiles\MapTile;
use PinYard\Geo\GeometryKind;
use PinYard\Problem;
use PinYard\Refused;

/** Answers all tiles of a board at once; kept until something that the board reads has changed. */
final class BoardAnswers
{
    /** Keys of where a tile stands and what it is called. */
    private const PLACE = ['id', 'title', 'width', 'height', 'x', 'y', 'page', 'phone', 'on_phone'];

    /** @var list<Tile|array{raw: array<string, mixed>, problems: list<Problem>}> */
    private array $tiles = [];

    /** @var array<string, Pick> */
    private readonly array $picks;

    public function __construct(private readonly BoardSources $sources, private readonly BoardPicks $asked)
    {
        $context = $sources->context();
        foreach ($sources->board->tiles as $raw) {
            try {
                $this->tiles[] = BoardPlan::tile($raw, $context);
            } catch (Refused $e) {
                // A design may have changed since; one tile that cannot be answered must not take the board with it.
                $this->tiles[] = ['raw' => $raw, 'problems' => $e->problems];
            }
        }
        $this->picks = $this->mayPick()
            ? $asked->of($this->readable(), $sources->viewer, $this->areas(...))
            : [];
    }

    public static function of(BoardSources $sources, BoardPicks $asked): KeptAnswer
    {
        $answers = new self($sources, $asked);

        return KeptAnswer::of(
            'board|'.$sources->state($answers->readable()).'|'.($answers->mayPick() ? $asked->key() : ''),
            $answers->answer(...),
            ['as_of'],
        );
    }

    /** Number of the layer of a part of a map, where it is of areas that this viewer sees. */
    private function areas(MapTile $tile, string $part): ?int
    {
        try {
            $page = (new TileMap($this->sources))->page($tile, [], static function (bool $follows): void {
            });
        } catch (Refused) {
            return null;
        }
        $layer = $page->layer($part)?->layer;

        return $layer?->design()->geometry === GeometryKind::Area
            && $layer->programme_id === $this->sources->board->programme_id ? $layer->id : null;
    }

    /** Who picks and looks what follows learns which is which: visitors only where that was opened. */
    private function mayPick(): bool
    {
        return ! $this->sources->viewer->isLink() || $this->sources->board->visitors_pick;
    }

    /** @return list<Tile> */
    public function readable(): array
    {
        return array_values(array_filter($this->tiles, static fn (Tile|array $t): bool => $t instanceof Tile));
    }

    /** @return Tile|null null where there is none, or this viewer is not shown it */
    public function shown(string $id): ?Tile
    {
        foreach ($this->readable() as $tile) {
            if ($tile->frame->id === $id && ! $this->isClosed($tile)) {
                return $tile;
            }
        }

        return null;
    }

    public function factsFor(Tile $tile): BoardFacts
    {
        return new BoardFacts(
            $this->sources,
            $tile,
            $this->picks,
            $this->mayPick() ? $this->asked->textIn($tile->frame->id) : null,
        );
    }

    /** @return array<string, mixed> */
    private function answer(): array
    {
        $board = $this->sources->board;

        return [
            'title' => $board->title,
            'programme' => $board->programme->name,
            'area' => $board->programme->area()->toArray(),
            'time_zone' => $board->programme->time_zone,
            'today' => $board->programme->today(),
            'as_of' => now()->toIso8601ZuluString(),
            'stood' => $this->sources->stood === null
                ? null
                : ['day' => $this->sources->stood->day, 'by_collecting' => $this->sources->stood->byCollecting],
            'pages' => $board->pages ?? [],
            'may_pick' => $this->mayPick(),
            // What was picked and is still there.
            'picked' => array_keys($this->picks),
            'tiles' => array_map(
                fn (Tile|array $tile): array => $tile instanceof Tile
                    ? $this->tile($tile)
                    : $this->broken($tile['raw'], $tile['problems']),
                $this->tiles,
            ),
        ];
    }

    /** Whether this viewer is not told what a tile says: neither a number (0 would be a lie) nor names in it. */
    private function isClosed(Tile $tile): bool
    {
        if ($tile->tellsPeople() && $this->sources->viewer->isLink() && ! $this->opensWork($tile)) {
            return true;
        }
        foreach ($tile->layers() as $layer) {
            $records = VisibleRecords::of($this->sources->viewer, $this->sources->layer($layer));
            if ($records->seesNothing() && ! ($tile->tellsFigures() && $records->counted() !== null)) {
                return true;
            }
        }

        return false;
    }

    /** Whether everyone with the link is told of the people at work whom a tile is of. */
    private function opensWork(Tile $tile): bool
    {
        $programme = $this->sources->board->programme;
        foreach ($tile->tellsPersons() ? [] : $tile->work() as $what) {
            if (! in_array($what, WorkSeen::ALL, true)
                || ! WorkSeen::tellsAll($this->sources->viewer, $programme, $what)) {
                return false;
            }
        }

        return $tile->work() !== [] && ! $tile->tellsPersons();
    }

    /** @return array<string, mixed> */
    private function tile(Tile $tile): array
    {
        if ($this->isClosed($tile)) {
            // The title was written for the audience.
            return $this->closed($tile->frame->place());
        }
        $facts = $this->factsFor($tile);
        try {
            $answer = $tile->answer($facts);
        } catch (Refused $e) {
            return $this->broken($tile->toArray(), $e->problems, $e instanceof HeldBack);
        }

        return [
            'kind' => $tile::kind(),
            'slice_name' => $this->sliceOf($tile),
            'follows' => $facts->follows(),
            'answer' => $answer,
        ] + $this->drawn($tile->toArray());
    }

    /**
     * @param  array<string, mixed>  $tile
     * @return array<string, mixed> what is needed to draw it, and nothing of how it is made; at the desk also which
     *     records it is of
     */
    private function drawn(array $tile): array
    {
        return array_intersect_key(
            $tile,
            array_flip($this->sources->viewer->isLink() ? self::PLACE : [...self::PLACE, 'layer', 'slice']),
        );
    }

    private function sliceOf(Tile $tile): ?string
    {
        $slice = $tile->toArray()['slice'] ?? null;

        return is_int($slice) ? $this->sources->slices->get($slice)?->name : null;
    }

    /**
     * A tile that says why it has no answer.
     *
     * @param  array<string, mixed>  $tile
     * @param  list<Problem>  $problems
     * @param  bool  $held  whether it is of too few records
     * @return array<string, mixed>
     */
    private function broken(array $tile, array $problems, bool $held = false): array
    {
        // What is wrong with a design is for those who work with it: its sentences name fields and choices.
        return $this->sources->viewer->isLink()
            ? $this->closed($tile, $held ? array_column(Texts::problems($problems), 'message') : null)
            : [
                'kind' => 'broken',
                'slice_name' => null,
                'follows' => true,
                'answer' => [
                    'messages' => array_column(Texts::problems($problems), 'message'),
                    'closed' => $held || array_column($problems, 'code') === ['tile_hidden'],
                ],
            ] + $this->drawn($tile);
    }

    /**
     * @param  array<string, mixed>  $tile
     * @param  list<string>|null  $messages  why, where more can be said than that it is not open
     * @return array<string, mixed> that there is a tile, its place and title, and nothing of what it reads
     */
    private function closed(array $tile, ?array $messages = null): array
    {
        return [
            'kind' => 'broken',
            'slice_name' => null,
            'follows' => true,
            'answer' => ['messages' => $messages ?? [Texts::of('tile.closed')], 'closed' => true],
        ] + array_intersect_key($tile, array_flip(self::PLACE));
    }
}
