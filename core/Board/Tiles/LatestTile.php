<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** A list of records: those that were collected, or that arrived, last, or the first by their names. */
final readonly class LatestTile extends Tile
{
    private const MOST = 50;

    private const MOST_FIELDS = 4;

    /**
     * @param  list<string>  $fields  keys of what is told beside the name
     * @param  'collected'|'arrived'|'name'  $by
     * @param  bool  $names  whether whoever has the link is told what records are called
     * @param  bool  $photo  whether each has its first photo beside it
     */
    private function __construct(
        Frame $frame,
        public Reading $reading,
        public array $fields,
        public string $by,
        public int $count,
        public bool $names,
        public bool $photo,
    ) {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'latest';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        $design = $in->design($reading->layer);
        $first = $design->choiceFields()[0] ?? null;

        return new self(
            $frame,
            $reading,
            $in->fields($reading->layer, self::MOST_FIELDS, $first === null ? [] : [$first->key]),
            $in->word('order', ['collected', 'arrived', 'name']),
            $in->whole('count', 1, self::MOST, 8) ?? 8,
            $in->yes('names'),
            $in->yes('photo'),
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

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        return $facts->latest($this);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'layer' => $this->reading->layer,
            'slice' => $this->reading->slice,
            'fields' => $this->fields,
            'order' => $this->by,
            'count' => $this->count,
            'names' => $this->names,
            'photo' => $this->photo,
        ];
    }
}
