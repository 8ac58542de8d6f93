<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Design\FieldKind;

/** What a column most likely holds. */
final readonly class ColumnGuess
{
    /** The share of cells that must fit a kind before it is proposed. */
    private const ENOUGH = 0.9;

    /** So many values at the most make a choice list, and each must come so often on average. */
    private const MOST_CHOICES = 40;

    private const OFTEN = 3;

    /**
     * @param  float  $confidence  share of the cells that fit, 0 to 1
     * @param  'ymd'|'dmy'|'mdy'|null  $order  of dates; null where the data cannot tell or there are none
     */
    private function __construct(
        public FieldKind $kind,
        public float $confidence,
        public ?string $order,
        public bool $comma,
    ) {
    }

    /** @param  FieldKind|null  $told  the kind that the file itself names */
    public static function of(ColumnTally $t, ?FieldKind $told = null): self
    {
        $n = max(1, $t->looked);
        $share = static fn (string $what): float => $t->could[$what] / $n;
        $order = self::order($t);
        $comma = $t->could['comma'] > $t->could['point'];
        if ($told !== null) {
            return new self(
                $told,
                1.0,
                $told === FieldKind::Date || $told === FieldKind::DateTime ? 'ymd' : null,
                false,
            );
        }
        if ($t->filled === 0) {
            return new self(FieldKind::ShortText, 0.0, null, false);
        }
        $number = max($share('point'), $share('comma'));
        $words = $t->could['yes_no'] + ($t->could['yes_no'] > 0 ? $t->could['bit'] : 0);
        $found = match (true) {
            $words === $t->looked && count($t->distinct) <= 4 => [FieldKind::YesNo, 1.0],
            $share('date') >= self::ENOUGH && $t->could['date'] > $t->could['moment'] => [
                FieldKind::Date,
                $share('date'),
            ],
            $share('moment') + $share('date') >= self::ENOUGH && $t->could['moment'] > 0 => [
                FieldKind::DateTime,
                $share('moment'),
            ],
            $share('time') >= self::ENOUGH => [FieldKind::Time, $share('time')],
            // 007 and 08540 are codes: as numbers they would lose their noughts.
            $t->could['zeros'] > 0 && $share('whole') >= self::ENOUGH => [FieldKind::ShortText, $share('whole')],
            $t->could['whole'] === $t->looked => [FieldKind::WholeNumber, 1.0],
            $number >= self::ENOUGH => [
                $share('whole') === $number ? FieldKind::WholeNumber : FieldKind::Decimal,
                $number,
            ],
            default => null,
        };
        if ($found !== null) {
            $dated = $found[0] === FieldKind::Date || $found[0] === FieldKind::DateTime;

            return new self($found[0], $found[1], $dated ? $order : null, $comma);
        }
        if (self::isChoice($t)) {
            return new self(FieldKind::OneChoice, min(1.0, 1 - count($t->distinct) / $n), null, false);
        }

        return new self(
            $t->longest > 200 ? FieldKind::LongText : FieldKind::ShortText,
            1.0 - max($number, $share('date'), $share('moment'), $share('time')),
            null,
            $comma,
        );
    }

    /** The same column, with another decimal sign. */
    public function withComma(bool $comma): self
    {
        return new self($this->kind, $this->confidence, $this->order, $comma);
    }

    /** The same column, where the order of its dates is not to be guessed. */
    public function undecided(): self
    {
        return new self($this->kind, $this->confidence, null, $this->comma);
    }

    private static function isChoice(ColumnTally $t): bool
    {
        return ! $t->many &&
            count($t->distinct) >= 2 &&
            count($t->distinct) <= self::MOST_CHOICES &&
            $t->longest <= 60 &&
            $t->filled >= self::OFTEN * count($t->distinct);
    }

    /** @return 'ymd'|'dmy'|'mdy'|null */
    private static function order(ColumnTally $t): ?string
    {
        ['dmy' => $dmy, 'mdy' => $mdy, 'ymd' => $ymd, 'either' => $either] = $t->orders;

        return match (true) {
            $dmy > 0 && $mdy === 0 => 'dmy',
            $mdy > 0 && $dmy === 0 => 'mdy',
            // Some say the one, some the other: that is for a person to decide.
            $dmy > 0 => null,
            $either === 0 && $ymd > 0 => 'ymd',
            default => null,
        };
    }
}
