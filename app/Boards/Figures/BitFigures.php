<?php

declare(strict_types=1);

namespace App\Boards\Figures;

use App\Models\Layer;
use App\Records\Bits\BitColumn;
use App\Records\Bits\BitFilter;
use App\Records\Bits\BitLayer;
use App\Records\VisibleRecords;
use Illuminate\Support\Facades\DB;
use PinYard\Bits\NotByBits;
use PinYard\Bits\NumberDistribution;
use PinYard\Bits\NumberSlots;
use PinYard\Bits\Slots;
use PinYard\Board\Figure;
use PinYard\Board\Figures;
use PinYard\Board\Group;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\MeasureKind;
use PinYard\Board\Quantity;
use PinYard\Board\Reading;
use PinYard\Design\FieldKind;
use PinYard\Stats\Distribution;

/**
 * Measures large layers by counting bits, and asks the database ({@see SqlFigures}) for whatever that cannot tell; both
 * say the same, which a test holds. What a viewer may not see is left to the one that refuses it.
 */
final readonly class BitFigures implements Figures
{
    /** More groups than these are quicker asked for. */
    private const MOST_GROUPS = 4_000;

    /**
     * @param  \Closure(Reading, int|null, list<string>): VisibleRecords  $records  those of a reading, also in a
     *     second slice, showing fields (keys)
     * @param  \Closure(Layer): (BitLayer|null)  $bits  of a layer; null where it is asked
     */
    public function __construct(private \Closure $records, private \Closure $bits, private Figures $others)
    {
    }

    public function of(Reading $reading, array $measures): array
    {
        return $this->by($reading, $measures)[0]->figures
            ?? array_map(static fn (Measure $m): Figure => Figure::ofNothing($m), $measures);
    }

    public function by(Reading $reading, array $measures, Grouping ...$by): array
    {
        $by = array_values($by);
        $keys = $found = [];
        try {
            foreach ($measures as $i => $measure) {
                foreach ($this->measured($reading, $measure, $by) as [$key, $figure]) {
                    $name = Group::nameOf($key);
                    $keys[$name] = $key;
                    $found[$name][$i] = $figure;
                }
            }
        } catch (NotByBits) {
            return $this->others->by($reading, $measures, ...$by);
        }

        return Group::joined($keys, $found, $measures);
    }

    public function least(): int
    {
        return 1;
    }

    public function spread(Reading $reading, Quantity $quantity): Distribution
    {
        try {
            [$records, $bits] = $this->opened($reading, null, array_filter([$quantity->field?->key]));

            return new NumberDistribution(self::numbers($records, $bits, $quantity), $records->slots($bits));
        } catch (NotByBits) {
            return $this->others->spread($reading, $quantity);
        }
    }

    /**
     * @param  list<string>  $fields
     * @return array{VisibleRecords, BitLayer}
     */
    private function opened(Reading $reading, ?int $slice, array $fields): array
    {
        $records = ($this->records)($reading, $slice, $fields);
        foreach ($fields as $field) {
            if (! $records->shows($field)) {
                throw new NotByBits('not for this viewer');
            }
        }

        return [$records, ($this->bits)($records->layer) ?? throw new NotByBits('a layer that is asked')];
    }

    /**
     * @param  list<Grouping>  $by
     * @return iterable<array{list<string|null>, Figure}>
     */
    private function measured(Reading $reading, Measure $measure, array $by): iterable
    {
        if ($measure->kind === MeasureKind::Share) {
            return Combined::shares($this, $reading, $measure, $by);
        }
        if ($measure->kind === MeasureKind::Ratio) {
            return Combined::ratios($this, $reading, $measure, $by);
        }
        if ($measure->kind->isEffort()) {
            throw new NotByBits('of ways');
        }
        $fields = array_map(static fn (Grouping $g): ?string => $g->field?->key, $by);
        [$records, $bits] = $this->opened(
            $reading,
            $measure->slice,
            array_values(array_filter([...$measure->fields(), ...$fields])),
        );
        $groups = [];
        foreach ($this->groups($records, $bits, $records->slots($bits), $by) as [$keys, $set]) {
            $groups[] = [$keys, self::figure($records, $bits, $measure, $set)];
            if (count($groups) > self::MOST_GROUPS) {
                throw new NotByBits('too many groups');
            }
        }

        return $groups;
    }

    private static function figure(VisibleRecords $records, BitLayer $bits, Measure $measure, \GMP $set): Figure
    {
        $n = Slots::count($set);
        if ($measure->quantity === null) {
            return new Figure((float) $n, $n, $n);
        }
        if ($measure->kind === MeasureKind::Distinct) {
            return self::distinct($records, $bits, $measure->quantity, $set, $n);
        }
        $numbers = self::numbers($records, $bits, $measure->quantity);
        $known = Slots::count($set & $numbers->there);
        $value = $known === 0 ? null : match ($measure->kind) {
            MeasureKind::Sum => $numbers->total($set),
            MeasureKind::Mean => $numbers->mean($set),
            MeasureKind::Deviation => $numbers->deviation($set),
            MeasureKind::Least => $numbers->smallest($set),
            MeasureKind::Most => $numbers->largest($set),
            MeasureKind::Median => $numbers->quantile($set, 0.5),
            MeasureKind::Quantile => $numbers->quantile($set, $measure->share ?? 0.5),
            default => throw new NotByBits($measure->kind->value),
        };

        return new Figure(
            $value !== null && $measure->quantity->isDay() ? BitFilter::dayOf((int) $value) : $value,
            $n,
            $known,
        );
    }

    private static function distinct(
        VisibleRecords $records,
        BitLayer $bits,
        Quantity $quantity,
        \GMP $set,
        int $n,
    ): Figure {
        $kind = $quantity->field?->valueKind();
        if ($kind === FieldKind::OneChoice || $kind === FieldKind::YesNo) {
            $choices = $bits->choices($quantity->key);
            $codes = array_filter($choices->sets, static fn (\GMP $of): bool => ! Slots::isEmpty($of & $set));

            return new Figure((float) count($codes), $n, Slots::count($choices->there() & $set));
        }
        $numbers = self::numbers($records, $bits, $quantity);

        $distinct = $numbers->distinct($set, self::MOST_GROUPS);

        return new Figure((float) $distinct, $n, Slots::count($set & $numbers->there));
    }

    private static function numbers(VisibleRecords $records, BitLayer $bits, Quantity $quantity): NumberSlots
    {
        $kind = $quantity->field?->valueKind();

        return match (true) {
            $kind?->isNumber() === true, $kind === FieldKind::Date => $bits->numbers($quantity->key),
            $quantity->key === Quantity::PERSON && ! $records->viewer->isLink() => $bits->numbers(BitColumn::PERSON),
            default => throw new NotByBits($quantity->key),
        };
    }

    /**
     * @param  list<Grouping>  $by
     * @param  list<string|null>  $keys
     * @return iterable<array{list<string|null>, \GMP}> those that have records
     */
    private function groups(VisibleRecords $records, BitLayer $bits, \GMP $set, array $by, array $keys = []): iterable
    {
        if (Slots::isEmpty($set)) {
            return;
        }
        if ($by === []) {
            yield [$keys, $set];

            return;
        }
        $left = $set;
        foreach ($this->parts($records, $bits, $set, $by[0]) as $key => $part) {
            $left = Slots::without($left, $part);
            yield from $this->groups($records, $bits, $part & $set, array_slice($by, 1), [...$keys, (string) $key]);
        }
        yield from $this->groups($records, $bits, $left, array_slice($by, 1), [...$keys, null]);
    }

    /** @return array<string|int, \GMP> by key; those that are in none have none */
    private function parts(VisibleRecords $records, BitLayer $bits, \GMP $set, Grouping $by): array
    {
        $kind = $by->field?->valueKind();
        if ($by->step !== null) {
            $step = $by->step;

            return $bits->numbers(BitColumn::days($by->key, $kind))->parts(
                $set,
                static fn (int $day): string => $step->startOf(BitFilter::dayOf($day)),
                self::MOST_GROUPS,
            );
        }
        if ($by->tellsPeople()) {
            $people = $records->viewer->isLink()
                ? throw new NotByBits('people')
                : $bits->numbers(BitColumn::PERSON)->parts($set, static fn (int $id): int => $id, self::MOST_GROUPS);

            return $by->key === Grouping::PERSON ? $people : self::crews($records->layer->programme_id, $people);
        }

        return match ($kind) {
            FieldKind::OneChoice, FieldKind::YesNo => $bits->choices($by->key)->sets,
            // Of those that a record may have, only what the design still has is a group.
            FieldKind::SeveralChoices => array_intersect_key(
                $bits->choices($by->key)->sets,
                array_flip(array_column($by->field->choices, 'code')),
            ),
            FieldKind::WholeNumber => $bits->numbers($by->key)->parts(
                $set,
                static fn (int $number): int => $number,
                self::MOST_GROUPS,
            ),
            default => throw new NotByBits($by->key),
        };
    }

    /**
     * @param  array<string|int, \GMP>  $people
     * @return array<string|int, \GMP>
     */
    private static function crews(int $programme, array $people): array
    {
        $crews = [];
        $found = DB::table('members')->where('programme_id', $programme)->whereNotNull('crew_id')
            ->whereIn('user_id', array_keys($people))->pluck('crew_id', 'user_id');
        foreach ($found as $user => $crew) {
            $crews[$crew] = ($crews[$crew] ?? Slots::none()) | $people[$user];
        }

        return $crews;
    }
}
