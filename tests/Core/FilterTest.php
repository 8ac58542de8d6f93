<?php

declare(strict_types=1);

use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;
use PinYard\Filter\SliceName;

$design = fn (): LayerDesign => LayerDesign::fromArray(vectors('values')['design']);

describe('a filter', function () use ($design): void {
    it('is read or refused', function (mixed $filter, array $codes) use ($design): void {
        expect(refusals(fn () => Filter::read($filter, $design())))->toBe($codes);
    })->with([
        [['all' => []], []],
        [
            [
                'all' => [
                    ['field' => 'species', 'test' => 'is', 'value' => 'CC'],
                    [
                        'any' => [
                            ['field' => 'clutch', 'test' => 'at_least', 'value' => 3],
                            ['field' => 'laid', 'test' => 'last_days', 'value' => 7],
                        ],
                    ],
                ],
            ],
            [],
        ],
        [['all' => [['field' => 'collected_at', 'test' => 'since', 'value' => '2026-05-01']]], []],
        [['species' => 'CC'], ['filter_shape']],
        ['all', ['filter_shape']],
        [['all' => [], 'any' => []], ['filter_shape']],
        [['all' => [['field' => 'nope', 'test' => 'is', 'value' => 1]]], ['field_unknown']],
        [['all' => [['field' => 'note', 'test' => 'at_least', 'value' => 1]]], ['test_unfit']],
        [['all' => [['field' => 'species', 'test' => 'is', 'value' => 'XX']]], ['filter_value']],
        [['all' => [['field' => 'clutch', 'test' => 'is', 'value' => "1' or 1=1"]]], ['filter_value']],
        [['all' => [['field' => 'laid', 'test' => 'since', 'value' => '2026-02-30']]], ['filter_value']],
        [['all' => [['field' => 'laid', 'test' => 'last_days', 'value' => 0]]], ['filter_value']],
        [['none' => [['field' => 'clutch', 'test' => 'missing']]], []],
        [['none' => [], 'all' => []], ['filter_shape']],
        [['all' => [['field' => 'clutch', 'test' => 'missing', 'value' => 3]]], ['filter_value']],
        [['all' => [['field' => 'clutch', 'test' => 'between', 'value' => [3, 9]]]], []],
        [['all' => [['field' => 'clutch', 'test' => 'between', 'value' => [9, 3]]]], ['filter_order']],
        [['all' => [['field' => 'clutch', 'test' => 'between', 'value' => [3]]]], ['filter_value']],
        [['all' => [['field' => 'clutch', 'test' => 'at_least', 'value' => NAN]]], ['filter_value']],
        [['all' => [['field' => 'clutch', 'test' => 'at_least', 'value' => INF]]], ['filter_value']],
        [['all' => [['field' => 'clutch', 'test' => 'at_least', 'value' => '3']]], ['filter_value']],
        [['all' => [['field' => 'note', 'test' => 'contains', 'value' => 'Ü']]], []],
        [['all' => [['field' => 'note', 'test' => 'contains', 'value' => '  ']]], ['filter_value']],
        [['all' => [['field' => 'species', 'test' => 'none_of', 'value' => []]]], ['filter_value']],
        [['all' => [['field' => 'laid', 'test' => 'today']]], []],
        [['all' => [['of' => 'visit', 'field' => 'clutch', 'test' => 'is', 'value' => 3]]], ['field_unknown']],
        [['all' => [['field' => '@visits', 'test' => 'is', 'value' => 3]]], ['field_unknown']],
        [['all' => [['field' => '@crew', 'test' => 'one_of', 'value' => [1, 2]]]], []],
        [['all' => [['field' => '@crew', 'test' => 'one_of', 'value' => ['North']]]], ['filter_value']],
        [['all' => [['field' => '@own', 'test' => 'is', 'value' => true]]], []],
        [['all' => [['field' => '@own', 'test' => 'is', 'value' => false]]], ['filter_value']],
        [
            [
                'all' => [
                    ['field' => '@place', 'test' => 'within', 'value' => ['lon' => 1, 'lat' => 2, 'metres' => 50]],
                ],
            ],
            [],
        ],
        [
            [
                'all' => [
                    ['field' => '@place', 'test' => 'within', 'value' => ['lon' => 1, 'lat' => 2, 'metres' => 2e5]],
                ],
            ],
            ['filter_value'],
        ],
        [
            [
                'all' => [
                    [
                        'field' => '@place',
                        'test' => 'in_shape',
                        'value' => ['type' => 'Polygon', 'coordinates' => [[[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]]],
                    ],
                ],
            ],
            ['shape_crosses'],
        ],
        [
            ['all' => [['field' => '@place', 'test' => 'in_area', 'value' => ['layer' => 1, 'record' => 'x']]]],
            ['filter_value'],
        ],
        [['all' => array_fill(0, 51, ['field' => 'clutch', 'test' => 'is', 'value' => 1])], ['filter_too_big']],
    ]);

    it('refuses to be nested without end', function () use ($design): void {
        $deep = ['all' => []];
        for ($i = 0; $i < 8; $i++) {
            $deep = ['all' => [$deep]];
        }
        expect(refusals(fn () => Filter::read($deep, $design())))->toBe(['filter_too_big']);
    });

    it('comes back from its own JSON', function () use ($design): void {
        $filter = [
            'all' => [
                ['field' => 'species', 'test' => 'one_of', 'value' => ['CC', 'CM']],
                ['any' => [['field' => 'clutch', 'test' => 'at_most', 'value' => 9]]],
            ],
        ];
        expect(Filter::read($filter, $design())->toArray())->toBe($filter);
    });

    it('proposes a name from its rule', function (array $filter, string $name) use ($design): void {
        $texts = json_decode((string) file_get_contents(__DIR__.'/../../resources/texts/en.json'), true);
        $namer = new SliceName(
            fn (string $code, array $params): string => str_replace(
                array_map(fn (string $k): string => "{{$k}}", array_keys($params)),
                array_map(strval(...), $params),
                $texts["slice.$code"],
            ),
            fn (): array => ['North', 'Süd'],
        );
        expect($namer->of(Filter::read($filter, $design(), $design())))->toBe($name);
    })->with([
        [['all' => []], 'Everything'],
        [['any' => []], 'Nothing'],
        [
            ['all' => [['field' => 'species', 'test' => 'one_of', 'value' => ['CC', 'CM']]]],
            'Species: Loggerhead, Green',
        ],
        [
            [
                'all' => [
                    ['field' => 'species', 'test' => 'is', 'value' => 'CC'],
                    [
                        'any' => [
                            ['field' => 'clutch', 'test' => 'between', 'value' => [3, 9]],
                            ['field' => 'laid', 'test' => 'last_days', 'value' => 7],
                        ],
                    ],
                ],
            ],
            'Species: Loggerhead, (Clutch 3 to 9 or Laid in the last 7 days)',
        ],
        [
            ['none' => [['of' => 'visit', 'field' => 'collected_at', 'test' => 'last_days', 'value' => 30]]],
            'not latest visit: Collected in the last 30 days',
        ],
        [['all' => [['field' => '@crew', 'test' => 'one_of', 'value' => [1, 2]]]], 'By North, Süd'],
        [
            [
                'all' => [
                    ['field' => '@place', 'test' => 'within', 'value' => ['lon' => -1, 'lat' => 2, 'metres' => 50]],
                ],
            ],
            'Within 50 m of 2, -1',
        ],
    ]);

    it('is never called by more than 190 letters', function () use ($design): void {
        $filter = ['any' => array_fill(0, 50, ['field' => 'note', 'test' => 'is', 'value' => 'ääääääääää'])];
        $namer = new SliceName(fn (string $code, array $p): string => $code.($p['value'] ?? ''), fn (): array => []);
        expect(mb_strlen($namer->of(Filter::read($filter, $design()))))->toBe(190);
    });
});
