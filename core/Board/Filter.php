<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Moment;
use PinYard\Refused;

/**
 * The filter tree: all, or any, of its parts, which are conditions or filters again. Slices, boards, search and exports
 * use this one form; App\Layers\FilterSql turns it into bound SQL.
 */
final readonly class Filter
{
    private const DEEPEST = 5;

    private const MOST_PARTS = 50;

    /** Tests that fit each kind of field. */
    private const TESTS = [
        'short_text' => ['is'],
        'long_text' => ['is'],
        'whole_number' => ['is', 'at_least', 'at_most'],
        'decimal' => ['is', 'at_least', 'at_most'],
        'yes_no' => ['is'],
        'one_choice' => ['is', 'one_of'],
        'several_choices' => ['has'],
        'date' => ['is', 'since', 'until', 'last_days'],
        'time' => ['is', 'at_least', 'at_most'],
        'date_time' => ['since', 'until', 'last_days'],
        'collected_at' => ['since', 'until', 'last_days'],
    ];

    /** @param  list<Condition|self>  $parts */
    private function __construct(public bool $any, public array $parts)
    {
    }

    public static function everything(): self
    {
        return new self(false, []);
    }

    /**
     * Reads `{all: [...]}` or `{any: [...]}`.
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design, string $at = 'filter', int $depth = 0): self
    {
        $word = is_array($in) && array_key_exists('any', $in) ? 'any' : 'all';
        $list = is_array($in) ? $in[$word] ?? null : null;
        if (! is_array($in) || count($in) !== 1 || ! is_array($list) || ! array_is_list($list)) {
            throw Refused::because('filter_shape', $at);
        }
        if ($depth > self::DEEPEST || count($list) > self::MOST_PARTS) {
            throw Refused::because('filter_too_big', $at, count($list), ['most' => self::MOST_PARTS]);
        }
        $parts = [];
        foreach ($list as $i => $part) {
            $here = "$at/$word/$i";
            $parts[] =
                is_array($part) && ! array_key_exists('field', $part)
                    ? self::read($part, $design, $here, $depth + 1)
                    : self::condition($part, $design, $here);
        }

        return new self($word === 'any', $parts);
    }

    /** @throws Refused */
    private static function condition(mixed $in, LayerDesign $design, string $at): Condition
    {
        $key = is_array($in) ? $in['field'] ?? null : null;
        $test = is_array($in) ? $in['test'] ?? null : null;
        $value = is_array($in) ? $in['value'] ?? null : null;
        $field = is_string($key) ? $design->field($key) : null;
        if (! is_string($key) || (($field === null || ! $field->hasValue()) && $key !== 'collected_at')) {
            throw Refused::because('field_unknown', $at, is_scalar($key) ? $key : null, [
                'key' => is_scalar($key) ? $key : '',
            ]);
        }
        $tests = self::TESTS[$field === null ? 'collected_at' : $field->valueKind()->value] ?? [];
        if (! is_string($test) || ! in_array($test, $tests, true)) {
            throw Refused::because('test_unfit', $at, is_scalar($test) ? $test : null, [
                'key' => $key,
                'known' => implode(', ', $tests),
            ]);
        }
        $fits = match ($test) {
            'last_days' => is_int($value) && $value >= 1 && $value <= 3660,
            'at_least', 'at_most' => self::isValue($field, $value),
            'since', 'until' => is_string($value) && self::isDate($value),
            'one_of' => is_array($value) &&
                $value !== [] &&
                array_is_list($value) &&
                array_filter($value, static fn (mixed $v): bool => ! self::isValue($field, $v)) === [],
            default => self::isValue($field, $value),
        };
        if (! $fits) {
            throw Refused::because('filter_value', $at, is_scalar($value) ? $value : null, ['key' => $key]);
        }

        /** @var 'is'|'has'|'one_of'|'at_least'|'at_most'|'since'|'until'|'last_days' $test */
        /** @var string|int|float|bool|list<string> $value */
        return new Condition($key, $test, $value);
    }

    private static function isValue(?Field $field, mixed $value): bool
    {
        return match ($field?->valueKind()) {
            FieldKind::WholeNumber => is_int($value),
            FieldKind::Decimal => is_int($value) || is_float($value),
            FieldKind::YesNo => is_bool($value),
            FieldKind::OneChoice, FieldKind::SeveralChoices => is_string($value) && $field->choice($value) !== null,
            FieldKind::Date => is_string($value) && self::isDate($value),
            FieldKind::Time => Moment::time($value) !== null,
            FieldKind::ShortText, FieldKind::LongText => is_string($value) &&
                $value !== '' &&
                mb_strlen($value) <= Field::SHORT_TEXT_MOST,
            default => false,
        };
    }

    private static function isDate(string $value): bool
    {
        return preg_match('/^([1-9]\d{3})-(\d\d)-(\d\d)$/D', $value, $m) === 1 &&
            checkdate((int) $m[2], (int) $m[3], (int) $m[1]);
    }

    /** @return array<'all'|'any', list<mixed>> */
    public function toArray(): array
    {
        return [
            $this->any ? 'any' : 'all' => array_map(static fn (Condition|self $p): array => $p->toArray(), $this
                ->parts),
        ];
    }
}
