<?php

declare(strict_types=1);

namespace App\Records\Bits;

use App\Layers\DayRange;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Bits\ChoiceSlots;
use PinYard\Bits\NotByBits;
use PinYard\Bits\NumberSlots;
use PinYard\Bits\Slots;
use PinYard\Design\FieldKind;
use PinYard\Filter\Condition;
use PinYard\Filter\Filter;
use PinYard\Filter\Joined;
use PinYard\Filter\Subject;
use PinYard\Filter\Test;

/** The one place where a filter becomes a set of slots; a test holds that it is what FilterSql finds. */
final readonly class BitFilter
{
    /** Seconds from the year nought to 1970, as the database counts. */
    private const EPOCH = 62_167_219_200;

    private \DateTimeZone $zone;

    /** @param  int|null  $person  whoever looks, for what is their own; null: nobody's */
    public function __construct(private BitLayer $bits, private Layer $layer, private ?int $person)
    {
        $this->zone = new \DateTimeZone($layer->programme->time_zone);
    }

    /** @throws NotByBits where one of its conditions is of something that is not kept */
    public function of(Filter $filter): \GMP
    {
        $sets = array_map(
            fn (Filter|Condition $part): \GMP => $part instanceof Filter ? $this->of($part) : $this->condition($part),
            $filter->parts,
        );
        if ($filter->joined === Joined::All) {
            return array_reduce($sets, static fn (\GMP $a, \GMP $b): \GMP => $a & $b, $this->bits->all());
        }
        $any = array_reduce($sets, static fn (\GMP $a, \GMP $b): \GMP => $a | $b, Slots::none());
        if ($filter->joined === Joined::Any) {
            return $any & $this->bits->all();
        }

        // None of nothing is everything, as in SQL.
        return Slots::without($this->bits->all(), $any);
    }

    private function condition(Condition $c): \GMP
    {
        $field = $c->subject->field;
        if ($c->subject->ofVisit) {
            throw new NotByBits('visits');
        }
        if ($field === null) {
            return match ($c->subject->key) {
                Subject::CREW => $this->crew($c),
                Subject::OWN => $this->bits->numbers(BitColumn::PERSON)->equalTo($this->person ?? 0),
                Subject::ACCEPTED => $this->accepted($c->value === true),
                Subject::COLLECTED => $this->day($c, Subject::COLLECTED, true),
                default => throw new NotByBits($c->subject->key),
            };
        }
        $kind = $field->valueKind();

        return match (true) {
            $kind->isDay() => $this->day($c, $field->key, $kind === FieldKind::DateTime),
            $kind->isNumber() => $this->number($c, $this->bits->numbers($field->key)),
            default => $this->choice($c, $this->bits->choices($field->key)),
        };
    }

    private function number(Condition $c, NumberSlots $numbers): \GMP
    {
        $value = static fn (int $i): int|float => is_int($v = $c->values()[$i] ?? null) || is_float($v)
            ? $v
            : throw new NotByBits('no number');

        return match ($c->test) {
            Test::Is => $numbers->equalTo($value(0)),
            Test::IsNot => $this->not($numbers->equalTo($value(0))),
            Test::AtLeast => $numbers->atLeast($value(0)),
            Test::AtMost => $numbers->atMost($value(0)),
            Test::Between => $numbers->atLeast($value(0)) & $numbers->atMost($value(1)),
            Test::There => $numbers->there,
            Test::Missing => $this->not($numbers->there),
            default => throw new NotByBits($c->test->value),
        };
    }

    private function choice(Condition $c, ChoiceSlots $choices): \GMP
    {
        $codes = array_map(static fn (mixed $v): mixed => is_bool($v) ? (int) $v : $v, $c->values());

        return match ($c->test) {
            Test::Is, Test::OneOf, Test::Has => $choices->withAny($codes),
            Test::IsNot, Test::NoneOf, Test::HasNot => $this->not($choices->withAny($codes)),
            Test::There => $choices->there(),
            Test::Missing => $this->not($choices->there()),
            default => throw new NotByBits($c->test->value),
        };
    }

    private function day(Condition $c, string $key, bool $isMoment): \GMP
    {
        $numbers = $this->bits->numbers($key);
        $days = DayRange::of($c->test, $c->value, $this->layer->programme->now());
        if ($days === null) {
            return $this->number($c, $numbers);
        }
        [$first, $last] = $days;
        $found = $numbers->there;
        if ($first !== null) {
            $found &= $numbers->atLeast($isMoment ? $this->startOf($first) : self::dayNumber($first));
        }
        if ($last !== null) {
            $found = $isMoment
                ? Slots::without($found, $numbers->atLeast($this->startOf($last, 1)))
                : $found & $numbers->atMost(self::dayNumber($last));
        }

        return $found;
    }

    /** As to_days() counts. */
    public static function dayNumber(string $day): int
    {
        return intdiv((new \DateTimeImmutable("$day UTC"))->getTimestamp() + self::EPOCH, 86_400);
    }

    public static function dayOf(int $number): string
    {
        return gmdate('Y-m-d', $number * 86_400 - self::EPOCH);
    }

    /** As to_seconds() counts, of the moment at which a day of the programme begins. */
    private function startOf(string $day, int $plus = 0): int
    {
        return (new \DateTimeImmutable($day, $this->zone))->modify("+$plus days")->getTimestamp() + self::EPOCH;
    }

    private function accepted(bool $is): \GMP
    {
        $accepted = $this->bits->choices(Subject::ACCEPTED)->withAny([1]);

        return $is ? $accepted : $this->not($accepted);
    }

    private function crew(Condition $c): \GMP
    {
        $by = $this->bits->numbers(BitColumn::PERSON);
        $found = Slots::none();
        foreach (DB::table('members')->whereIn('crew_id', $c->values())->distinct()->pluck('user_id') as $user) {
            $found |= $by->equalTo((int) $user);
        }

        return $c->test === Test::OneOf ? $found : $this->not($found);
    }

    private function not(\GMP $set): \GMP
    {
        return Slots::without($this->bits->all(), $set);
    }
}
