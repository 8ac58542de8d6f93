<?php

declare(strict_types=1);

use PinYard\Design\LayerDesign;
use PinYard\Geo\Box;
use PinYard\Plan\LayerFacts;
use PinYard\Plan\Question;
use PinYard\Plan\ReadyCheck;
use PinYard\Plan\ReadyLine;
use PinYard\Record\ValueCheck;

describe('the questions of a programme', function (): void {
    it('are read whole, or refused with every place that is off', function (mixed $list, array $codes): void {
        expect(refusals(fn () => Question::list($list, [1 => ['a', 'b']], [7 => ['t']])))->toBe($codes);
    })->with([
        [[], []],
        [
            [
                [
                    'text' => 'How many?',
                    'fields' => [['layer' => 1, 'key' => 'a']],
                    'tile' => ['board' => 7, 'tile' => 't'],
                ],
            ],
            [],
        ],
        ['no list', ['must_be_list']],
        [[['text' => '  ']], ['question_empty']],
        [[['text' => 'A'], ['text' => str_repeat('x', 201)], 'x'], ['too_long', 'must_be_object']],
        [[['text' => 'A', 'fields' => [['layer' => 2, 'key' => 'a']]]], ['question_field']],
        [[['text' => 'A', 'fields' => [['layer' => 1, 'key' => 'z'], 'x']]], ['question_field', 'question_field']],
        [[['text' => 'A', 'tile' => ['board' => 7, 'tile' => 'u']]], ['question_tile']],
        [array_fill(0, 101, ['text' => 'A']), ['too_many']],
    ]);

    it('tie a field once', function (): void {
        [$question] = Question::list(
            [['text' => ' A ', 'fields' => [['layer' => 1, 'key' => 'a'], ['layer' => 1, 'key' => 'a']]]],
            [1 => ['a']],
            [],
        );
        expect($question->text)->toBe('A')->and($question->fields)->toHaveCount(1);
    });
});

describe('the ready check', function (): void {
    $layer = fn (array $change = [], bool $map = true, bool $tried = true): LayerFacts => new LayerFacts(
        1,
        LayerDesign::fromArray(
            array_replace(
                [
                    'title' => 'Nests',
                    'geometry' => 'point',
                    'fields' => [['key' => 'a', 'label' => 'A', 'kind' => 'date']],
                    'rights' => ['crew' => ['add' => true]],
                ],
                $change,
            ),
        ),
        $map,
        $tried,
    );
    $missing = fn (array $lines): array => array_values(
        array_map(fn (ReadyLine $l): string => $l->code, array_filter($lines, fn (ReadyLine $l): bool => ! $l->holds)),
    );
    $area = Box::of(-12, -15, -11, -14);

    it('asks whether all may see to the metre what is open, and catches what is open with a closed layer', function (
        bool $open,
        bool $exact,
        bool $decided,
        ?int $caught,
        array $expected,
    ) use ($area, $missing): void {
        $facts = new LayerFacts(1, LayerDesign::fromArray([
            'title' => 'Nests', 'geometry' => 'point',
            'fields' => [['key' => 'a', 'label' => 'A', 'kind' => 'date']],
            'rights' => ['crew' => ['add' => true]],
        ]), true, true, $open, $exact, $decided);
        expect($missing(ReadyCheck::of([$facts], 1, $area, 1, [], $caught)))->toBe($expected);
    })->with([
        'open, to the metre' => [true, true, false, 0, ['seen']],
        'and somebody said so' => [true, true, true, 0, []],
        'blurred' => [true, false, true, 0, []],
        'shown by nothing that is open' => [false, true, false, null, []],
        'open with a layer that is not' => [true, false, true, 2, ['caught']],
    ]);

    it('finds what is forgotten most', function (
        array $change,
        bool $map,
        bool $tried,
        int $crew,
        int $bytes,
        array $questions,
        array $expected,
    ) use ($layer, $missing, $area): void {
        expect($missing(ReadyCheck::of([$layer($change, $map, $tried)], $crew, $area, $bytes, $questions)))->toBe(
            $expected,
        );
    })->with([
        'all set' => [[], true, true, 2, 5_000_000, ['answered', 'no_tile'], []],
        'nobody may write' => [
            ['rights' => ['crew' => ['add' => false, 'change' => 'none']]],
            true,
            true,
            2,
            0,
            [],
            ['rights'],
        ],
        'a picture without photos' => [
            ['fields' => [['key' => 'a', 'label' => 'Tag close-up', 'kind' => 'short_text']]],
            true,
            true,
            2,
            0,
            [],
            ['photos'],
        ],
        'no fields' => [['fields' => []], true, true, 2, 0, [], ['fields']],
        'nothing done yet' => [[], false, false, 0, 0, ['open'], ['trial', 'map', 'people', 'questions']],
        'a pack too large' => [[], true, true, 1, 400_000_000, [], ['pack']],
    ]);

    it('asks for a layer first, and for an area that is no continent', function () use ($missing): void {
        expect($missing(ReadyCheck::of([], 0, Box::of(-60, -40, 20, 40), 0, [])))->toBe(['layers', 'people', 'area']);
    });

    it('has its sentences for every line', function () use ($layer, $area): void {
        $texts = json_decode((string) file_get_contents(__DIR__.'/../../resources/texts/en.json'), true);
        foreach (
            ReadyCheck::of([$layer(['photos' => ['allowed' => true, 'least' => 1]])], 1, $area, 0, ['open']) as $line
        ) {
            expect($texts)->toHaveKeys([
                "ready.$line->code",
                "ready.$line->code.missing",
                "ready.$line->code.why",
                "ready.fix.$line->fix",
            ]);
        }
    });
});

