<?php

declare(strict_types=1);

namespace App\Records\Bits;

use App\Models\Layer;

/** What is counted by bits, opened once for each layer while one answer is made, and kept no longer. */
final class BitLayers
{
    /** @var array<int, BitLayer|null> */
    private array $open = [];

    /** @return BitLayer|null null where the layer is asked */
    public function of(Layer $layer): ?BitLayer
    {
        if (! array_key_exists($layer->id, $this->open)) {
            $this->open[$layer->id] = BitLayer::of($layer);
        }

        return $this->open[$layer->id];
    }
}
