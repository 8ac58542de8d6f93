<?php

declare(strict_types=1);

namespace PinYard\Import;

/** Whatever turns coordinates of another reference system into longitude and latitude on WGS 84. */
interface Projection
{
    /**
     * @param  list<array{float, float}>  $pairs
     * @return list<array{float, float}|null> in the same order; null where the system has no such place
     */
    public function degrees(array $pairs, string $system): array;
}
