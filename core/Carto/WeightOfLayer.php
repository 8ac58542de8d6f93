<?php

declare(strict_types=1);

namespace PinYard\Carto;

/** What one layer brings to a map. */
final readonly class WeightOfLayer
{
    /**
     * @param  int  $drawn  records that are sent
     * @param  int  $total  records that there are
     * @param  int  $bytes  of what is sent, before it is packed
     * @param  bool  $visible  whether it is drawn when the map opens
     */
    public function __construct(
        public string $title,
        public int $drawn,
        public int $total,
        public int $bytes,
        public bool $visible,
    ) {
    }
}
