<?php

declare(strict_types=1);

use PinYard\Audience\SmallCounts;
use PinYard\Board\Figure;
use PinYard\Board\Figures;
use PinYard\Board\Group;
use PinYard\Board\Grouping;
use PinYard\Board\HeldFigures;
use PinYard\Board\Measure;
use PinYard\Board\MeasureKind;
use PinYard\Board\Quantity;
use PinYard\Board\Reading;
use PinYard\Design\LayerDesign;
use PinYard\Refused;
use PinYard\Stats\Distribution;

/*
 * Counts of fewer than so many are held back, and so is what would tell them. The first test is whoever attacks: it
 * knows the rule, the least count and the total, and all tables that give the same answer; no count that is held back
 * may be the same in all of them.
 */

/** @return iterable<list<int>> all tables of so many groups with counts up to a number */
function tablesOf(int $groups, int $most): iterable
{
    for ($x = 0; $x < ($most + 1) ** $groups; $x++) {
        $table = [];
        for ($i = 0, $rest = $x; $i < $groups; $i++, $rest = intdiv($rest, $most + 1)) {
            $table[] = $rest % ($most + 1);
        }
        yield $table;
    }
}

it('holds back so that no count can be worked out, by whoever knows the rule and the total', function (
    int $least,
    int $groups,
    int $most,
): void {
    $alike = [];
    $held = 0;
    foreach (tablesOf($groups, $most) as $table) {
        // Of fewer in all the total is held back as well.
        if (array_sum($table) >= $least) {
            $back = SmallCounts::heldBack($least, $table);
            $told = $back === null
                ? 'nothing'
                : implode(' ', array_map(static fn (int $i): string => isset($back[$i]) ? 'x' : (string) $table[$i],
                    array_keys($table)));
            $alike[$told.' of '.array_sum($table)][] = $table;
            $held += $back === [] ? 0 : 1;
            $together = array_sum(array_intersect_key($table, $back ?? []));
            if ($back !== null && $back !== [] && $together < $least) {
                throw new LogicException("told by the total: $together");
            }
            foreach ($back === null ? [] : $table as $i => $n) {
                if ($n > 0 && $n < $least && ! isset($back[$i])) {
                    throw new LogicException("told: $n");
                }
            }
        }
    }
    $known = [];
    foreach ($alike as $told => $tables) {
        foreach (explode(' ', explode(' of ', $told)[0]) as $i => $word) {
            foreach ($word === 'nothing' ? array_keys($tables[0]) : ($word === 'x' ? [$i] : []) as $group) {
                if (count(array_unique(array_column($tables, $group))) < 2) {
                    $known[] = "$told, group $group";
                }
            }
        }
    }
    expect($known)->toBe([])->and($held)->toBeGreaterThan(200);
})->with([[3, 4, 7], [4, 3, 8], [5, 3, 10], [3, 5, 5]]);

it('holds back the next smallest, all of equal ones, and everything where nothing would be left', function (
    array $counts,
    ?array $held,
): void {
    $back = SmallCounts::heldBack(5, $counts);
    expect($back === null ? null : array_keys($back))->toBe($held);
})->with([
    'none is small' => [['a' => 5, 'b' => 90, 'c' => 0], []],
    'one, and the smallest of the others' => [['a' => 2, 'b' => 90, 'c' => 40], ['a', 'c']],
    'equal ones, or which of them would tell' => [['a' => 2, 'b' => 40, 'c' => 40, 'd' => 41], ['a', 'b', 'c']],
    'two that are of enough together' => [['a' => 2, 'b' => 90, 'c' => 4], ['a', 'c']],
    'all of one: how many groups there are would tell' => [['a' => 1, 'b' => 1, 'c' => 90, 'd' => 91], ['a', 'b', 'c']],
    'nothing would be left' => [['a' => 2, 'b' => 90], null],
    'one group alone' => [['a' => 2], null],
    'no groups' => [[], []],
]);

/** @return iterable<list<int>> all tables of so many groups with so many records in all, and less */
function tablesWithin(int $groups, int $all): iterable
{
    if ($groups === 0) {
        yield [];

        return;
    }
    for ($n = 0; $n <= $all; $n++) {
        foreach (tablesWithin($groups - 1, $all - $n) as $rest) {
            yield [$n, ...$rest];
        }
    }
}

