<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Type;

enum FieldKind: string
{
    case ShortText = 'short_text';
    case LongText = 'long_text';
    case WholeNumber = 'whole_number';
    case Decimal = 'decimal';
    case YesNo = 'yes_no';
    case Date = 'date';
    case Time = 'time';
    case DateTime = 'date_time';
    case OneChoice = 'one_choice';
    case SeveralChoices = 'several_choices';
    case Calculated = 'calculated';
    /** Parts a form; carries no value. */
    case Heading = 'heading';

    public function isText(): bool
    {
        return $this === self::ShortText || $this === self::LongText;
    }

    public function isNumber(): bool
    {
        return $this === self::WholeNumber || $this === self::Decimal;
    }

    public function isTime(): bool
    {
        return $this === self::Date || $this === self::Time || $this === self::DateTime;
    }

    /** Has a day of the calendar in it. */
    public function isDay(): bool
    {
        return $this === self::Date || $this === self::DateTime;
    }

    public function isChoice(): bool
    {
        return $this === self::OneChoice || $this === self::SeveralChoices;
    }

    /** What a formula sees of a value; null for what has none of its own. */
    public function type(): ?Type
    {
        return match ($this) {
            self::ShortText, self::LongText => Type::Text,
            self::WholeNumber, self::Decimal => Type::Number,
            self::YesNo => Type::YesNo,
            self::Date => Type::Date,
            self::Time => Type::Time,
            self::DateTime => Type::Instant,
            self::OneChoice => Type::Choice,
            self::SeveralChoices => Type::Choices,
            self::Calculated, self::Heading => null,
        };
    }

    /** The kind that keeps what a formula gives. */
    public static function keeping(Type $type): self
    {
        return match ($type) {
            Type::Number => self::Decimal,
            Type::YesNo => self::YesNo,
            Type::Date => self::Date,
            Type::Time => self::Time,
            Type::Instant => self::DateTime,
            Type::Text, Type::Choice, Type::Choices, Type::Missing => self::LongText,
        };
    }
}
