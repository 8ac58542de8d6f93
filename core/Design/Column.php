<?php

declare(strict_types=1);

namespace PinYard\Design;

/** One column of a layer's table; `length` is in characters. */
final readonly class Column
{
    /** @param  'text'|'long'|'whole'|'decimal'|'yes_no'|'code'|'codes'|'date'|'time'|'date_time'  $type */
    private function __construct(public string $name, public string $type, public ?int $length = null)
    {
    }

    public static function of(Field $field): self
    {
        return self::keeping($field->column(), $field->valueKind());
    }

    public static function keeping(string $name, FieldKind $kind): self
    {
        return match ($kind) {
            FieldKind::ShortText => new self($name, 'text', Field::SHORT_TEXT_MOST),
            FieldKind::LongText => new self($name, 'long'),
            FieldKind::WholeNumber => new self($name, 'whole'),
            FieldKind::Decimal => new self($name, 'decimal'),
            FieldKind::YesNo => new self($name, 'yes_no'),
            FieldKind::OneChoice => new self($name, 'code', 40),
            FieldKind::SeveralChoices => new self($name, 'codes'),
            FieldKind::Date => new self($name, 'date'),
            FieldKind::Time => new self($name, 'time'),
            FieldKind::DateTime => new self($name, 'date_time'),
            FieldKind::Calculated, FieldKind::Heading => throw new \LogicException('no column of its own'),
        };
    }
}
