<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Audience\SmallCounts;
use PinYard\Stats\Distribution;

/**
 * Measures for whoever is told figures of so many records at least, and nothing of single ones. What is of fewer is
 * held back, and what would tell it by taking one figure from another: the next smallest groups ({@see SmallCounts}),
 * a slice that is nearly all of a layer, a share of too few or of too many. The least and the most are values of one
 * record and are not told; a median or another quantile must have so many records on both sides. Two fields at once, or
 * the groups of a slice, are told if none of them is small and nothing that they leave, or not at all: a few that are
 * held back in them would be told by what stands in the table of all.
 */
final readonly class HeldFigures implements Figures
{
    /**
     * @param  int  $least  records that a figure is of
     * @param  Figures|null  $seen  of records that the viewer sees one by one, and can take away
     * @param  list<int>|null  $held  layers that are told in figures alone; null: all
     * @param  list<int>|null  $single  of those the layers some of whose records are also seen one by one; null: all
     */
    public function __construct(
        private Figures $all,
        private int $least,
        private ?Figures $seen = null,
        private ?array $held = null,
        private ?array $single = null,
    ) {
    }

    private function isOpen(Reading $reading): bool
    {
        return $this->held !== null && ! in_array($reading->layer, $this->held, true);
    }

    public function least(): int
    {
        return $this->least;
    }

    public function of(Reading $reading, array $measures): array
    {
        if ($this->isOpen($reading)) {
            return $this->all->of($reading, $measures);
        }
        $figures = [];
        foreach ($measures as $measure) {
            $figures[] = $this->single($reading, $measure);
        }

        return $figures;
    }

    private function single(Reading $reading, Measure $measure): Figure
    {
        [$figure] = $this->all->of($reading, [$measure]);
        foreach (self::parts($measure) as $part) {
            if (! $part->kind->isEffort()) {
                $of = $this->counts($reading, $part)[''] ?? 0;
                $whole = self::isNarrowed($reading, $part)
                    ? $this->counts(self::base($reading), $part->within(null))[''] ?? 0
                    : $of;
                if (self::sided($part, $of) < $this->least || SmallCounts::isTooFew($this->least, $of, $whole)) {
                    return Figure::held();
                }
            }
        }

        return $this->rounded($figure);
    }

    public function by(Reading $reading, array $measures, Grouping ...$by): array
    {
        $by = array_values($by);
        $groups = $this->all->by($reading, $measures, ...$by);
        if ($this->isOpen($reading)) {
            return $groups;
        }
        $held = [];
        foreach ($measures as $i => $measure) {
            foreach (self::parts($measure) as $part) {
                if (! $part->kind->isEffort()) {
                    $held[$i] = ($held[$i] ?? []) + $this->heldBack($reading, $part, $by);
                }
            }
        }

        return array_map(
            fn (Group $group): Group => new Group($group->keys, array_map(
                fn (Figure $figure, int $i): Figure => isset($held[$i][Group::nameOf($group->keys)])
                    ? Figure::held()
                    : $this->rounded($figure),
                $group->figures,
                array_keys($group->figures),
            )),
            $groups,
        );
    }

    public function spread(Reading $reading, Quantity $quantity): Distribution
    {
        throw HeldBack::because('held_single', null, null, ['least' => $this->least]);
    }

    /**
     * What a measure is put together from, each of which must be of enough.
     *
     * @return list<Measure>
     */
    private static function parts(Measure $measure): array
    {
        return match ($measure->kind) {
            MeasureKind::Ratio => [$measure->top ?? Measure::count(), $measure->bottom ?? Measure::count()],
            MeasureKind::Share => [Measure::count()->within($measure->slice), Measure::count()],
            default => [$measure],
        };
    }

    /**
     * @param  list<Grouping>  $by
     * @return array<string, true> by name of the group
     *
     * @throws TooFewToPart
     */
    private function heldBack(Reading $reading, Measure $part, array $by): array
    {
        $found = $this->table($reading, $part, $by);
        if ($part->kind === MeasureKind::Least || $part->kind === MeasureKind::Most) {
            return array_fill_keys(array_keys($found), true);
        }
        $isNarrowed = self::isNarrowed($reading, $part);
        if ($isNarrowed || count($by) > 1) {
            $whole = $isNarrowed ? $this->table(self::base($reading), $part->within(null), $by) : $found;
            foreach ($whole + $found as $name => $n) {
                $of = $found[$name] ?? 0;
                $sided = self::sided($part, $of);
                if (($sided > 0 && $sided < $this->least) || SmallCounts::isTooFew($this->least, $of, $n)) {
                    throw $this->apart();
                }
            }

            return [];
        }
        $counts = array_map(static fn (int $n): int => self::sided($part, $n), $found);
        $small = [];
        if ($by[0]->overlaps()) {
            $all = self::sided($part, $this->counts($reading, $part)[''] ?? 0);
            $few = fn (int $n): bool => SmallCounts::isTooFew($this->least, $n, $all);
            $small = array_keys(array_filter($counts, $few));
        }
        $held = SmallCounts::heldBack($this->least, $counts, $small) ?? throw $this->apart();

        return array_fill_keys(array_map(strval(...), array_keys($held)), true);
    }

    private function apart(): TooFewToPart
    {
        return TooFewToPart::because('held_apart', null, null, ['least' => $this->least]);
    }

    /**
     * Of each group, and of what is in none: that is what is left of all, and told with it.
     *
     * @param  list<Grouping>  $by
     * @return array<string, int>
     */
    private function table(Reading $reading, Measure $part, array $by): array
    {
        $counts = $this->counts($reading, $part, $by);
        $all = $this->counts($reading, $part)[''] ?? 0;

        return count($by) > 1 ? $counts : $counts + ["\0outside" => max(0, $all - array_sum($counts))];
    }

    /**
     * Of how many records that the viewer does not see one by one a measure is.
     *
     * @param  list<Grouping>  $by
     * @return array<string, int> by name of the group; '' where there are no groups
     */
    private function counts(Reading $reading, Measure $part, array $by = []): array
    {
        $counts = self::countsIn($this->all, $reading, $part, $by);
        if ($this->seen !== null && ($this->single === null || in_array($reading->layer, $this->single, true))) {
            foreach (self::countsIn($this->seen, $reading, $part, $by) as $name => $n) {
                $counts[$name] = max(0, ($counts[$name] ?? 0) - $n);
            }
        }

        return $counts;
    }

    /**
     * @param  list<Grouping>  $by
     * @return array<string, int>
     */
    private static function countsIn(Figures $figures, Reading $reading, Measure $part, array $by): array
    {
        $groups = $by === []
            ? [new Group([], $figures->of($reading, [$part]))]
            : $figures->by($reading, [$part], ...$by);
        $counts = [];
        foreach ($groups as $group) {
            $figure = $group->figures[0];
            $counts[Group::nameOf($group->keys)] = $part->quantity === null ? $figure->n : $figure->known;
        }

        return $counts;
    }

    /** Whether it is of some of the layer's records, so that what is left tells something too. */
    private static function isNarrowed(Reading $reading, Measure $part): bool
    {
        return $part->slice !== null || $reading->slice !== null || $reading->span() !== null;
    }

    private static function base(Reading $reading): Reading
    {
        return new Reading($reading->layer);
    }

    /** Of so many records, those that a value stands for: of a quantile those on its shorter side. */
    private static function sided(Measure $part, int $n): int
    {
        $share = match ($part->kind) {
            MeasureKind::Least, MeasureKind::Most => 0.0,
            MeasureKind::Median => 0.5,
            MeasureKind::Quantile => min($part->share ?? 0.5, 1 - ($part->share ?? 0.5)),
            default => 1.0,
        };

        // That there is a value at all keeps it from being taken for an empty group.
        return $n === 0 ? 0 : max(1, (int) floor($n * $share + 1e-9));
    }

    /** How many have no value is a count like any other. */
    private function rounded(Figure $figure): Figure
    {
        $without = $figure->n - $figure->known;

        return $without > 0 && $without < $this->least
            ? new Figure($figure->value, $figure->n, $figure->n)
            : $figure;
    }
}
