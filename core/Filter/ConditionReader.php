<?php

declare(strict_types=1);

namespace PinYard\Filter;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Moment;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** Reads the lines of a filter: `{field, test, value}`, with `of: "visit"` for what the latest visit says. */
final readonly class ConditionReader
{
    /** Metres: beyond that the flat reckoning of a distance would no longer be good to a metre or so. */
    public const FARTHEST = 100_000;

    private const MOST_DAYS = 3_660;

    private const MOST_VALUES = 500;

    public function __construct(private LayerDesign $design, private ?LayerDesign $visits)
    {
    }

    /** @throws Refused */
    public function read(mixed $in, string $at): Condition
    {
        $in = is_array($in) ? $in : [];
        $key = $in['field'] ?? null;
        $subject = is_string($key)
            ? Subject::of($key, ($in['of'] ?? null) === 'visit', $this->design, $this->visits)
            : null;
        if ($subject === null) {
            throw Refused::because('field_unknown', $at, is_scalar($key) ? $key : null, [
                'key' => is_scalar($key) ? $key : '',
            ]);
        }
        $test = is_string($in['test'] ?? null) ? Test::tryFrom($in['test']) : null;
        if ($test === null || ! in_array($test, $subject->tests, true)) {
            throw Refused::because('test_unfit', $at, is_scalar($in['test'] ?? null) ? $in['test'] : null, [
                'key' => $subject->field->label ?? $subject->key,
                'known' => implode(', ', array_map(static fn (Test $t): string => $t->value, $subject->tests)),
            ]);
        }

        return new Condition($subject, $test, $this->value($subject, $test, $in['value'] ?? null, $at));
    }

    /**
     * @return string|int|float|bool|array<array-key, mixed>|null
     *
     * @throws Refused
     */
    private function value(Subject $subject, Test $test, mixed $value, string $at): string|int|float|bool|array|null
    {
        $one = static fn (mixed $v): bool => self::fits($subject, $test, $v);
        $fits = match ($test) {
            Test::Today, Test::ThisWeek, Test::Missing, Test::There => $value === null,
            Test::LastDays => is_int($value) && $value >= 1 && $value <= self::MOST_DAYS,
            Test::OneOf, Test::NoneOf => is_array($value) &&
                $value !== [] &&
                count($value) <= self::MOST_VALUES &&
                array_is_list($value) &&
                array_filter($value, static fn (mixed $v): bool => ! $one($v)) === [],
            Test::Between => is_array($value) &&
                array_is_list($value) &&
                count($value) === 2 &&
                $one($value[0]) &&
                $one($value[1]),
            Test::InArea => self::isArea($value),
            Test::InShape => self::isPolygon($value, $at),
            Test::Within => self::isAround($value),
            default => $one($value),
        };
        if (! $fits) {
            throw Refused::because('filter_value', $at, is_scalar($value) ? $value : null, [
                'key' => $subject->field->label ?? $subject->key,
            ]);
        }
        if ($test === Test::Between && is_array($value) && $value[0] > $value[1]) {
            throw Refused::because('filter_order', $at, null, [
                'key' => $subject->field->label ?? $subject->key,
                'lowest' => is_scalar($value[0]) ? $value[0] : null,
                'highest' => is_scalar($value[1]) ? $value[1] : null,
            ]);
        }

        return is_array($value) || is_scalar($value) ? $value : null;
    }

    private static function fits(Subject $subject, Test $test, mixed $value): bool
    {
        $field = $subject->field;
        $day = is_string($value) && Moment::date($value) !== null;
        $number = (is_int($value) || (is_float($value) && is_finite($value))) && abs($value) <= Field::DECIMAL_MOST;

        return match ($field?->valueKind()) {
            FieldKind::WholeNumber, FieldKind::Decimal => $number,
            FieldKind::YesNo => is_bool($value),
            FieldKind::OneChoice, FieldKind::SeveralChoices => is_string($value) && $field->choice($value) !== null,
            FieldKind::Date, FieldKind::DateTime => $day,
            FieldKind::Time => Moment::time($value) !== null,
            FieldKind::ShortText, FieldKind::LongText => is_string($value) &&
                trim($value, " \t\r\n") !== '' &&
                mb_strlen($value) <= Field::SHORT_TEXT_MOST,
            FieldKind::Calculated, FieldKind::Heading => false,
            null => match ($subject->key) {
                Subject::COLLECTED => $day,
                Subject::CREW => is_int($value) && $value > 0,
                Subject::OWN => $value === true,
                Subject::ACCEPTED => is_bool($value),
                Subject::VISITS => is_int($value) && $value >= 0 && $value <= 1_000_000,
                default => false,
            },
        };
    }

    private static function isArea(mixed $value): bool
    {
        if (! is_array($value) || ! is_int($value['layer'] ?? null) || count($value) !== 2) {
            return false;
        }
        try {
            RecordId::of($value['record'] ?? null);
        } catch (Refused) {
            return false;
        }

        return true;
    }

    /** @throws Refused saying what is wrong with the shape */
    private static function isPolygon(mixed $value, string $at): bool
    {
        try {
            Shape::fromGeoJson($value, GeometryKind::Area);
        } catch (Refused $e) {
            throw Refused::because($e->problems[0]->code, $at, null, $e->problems[0]->params);
        }

        return true;
    }

    private static function isAround(mixed $value): bool
    {
        if (! is_array($value) || count($value) !== 3) {
            return false;
        }
        $numbers = [];
        foreach (['lon', 'lat', 'metres'] as $name) {
            $number = $value[$name] ?? null;
            if ((! is_int($number) && ! is_float($number)) || ! is_finite((float) $number)) {
                return false;
            }
            $numbers[] = (float) $number;
        }
        [$lon, $lat, $metres] = $numbers;

        return abs($lon) <= 180 && abs($lat) <= 90 && $metres > 0 && $metres <= self::FARTHEST;
    }
}
