<?php

declare(strict_types=1);

use PinYard\Stats\Classes;
use PinYard\Stats\Method;
use PinYard\Stats\Pretty;
use PinYard\Stats\Spread;

/*
 * Classes of numbers, held against R's classInt (tests/vectors/classes.json, made with R 4.2.2 and classInt 0.4-9) and,
 * for natural breaks, against trying all ways to part a few values.
 */

const STYLES = [
    'equal' => Method::Equal,
    'quantile' => Method::Quantile,
    'fisher' => Method::Natural,
    'sd' => Method::Deviation,
    'pretty' => Method::Round,
];

it('has as many values in each class as R has', function (array $case): void {
    $spread = Spread::ofValues(vectors('classes')['sets'][$case['set']]);
    $breaks = Classes::breaks($spread, STYLES[$case['style']], $case['k']);
    $counts = $spread->counts($breaks);
    if ($case['style'] === 'fisher') {
        // Of several ways that are equally good either may be found.
        $inner = array_values(array_filter(
            $case['breaks'],
            fn (float|int $b): bool => $b > $spread->least() && $b < $spread->most(),
        ));
        expect(Classes::loss($spread, $breaks))->toBeLessThanOrEqual(
            Classes::loss($spread, array_map(floatval(...), $inner)) * (1 + 1e-9) + 1e-12,
        );

        return;
    }
    // Two quantiles in one gap are one break here; R keeps a class without values between them.
    expect($counts)->toBe(
        $case['style'] === 'quantile' ? array_values(array_filter($case['counts'])) : $case['counts'],
    );
})->with(fn (): array => array_map(fn (array $c): array => [$c], vectors('classes')['classes']));

it('finds R\'s round numbers', function (array $case): void {
    $found = Pretty::numbers($case['low'], $case['high'], $case['n']);
    expect(count($found))->toBe(count($case['pretty']));
    foreach ($found as $i => $number) {
        expect($number)->toEqualWithDelta($case['pretty'][$i], abs($case['pretty'][$i]) * 1e-12 + 1e-15);
    }
})->with(fn (): array => array_map(fn (array $c): array => [$c], vectors('classes')['pretty']));

it('parts values where no other way loses less', function (): void {
    mt_srand(11);
    $ways = function (int $n, int $k) use (&$ways): array {
        if ($k === 1) {
            return [[]];
        }
        $all = [];
        for ($first = 1; $first <= $n - $k + 1; $first++) {
            foreach ($ways($n - $first, $k - 1) as $rest) {
                $all[] = [$first, ...array_map(fn (int $at): int => $at + $first, $rest)];
            }
        }

        return $all;
    };
    for ($round = 0; $round < 120; $round++) {
        $values = array_map(fn (): float => mt_rand(-50, 50) / (mt_rand(0, 1) ? 1 : 8), range(1, mt_rand(3, 11)));
        $spread = Spread::ofValues($values);
        $k = min($spread->distinct(), mt_rand(2, 5));
        $distinct = array_column($spread->groups, 0);
        $least = INF;
        foreach ($ways(count($distinct), $k) as $starts) {
            $least = min($least, Classes::loss($spread, array_map(fn (int $i): float => $distinct[$i], $starts)));
        }
        $breaks = Classes::breaks($spread, Method::Natural, $k);
        expect(count($breaks))->toBe($k - 1)
            ->and(Classes::loss($spread, $breaks))->toEqualWithDelta($least, 1e-9 * max(1, $least));
    }
});

it('says the same of runs of values as of each of them', function (): void {
    $values = vectors('classes')['sets']['faithful'];
    $spread = Spread::ofValues($values);
    // The two numbers are R's mean(faithful$eruptions) and sd(faithful$eruptions).
    expect($spread->mean)->toEqualWithDelta(3.487783088235294, 1e-12)
        ->and($spread->deviation)->toEqualWithDelta(1.141371251105208, 1e-12);
    sort($values);
    $groups = [];
    foreach (array_chunk($values, 4) as $run) {
        $mean = array_sum($run) / count($run);
        $groups[] = [
            $run[0],
            end($run),
            $mean,
            count($run),
            array_sum(array_map(fn (float $v): float => ($v - $mean) ** 2, $run)),
        ];
    }
    $grouped = new Spread($groups);
    expect($grouped->mean)->toEqualWithDelta($spread->mean, 1e-12)
        ->and($grouped->deviation)->toEqualWithDelta($spread->deviation, 1e-12)
        ->and($grouped->count)->toBe(272);
});

it('has an answer for few, equal, missing and unusable values', function (): void {
    foreach (Method::cases() as $method) {
        expect(Classes::breaks(Spread::ofValues([]), $method, 5))->toBe([])
            ->and(Classes::breaks(Spread::ofValues([null, NAN, INF, -INF]), $method, 5))->toBe([])
            ->and(Classes::breaks(Spread::ofValues([7, 7, 7]), $method, 5))->toBe([])
            ->and(count(Classes::breaks(Spread::ofValues([1, 2]), $method, 9)))->toBeLessThanOrEqual(1);
        foreach (vectors('classes')['sets'] as $set) {
            $spread = Spread::ofValues($set);
            $breaks = Classes::breaks($spread, $method, 40);
            $sorted = $breaks;
            sort($sorted);
            expect($breaks)->toBe(array_values(array_unique($sorted)));
            if ($method === Method::Natural || $method === Method::Quantile) {
                // Every class has something in it.
                expect(in_array(0, $spread->counts($breaks), true))->toBeFalse();
            }
        }
    }
    $spread = Spread::ofValues([3, null, NAN, 5]);
    expect($spread->missing)->toBe(2)->and($spread->count)->toBe(2);
});

it('breaks at the roundest number between two values', function (float $low, float $high, float $round): void {
    expect(Pretty::between($low, $high))->toBe($round);
})->with([
    [41.2, 43.7, 42.0],
    [0.0123, 0.0187, 0.015],
    [99.0, 101.0, 100.0],
    [3.0, 4.0, 4.0],
    [-8.0, -3.0, -5.0],
    [-0.5, 0.5, 0.0],
    [1e12 + 3, 1e12 + 10, 1e12 + 10],
    [1e12 + 3, 1e12 + 9, 1e12 + 5],
    [7.0, 7.0000000000000009, 7.0000000000000009],
]);

it('puts values together into runs without losing what is said of them', function (): void {
    mt_srand(3);
    $values = array_map(static fn (): float => round(exp(mt_rand(0, 8_000) / 1_000), 4), range(1, 20_000));
    $every = Spread::ofValues($values);
    $runs = $every->runs(500);
    expect($runs->distinct())->toBeLessThanOrEqual(500)
        ->and($runs->count)->toBe($every->count)
        ->and($runs->mean)->toEqualWithDelta($every->mean, 1e-9)
        ->and($runs->deviation)->toEqualWithDelta($every->deviation, $every->deviation * 1e-12)
        ->and([$runs->least(), $runs->most()])->toBe([$every->least(), $every->most()])
        ->and($every->runs(1)->groups)->toHaveCount(1)
        ->and($every->runs(100_000))->toBe($every);
    $loss = fn (Spread $of): float => Classes::loss($every, Classes::breaks($of, Method::Natural, 5));
    expect($loss($runs))->toBeLessThan($loss($every) * 1.001);
});
