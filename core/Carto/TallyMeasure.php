<?php

declare(strict_types=1);

namespace PinYard\Carto;

/** What is told of the records in an area. */
enum TallyMeasure: string
{
    case Count = 'count';
    case Sum = 'sum';
    case Mean = 'mean';
    case Least = 'least';
    case Most = 'most';
    /** How many of a hundred are in a slice. */
    case Share = 'share';
    /** The count, or the sum of a field, by what the area has. */
    case Rate = 'rate';

    public function needsField(): bool
    {
        return in_array($this, [self::Sum, self::Mean, self::Least, self::Most], true);
    }

    /** Whether a few records say little: a count of three is three, a share of three is a guess. */
    public function needsMany(): bool
    {
        return in_array($this, [self::Mean, self::Least, self::Most, self::Share, self::Rate], true);
    }
}
