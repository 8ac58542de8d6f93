<?php

declare(strict_types=1);

namespace PinYard\Plan;

use PinYard\Design\LayerDesign;

/** What the ready check must know of one layer. */
final readonly class LayerFacts
{
    /**
     * @param  bool  $tried  whether a record was entered and deleted again
     * @param  bool  $isOpen  whether something that everyone with its link can open shows it
     * @param  bool  $exact  whether everyone with a link sees to the metre where its records are
     * @param  bool  $decided  whether somebody said what everyone with a link sees of it
     * @param  int  $waiting  records that nobody with the link sees because they are not accepted yet
     */
    public function __construct(
        public int $id,
        public LayerDesign $design,
        public bool $hasMap,
        public bool $tried,
        public bool $isOpen = false,
        public bool $exact = false,
        public bool $decided = false,
        public int $waiting = 0,
    ) {
    }
}
