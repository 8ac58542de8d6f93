<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** The tiles of a board, checked against the layers and slices that they read. */
final readonly class BoardPlan
{
    public const MOST_TILES = 40;

    /** @param  list<Tile>  $tiles */
    private function __construct(public array $tiles)
    {
    }

    /**
     * @param  array<int, LayerDesign>  $layers  that the board's owner may use, by number
     * @param  array<int, int>  $slices  layer of each slice
     *
     * @throws Refused
     */
    public static function read(mixed $in, array $layers, array $slices): self
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
                $tiles[] = self::tile(is_array($one) ? $one : [], "tiles/$i", $layers, $slices);
            } catch (Refused $e) {
                array_push($problems, ...$e->problems);
            }
        }
        if ($problems !== []) {
            throw Refused::for($problems);
        }
        if (count(array_unique(array_map(static fn (Tile $t): string => $t->id, $tiles))) !== count($tiles)) {
            throw Refused::because('tile_doubled', 'tiles');
        }

        return new self($tiles);
    }

    /**
     * @param  array<mixed>  $in
     * @param  array<int, LayerDesign>  $layers
     * @param  array<int, int>  $slices
     *
     * @throws Refused
     */
    private static function tile(array $in, string $at, array $layers, array $slices): Tile
    {
        $kind = is_string($in['kind'] ?? null) ? TileKind::tryFrom($in['kind']) : null;
        if ($kind === null) {
            throw Refused::because('tile_kind', "$at/kind", is_scalar($in['kind'] ?? null) ? $in['kind'] : null);
        }
        $layer = $in['layer'] ?? null;
        if (! is_int($layer) || ! isset($layers[$layer])) {
            throw Refused::because('layer_unknown', "$at/layer", is_scalar($layer) ? $layer : null);
        }
        $title = $in['title'] ?? null;
        if (! is_string($title) || trim($title) === '' || mb_strlen($title) > 120) {
            throw Refused::because('empty', "$at/title", is_scalar($title) ? $title : null);
        }
        $slice = $in['slice'] ?? null;
        if ($slice !== null && (! is_int($slice) || ($slices[$slice] ?? null) !== $layer)) {
            throw Refused::because('slice_unknown', "$at/slice", is_scalar($slice) ? $slice : null);
        }
        $field = $in['field'] ?? null;
        $isChoice = is_string($field) && $layers[$layer]->field($field)?->kind === FieldKind::OneChoice;
        if ($kind === TileKind::Breakdown && ! $isChoice) {
            throw Refused::because('tile_needs_choice', "$at/field", is_scalar($field) ? $field : null);
        }
        $id = $in['id'] ?? null;
        if (! is_string($id) || preg_match('/^[A-Za-z0-9_-]{1,40}$/D', $id) !== 1) {
            throw Refused::because('id_shape', "$at/id", is_scalar($id) ? $id : null);
        }
        $size = static fn (mixed $v, int $most, int $default): int => is_int($v) ? max(1, min($most, $v)) : $default;

        return new Tile(
            $id,
            $kind,
            $title,
            $layer,
            $slice,
            $isChoice ? (string) $field : null,
            $size($in['width'] ?? null, 12, 3),
            $size($in['height'] ?? null, 8, 2),
            ($in['names'] ?? null) === true,
        );
    }
}
