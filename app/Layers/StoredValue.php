<?php

declare(strict_types=1);

namespace App\Layers;

use App\Texts;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;

/** One value between its form in JSON and its column. */
final class StoredValue
{
    /** @param  string|int|float|bool|list<string>|null  $value */
    public static function toColumn(FieldKind $kind, string|int|float|bool|array|null $value): string|int|float|null
    {
        return match (true) {
            $value === null => null,
            is_bool($value) => (int) $value,
            is_array($value) => implode(',', $value),
            $kind === FieldKind::DateTime => strtr((string) $value, ['T' => ' ', 'Z' => '']),
            default => $value,
        };
    }

    /** @return string|int|float|bool|list<string>|null */
    public static function fromColumn(FieldKind $kind, string|int|float|null $stored): string|int|float|bool|array|null
    {
        return $stored === null
            ? null
            : match ($kind) {
                FieldKind::WholeNumber => (int) $stored,
                FieldKind::Decimal => (float) $stored,
                FieldKind::YesNo => (bool) $stored,
                FieldKind::SeveralChoices => $stored === '' ? [] : explode(',', (string) $stored),
                FieldKind::Time => str_ends_with((string) $stored, ':00') && strlen((string) $stored) === 8
                    ? substr((string) $stored, 0, 5)
                    : (string) $stored,
                FieldKind::DateTime => str_replace(' ', 'T', substr((string) $stored, 0, 19)).'Z',
                default => (string) $stored,
            };
    }

    /** As a person reads it in a list: choices by their labels. */
    public static function shown(Field $field, string|int|float|null $stored): ?string
    {
        $value = self::fromColumn($field->valueKind(), $stored);

        return match (true) {
            $value === null => null,
            is_array($value) => implode(
                ', ',
                array_map(static fn (string $c): string => $field->choice($c)->label ?? $c, $value),
            ),
            is_bool($value) => Texts::of($value ? 'value.yes' : 'value.no'),
            is_float($value) => self::plain($value, $field->decimals ?? 6).
                ($field->unit === null ? '' : " $field->unit"),
            is_int($value) => $value.($field->unit === null ? '' : " $field->unit"),
            $field->kind === FieldKind::OneChoice => $field->choice($value)->label ?? $value,
            default => $value,
        };
    }

    /** A number without zeros at the end of its decimals; without decimals its zeros are its own. */
    private static function plain(float $value, int $decimals): string
    {
        $text = number_format($value, $decimals, '.', '');

        return Texts::number(str_contains($text, '.') ? rtrim(rtrim($text, '0'), '.') : $text);
    }
}
