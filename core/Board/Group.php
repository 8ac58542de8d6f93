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
     * What was measured one by one, put together.
     *
     * @param  array<array-key, list<string|null>>  $keys  by the name of the group
     * @param  array<array-key, array<int, Figure>>  $found  by the name of the group and the place of the measure
     * @param  array<int, Measure>  $measures
     * @return list<self>
     */
    public static function joined(array $keys, array $found, array $measures): array
    {
        return array_map(
            static fn (string|int $name): self => new self($keys[$name], array_map(
                static fn (Measure $m, int $i): Figure => $found[$name][$i] ?? Figure::ofNothing($m),
                $measures,
                array_keys($measures),
            )),
            array_keys($found),
        );
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
