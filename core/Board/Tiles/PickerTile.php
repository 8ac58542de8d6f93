<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Grouping;
use PinYard\Board\Line;
use PinYard\Board\Measure;
use PinYard\Board\Pick;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** Something to pick by: a category, a crew, an area, a span of days, a text. The other tiles follow. */
final readonly class PickerTile extends Tile
{
    /** Longer lists are searched and not listed. */
    private const MOST = 500;

    private function __construct(Frame $frame, private Reading $reading, private Grouping $by)
    {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'picker';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();

        return new self($frame, $reading, $in->grouping($reading->layer));
    }

    /** @return list<int> */
    public function layers(): array
    {
        return [$this->reading->layer, ...$this->by->areas === null ? [] : [$this->by->areas]];
    }

    /** @return list<int> */
    public function slices(): array
    {
        return $this->reading->slice === null ? [] : [$this->reading->slice];
    }

    public function tellsPeople(): bool
    {
        return $this->by->tellsPeople();
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        if ($this->by->isTime()) {
            return ['shape' => 'span', 'lines' => []];
        }
        $codes = [];
        foreach ($facts->figures()->by($this->reading, [Measure::count()], $this->by) as $group) {
            $codes[] = $group->keys[0];
        }
        $lines = $facts->lines($this->reading->layer, $this->by, $codes);

        return [
            'shape' => 'list',
            'lines' => array_map(
                static fn (Line $l): array => $l->toArray(),
                array_slice(
                    array_values(array_filter($lines, static fn (Line $l): bool => $l->code !== null)),
                    0,
                    self::MOST,
                ),
            ),
        ];
    }

    public function pick(string $value): ?Pick
    {
        if (! $this->by->isTime()) {
            return Pick::group($this->reading->layer, $this->by, $value);
        }

        return preg_match('/^(\d{4}-\d\d-\d\d)\.\.(\d{4}-\d\d-\d\d)$/D', $value, $m) === 1
            ? Pick::span($this->reading->layer, $this->by->key, $m[1], $m[2])
            : null;
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'layer' => $this->reading->layer,
            'slice' => $this->reading->slice,
            'by' => $this->by->toArray(),
        ];
    }
}