describe('starter designs', function (): void {
    it('are sound, and have at least five subjects', function (): void {
        $files = glob(__DIR__.'/../../core/Design/starters/*.json');
        expect(count($files))->toBeGreaterThanOrEqual(5);
        foreach ($files as $file) {
            expect(
                refusals(fn () => LayerDesign::fromArray(json_decode((string) file_get_contents($file), true))),
            )->toBe([], $file);
        }
    });

    it('work as their crews would expect', function (): void {
        $design = fn (string $name): LayerDesign => LayerDesign::fromArray(
            json_decode((string) file_get_contents(__DIR__."/../../core/Design/starters/$name.json"), true),
        );
        expect(
            ValueCheck::against($design('tree-check'), ['tree_no' => 'T-0042', 'girth' => 94.2, 'condition' => 'good'])
                ->values['diameter'],
        )
            ->toBe(30.0)
            ->and(
                array_column(
                    array_map(
                        fn ($p) => [$p->field, $p->code],
                        ValueCheck::against($design('tree-check'), [
                            'tree_no' => 'T-42',
                            'condition' => 'good',
                            'urgent' => true,
                        ])->problems,
                    ),
                    1,
                    0,
                ),
            )
            ->toBe(['tree_no' => 'not_shape', 'work' => 'required'])
            ->and(
                ValueCheck::against($design('litter'), [
                    'stretch' => 'A',
                    'length_m' => 200,
                    'plastic' => 12,
                    'metal' => 3,
                    'glass' => 0,
                ])->values['per_100_m'],
            )
            ->toBe(7.5);
    });
});

// Source: Miller 1999, in IUCN/SSC MTSG Publication 4: hatching = shells / (shells + undeveloped + unhatched +
// unhatched term + predated),
// emergence = (shells - live in nest - dead in nest) / the same sum; worked through with counts of our own.
it('works nest success out as calculated fields', function (array $counts, ?float $hatching, ?float $emergence): void {
    $design = LayerDesign::fromArray([
        'title' => 'T',
        'geometry' => 'point',
        'fields' => [
            ...array_map(fn (string $key): array => ['key' => $key, 'label' => $key, 'kind' => 'whole_number'], [
                'shells',
                'undeveloped',
                'unhatched',
                'unhatched_term',
                'predated',
                'live',
                'dead',
            ]),
            [
                'key' => 'clutch',
                'label' => 'clutch',
                'kind' => 'calculated',
                'formula' => 'shells + undeveloped + unhatched + unhatched_term + predated',
            ],
            [
                'key' => 'hatching',
                'label' => 'hatching',
                'kind' => 'calculated',
                'formula' => 'round(100 * shells / clutch, 1)',
            ],
            [
                'key' => 'emergence',
                'label' => 'emergence',
                'kind' => 'calculated',
                'formula' => 'round(100 * (shells - live - dead) / clutch, 1)',
            ],
        ],
    ]);
    $values = ValueCheck::against($design, $counts)->values;
    expect($values['hatching'])->toBe($hatching)->and($values['emergence'])->toBe($emergence);
})->with([
    [
        [
            'shells' => 80,
            'undeveloped' => 8,
            'unhatched' => 6,
            'unhatched_term' => 4,
            'predated' => 2,
            'live' => 3,
            'dead' => 2,
        ],
        80.0,
        75.0,
    ],
    [
        [
            'shells' => 0,
            'undeveloped' => 110,
            'unhatched' => 0,
            'unhatched_term' => 0,
            'predated' => 0,
            'live' => 0,
            'dead' => 0,
        ],
        0.0,
        0.0,
    ],
    [
        [
            'shells' => 0,
            'undeveloped' => 0,
            'unhatched' => 0,
            'unhatched_term' => 0,
            'predated' => 0,
            'live' => 0,
            'dead' => 0,
        ],
        null,
        null,
    ],
    [['shells' => 80], null, null],
]);

// Common practice, no source: rate = count / population x 100 000, and the population back from it; no rate, no people.
it('works rates out and populations back', function (?int $cases, ?int $population, ?float $rate, ?float $back): void {
    $design = LayerDesign::fromArray([
        'title' => 'T',
        'geometry' => 'point',
        'fields' => [
            ['key' => 'cases', 'label' => 'Cases', 'kind' => 'whole_number'],
            ['key' => 'population', 'label' => 'Population', 'kind' => 'whole_number'],
            ['key' => 'rate', 'label' => 'Rate', 'kind' => 'calculated', 'formula' => 'cases / population * 100000'],
            ['key' => 'back', 'label' => 'Back', 'kind' => 'calculated', 'formula' => 'round(cases / rate * 100000)'],
        ],
    ]);
    $values = ValueCheck::against($design, ['cases' => $cases, 'population' => $population])->values;
    expect($values['rate'])->toBe($rate)->and($values['back'])->toBe($back);
})->with([
    [12, 4_800, 250.0, 4_800.0],
    [1, 3, (1 / 3) * 100000, 3.0],
    [0, 4_800, 0.0, null],
    [12, 0, null, null],
    [null, 4_800, null, null],
]);
