<?php

declare(strict_types=1);

namespace PinYard\Import;

/** Whatever knows places by their names. The one that ships reads a table; another geocoder can stand in its place. */
interface Gazetteer
{
    /** @return list<array{name: string, of: string, lon: float, lat: float}> places that may be meant, in no order */
    public function candidates(string $text): array;
}
