<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Pick;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;
use PinYard\Filter\Subject;

/** One of the programme's maps, or just the records of a layer. */
final readonly class MapTile extends Tile
{
    private function __construct(
        Frame $frame,
        public ?int $map,
        public ?Reading $reading,
        public bool $names,
    ) {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'map';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        return $in->value('map') !== null
            ? new self($frame, $in->map(), null, false)
            : new self($frame, null, $in->reading(), $in->yes('names'));
    }

    /** @return list<int> */
    public function layers(): array
    {
        return $this->reading === null ? [] : [$this->reading->layer];
    }

    /** @return list<int> */
    public function slices(): array
    {
        return $this->reading?->slice === null ? [] : [$this->reading->slice];
    }

    /** @return list<int> */
    public function maps(): array
    {
        return $this->map === null ? [] : [$this->map];
    }

    /**
     * What picking an area on it means.
     *
     * @param  int  $layer  number of the layer of areas
     * @param  string  $record  id of the area
     */
    public function pickArea(int $layer, string $record): Pick
    {
        return Pick::of($layer, [
            'field' => Subject::PLACE, 'test' => 'in_area', 'value' => ['layer' => $layer, 'record' => $record],
        ]);
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        return $facts->map($this);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'map' => $this->map,
            'layer' => $this->reading?->layer,
            'slice' => $this->reading?->slice,
            'names' => $this->names,
        ];
    }
}
