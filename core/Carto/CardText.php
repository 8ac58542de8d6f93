<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Formula;
use PinYard\Refused;

/**
 * The sentences of a card: words with values between them, each sentence said always or only of records that it fits. A
 * value keeps its kind, so that each reader gets dates in their own way; one that is missing is said to be.
 */
final readonly class CardText
{
    public const MOST_LINES = 12;

    public const MOST_PARTS = 20;

    public const LONGEST_TEXT = 300;

    private const TESTS = ['there', 'missing', 'is', 'is_not', 'at_least', 'below'];

    /** Tests that need something to compare with. */
    private const COMPARED = ['is', 'is_not', 'at_least', 'below'];

    /**
     * @param  list<array{parts: non-empty-list<array<string, string|true>>, only: array{field: string, test: string,
     *     value?: scalar}|null}>  $lines
     * @param  array<array-key, Formula>  $formulas  by their texts
     */
    private function __construct(public array $lines, private array $formulas = [])
    {
    }

    public function formulaOf(string $text): ?Formula
    {
        return $this->formulas[$text] ?? null;
    }

    /**
     * Reads `[{parts: [{text} | {field, as?: 'ago'} | {formula} | {tally: true}], only?: {field, test, value?}}]`. A
     * sentence without anything in it is left out. A formula is worked out for the card alone, as in Build.
     *
     * @throws Refused naming the sentence and what is wrong with it
     */
    public static function read(mixed $in, LayerDesign $design, string $at): self
    {
        if (! is_array($in) || ! array_is_list($in) || count($in) > self::MOST_LINES) {
            throw Refused::because('card_lines', $at, null, ['most' => self::MOST_LINES]);
        }
        $lines = [];
        $formulas = [];
        foreach ($in as $i => $line) {
            $given = is_array($line) ? $line['parts'] ?? null : null;
            if (! is_array($line) || ! is_array($given) || count($given) > self::MOST_PARTS) {
                throw Refused::because('card_parts', "$at/$i", null, ['most' => self::MOST_PARTS]);
            }
            $parts = [];
            foreach (array_values($given) as $n => $part) {
                $read = self::part($part, $design, "$at/$i/parts/$n");
                if (isset($read['formula'])) {
                    $text = (string) $read['formula'];
                    $formulas[$text] ??= RecordFormula::read($text, $design, "$at/$i/parts/$n");
                }
                $parts[] = $read;
            }
            $parts = array_values(array_filter($parts, static fn (array $p): bool => ($p['text'] ?? null) !== ''));
            if ($parts !== []) {
                $only = $line['only'] ?? null;
                $lines[] = [
                    'parts' => $parts,
                    'only' => $only === null ? null : self::only($only, $design, "$at/$i/only"),
                ];
            }
        }

        return new self($lines, $formulas);
    }

    /**
     * @return array<string, string|true>
     *
     * @throws Refused
     */
    private static function part(mixed $part, LayerDesign $design, string $at): array
    {
        $key = is_array($part) ? $part['field'] ?? null : null;
        $text = is_array($part) ? $part['text'] ?? null : null;
        if (is_string($key)) {
            $field = $design->field($key);
            if ($field?->hasValue() !== true) {
                throw Refused::because('label_field', $at, $key);
            }
            $ago = ($part['as'] ?? null) === 'ago' && self::isMoment($field);

            return ['field' => $key] + ($ago ? ['as' => 'ago'] : []);
        }
        $formula = is_array($part) ? $part['formula'] ?? null : null;
        if (is_string($formula) && mb_strlen($formula) <= RecordFormula::LONGEST) {
            return ['formula' => $formula];
        }
        if (is_array($part) && ($part['tally'] ?? null) === true) {
            return ['tally' => true];
        }
        if (is_string($text) && mb_strlen($text) <= self::LONGEST_TEXT) {
            return ['text' => $text];
        }

        throw Refused::because('label_text', $at, is_scalar($text) ? $text : null, ['most' => self::LONGEST_TEXT]);
    }

    public static function isMoment(Field $field): bool
    {
        return in_array($field->valueKind(), [FieldKind::Date, FieldKind::DateTime], true);
    }

    /**
     * @return array{field: string, test: string, value?: scalar}
     *
     * @throws Refused
     */
    private static function only(mixed $only, LayerDesign $design, string $at): array
    {
        $key = is_array($only) ? $only['field'] ?? null : null;
        $test = is_array($only) ? $only['test'] ?? null : null;
        $value = is_array($only) ? $only['value'] ?? null : null;
        if (! is_string($key) || $design->field($key)?->hasValue() !== true) {
            throw Refused::because('label_field', $at, is_scalar($key) ? $key : null);
        }
        if (! in_array($test, self::TESTS, true)) {
            throw Refused::because('card_test', $at, is_scalar($test) ? $test : null);
        }
        if (! in_array($test, self::COMPARED, true)) {
            return ['field' => $key, 'test' => $test];
        }

        return is_scalar($value)
            ? ['field' => $key, 'test' => $test, 'value' => $value]
            : throw Refused::because('card_value', $at);
    }

    /**
     * One that is stored. Sentences about fields that have left the design are left out.
     */
    public static function stored(mixed $in, LayerDesign $design): self
    {
        $lines = $formulas = [];
        foreach (is_array($in) ? array_values($in) : [] as $line) {
            try {
                $read = self::read([$line], $design, 'card/text');
                array_push($lines, ...$read->lines);
                $formulas += $read->formulas;
            } catch (Refused) {
                continue;
            }
        }

        return new self($lines, $formulas);
    }

    /** @return array<array-key, list<mixed>> portable trees of its formulas, by their texts */
    public function trees(): array
    {
        return array_map(static fn (Formula $f): array => $f->tree, $this->formulas);
    }

    /** @return list<string> keys of the fields whose values it says */
    public function said(): array
    {
        $keys = [];
        foreach ($this->lines as $line) {
            array_push($keys, ...array_column($line['parts'], 'field'));
        }

        return array_values(array_unique(array_filter($keys, is_string(...))));
    }

    /** @return list<string> keys of the fields that it says or asks for */
    public function fields(): array
    {
        $keys = $this->said();
        foreach ($this->formulas as $formula) {
            array_push($keys, ...$formula->fields);
        }
        foreach ($this->lines as $line) {
            $keys[] = $line['only']['field'] ?? null;
        }

        return array_values(array_unique(array_filter($keys, is_string(...))));
    }

    /**
     * The sentences that fit a record.
     *
     * @param  callable(string): (string|int|float|bool|list<string>|null)  $value  of a field, by its key
     * @return list<non-empty-list<array<string, string|true>>> their parts
     */
    public function fitting(callable $value): array
    {
        $lines = [];
        foreach ($this->lines as $line) {
            if ($line['only'] === null || self::fits($line['only'], $value($line['only']['field']))) {
                $lines[] = $line['parts'];
            }
        }

        return $lines;
    }

    /**
     * @param  array{field: string, test: string, value?: scalar}  $only
     * @param  string|int|float|bool|list<string>|null  $value
     */
    private static function fits(array $only, string|int|float|bool|array|null $value): bool
    {
        $asked = $only['value'] ?? null;
        $missing = $value === null || $value === '' || $value === [];
        $same = match (true) {
            is_array($value) => in_array($asked, $value, true),
            is_int($value), is_float($value) => is_numeric($asked) && (float) $asked === (float) $value,
            default => $value === $asked,
        };

        return match ($only['test']) {
            'there' => ! $missing,
            'missing' => $missing,
            'is' => ! $missing && $same,
            'is_not' => $missing || ! $same,
            default => ! $missing &&
                ! is_array($value) &&
                ($only['test'] === 'below') ===
                (is_numeric($value) && is_numeric($asked)
                    ? (float) $value < (float) $asked
                    : (string) $value < (string) $asked),
        };
    }

    /** @return list<array<string, mixed>> */
    public function toArray(): array
    {
        return $this->lines;
    }
}
