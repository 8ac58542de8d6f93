<?php

declare(strict_types=1);

namespace PinYard\Design;

/** One column of a layer's table; `length` is in characters. */
final readonly class Column
{
    /** @param  'text'|'whole'|'code'|'date'  $type */
    private function __construct(public string $name, public string $type, public ?int $length = null)
    {
    }

    public static function of(Field $field): self
    {
        return match ($field->kind) {
            FieldKind::ShortText => new self($field->column(), 'text', Field::SHORT_TEXT_MOST),
            FieldKind::WholeNumber => new self($field->column(), 'whole'),
            FieldKind::OneChoice => new self($field->column(), 'code', 40),
            FieldKind::Date => new self($field->column(), 'date'),
        };
    }
}
