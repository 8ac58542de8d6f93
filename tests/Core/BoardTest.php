<?php

declare(strict_types=1);

use PinYard\Board\BoardContext;
use PinYard\Board\BoardPlan;
use PinYard\Board\Plan;
use PinYard\Board\Shares;
use PinYard\Board\Step;
use PinYard\Board\TileInput;
use PinYard\Board\Unit;
use PinYard\Design\LayerDesign;

$design = static fn (): LayerDesign => LayerDesign::fromArray([
    'title' => 'Nests',
    'geometry' => 'point',
    'fields' => [
        ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
        ['key' => 'walked', 'label' => 'Walked', 'kind' => 'decimal', 'unit' => 'm'],
        ['key' => 'laid', 'label' => 'Laid', 'kind' => 'date'],
    ],
]);

// Source: Balinski and Young, Fair Representation (1982), on Hamilton's method, from memory: round down, then give what
// is lacking to the largest remainders.
it('parts a whole into shares that add up to a hundred', function (array $parts, array $shares): void {
    expect(Shares::of($parts))->toBe($shares);
})->with([
    [[1, 1, 1], [34, 33, 33]],
    [[2, 1], [67, 33]],
    [[0, 5], [0, 100]],
    [[0, 0], [null, null]],
    [[], []],
    [[3, -1], [null, null]],
    [[1, 199], [1, 99]],
    [[0.1, 0.2, 0.7], [10, 20, 70]],
    [
        ['a' => 7, 'b' => 7, 'c' => 7, 'd' => 7, 'e' => 7, 'f' => 7],
        ['a' => 17, 'b' => 17, 'c' => 17, 'd' => 17, 'e' => 16, 'f' => 16],
    ],
]);

it('gives shares that add up, whatever the parts', function (): void {
    mt_srand(7);
    for ($i = 0; $i < 500; $i++) {
        $parts = array_map(
            static fn (): int => mt_rand(0, 9) === 0 ? 0 : mt_rand(0, 10 ** mt_rand(0, 9)),
            range(1, mt_rand(1, 40)),
        );
        if (array_sum($parts) > 0) {
            $shares = Shares::of($parts);
            expect(array_sum($shares))->toBe(100);
            foreach ($parts as $k => $part) {
                // Hamilton's method stays within one of the exact share.
                expect(abs($shares[$k] - $part / array_sum($parts) * 100))->toBeLessThan(1.0);
            }
        }
    }
});

// Source: ISO 8601: weeks begin on Monday; GNU date agrees (date -d 2026-01-01 +%G-W%V gives 2026-W01).
it('steps through days, weeks, months and years', function (
    Step $step,
    string $day,
    string $start,
    string $next,
): void {
    expect($step->startOf($day))->toBe($start)->and($step->after($start))->toBe($next);
})->with([
    [Step::Day, '2026-02-28', '2026-02-28', '2026-03-01'],
    [Step::Week, '2026-01-01', '2025-12-29', '2026-01-05'],
    [Step::Week, '2026-01-04', '2025-12-29', '2026-01-05'],
    [Step::Week, '2026-01-05', '2026-01-05', '2026-01-12'],
    [Step::Month, '2024-02-29', '2024-02-01', '2024-03-01'],
    [Step::Year, '2024-12-31', '2024-01-01', '2025-01-01'],
]);

it('names all steps between two, or none where there are too many', function (): void {
    expect(Step::Month->all('2025-11-01', '2026-02-01', 10))->toBe(
        ['2025-11-01', '2025-12-01', '2026-01-01', '2026-02-01'],
    )
        ->and(Step::Day->all('2025-01-01', '2026-01-01', 365))->toBeNull()
        ->and(Step::Day->all('2025-01-02', '2025-01-01', 5))->toBe([]);
});

// Source: international yard and pound agreement of 1959 (a foot is 0.3048 m, a mile 1,609.344 m); the others are SI.
it('tells a number in another unit of the same thing', function (?string $from, string $to, ?float $factor): void {
    expect(Unit::factor($from, $to))->toBe($factor);
})->with([
    ['m', 'km', 0.001],
    ['m2', 'ha', 0.0001],
    ['cm', 'm', 0.01],
    ['mi', 'm', 1609.344],
    ['min', 'h', 60.0 / 3600.0],
    ['m', 'kg', null],
    ['eggs', 'km', null],
    [null, 'km', null],
]);

