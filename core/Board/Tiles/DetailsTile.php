<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Frame;
use PinYard\Board\Reading;
use PinYard\Board\Tile;
use PinYard\Board\TileInput;

/** What there is of the record that is picked in a list, a strip of photos or a map beside it. */
final readonly class DetailsTile extends Tile
{
    private const MOST_FIELDS = 40;

    /**
     * @param  list<string>  $fields  keys, in the order of the card; none: all of the layer
     * @param  bool  $photos  whether its photos are shown
     * @param  bool  $names  whether whoever has the link is told what it is called
     */
    private function __construct(
        Frame $frame,
        public Reading $reading,
        public array $fields,
        public bool $photos,
        public bool $names,
    ) {
        parent::__construct($frame);
    }

    public static function kind(): string
    {
        return 'details';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();

        return new self(
            $frame,
            $reading,
            $in->fields($reading->layer, self::MOST_FIELDS),
            $in->yes('photo'),
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
        return $facts->details($this);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return [
            'layer' => $this->reading->layer,
            'slice' => $this->reading->slice,
            'fields' => $this->fields,
            'photo' => $this->photos,
            'names' => $this->names,
        ];
    }
}
