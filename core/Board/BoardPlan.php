<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Refused;

/** The tiles of a board, checked against the layers and slices that they read. */
final readonly class BoardPlan
{
    public const MOST_TILES = 60;

    public const MOST_PAGES = 12;

    /** @param  list<Tile>  $tiles */
    private function __construct(public array $tiles)
    {
    }

    /** @throws Refused naming every place that is off */
    public static function read(mixed $in, BoardContext $context): self
    {
        if (! is_array($in) || ! array_is_list($in)) {
            throw Refused::because('must_be_list', 'tiles');
        }
        if (count($in) > self::MOST_TILES) {
            throw Refused::because('too_many', 'tiles', count($in), [
                'most' => self::MOST_TILES,
                'count' => count($in),
            ]);
        }
        $tiles = [];
        $problems = [];
        foreach ($in as $i => $one) {
            try {
                $tiles[] = self::tile($one, $context, "tiles/$i");
            } catch (Refused $e) {
                array_push($problems, ...$e->problems);
            }
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }
        if (count(array_unique(array_map(static fn (Tile $t): string => $t->frame->id, $tiles))) !== count($tiles)) {
            throw Refused::because('tile_doubled', 'tiles');
        }

        return new self($tiles);
    }

    /** @throws Refused */
    public static function tile(mixed $in, BoardContext $context, string $at = 'tile'): Tile
    {
        $in = is_array($in) ? $in : [];
        $class = TileKinds::named($in['kind'] ?? null);
        if ($class === null) {
            throw Refused::because('tile_kind', "$at/kind", is_scalar($in['kind'] ?? null) ? $in['kind'] : null);
        }
        $tile = new TileInput($in, $at, $context);

        return $class::read($tile, Frame::read($tile));
    }
}
