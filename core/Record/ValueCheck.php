<?php

declare(strict_types=1);

namespace PinYard\Record;

use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Design\ValueSchema;
use PinYard\Problem;

/**
 * Decides whether the values of one record are acceptable to a design.
 * The phone decides the same with {@see ValueSchema}; tests/vectors/values holds the shared cases.
 */
final readonly class ValueCheck
{
    /**
     * @param  array<string, string|int|null>  $values  one entry for each field of the design, null where there is no value
     * @param  list<Problem>  $problems
     */
    private function __construct(public array $values, public array $problems)
    {
    }

    /** @param  array<mixed>  $values field keys with their values */
    public static function against(LayerDesign $design, array $values): self
    {
        $clean = [];
        $problems = [];
        foreach (array_keys($values) as $key) {
            if ($design->field((string) $key) === null) {
                $problems[] = new Problem('field_unknown', (string) $key, self::shown($values[$key]), ['key' => (string) $key]);
            }
        }
        foreach ($design->fields as $field) {
            $value = $values[$field->key] ?? null;
            $problem = self::problem($field, $value);
            if ($problem !== null) {
                $problems[] = $problem;
                $clean[$field->key] = null;
            } else {
                $clean[$field->key] = is_float($value) ? (int) $value : (is_string($value) || is_int($value) ? $value : null);
            }
        }

        return new self($clean, $problems);
    }

    private static function problem(Field $field, mixed $value): ?Problem
    {
        if ($value === null || $field->required && $field->kind === FieldKind::ShortText && is_string($value) && trim($value, " \t\r\n") === '') {
            return $field->required ? self::off('required', $field, $value) : null;
        }

        return match ($field->kind) {
            FieldKind::ShortText => self::shortText($field, $value),
            FieldKind::WholeNumber => self::wholeNumber($field, $value),
            FieldKind::OneChoice => is_string($value) && $field->choice($value) !== null
                ? null
                : self::off('choice_unknown', $field, $value, ['known' => self::someCodes($field)]),
            FieldKind::Date => self::date($field, $value),
        };
    }

    private static function shortText(Field $field, mixed $value): ?Problem
    {
        if (! is_string($value)) {
            return self::off('not_text', $field, $value);
        }
        $most = $field->most ?? Field::SHORT_TEXT_MOST;
        $length = mb_strlen($value);

        return $length > $most ? self::off('text_too_long', $field, $value, ['most' => $most, 'length' => $length]) : null;
    }

    private static function wholeNumber(Field $field, mixed $value): ?Problem
    {
        if (is_float($value) && floor($value) === $value && abs($value) <= Field::WHOLE_MOST) {
            $value = (int) $value;
        }
        if (! is_int($value)) {
            return self::off('not_whole', $field, $value);
        }
        $lowest = $field->lowest ?? -Field::WHOLE_MOST;
        $highest = $field->highest ?? Field::WHOLE_MOST;

        return match (true) {
            $value < $lowest => self::off('below_lowest', $field, $value, ['lowest' => $lowest]),
            $value > $highest => self::off('above_highest', $field, $value, ['highest' => $highest]),
            default => null,
        };
    }

    private static function date(Field $field, mixed $value): ?Problem
    {
        if (! is_string($value) || preg_match('/'.ValueSchema::DATE.'/D', $value) !== 1) {
            return self::off('not_date', $field, $value);
        }
        [$year, $month, $day] = array_map('intval', explode('-', $value));

        return checkdate($month, $day, $year) ? null : self::off('not_date', $field, $value);
    }

    /** @param  array<string, scalar|null>  $params */
    private static function off(string $code, Field $field, mixed $value, array $params = []): Problem
    {
        $shown = self::shown($value);

        return new Problem($code, $field->key, $shown, ['label' => $field->label, 'value' => $shown] + $params);
    }

    /** Something short and scalar to name in a sentence. */
    private static function shown(mixed $value): int|float|string|null
    {
        return match (true) {
            is_string($value) => mb_strlen($value) > 60 ? mb_substr($value, 0, 60).'…' : $value,
            is_bool($value) => $value ? 'true' : 'false',
            is_int($value), is_float($value) => $value,
            $value === null => null,
            default => mb_substr((string) json_encode($value, JSON_UNESCAPED_UNICODE | JSON_PARTIAL_OUTPUT_ON_ERROR), 0, 60),
        };
    }

    private static function someCodes(Field $field): string
    {
        $codes = array_map(static fn (Choice $c): string => $c->code, $field->choices);

        return implode(', ', array_slice($codes, 0, 8)).(count($codes) > 8 ? ', …' : '');
    }
}
