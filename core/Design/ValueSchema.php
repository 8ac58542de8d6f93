<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * The rules for one record's values as a JSON Schema (draft 2020-12), for the phone.
 *
 * It must answer as {@see \PinYard\Record\ValueCheck} does; tests/vectors/values holds the cases.
 * A null and a missing key both mean "no value".
 */
final class ValueSchema
{
    /** At least one character that is no blank; spelled out because `\S` differs between regular expression engines. */
    private const NOT_BLANK = '[^ \\t\\r\\n]';

    /** Years that every part of the system can hold. */
    public const DATE = '^[1-9][0-9]{3}-[0-9]{2}-[0-9]{2}$';

    /** @return array<string, mixed> */
    public static function of(LayerDesign $design): array
    {
        $properties = [];
        $required = [];
        foreach ($design->fields as $field) {
            if ($field->required) {
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

    /** @return array<string, mixed> */
    private static function rule(Field $field): array
    {
        $orNull = static fn (string $type): string|array => $field->required ? $type : [$type, 'null'];

        return match ($field->kind) {
            FieldKind::ShortText => ['type' => $orNull('string'), 'maxLength' => $field->most ?? Field::SHORT_TEXT_MOST]
                + ($field->required ? ['pattern' => self::NOT_BLANK] : []),
            FieldKind::WholeNumber => [
                'type' => $orNull('integer'),
                'minimum' => $field->lowest ?? -Field::WHOLE_MOST,
                'maximum' => $field->highest ?? Field::WHOLE_MOST,
            ],
            FieldKind::OneChoice => ['enum' => [
                ...array_map(static fn (Choice $c): string => $c->code, $field->choices),
                ...($field->required ? [] : [null]),
            ]],
            FieldKind::Date => ['type' => $orNull('string'), 'format' => 'date', 'pattern' => self::DATE],
        };
    }
}
