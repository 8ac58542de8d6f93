<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** How far outings have come, against where they should be by today. */
final readonly class OutingsTile extends Tile
{
    public static function kind(): string
    {
        return 'outings';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        return new self($frame);
    }

    public function tellsPeople(): bool
    {
        return true;
    }

    public function work(): array
    {
        return ['outings'];
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        return $facts->outings($this);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [];
    }
}
