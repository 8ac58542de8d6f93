<?php

declare(strict_types=1);

namespace PinYard\Filter;

/**
 * What a condition asks of a value. Each is true or false of every record, never neither: a value that is missing is
 * not at least 3 and not at most 3, and it *is not* 3.
 */
enum Test: string
{
    case Is = 'is';
    case IsNot = 'is_not';
    case OneOf = 'one_of';
    case NoneOf = 'none_of';
    case Contains = 'contains';
    case Has = 'has';
    case HasNot = 'has_not';
    case AtLeast = 'at_least';
    case AtMost = 'at_most';
    case Between = 'between';
    case Since = 'since';
    case Until = 'until';
    case LastDays = 'last_days';
    case Today = 'today';
    case ThisWeek = 'this_week';
    case Missing = 'missing';
    case There = 'there';
    case InArea = 'in_area';
    case InShape = 'in_shape';
    case Within = 'within';

    /** Whether it says all by itself. */
    public function isAlone(): bool
    {
        return match ($this) {
            self::Today, self::ThisWeek, self::Missing, self::There => true,
            default => false,
        };
    }
}
