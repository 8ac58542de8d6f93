<?php

declare(strict_types=1);

namespace PinYard\Stats;

/** How numbers are put into classes. */
enum Method: string
{
    /** Where the values part by themselves: the least sum of squared distances within classes. */
    case Natural = 'natural';
    /** As many values in each. */
    case Quantile = 'quantile';
    /** As wide each. */
    case Equal = 'equal';
    /** Whole or half deviations from the mean. */
    case Deviation = 'deviation';
    /** Round numbers, about as many classes as asked. */
    case Round = 'round';
    case Hand = 'hand';
}
