<?php

declare(strict_types=1);

namespace App\Boards\Figures;

use App\Maps\FieldSpread;
use App\Models\Layer;
use App\Records\VisibleRecords;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Board\Figure;
use PinYard\Board\Figures;
use PinYard\Board\Group;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\MeasureKind;
use PinYard\Board\Quantity;
use PinYard\Board\Reading;
use PinYard\Stats\Distribution;
use PinYard\Stats\Spread;
use stdClass;

/** Measures by asking the database: one question for all measures of the same records that it adds up by itself. */
final readonly class SqlFigures implements Figures
{
    /**
     * @param  \Closure(Reading, int|null, list<string>): VisibleRecords  $records  those of a reading, also in a
     *     second slice, showing fields (keys)
     * @param  \Closure(int): Layer  $layer  by number
     * @param  EffortFigures  $effort  what is measured of people's ways
     */
    public function __construct(
        private \Closure $records,
        private \Closure $layer,
        private EffortFigures $effort,
    ) {
    }

    /** @return list<Figure> */
    public function of(Reading $reading, array $measures): array
    {
        $groups = $this->by($reading, $measures);
        if ($groups !== []) {
            return $groups[0]->figures;
        }

        return array_map(static fn (Measure $m): Figure => Figure::ofNothing($m), $measures);
    }

    /** @return list<Group> */
    public function by(Reading $reading, array $measures, Grouping ...$by): array
    {
        $by = array_values($by);
        $found = [];
        $keys = [];
        // Those that read the same records are asked at once.
        $together = [];
        foreach ($measures as $i => $measure) {
            $together[self::isOwn($measure) ? "own $i" : 'of '.$measure->slice][$i] = $measure;
        }
        foreach ($together as $some) {
            $first = $some[array_key_first($some)];
            $groups = match (true) {
                $first->kind->isEffort() => $this->effort($reading, $first, (int) array_key_first($some), $by),
                ($by[0]->areas ?? null) !== null => $this->inAreas($reading, $some, $by[0]->areas),
                $first->kind === MeasureKind::Share => self::at(
                    (int) array_key_first($some),
                    Combined::shares($this, $reading, $first, $by),
                ),
                $first->kind === MeasureKind::Ratio => self::at(
                    (int) array_key_first($some),
                    Combined::ratios($this, $reading, $first, $by),
                ),
                self::isRanked($first) => $this->quantiles($reading, $first, (int) array_key_first($some), $by),
                default => $this->added($reading, $some, $by),
            };
            foreach ($groups as $name => [$key, $figures]) {
                $keys[$name] = $key;
                $found[$name] = ($found[$name] ?? []) + $figures;
            }
        }

        return Group::joined($keys, $found, $measures);
    }

    /**
     * @param  list<array{list<string|null>, Figure}>  $groups
     * @return array<string, array{list<string|null>, array<int, Figure>}>
     */
    private static function at(int $i, array $groups): array
    {
        $at = [];
        foreach ($groups as [$keys, $figure]) {
            $at[Group::nameOf($keys)] = [$keys, [$i => $figure]];
        }

        return $at;
    }

    private static function isRanked(Measure $measure): bool
    {
        return $measure->kind === MeasureKind::Median || $measure->kind === MeasureKind::Quantile;
    }

    /** Whether it takes a question of its own. */
    private static function isOwn(Measure $measure): bool
    {
        return self::isRanked($measure) || $measure->kind->isEffort()
            || in_array($measure->kind, [MeasureKind::Share, MeasureKind::Ratio], true);
    }

    /**
     * @param  list<Grouping>  $by
     * @return array<string, array{list<string|null>, array<int, Figure>}>
     */
    private function effort(Reading $reading, Measure $measure, int $i, array $by): array
    {
        $groups = [];
        foreach ($this->effort->by($reading, $measure, $by) as [$keys, $figure]) {
            $groups[Group::nameOf($keys)] = [$keys, [$i => $figure]];
        }

        return $groups;
    }

    /**
     * @param  array<int, Measure>  $measures
     * @param  list<Grouping>  $by
     */
    private function records(Reading $reading, ?int $slice, array $measures, array $by): VisibleRecords
    {
        $fields = [];
        foreach ($measures as $measure) {
            array_push($fields, ...$measure->fields());
        }
        foreach ($by as $grouping) {
            if ($grouping->field !== null) {
                $fields[] = $grouping->field->key;
            }
        }

        return ($this->records)($reading, $slice, array_values(array_unique($fields)));
    }

    /**
     * The rows with what is asked of each as `g0`, `g1` and `q0`, `q1` and so on.
     *
     * @param  list<Grouping>  $by
     * @param  array<int, Quantity>  $quantities
     */
    private function asked(VisibleRecords $records, array $by, array $quantities): Builder
    {
        $rows = $records->rows();
        $programme = $records->layer->programme;
        $select = ['1 as one'];
        foreach ($by as $i => $grouping) {
            $group = GroupSql::of($grouping, $programme->id, new \DateTimeZone($programme->time_zone));
            $group->join($rows);
            $select[] = "{$group->expression} as g$i";
        }
        $joined = [];
        foreach ($quantities as $i => $quantity) {
            $sql = QuantitySql::of($quantity, $records);
            if (! isset($joined[$quantity->key])) {
                $sql->join($rows);
                $joined[$quantity->key] = true;
            }
            $select[] = "{$sql->expression} as q$i";
        }

        return DB::query()->fromSub($rows->selectRaw(implode(', ', $select)), 'asked');
    }

    /**
     * @param  non-empty-array<int, Measure>  $measures
     * @param  list<Grouping>  $by
     * @return array<string, array{list<string|null>, array<int, Figure>}>
     */
    private function added(Reading $reading, array $measures, array $by): array
    {
        $records = $this->records($reading, $measures[array_key_first($measures)]->slice, $measures, $by);
        $quantities = array_filter(array_map(static fn (Measure $m): ?Quantity => $m->quantity, $measures));
        $select = ['count(*) as n'];
        foreach ($measures as $i => $measure) {
            $sql = match ($measure->kind) {
                MeasureKind::Sum => "sum(q$i)",
                MeasureKind::Mean => "avg(q$i)",
                MeasureKind::Deviation => "stddev_samp(q$i)",
                MeasureKind::Least => "min(q$i)",
                MeasureKind::Most => "max(q$i)",
                MeasureKind::Distinct => "count(distinct q$i)",
                default => 'count(*)',
            };
            $select[] = "$sql as m$i";
            $select[] = ($measure->quantity === null ? 'count(*)' : "count(q$i)")." as k$i";
        }
        $groups = [];
        foreach ($this->grouped($this->asked($records, $by, $quantities), $by)
            ->selectRaw(implode(', ', $select))->get() as $row) {
            $keys = self::keysOf($row, count($by));
            $n = (int) $row->n;
            if ($by === [] && $n === 0) {
                continue;
            }
            $figures = [];
            foreach ($measures as $i => $measure) {
                $value = $row->{"m$i"};
                $isDay = $measure->quantity?->isDay() === true && $measure->kind !== MeasureKind::Distinct;
                $figures[$i] = new Figure(
                    $value === null ? null : ($isDay ? (string) $value : (float) $value),
                    $n,
                    (int) $row->{"k$i"},
                );
            }
            $groups[Group::nameOf($keys)] = [$keys, $figures];
        }

        return $groups;
    }

    /** @param  list<Grouping>  $by */
    private function grouped(Builder $asked, array $by): Builder
    {
        foreach (array_keys($by) as $i) {
            $asked->addSelect("g$i")->groupBy("g$i");
        }

        return $asked;
    }

    /** @return list<string|null> */
    private static function keysOf(stdClass $row, int $groupings): array
    {
        $keys = [];
        for ($i = 0; $i < $groupings; $i++) {
            $key = $row->{"g$i"};
            $keys[] = $key === null ? null : (string) $key;
        }

        return $keys;
    }

    /**
     * @param  list<Grouping>  $by
     * @return array<string, array{list<string|null>, array<int, Figure>}>
     */
    private function quantiles(Reading $reading, Measure $measure, int $i, array $by): array
    {
        $quantity = $measure->quantity ?? throw new \LogicException('a quantile of nothing');
        $records = $this->records($reading, $measure->slice, [$measure], $by);
        $share = $measure->share ?? 0.5;
        $names = implode(', ', array_map(static fn (int $g): string => "g$g", array_keys($by)));
        $partition = $names === '' ? '' : "partition by $names";
        $numbers = $this->grouped($this->asked($records, $by, [$quantity]), $by)
            ->selectRaw('count(*) as n, count(q0) as k')
            ->get();
        $values = [];
        // The continuous percentile of SQL:2003 is linear interpolation between ranks, R's type 7.
        foreach ($this->asked($records, $by, [$quantity])
            ->whereNotNull('q0')
            ->selectRaw(
                'distinct '.($names === '' ? '' : "$names, ")
                    .sprintf('percentile_cont(%.17F) within group (order by q0) over (%s) as v', $share, $partition),
            )
            ->get() as $row) {
            $values[Group::nameOf(self::keysOf($row, count($by)))] = (float) $row->v;
        }
        $groups = [];
        foreach ($numbers as $row) {
            $keys = self::keysOf($row, count($by));
            $name = Group::nameOf($keys);
            if ((int) $row->n > 0) {
                $groups[$name] = [$keys, [$i => new Figure($values[$name] ?? null, (int) $row->n, (int) $row->k)]];
            }
        }

        return $groups;
    }

    /**
     * @param  non-empty-array<int, Measure>  $measures
     * @return array<string, array{list<string|null>, array<int, Figure>}>
     */
    private function inAreas(Reading $reading, array $measures, int $areas): array
    {
        $groups = [];
        foreach ($measures as $i => $measure) {
            if ($measure->kind === MeasureKind::Share) {
                $found = self::at($i, Combined::shares($this, $reading, $measure, [Grouping::areas($areas)]));
            } elseif ($measure->kind === MeasureKind::Ratio) {
                $found = self::at($i, Combined::ratios($this, $reading, $measure, [Grouping::areas($areas)]));
            } else {
                $found = [];
                $records = $this->records($reading, $measure->slice, [$measure], []);
                foreach (FiguresInAreas::of($records, ($this->layer)($areas), $measure) as $id => $figure) {
                    $found["=$id"] = [[(string) $id], [$i => $figure]];
                }
            }
            foreach ($found as $name => [$keys, $figures]) {
                $groups[$name] = [$keys, ($groups[$name][1] ?? []) + $figures];
            }
        }

        return $groups;
    }

    public function least(): int
    {
        return 1;
    }

    public function spread(Reading $reading, Quantity $quantity): Distribution
    {
        $field = $quantity->field;
        $records = ($this->records)($reading, null, $field === null ? [] : [$field->key]);
        if ($field !== null && $records->shows($field->key)) {
            return FieldSpread::of($records, $field);
        }

        return Spread::ofValues(
            $this->asked($records, [], [$quantity])
                ->pluck('q0')
                ->map(static fn (mixed $v): ?float => $v === null ? null : (float) $v),
        )->runs(4_096);
    }
}
