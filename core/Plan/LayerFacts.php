<?php

declare(strict_types=1);

namespace PinYard\Plan;

use PinYard\Design\LayerDesign;

/** What the ready check must know of one layer. */
final readonly class LayerFacts
{
    /** @param  bool  $tried  whether a record was entered and deleted again */
    public function __construct(
        public int $id,
        public LayerDesign $design,
        public bool $hasMap,
        public bool $tried,
    ) {
    }
}
