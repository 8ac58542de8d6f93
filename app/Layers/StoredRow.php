<?php

declare(strict_types=1);

namespace App\Layers;

use PinYard\Design\LayerDesign;
use stdClass;

/** What the columns of a row of a layer's table say. */
final class StoredRow
{
    /** @return array<string, string|int|float|bool|list<string>|null> */
    public static function values(LayerDesign $design, stdClass $row): array
    {
        $values = [];
        foreach ($design->valueFields() as $field) {
            $values[$field->key] = StoredValue::fromColumn($field->valueKind(), $row->{$field->column()} ?? null);
        }

        return $values;
    }

    /** What the record is called: the value of the design's name field, a choice by its label. */
    public static function name(LayerDesign $design, stdClass $row): ?string
    {
        $field = $design->nameField();

        return $field === null ? null : StoredValue::shown($field, $row->{$field->column()} ?? null);
    }

    /** A date and time of the database (UTC) as RFC 3339. */
    public static function instant(string $text): string
    {
        return str_replace(' ', 'T', $text).'Z';
    }
}
