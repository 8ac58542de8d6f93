<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;
use PinYard\Geo\GeometryKind;

/** Which share of areas, or of lines, somebody walked within so many metres of in the last days. */
final readonly class CoverageTile extends Tile
{
    private function __construct(Frame $frame, public Reading $reading, public int $metres, public int $days)
    {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'coverage';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        if ($in->design($reading->layer)->geometry === GeometryKind::Point) {
            throw $in->refused('coverage_points', 'layer', $reading->layer);
        }

        return new self(
            $frame,
            $reading,
            $in->whole('metres', 5, 500, 50) ?? 50,
            $in->whole('days', 1, 400, 7) ?? 7,
        );
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

    public function tellsPeople(): bool
    {
        return true;
    }

    public function work(): array
    {
        return ['trails'];
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        return $facts->coverage($this);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'layer' => $this->reading->layer,
            'slice' => $this->reading->slice,
            'metres' => $this->metres,
            'days' => $this->days,
        ];
    }
}