/** Figures of records that are given: `[group or null, in slice 1, value or null]`. */
function figuresOf(array $records): Figures
{
    return new class($records) implements Figures
    {
        public function __construct(private array $records)
        {
        }

        public function least(): int
        {
            return 1;
        }

        public function of(Reading $reading, array $measures): array
        {
            return array_map(fn (Measure $m): Figure => $this->figure($this->in($reading, $m), $m), $measures);
        }

        public function by(Reading $reading, array $measures, Grouping ...$by): array
        {
            $groups = [];
            foreach (array_unique(array_column($this->records, 0)) as $key) {
                if ($key === null) {
                    continue;
                }
                $of = fn (Measure $m): array => array_filter(
                    $this->in($reading, $m),
                    static fn (array $r): bool => $r[0] === $key,
                );
                if (array_filter(array_map($of, $measures)) !== []) {
                    $groups[] = new Group(
                        array_fill(0, count($by), $key),
                        array_map(fn (Measure $m): Figure => $this->figure($of($m), $m), $measures),
                    );
                }
            }

            return $groups;
        }

        private function in(Reading $reading, Measure $measure): array
        {
            return array_filter($this->records, static fn (array $r): bool => ($reading->slice === null || $r[1])
                && ($measure->kind === MeasureKind::Share || $measure->slice === null || $r[1]));
        }

        private function figure(array $of, Measure $measure): Figure
        {
            $values = array_filter(array_column($of, 2), static fn (?float $v): bool => $v !== null);

            return $measure->quantity === null
                ? new Figure((float) count($of), count($of), count($of))
                : new Figure((float) array_sum($values), count($of), count($values));
        }

        public function spread(Reading $reading, Quantity $quantity): Distribution
        {
            throw new LogicException('not asked');
        }
    };
}

beforeEach(function (): void {
    $this->some = static fn (?string $group, int $n, bool $in = false, ?float $value = 1.0): array => array_fill(
        0,
        $n,
        [$group, $in, $value],
    );
    $this->told = static function (Figures $figures, Measure $measure, Reading $reading = new Reading(1)): array {
        $told = [];
        foreach ($figures->by($reading, [$measure], Grouping::areas(2)) as $group) {
            $told[$group->keys[0]] = $group->figures[0]->held ? 'held' : $group->figures[0]->value;
        }

        return $told;
    };
    $this->count = Measure::count();
});

it('does not tell a single figure of too few, nor one that leaves too few', function (): void {
    $figures = fn (array $records): HeldFigures => new HeldFigures(figuresOf($records), 5);
    $in = new Reading(1, 1);
    $of = static fn (HeldFigures $f, Reading $r): mixed => $f->of($r, [Measure::count()])[0]->held
        ? 'held'
        : $f->of($r, [Measure::count()])[0]->n;
    $all = new Reading(1);
    expect($of($figures(($this->some)('a', 4)), $all))->toBe('held')
        ->and($of($figures([]), $all))->toBe('held')
        ->and($of($figures(($this->some)('a', 5)), $all))->toBe(5)
        // Of 20 in a slice of 22 the two that are left would be told by taking one from the other.
        ->and($of($figures([...($this->some)('a', 20, true), ...($this->some)('a', 2)]), $in))->toBe('held')
        ->and($of($figures([...($this->some)('a', 20, true), ...($this->some)('a', 2)]), $all))->toBe(22)
        ->and($of($figures([...($this->some)('a', 20, true), ...($this->some)('a', 5)]), $in))->toBe(20)
        ->and($of($figures(($this->some)('a', 20, true)), $in))->toBe(20);
});

