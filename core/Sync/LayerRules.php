<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\LayerDesign;

/** What a batch needs to know of one layer: its designs by version, and whether this person may add, whether its records are visits, which areas a place lies in. */
final readonly class LayerRules
{
    /** @param  array<int, LayerDesign>  $designs */
    public function __construct(public array $designs, public int $current, public bool $mayAdd, public \DateTimeZone $zone = new \DateTimeZone('UTC'), public bool $visits = false, public ?\Closure $areas = null)
    {
    }
}
