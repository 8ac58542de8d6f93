<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** The form of a layer, to add a record from the board; in a layer of visits, one to the record that is picked. */
final readonly class FormTile extends Tile
{
    private function __construct(Frame $frame, public int $layer)
    {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'form';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        return new self($frame, $in->layer());
    }

    /** @return list<int> */
    public function layers(): array
    {
        return [$this->layer];
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        return $facts->form($this);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return ['layer' => $this->layer];
    }
}