it('holds groups back, and tells those of a slice if none is small and none is left', function (): void {
    $of = fn (array $more): HeldFigures => new HeldFigures(
        figuresOf([...($this->some)('b', 30, true), ...($this->some)('b', 10), ...($this->some)('d', 50), ...$more]),
        5,
    );
    $slice = new Reading(1, 1);
    $few = $of([...($this->some)('a', 2), ...($this->some)('c', 9)]);
    expect(($this->told)($few, $this->count))->toBe(['b' => 40.0, 'd' => 50.0, 'a' => 'held', 'c' => 'held'])
        ->and(fn () => ($this->told)($few, $this->count, $slice))->toThrow(Refused::class, 'held_apart')
        ->and(($this->told)($of([]), $this->count, $slice))->toBe(['b' => 30.0])
        ->and(fn () => ($this->told)($of(($this->some)('b', 2)), $this->count, $slice))->not->toThrow(Refused::class)
        ->and(fn () => ($this->told)(
            $of([...($this->some)('e', 20, true), ...($this->some)('e', 1)]),
            $this->count,
            $slice,
        ))->toThrow(Refused::class, 'held_apart')
        ->and(fn () => ($this->told)(new HeldFigures(figuresOf(($this->some)('a', 3)), 5), $this->count))
        ->toThrow(Refused::class, 'held_apart');
});

it('lets nobody work out a count from a table and that of a slice of it', function (): void {
    // All tables of three groups, in a slice and beside it, with eleven records and less, told with both totals.
    $alike = [];
    $held = 0;
    foreach (tablesWithin(6, 11) as $cells) {
        $records = [];
        foreach (['a', 'b', 'c'] as $i => $group) {
            array_push(
                $records,
                ...($this->some)($group, $cells[$i], true),
                ...($this->some)($group, $cells[$i + 3]),
            );
        }
        $figures = new HeldFigures(figuresOf($records), 3);
        $answer = [];
        foreach ([new Reading(1), new Reading(1, 1)] as $reading) {
            $one = $figures->of($reading, [$this->count])[0];
            try {
                $answer[] = [$one->held ? 'held' : $one->n, ($this->told)($figures, $this->count, $reading)];
            } catch (Refused) {
                $answer[] = [$one->held ? 'held' : $one->n, 'nothing'];
            }
        }
        $key = (string) json_encode($answer);
        $held += str_contains($key, 'held') ? 1 : 0;
        foreach ($cells as $i => $n) {
            $alike[$key][$i][$n] = true;
        }
    }
    $known = [];
    foreach ($alike as $answer => $groups) {
        foreach ($groups as $i => $counts) {
            $n = array_key_first($counts);
            if (count($counts) === 1 && $n > 0 && $n < 3) {
                $known[] = "$answer: $i is $n";
            }
        }
    }
    expect($held)->toBeGreaterThan(100)->and($known)->toBe([]);
});

it('holds back what tells how many are in no group', function (): void {
    $figures = new HeldFigures(
        figuresOf([...($this->some)('a', 30), ...($this->some)('b', 40), ...($this->some)(null, 2)]),
        5,
    );
    expect(($this->told)($figures, $this->count))->toBe(['a' => 'held', 'b' => 40.0]);
});

it('tells two fields at once if no group is small, or not at all', function (): void {
    $by = [Grouping::areas(2), Grouping::areas(3)];
    $figures = fn (int $n): HeldFigures => new HeldFigures(
        figuresOf([...($this->some)('a', $n), ...($this->some)('b', 50), ...($this->some)('c', 60)]),
        5,
    );
    expect($figures(5)->by(new Reading(1), [$this->count], ...$by))->toHaveCount(3)
        ->and(fn () => $figures(4)->by(new Reading(1), [$this->count], ...$by))->toThrow(Refused::class, 'held_apart');
});

it('takes away what its viewer sees one by one before it counts how many there are', function (): void {
    $all = figuresOf([...($this->some)('a', 6), ...($this->some)('b', 30), ...($this->some)('c', 40)]);
    $own = figuresOf(($this->some)('a', 3));
    expect(($this->told)(new HeldFigures($all, 5), $this->count))->toBe(['a' => 6.0, 'b' => 30.0, 'c' => 40.0])
        // Three of six are theirs: the others are three.
        ->and(($this->told)(new HeldFigures($all, 5, $own), $this->count))
        ->toBe(['a' => 'held', 'b' => 'held', 'c' => 40.0]);
});

it('says nothing of how a number lies', function (): void {
    $eggs = Quantity::of('eggs', LayerDesign::fromArray(['title' => 'N', 'geometry' => 'point', 'fields' => [
        ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
    ]]), false);
    expect(fn () => (new HeldFigures(figuresOf([]), 5))->spread(new Reading(1), $eggs))
        ->toThrow(Refused::class, 'held_single');
});
