<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Moment;

/**
 * Turns a value of one kind into one of another where nothing is lost by it; what cannot be turned is told apart from
 * what is missing.
 */
final class Conversion
{
    /**
     * @param  string|int|float|bool|list<string>|null  $value
     * @return array{bool, string|int|float|bool|list<string>|null} whether it could be turned, and into what
     */
    public static function of(string|int|float|bool|array|null $value, Field $from, Field $to): array
    {
        if ($value === null) {
            return [true, null];
        }
        $turned = self::turn($value, $from, $to);

        return $turned === null || ValueRule::problem($to, $turned) !== null
            ? [false, null]
            : [true, ValueRule::clean($to, $turned)];
    }

    /**
     * @param  string|int|float|bool|list<string>  $value
     * @return string|int|float|bool|list<string>|null
     */
    private static function turn(
        string|int|float|bool|array $value,
        Field $from,
        Field $to,
    ): string|int|float|bool|array|null {
        $text = self::text($value, $from);

        return match ($to->kind) {
            FieldKind::ShortText, FieldKind::LongText => $text,
            FieldKind::WholeNumber => match (true) {
                is_bool($value) => (int) $value,
                is_float($value) => floor($value) === $value ? (int) $value : null,
                default => preg_match('/^\s*[+-]?\d{1,15}\s*$/D', $text) === 1 ? (int) trim($text) : null,
            },
            // A comma is a decimal comma only where no point says otherwise.
            FieldKind::Decimal => is_bool($value)
                ? (float) $value
                : (preg_match('/^\s*[+-]?\d{1,15}([.,]\d{1,15})?\s*$/D', $text) === 1
                    ? (float) str_replace(',', '.', trim($text))
                    : null),
            FieldKind::YesNo => match (mb_strtolower(trim($text))) {
                'yes', 'y', 'true', '1' => true,
                'no', 'n', 'false', '0' => false,
                default => null,
            },
            FieldKind::Date => Moment::date(substr(trim($text), 0, $from->kind === FieldKind::DateTime ? 10 : 40)),
            FieldKind::Time => Moment::time(trim($text)),
            FieldKind::DateTime => $from->kind === FieldKind::Date ? "{$text}T00:00:00Z" : Moment::instant(trim($text)),
            FieldKind::OneChoice => self::code(is_array($value) ? (count($value) === 1 ? $value[0] : '') : $text, $to),
            FieldKind::SeveralChoices => self::codes($value, $text, $to),
            FieldKind::Calculated, FieldKind::Heading => null,
        };
    }

    /** @param  string|int|float|bool|list<string>  $value */
    private static function text(string|int|float|bool|array $value, Field $from): string
    {
        return match (true) {
            is_array($value) => implode(
                ', ',
                array_map(static fn (string $c): string => $from->choice($c)->label ?? $c, $value),
            ),
            is_bool($value) => $value ? 'yes' : 'no',
            is_float($value) => rtrim(rtrim(sprintf('%.10F', $value), '0'), '.'),
            $from->kind === FieldKind::OneChoice => $from->choice((string) $value)->label ?? (string) $value,
            default => (string) $value,
        };
    }

    /** The code that a text names: as a code, or by its label, whatever its capitals. */
    private static function code(string $text, Field $to): ?string
    {
        $wanted = mb_strtolower(trim($text));
        foreach ($to->choices as $choice) {
            if (mb_strtolower($choice->code) === $wanted || mb_strtolower($choice->label) === $wanted) {
                return $choice->code;
            }
        }

        return null;
    }

    /**
     * @param  string|int|float|bool|list<string>  $value
     * @return list<string>|null
     */
    private static function codes(string|int|float|bool|array $value, string $text, Field $to): ?array
    {
        $codes = [];
        foreach (is_array($value) ? $value : explode(',', $text) as $part) {
            $code = self::code($part, $to);
            if ($code === null) {
                return null;
            }
            $codes[] = $code;
        }

        return array_values(array_unique($codes));
    }
}
