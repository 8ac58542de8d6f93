<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Stats\Distribution;

/** Measures the records that one viewer may see, under what was picked. */
interface Figures
{
    /**
     * Of all records of a reading.
     *
     * @param  non-empty-list<Measure>  $measures
     * @return list<Figure> one for each
     */
    public function of(Reading $reading, array $measures): array;

    /**
     * Of each group that has records.
     *
     * @param  non-empty-list<Measure>  $measures
     * @return list<Group> in no order
     */
    public function by(Reading $reading, array $measures, Grouping ...$by): array;

    /** Records that a figure must be of to be told; one where all are. */
    public function least(): int;

    /** How a number lies. */
    public function spread(Reading $reading, Quantity $quantity): Distribution;
}
