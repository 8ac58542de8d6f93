<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Moment;
use PinYard\Problem;

/**
 * Decides whether one value is what its field takes, as far as that depends on nothing else. The phone decides the same
 * with the JSON Schema of {@see ValueSchema}; tests/vectors/values.json holds the shared cases.
 */
final class ValueRule
{
    /** Missing, or nothing but blanks where something is needed, or a list without entries. */
    public static function isMissing(Field $field, mixed $value): bool
    {
        return $value === null ||
            $value === [] ||
            ($field->required && $field->kind->isText() && is_string($value) && trim($value, " \t\r\n") === '');
    }

    /** Whether a column of this field could hold a value, whatever limits and choices say of it today. */
    public static function isOfKind(Field $field, mixed $value): bool
    {
        return $value === null ||
            match ($field->valueKind()) {
                FieldKind::WholeNumber => is_int($value),
                FieldKind::Decimal => is_int($value) || is_float($value),
                FieldKind::YesNo => is_bool($value),
                FieldKind::Date => Moment::date($value) !== null,
                FieldKind::Time => Moment::time($value) !== null,
                FieldKind::DateTime => Moment::instant($value) !== null,
                FieldKind::SeveralChoices => is_array($value),
                default => is_string($value),
            };
    }

    public static function problem(Field $field, mixed $value): ?Problem
    {
        return match ($field->kind) {
            FieldKind::ShortText, FieldKind::LongText => self::text($field, $value),
            FieldKind::WholeNumber, FieldKind::Decimal => self::number($field, $value),
            FieldKind::YesNo => is_bool($value) ? null : self::off('not_yes_no', $field, $value),
            FieldKind::Date => Moment::date($value) === null ? self::off('not_date', $field, $value) : null,
            FieldKind::Time => Moment::time($value) === null ? self::off('not_time', $field, $value) : null,
            FieldKind::DateTime => Moment::instant($value) === null ? self::off('not_date_time', $field, $value) : null,
            FieldKind::OneChoice => is_string($value) && $field->choice($value) !== null
                ? null
                : self::unknown($field, $value),
            FieldKind::SeveralChoices => self::several($field, $value),
            FieldKind::Calculated, FieldKind::Heading => null,
        };
    }

    /**
     * A value that fits, in the form in which it is kept.
     *
     * @return string|int|float|bool|list<string>|null
     */
    public static function clean(Field $field, mixed $value): string|int|float|bool|array|null
    {
        $kept = match ($field->kind) {
            FieldKind::WholeNumber => is_float($value) ? (int) $value : $value,
            FieldKind::Decimal => is_int($value) ? (float) $value : $value,
            FieldKind::Time => Moment::time($value),
            FieldKind::DateTime => Moment::instant($value),
            default => $value,
        };
        if (is_array($kept)) {
            return $kept === [] ? null : array_values(array_filter($kept, is_string(...)));
        }

        return is_scalar($kept) ? $kept : null;
    }

    /**
     * Whether a value that its kind allows lies outside the field's limits.
     *
     * @param  string  $today  and `$now`, for limits that move with the clock
     */
    public static function outside(Field $field, mixed $value, string $today, string $now): ?Problem
    {
        if ($value === null || ($field->lowest === null && $field->highest === null)) {
            return null;
        }
        $limit = static fn (int|float|string|null $end): int|float|string|null => $end === 'today'
            ? $today
            : ($end === 'now'
                ? $now
                : $end);
        $before = static fn (mixed $a, mixed $b): bool => is_string($a) || is_string($b)
            ? is_string($a) && is_string($b) && strcmp($a, $b) < 0
            : $a < $b;
        [$lowest, $highest] = [$limit($field->lowest), $limit($field->highest)];

        return match (true) {
            $lowest !== null && $before($value, $lowest) => self::off('below_lowest', $field, $value, [
                'lowest' => $lowest,
            ]),
            $highest !== null && $before($highest, $value) => self::off('above_highest', $field, $value, [
                'highest' => $highest,
            ]),
            default => null,
        };
    }

    private static function text(Field $field, mixed $value): ?Problem
    {
        if (! is_string($value)) {
            return self::off('not_text', $field, $value);
        }
        $length = mb_strlen($value);
        if ($length > $field->longest()) {
            return self::off('text_too_long', $field, $value, ['most' => $field->longest(), 'length' => $length]);
        }
        $pattern = $field->pattern();

        return $pattern === null || preg_match("/$pattern/uD", $value) === 1
            ? null
            : self::off('not_shape', $field, $value, ['shape' => $field->shape]);
    }

    private static function number(Field $field, mixed $value): ?Problem
    {
        $whole = $field->kind === FieldKind::WholeNumber;
        $most = $whole ? Field::WHOLE_MOST : Field::DECIMAL_MOST;
        if ((! is_int($value) && ! is_float($value)) || ($whole && floor((float) $value) !== (float) $value)) {
            return self::off($whole ? 'not_whole' : 'not_number', $field, $value);
        }
        // A limit that asks is no limit here; what no part of the system could hold still is.
        $lowest = $field->asks ? -$most : $field->lowest ?? -$most;
        $highest = $field->asks ? $most : $field->highest ?? $most;

        return match (true) {
            $value < $lowest => self::off('below_lowest', $field, $value, ['lowest' => $lowest]),
            $value > $highest => self::off('above_highest', $field, $value, ['highest' => $highest]),
            default => null,
        };
    }

    private static function several(Field $field, mixed $value): ?Problem
    {
        if (! is_array($value) || ! array_is_list($value)) {
            return self::unknown($field, $value);
        }
        foreach ($value as $code) {
            if (! is_string($code) || $field->choice($code) === null) {
                return self::unknown($field, $code);
            }
        }

        return count(array_unique($value)) === count($value) ? null : self::off('choice_doubled', $field, $value);
    }

    private static function unknown(Field $field, mixed $value): Problem
    {
        $codes = array_map(static fn (Choice $c): string => $c->code, $field->choices);

        return self::off('choice_unknown', $field, $value, [
            'known' => implode(', ', array_slice($codes, 0, 8)).(count($codes) > 8 ? ', …' : ''),
        ]);
    }

    /** @param  array<string, scalar|null>  $params */
    public static function off(string $code, Field $field, mixed $value, array $params = []): Problem
    {
        $shown = self::shown($value);

        return new Problem($code, $field->key, $shown, ['label' => $field->label, 'value' => $shown] + $params);
    }

    /** Something short and scalar to name in a sentence. */
    public static function shown(mixed $value): int|float|string|null
    {
        return match (true) {
            is_string($value) => mb_strlen($value) > 60 ? mb_substr($value, 0, 60).'…' : $value,
            is_bool($value) => $value ? 'true' : 'false',
            is_int($value), is_float($value) => $value,
            $value === null => null,
            default => mb_substr(
                (string) json_encode($value, JSON_UNESCAPED_UNICODE | JSON_PARTIAL_OUTPUT_ON_ERROR),
                0,
                60,
            ),
        };
    }
}