describe('a target', function () use ($design): void {
    $plan = static fn (array $in): Plan => Plan::read(new TileInput($in, 'tile', new BoardContext([1 => $design()])));

    it('is due evenly from the first day to the last', function () use ($plan): void {
        $p = $plan(['target' => 100, 'from' => '2026-05-01', 'to' => '2026-05-10']);
        expect($p->dueOn('2026-04-30'))->toBe(0.0)
            ->and($p->dueOn('2026-05-01'))->toBe(10.0)
            ->and($p->dueOn('2026-05-05'))->toBe(50.0)
            ->and($p->dueOn('2026-05-10'))->toBe(100.0)
            ->and($p->dueOn('2027-01-01'))->toBe(100.0)
            ->and($plan(['target' => 5])->dueOn('2026-05-01'))->toBeNull();
    });

    it('is due along a planned curve', function () use ($plan): void {
        $p = $plan(['target' => 100, 'curve' => [
            [
                'day' => '2026-06-01',
                'value' => 80,
            ], ['day' => '2026-05-01', 'value' => 10], ['day' => '2026-05-11', 'value' => 60],
        ]]);
        expect($p->dueOn('2026-04-01'))->toBe(0.0)
            ->and($p->dueOn('2026-05-01'))->toBe(10.0)
            ->and($p->dueOn('2026-05-06'))->toBe(35.0)
            ->and($p->dueOn('2026-07-01'))->toBe(80.0)
            ->and($p->answer(34.0, '2026-05-06')['state'])->toBe('behind')
            ->and($p->answer(35.0, '2026-05-06')['state'])->toBe('on')
            ->and($p->answer(100.0, '2026-05-06')['state'])->toBe('reached');
    });
});

it('keeps each kind of tile as it was made', function (array $tile) use ($design): void {
    $full = $tile + ['id' => 'a', 'title' => 'A', 'width' => 3, 'height' => 2, 'layer' => 1];
    $read = BoardPlan::tile($full, new BoardContext([1 => $design()], [4 => 1]));
    $kept = $read->toArray();
    expect(BoardPlan::tile($kept, new BoardContext([1 => $design()], [4 => 1]))->toArray())->toBe($kept)
        ->and(array_intersect_key($kept, $tile))->toEqual($tile);
})->with([
    [
        [
            'kind' => 'number',
            'slice' => 4,
            'compare' => ['by' => 'laid', 'days' => 7, 'against' => 'year'],
            'x' => 3,
            'y' => 0,
        ],
    ],
    [
        [
            'kind' => 'number',
            'measure' => ['of' => 'sum', 'field' => 'walked'],
            'unit' => 'km',
            'decimals' => 1,
            'page' => 2,
        ],
    ],
    [['kind' => 'target', 'target' => 5.0, 'from' => '2026-01-01', 'to' => '2026-02-01',
        'thresholds' => [['at' => 3.0, 'text' => 'x']]]],
    [
        [
            'kind' => 'trend',
            'by' => ['field' => 'laid', 'step' => 'month'],
            'running' => true,
            'on_phone' => false,
            'phone' => 3,
        ],
    ],
    [['kind' => 'spread', 'measure' => ['of' => 'mean', 'field' => 'eggs'], 'bars' => 5, 'question' => 'q']],
    [['kind' => 'number', 'measure' => ['of' => 'ratio', 'top' => [
        'of' => 'count',
        'slice' => 4,
    ], 'bottom' => ['of' => 'count'],
        'times' => 100]]],
]);

// What the screens say of a tile before the server would (tests/units/tileEdits.test.ts): or whoever goes on changing
// it while it is on its way would be asked about a change that nobody made.
it('says of a tile no more than goes without saying', function (): void {
    $unsaid = (array) json_decode((string) file_get_contents(__DIR__.'/../vectors/tiles-unsaid.json'), true);
    $points = LayerDesign::fromArray([
        'title' => 'N', 'geometry' => 'point', 'photos' => ['allowed' => true, 'most' => 3], 'fields' => [
            ['key' => 'eggs', 'label' => 'E', 'kind' => 'whole_number'],
            ['key' => 'laid', 'label' => 'L', 'kind' => 'date'],
        ],
    ]);
    $areas = LayerDesign::fromArray(['title' => 'A', 'geometry' => 'area', 'fields' => []]);
    $context = new BoardContext([1 => $points, 2 => $areas]);
    $mean = ['of' => 'mean', 'field' => 'eggs'];
    $least = [
        'target' => ['target' => 100],
        'breakdown' => ['by' => ['field' => 'eggs']],
        'trend' => ['by' => ['field' => 'laid', 'step' => 'week']],
        'spread' => ['measure' => $mean],
        'pairs' => ['measure' => ['of' => 'count'], 'up' => $mean, 'by' => ['field' => 'eggs']],
        'table' => ['by' => ['field' => 'eggs'], 'columns' => [['measure' => ['of' => 'count']]]],
        'coverage' => ['layer' => 2],
        'text' => ['text' => 'x', 'values' => [['layer' => 1, 'measure' => ['of' => 'count']]]],
        'link' => ['address' => 'https://example.test/x'],
        'picker' => ['by' => ['field' => 'eggs']],
    ];
    $told = [];
    foreach (PinYard\Board\TileKinds::ALL as $class) {
        $kind = $class::kind();
        $in = ($least[$kind] ?? []) + [
            'id' => 'x', 'kind' => $kind, 'title' => 'T', 'width' => 3, 'height' => 2, 'layer' => 1,
        ];
        $told[$kind] = array_diff_key(BoardPlan::tile($in, $context)->toArray(), $in);
    }
    expect($told)->toEqual($unsaid);
});
