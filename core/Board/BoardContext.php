<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\LayerDesign;

/** What the tiles of a board can read: all that its programme has. */
final readonly class BoardContext
{
    /**
     * @param  array<int, LayerDesign>  $layers  by number
     * @param  array<int, int>  $slices  layer of each slice
     * @param  list<int>  $visited  numbers of the layers that visits are kept to
     * @param  list<int>  $maps  numbers
     */
    public function __construct(
        public array $layers,
        public array $slices = [],
        public array $visited = [],
        public array $maps = [],
    ) {
    }
}
