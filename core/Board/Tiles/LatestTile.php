<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** The records that were collected, or that arrived, last. */
final readonly class LatestTile extends Tile
{
    private const MOST = 50;

    private const MOST_FIELDS = 4;

    /**
     * @param  list<string>  $fields  keys of what is told beside the name
     * @param  'collected'|'arrived'  $by
     * @param  bool  $names  whether whoever has the link is told what records are called
     */
    private function __construct(
        Frame $frame,
        public Reading $reading,
        public array $fields,
        public string $by,
        public int $count,
        public bool $names,
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
        $fields = $in->value('fields');
        if ($fields === null) {
            $first = $design->choiceFields()[0] ?? null;
            $fields = $first === null ? [] : [$first->key];
        }
        if (! is_array($fields) || ! array_is_list($fields) || count($fields) > self::MOST_FIELDS) {
            throw $in->refused('latest_fields', 'fields', null, ['most' => self::MOST_FIELDS]);
        }
        $keys = [];
        foreach ($fields as $i => $key) {
            if (! is_string($key) || $design->field($key)?->hasValue() !== true) {
                throw $in->refused('field_unknown', "fields/$i", $key, ['key' => is_string($key) ? $key : '']);
            }
            $keys[] = $key;
        }

        return new self(
            $frame,
            $reading,
            array_values(array_unique($keys)),
            $in->word('order', ['collected', 'arrived']),
            $in->whole('count', 1, self::MOST, 8) ?? 8,
            $in->yes('names'),
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
        ];
    }
}
