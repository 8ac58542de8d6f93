<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** The latest photos of the records of a layer. */
final readonly class PhotosTile extends Tile
{
    private const MOST = 60;

    private function __construct(Frame $frame, public Reading $reading, public int $count, public bool $names)
    {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'photos';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        if (! $in->design($reading->layer)->photos->allowed) {
            throw $in->refused('tile_no_photos', 'layer', $reading->layer);
        }

        return new self($frame, $reading, $in->whole('count', 1, self::MOST, 12) ?? 12, $in->yes('names'));
    }

    /** @return list<int> */
    public function layers(): array
    {
        return [$this->reading->layer];
    }

    /** @return list<int> */
    public function slices(): array
    {
        return $this->reading->slice === null ? [] : [$this->reading->slice];
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        return $facts->photos($this);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'layer' => $this->reading->layer,
            'slice' => $this->reading->slice,
            'count' => $this->count,
            'names' => $this->names,
        ];
    }
}
