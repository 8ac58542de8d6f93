<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * The rules for one record's values as a JSON Schema (draft 2020-12), for the phone.
 *
 * It must answer as {@see \PinYard\Design\ValueRule} does; tests/vectors/values holds the cases. A null and a missing
 * key both mean "no value". What depends on other fields or on the clock (conditions, limits of dates, limits that ask)
 * is in {@see FieldRules} and in the design itself.
 */
final class ValueSchema
{
    /** At least one character that is no blank; spelled out because `\S` differs between regular expression engines. */
    private const NOT_BLANK = '[^ \\t\\r\\n]';

    /** Years that every part of the system can hold. */
    public const DATE = '^[1-9][0-9]{3}-[0-9]{2}-[0-9]{2}$';

    private const TIME = '^([01][0-9]|2[0-3]):[0-5][0-9](:[0-5][0-9])?$';

    private const DATE_TIME = '^[1-9][0-9]{3}-[0-9]{2}-[0-9]{2}[Tt]([01][0-9]|2[0-3]):[0-5][0-9]:[0-5][0-9](\\.[0-9]{1,9})?([Zz]|[+-]([01][0-9]|2[0-3]):[0-5][0-9])$';

    /** @return array<string, mixed> */
    public static function of(LayerDesign $design): array
    {
        $properties = [];
        $required = [];
        foreach ($design->fields as $field) {
            if (! $field->hasValue() || $field->kind === FieldKind::Calculated) {
                continue;
            }
            // Where a condition decides whether there is such a field, the rules say what is needed.
            if (self::always($field)) {
                $required[] = $field->key;
            }
            $properties[$field->key] = self::rule($field);
        }

        return [
            '$schema' => 'https://json-schema.org/draft/2020-12/schema',
            'type' => 'object',
            'properties' => $properties === [] ? new \stdClass : $properties,
            'required' => $required,
            'additionalProperties' => false,
        ];
    }

    private static function always(Field $field): bool
    {
        return $field->required && $field->showWhen === null;
    }

    /** @return array<string, mixed> */
    private static function rule(Field $field): array
    {
        $orNull = static fn (string $type): string|array => self::always($field) ? $type : [$type, 'null'];
        $most = $field->kind === FieldKind::WholeNumber ? Field::WHOLE_MOST : Field::DECIMAL_MOST;
        $codes = array_map(static fn (Choice $c): string => $c->code, $field->choices);

        return match ($field->kind) {
            FieldKind::ShortText, FieldKind::LongText => [
                'type' => $orNull('string'),
                'maxLength' => $field->longest(),
            ] + array_filter(['pattern' => $field->pattern() ?? (self::always($field) ? self::NOT_BLANK : null)]),
            FieldKind::WholeNumber, FieldKind::Decimal => [
                'type' => $orNull($field->kind === FieldKind::WholeNumber ? 'integer' : 'number'),
                'minimum' => $field->asks ? -$most : $field->lowest ?? -$most,
                'maximum' => $field->asks ? $most : $field->highest ?? $most,
            ],
            FieldKind::YesNo => ['type' => $orNull('boolean')],
            FieldKind::Date => ['type' => $orNull('string'), 'format' => 'date', 'pattern' => self::DATE],
            FieldKind::Time => ['type' => $orNull('string'), 'pattern' => self::TIME],
            FieldKind::DateTime => ['type' => $orNull('string'), 'format' => 'date-time', 'pattern' => self::DATE_TIME],
            FieldKind::OneChoice => ['enum' => [...$codes, ...self::always($field) ? [] : [null]]],
            FieldKind::SeveralChoices => [
                'type' => $orNull('array'),
                'items' => ['enum' => $codes],
                'uniqueItems' => true,
            ] + (self::always($field) ? ['minItems' => 1] : []),
            FieldKind::Calculated, FieldKind::Heading => [],
        };
    }
}
