<?php

declare(strict_types=1);

namespace PinYard\Board;

/**
 * One thing on a board. `width` counts the columns of twelve that it takes, `height` rows; `names` says whether whoever
 * has the board's link is told what its records are called.
 */
final readonly class Tile
{
    public function __construct(
        public string $id,
        public TileKind $kind,
        public string $title,
        public int $layer,
        public ?int $slice,
        public ?string $field,
        public int $width,
        public int $height,
        public bool $names = false,
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'id' => $this->id,
            'kind' => $this->kind->value,
            'title' => $this->title,
            'layer' => $this->layer,
            'slice' => $this->slice,
            'field' => $this->field,
            'width' => $this->width,
            'height' => $this->height,
            'names' => $this->names,
        ];
    }
}
