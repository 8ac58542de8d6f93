<?php

declare(strict_types=1);

namespace PinYard\Board;

/** What was measured of the records of one group. */
final readonly class Group
{
    /**
     * @param  list<string|null>  $keys  one for each grouping: a code, a day, a number of a crew; null: has none
     * @param  list<Figure>  $figures  one for each measure
     */
    public function __construct(public array $keys, public array $figures)
    {
    }

    /**
     * Tells groups apart.
     *
     * @param  list<string|null>  $keys
     */
    public static function nameOf(array $keys): string
    {
        return implode("\0", array_map(static fn (?string $k): string => $k === null ? '-' : "=$k", $keys));
    }
}
