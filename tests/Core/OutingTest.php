<?php

declare(strict_types=1);

use PinYard\Plan\Outing;

$plan = static fn (array $change = []): array => [
    ...[
        'title' => 'Dawn walk',
        'from' => '2026-11-20',
        'to' => '2026-11-29',
        'layers' => [1],
        'target' => 'records',
        'count' => 40,
    ],
    ...$change,
];

it('reads an outing, or says what is off', function (mixed $in, array $codes): void {
    expect(refusals(fn () => Outing::read($in, [7], [1 => true, 2 => false])))->toBe($codes);
})->with([
    'whole' => [
        $plan([
            'crew' => 7,
            'note' => 'Low tide at six',
            'area' => [-12, -15, -11, -14],
            'checklist' => ['Water', '', ' Water ', 'Tape'],
        ]),
        [],
    ],
    'one day' => [$plan(['to' => '2026-11-20']), []],
    'visits' => [$plan(['target' => 'visits']), []],
    'no target' => [$plan(['target' => 'none', 'count' => null]), []],
    'not an object' => ['outing', ['must_be_object']],
    'no title' => [$plan(['title' => ' ']), ['empty']],
    'a title too long' => [$plan(['title' => str_repeat('a', 121)]), ['too_long']],
    'a crew of another programme' => [$plan(['crew' => 8]), ['outing_crew']],
    'a day that is none' => [$plan(['from' => '2026-02-30']), ['outing_days']],
    'backwards' => [$plan(['to' => '2026-11-01']), ['outing_backwards']],
    'years long' => [$plan(['to' => '2028-11-01']), ['outing_long']],
    'an area outside the world' => [$plan(['area' => [-200, 0, 0, 1]]), ['box_outside_world']],
    'an area of three sides' => [$plan(['area' => [1, 2, 3]]), ['box_no_numbers']],
    'a layer of another programme' => [$plan(['layers' => [9]]), ['layer_unknown']],
    'no layer' => [$plan(['layers' => []]), ['outing_layers']],
    'a target that is none' => [$plan(['target' => 'many']), ['outing_target']],
    'a target of zero' => [$plan(['count' => 0]), ['outing_count']],
    'a target in words' => [$plan(['count' => 'forty']), ['outing_count']],
    'visits where none are kept' => [$plan(['layers' => [2], 'target' => 'visits']), ['outing_visits']],
    'a checklist that is text' => [$plan(['checklist' => 'water']), ['must_be_list']],
    'a thing too long' => [$plan(['checklist' => [str_repeat('a', 121)]]), ['outing_thing']],
    'too much to carry' => [$plan(['checklist' => array_map(strval(...), range(1, 61))]), ['too_many']],
    'several things at once' => [
        $plan(['title' => '', 'from' => 'x', 'count' => -1]),
        ['empty', 'outing_days', 'outing_count'],
    ],
]);

it(
    'packs each thing once',
    fn () => expect(
        Outing::read($plan(['checklist' => ['Water', '', ' Water ', 'Tape']]), [], [1 => false])->checklist,
    )->toBe(['Water', 'Tape']),
);

// Common practice, no source: an even pace over the days, the first day counting.
it('knows where it should be by now', function (string $today, float $due): void {
    expect(Outing::due('2026-11-20', '2026-11-29', $today))->toEqualWithDelta($due, 1e-12);
})->with([['2026-11-19', 0.0], ['2026-11-20', 0.1], ['2026-11-24', 0.5], ['2026-11-29', 1.0], ['2027-01-01', 1.0]]);

it('says how it stands', function (int $done, ?int $wanted, float $due, string $state): void {
    expect(Outing::state($done, $wanted, $due))->toBe($state);
})->with([
    [5, null, 0.5, 'open'],
    [0, 0, 0.5, 'open'],
    [40, 40, 0.2, 'done'],
    [20, 40, 0.5, 'on'],
    [19, 40, 0.5, 'behind'],
    [30, 40, 0.5, 'ahead'],
    [0, 40, 0.0, 'on'],
]);
