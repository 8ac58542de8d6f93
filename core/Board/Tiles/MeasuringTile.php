<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\Quantity;
use PinYard\Board\Reading;
use PinYard\Board\Tile;

/** A tile that tells one measure of the records of one layer. */
abstract readonly class MeasuringTile extends Tile
{
    public function __construct(
        Frame $frame,
        public Reading $reading,
        public Measure $measure,
        public Format $format,
    ) {
        parent::__construct($frame);
    }

    /** @return list<Grouping> */
    protected function groupings(): array
    {
        return [];
    }

    /** @return list<int> */
    public function layers(): array
    {
        $areas = array_map(static fn (Grouping $g): ?int => $g->areas, $this->groupings());

        return array_values(array_unique([$this->reading->layer, ...array_filter($areas, is_int(...))]));
    }

    /** @return list<int> */
    public function slices(): array
    {
        return array_values(array_filter([$this->reading->slice, ...$this->measure->slices()], is_int(...)));
    }

    public function tellsPeople(): bool
    {
        return $this->measure->tellsPeople()
            || array_filter($this->groupings(), static fn (Grouping $g): bool => $g->tellsPeople()) !== [];
    }

    public function work(): array
    {
        return array_filter($this->measure->all(), static fn (Measure $m): bool => $m->kind->isEffort()) === []
            ? []
            : ['trails'];
    }

    public function tellsPersons(): bool
    {
        return array_filter(
            $this->measure->all(),
            static fn (Measure $m): bool => $m->quantity?->key === Quantity::PERSON,
        ) !== [] || array_filter($this->groupings(), static fn (Grouping $g): bool => $g->tellsPeople()) !== [];
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'layer' => $this->reading->layer,
            'slice' => $this->reading->slice,
            'measure' => $this->measure->toArray(),
        ] + $this->format->toArray();
    }
}
