<?php

declare(strict_types=1);

namespace PinYard\Board;

/** What is told of many records at once. */
enum MeasureKind: string
{
    case Count = 'count';
    case Sum = 'sum';
    case Mean = 'mean';
    case Median = 'median';
    /** By linear interpolation between ranks, R's type 7 (Hyndman and Fan 1996). */
    case Quantile = 'quantile';
    /** Standard deviation of a sample, divided by n - 1. */
    case Deviation = 'deviation';
    case Least = 'least';
    case Most = 'most';
    /** How many different values. */
    case Distinct = 'distinct';
    /** How many of a hundred are in a slice. */
    case Share = 'share';
    /** One measure by another. */
    case Ratio = 'ratio';
    /** Kilometres that people walked, by their trails. */
    case Walked = 'walked';
    /** Hours that people were out, by their trails. */
    case Hours = 'hours';

    public function needsQuantity(): bool
    {
        return ! in_array($this, [self::Count, self::Share, self::Ratio], true) && ! $this->isEffort();
    }

    /** Whether those of the groups add up to that of all. */
    public function adds(): bool
    {
        return $this === self::Count || $this === self::Sum || $this->isEffort();
    }

    /** Whether it is of people's ways and not of records. */
    public function isEffort(): bool
    {
        return $this === self::Walked || $this === self::Hours;
    }

    /** Whether it has the unit of what is measured. */
    public function keepsUnit(): bool
    {
        return $this->needsQuantity() && $this !== self::Distinct;
    }
}
