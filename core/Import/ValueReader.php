<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\ValueRule;
use PinYard\Export\SafeCell;
use PinYard\Problem;

/** Turns the text of a cell into a value of a field, or says why it cannot be one. */
final class ValueReader
{
    /** @var array<string, string> code by label and by code, in small letters */
    private array $codes = [];

    /**
     * How many moments fell into an hour that a clock change skips or repeats: nobody can tell which moment was meant.
     */
    public int $odd = 0;

    /** @var array<string, string|null> dates read before; they come again and again */
    private array $dates = [];

    /** @param  string  $order  of day and month */
    public function __construct(
        private readonly Field $field,
        private readonly string $order,
        private readonly bool $comma,
        private readonly \DateTimeZone $zone,
    ) {
        foreach (array_reverse($field->choices) as $choice) {
            $this->codes[mb_strtolower($choice->label)] = $choice->code;
        }
        foreach (array_reverse($field->choices) as $choice) {
            $this->codes[mb_strtolower($choice->code)] = $choice->code;
        }
    }

    /** @return string|int|float|bool|list<string>|Problem|null null where nothing is said */
    public function read(string $text): string|int|float|bool|array|Problem|null
    {
        $kind = $this->field->kind;
        if ($kind === FieldKind::ShortText || $kind === FieldKind::LongText) {
            $text = SafeCell::back($text);
            $text =
                $kind === FieldKind::ShortText && strpbrk($text, "\r\n\t") !== false
                    ? (string) preg_replace('/\s+/u', ' ', $text)
                    : str_replace("\r\n", "\n", $text);
            $text = trim($text);

            return $text === ''
                ? null
                : (strlen($text) <= $this->field->longest() && $this->field->shape === null
                    ? $text
                    : ValueRule::problem($this->field, $text) ?? $text);
        }
        $text = trim($text);
        if ($text === '' || (strlen($text) <= 4 && in_array(strtolower($text), ColumnTally::MISSING, true))) {
            return null;
        }
        $value = match ($kind) {
            FieldKind::WholeNumber, FieldKind::Decimal => $this->number($text),
            FieldKind::YesNo => self::yesNo($text),
            FieldKind::Date => ($this->dates[$text] ??= $this->date($text)),
            FieldKind::Time => DateText::time($text),
            FieldKind::DateTime => $this->moment($text) ?? $this->midnight($text),
            FieldKind::OneChoice => $this->codes[mb_strtolower($text)] ?? null,
            FieldKind::SeveralChoices => $this->several($text),
            default => null,
        };
        if (count($this->dates) > 50_000) {
            $this->dates = [];
        }
        if ($value === null) {
            return $kind->isChoice()
                ? $this->unknown($text)
                : ValueRule::off('intake_'.$kind->value, $this->field, $text, ['order' => $this->order]);
        }

        return $kind->isNumber()
            ? ValueRule::problem($this->field, $value) ?? ValueRule::clean($this->field, $value)
            : $value;
    }

    private function moment(string $text): ?string
    {
        $at = DateText::moment($text, $this->order, $this->zone);
        if ($at !== null) {
            $this->odd += (int) DateText::isOdd($text, $this->order, $this->zone);
        }

        return $at;
    }

    private function number(string $text): int|float|null
    {
        $unit = $this->field->unit;
        if ($unit !== null && str_ends_with($text, $unit)) {
            $text = rtrim(substr($text, 0, -strlen($unit)));
        }

        return NumberText::read($text, $this->comma);
    }

    private function date(string $text): ?string
    {
        return DateText::date($text, $this->order) ??
            (($at = DateText::moment($text, $this->order, new \DateTimeZone('UTC'))) === null
                ? null
                : (preg_match('/00:00(:00)?/', $text) === 1
                    ? substr($at, 0, 10)
                    : null));
    }

    /** A date alone in a column of dates with times: its beginning. */
    private function midnight(string $text): ?string
    {
        $date = DateText::date($text, $this->order);

        return $date === null ? null : \PinYard\Formula\Moment::at($date, '00:00', $this->zone);
    }

    private static function yesNo(string $text): ?bool
    {
        $text = mb_strtolower($text);

        return match (true) {
            $text === '1' || $text === 'x' || in_array($text, ColumnTally::YES, true) => true,
            $text === '0' || in_array($text, ColumnTally::NO, true) => false,
            default => null,
        };
    }

    /** @return list<string>|null */
    private function several(string $text): ?array
    {
        $by = str_contains($text, ';') ? ';' : (str_contains($text, '|') ? '|' : ',');
        $codes = [];
        foreach (isset($this->codes[mb_strtolower($text)]) ? [$text] : explode($by, trim($text, '[]')) as $part) {
            $code = $this->codes[mb_strtolower(trim($part, " \t\"'"))] ?? null;
            if ($code === null) {
                return null;
            }
            $codes[] = $code;
        }

        return array_values(array_unique($codes));
    }

    private function unknown(string $text): Problem
    {
        $known =
            implode(
                ', ',
                array_slice(array_map(static fn (Choice $c): string => $c->label, $this->field->choices), 0, 8),
            ).(count($this->field->choices) > 8 ? ', …' : '');

        return ValueRule::off('choice_unknown', $this->field, $text, ['known' => $known]);
    }
}
