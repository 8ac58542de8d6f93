<?php

declare(strict_types=1);

use Opis\JsonSchema\Validator;
use PinYard\Design\ChangeEffect;
use PinYard\Design\ChoiceReader;
use PinYard\Design\Conversion;
use PinYard\Design\DesignChange;
use PinYard\Design\DesignMerge;
use PinYard\Design\DesignReader;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Design\RecordCounts;
use PinYard\Design\ValueSchema;
use PinYard\Record\ValueCheck;

function asObjects(mixed $value): mixed
{
    return json_decode((string) json_encode($value, JSON_PRESERVE_ZERO_FRACTION));
}

describe('a design document', function (): void {
    // Source: JSON Schema draft 2020-12, as opis/json-schema 2.6 reads it.
    it('is taken or refused as the vectors say, by the reader and by the published schema', function (
        array $case,
    ): void {
        $codes = array_values(array_unique(refusals(fn () => LayerDesign::fromArray($case['document']))));
        expect($codes)->toBe($case['codes']);

        $schema = json_decode((string) file_get_contents(__DIR__.'/../../core/Design/layer-design.schema.json'));
        $valid = (new Validator)->validate(asObjects($case['document']), $schema)->isValid();
        expect($valid)->toBe($case['schema'] ?? $case['codes'] === []);
    })->with(
        fn (): array => array_column(
            array_map(fn (array $c): array => [$c['name'], [$c]], vectors('designs')['cases']),
            1,
            0,
        ),
    );

    it('comes back from its own JSON unchanged', function (): void {
        $document = vectors('designs')['cases'][1]['document'];
        $once = LayerDesign::fromArray($document)->toArray();
        expect(LayerDesign::fromArray(json_decode((string) json_encode($once), true))->toArray())->toBe($once);
    });

    it('names each place that is off by a JSON pointer', function (): void {
        try {
            LayerDesign::fromArray([
                'title' => 'T',
                'geometry' => 'point',
                'fields' => [
                    ['key' => 'a', 'label' => 'A', 'kind' => 'date'],
                    [
                        'key' => 'B',
                        'label' => '',
                        'kind' => 'one_choice',
                        'choices' => [['code' => '', 'label' => 'x']],
                    ],
                ],
            ]);
        } catch (PinYard\Refused $e) {
            expect(array_map(fn ($p) => $p->field, $e->problems))->toBe([
                '/fields/1/label',
                '/fields/1/key',
                '/fields/1/choices/0/code',
            ]);
        }
    });

    it('takes 200 fields and 5,000 choices, and no more', function (): void {
        $fields = fn (int $n): array => array_map(
            fn (int $i): array => ['key' => "f$i", 'label' => "F $i", 'kind' => 'short_text'],
            range(1, $n),
        );
        $choices = fn (int $n): array => [
            [
                'key' => 'c',
                'label' => 'C',
                'kind' => 'one_choice',
                'choices' => array_map(fn (int $i): array => ['code' => "c$i", 'label' => "C $i"], range(1, $n)),
            ],
        ];
        $read = fn (array $fields): array => refusals(
            fn () => LayerDesign::fromArray(['title' => 'T', 'geometry' => 'point', 'fields' => $fields]),
        );
        expect($read($fields(DesignReader::MOST_FIELDS)))
            ->toBe([])
            ->and($read($fields(DesignReader::MOST_FIELDS + 1)))
            ->toBe(['too_many'])
            ->and($read($choices(ChoiceReader::MOST_CHOICES)))
            ->toBe([])
            ->and($read($choices(ChoiceReader::MOST_CHOICES + 1)))
            ->toBe(['too_many']);
    });
});

describe('the values of a record', function (): void {
    it('are judged alike by the check and by the compiled JSON Schema', function (array $case): void {
        $vectors = vectors('values');
        $design = LayerDesign::fromArray($vectors['design']);
        $values = array_merge($vectors['base'], $case['with']);

        $found = [];
        $check = ValueCheck::against($design, $values);
        foreach ($check->problems as $problem) {
            $found[$problem->field] = $problem->code;
        }
        ksort($found);
        $expected = $case['off'];
        ksort($expected);
        expect($found)->toBe($expected);

        expect(array_column(array_map(fn ($p): array => [$p->field, $p->code], $check->asks), 1, 0))->toBe(
            $case['asks'] ?? [],
        );

        // What depends on other fields, or on the clock, is in the rules and not in the schema.
        if (
            array_intersect($case['off'], ['required', 'read_only', 'above_highest', 'below_lowest']) !== [] &&
            array_intersect(array_keys($case['off']), ['shells', 'why', 'team', 'past', 'begun']) !== []
        ) {
            return;
        }
        $given = array_filter($values, fn ($v, $k): bool => $v !== null && $k !== 'share', ARRAY_FILTER_USE_BOTH);
        $schema = asObjects(ValueSchema::of($design));
        expect((new Validator)->validate((object) asObjects($given), $schema)->isValid())->toBe($case['off'] === []);
    })->with(
        fn (): array => array_column(
            array_map(fn (array $c): array => [$c['name'], [$c]], vectors('values')['cases']),
            1,
            0,
        ),
    );

    it('come out with one entry for each field, whole numbers as integers', function (): void {
        $design = LayerDesign::fromArray(vectors('values')['design']);
        $check = ValueCheck::against($design, [
            'code' => 'A',
            'clutch' => 12.0,
            'count' => 3,
            'species' => 'CC',
            'seen' => '2026-05-01',
        ]);
        expect($check->values)
            ->toMatchArray([
                'code' => 'A',
                'note' => null,
                'clutch' => 12,
                'count' => 3,
                'species' => 'CC',
                'state' => null,
                'laid' => null,
                'seen' => '2026-05-01',
            ])
            ->and($check->values)
            ->toHaveCount(21)
            ->not->toHaveKey('part');
        $check = ValueCheck::against($design, [
            'opened' => true,
            'clutch' => 100,
            'shells' => 40,
            'at' => '2026-05-01T08:15:00.5+02:00',
            'begun' => '06:15:00',
            'weight' => 2,
            'threats' => ['tide'],
        ]);
        expect($check->values)
            ->toMatchArray([
                'share' => 40.0,
                'at' => '2026-05-01T06:15:00Z',
                'begun' => '06:15',
                'weight' => 2.0,
                'threats' => ['tide'],
            ])
            ->and(ValueCheck::against($design, ['clutch' => 100, 'shells' => 40])->values)
            ->toMatchArray(['shells' => null, 'share' => null]);
    });

    // A first survey's usual codes: a 1 to 10 condition scale and S/M/L sizes (common practice, no source).
    it('take the codes of the trade', function (string $code, bool $fits): void {
        $design = LayerDesign::fromArray([
            'title' => 'T',
            'geometry' => 'point',
            'fields' => [
                [
                    'key' => 'condition',
                    'label' => 'Condition',
                    'kind' => 'one_choice',
                    'choices' => array_map(fn (string $c): array => ['code' => $c, 'label' => "Is $c"], [
                        ...array_map(strval(...), range(1, 10)),
                        'S',
                        'M',
                        'L',
                    ]),
                ],
            ],
        ]);
        expect(ValueCheck::against($design, ['condition' => $code])->problems === [])->toBe($fits);
    })->with([['1', true], ['10', true], ['0', false], ['11', false], ['M', true], ['XL', false]]);
});

describe('a design change', function (): void {
    $design = fn (array $fields): LayerDesign => LayerDesign::fromArray([
        'title' => 'T',
        'geometry' => 'point',
        'fields' => $fields,
    ]);
    $choice = fn (string ...$codes): array => [
        'key' => 'c',
        'label' => 'C',
        'kind' => 'one_choice',
        'choices' => array_map(fn (string $c): array => ['code' => $c, 'label' => "L $c"], $codes),
    ];
    /** Ten records: eight with a value, three outside limits, two that cannot be turned. */
    $counts = fn (array $codes = [], int $all = 10): RecordCounts => new class($codes, $all) implements RecordCounts
    {
        public function __construct(private array $codes, private int $all)
        {
        }

        public function any(): bool
        {
            return $this->all > 0;
        }

        public function all(): int
        {
            return $this->all;
        }

        public function withValue(string $key): int
        {
            return min(8, $this->all);
        }

        public function withCodes(Field $field, array $codes): array
        {
            return array_intersect_key($this->codes, array_flip($codes));
        }

        public function outside(Field $field): int
        {
            return 3;
        }

        public function unturnable(Field $from, Field $to): int
        {
            return 2;
        }
    };
    $told = fn (DesignChange $c): array => array_map(
        fn (ChangeEffect $e): string => "$e->code $e->field $e->outcome $e->count",
        $c->effects,
    );

    it('says what becomes of the records, with counts', function (
        array $old,
        array $new,
        array $kept,
        array $effects,
        array $problems,
    ) use ($design, $counts, $told): void {
        $change = DesignChange::between($design($old), $design($new), $kept, [], $counts());
        expect($told($change))->toBe($effects)->and(array_map(fn ($p) => $p->code, $change->problems))->toBe($problems);
    })->with([
        'a new field' => [[], [['key' => 'a', 'label' => 'A', 'kind' => 'date']], [], [], []],
        'another label' => [
            [['key' => 'a', 'label' => 'A', 'kind' => 'date']],
            [['key' => 'a', 'label' => 'B', 'kind' => 'date']],
            ['a' => FieldKind::Date],
            [],
            [],
        ],
        'a field that leaves' => [
            [['key' => 'a', 'label' => 'A', 'kind' => 'date']],
            [],
            ['a' => FieldKind::Date],
            ['left a kept 8'],
            [],
        ],
        'a field that comes back' => [
            [],
            [['key' => 'a', 'label' => 'A', 'kind' => 'date']],
            ['a' => FieldKind::Date],
            ['back a kept 8'],
            [],
        ],
        'another kind' => [
            [['key' => 'a', 'label' => 'A', 'kind' => 'short_text']],
            [['key' => 'a', 'label' => 'A', 'kind' => 'whole_number']],
            ['a' => FieldKind::ShortText],
            ['turned_some a converted 8'],
            [],
        ],
        'another kind after it had left' => [
            [],
            [['key' => 'a', 'label' => 'A', 'kind' => 'whole_number']],
            ['a' => FieldKind::ShortText],
            ['turned_some a converted 8'],
            [],
        ],
        'a field that becomes needed' => [
            [['key' => 'a', 'label' => 'A', 'kind' => 'date']],
            [['key' => 'a', 'label' => 'A', 'kind' => 'date', 'required' => true]],
            ['a' => FieldKind::Date],
            ['needed a decide 2'],
            ['decide_needed'],
        ],
        'a new field that is needed' => [
            [],
            [['key' => 'a', 'label' => 'A', 'kind' => 'date', 'required' => true]],
            [],
            ['needed a decide 10'],
            ['decide_needed'],
        ],
        'narrower limits' => [
            [['key' => 'a', 'label' => 'A', 'kind' => 'decimal']],
            [['key' => 'a', 'label' => 'A', 'kind' => 'decimal', 'limits' => ['highest' => 5]]],
            ['a' => FieldKind::Decimal],
            ['outside a kept 3'],
            [],
        ],
    ]);

    it('asks where the records of a choice go that leaves, and takes the answer', function () use (
        $design,
        $choice,
        $counts,
        $told,
    ): void {
        $change = fn (array $new, array $decisions = []) => DesignChange::between(
            $design([$choice('x', 'y', 'z')]),
            $design([$new]),
            ['c' => FieldKind::OneChoice],
            [],
            $counts(['x' => 12, 'y' => 0]),
            $decisions,
        );
        expect($change($choice('x', 'z'))->problems)
            ->toBe([])
            ->and($change($choice('y', 'z'))->problems[0]->params)
            ->toBe(['label' => 'L x', 'count' => 12])
            ->and($told($change($choice('y', 'z'))))
            ->toBe(['choice_gone c decide 12'])
            ->and($change($choice('y', 'z'), ['c' => ['move' => ['x' => 'z']]])->moves)
            ->toBe(['c' => ['x' => 'z']])
            ->and($change($choice('y', 'z'), ['c' => ['move' => ['x' => 'nowhere']]])->problems)
            ->not->toBe([]);
    });

    it('fills gaps with a value that fits, and only with one', function () use ($design, $counts): void {
        $change = fn (array $decision) => DesignChange::between(
            $design([]),
            $design([
                [
                    'key' => 'a',
                    'label' => 'A',
                    'kind' => 'whole_number',
                    'required' => true,
                    'limits' => ['highest' => 5],
                ],
            ]),
            [],
            [],
            $counts(),
            ['a' => $decision],
        );
        expect($change(['fill' => 3])->fills)
            ->toBe(['a' => 3])
            ->and($change(['leave' => true])->problems)
            ->toBe([])
            ->and($change(['fill' => 9])->problems[0]->code)
            ->toBe('above_highest')
            ->and($change(['fill' => 'x'])->problems[0]->code)
            ->toBe('not_whole');
    });

    it('says nothing where there are no records', function () use ($design, $choice, $counts): void {
        $change = DesignChange::between(
            $design([$choice('x', 'y')]),
            $design([['key' => 'c', 'label' => 'C', 'kind' => 'date', 'required' => true]]),
            ['c' => FieldKind::OneChoice],
            [],
            $counts([], 0),
        );
        expect($change->effects)
            ->toBe([])
            ->and($change->problems)
            ->toBe([])
            ->and(array_keys($change->turned))
            ->toBe(['c']);
    });

    it('turns values where nothing is lost by it', function (
        mixed $value,
        array $from,
        array $to,
        bool $turns,
        mixed $into,
    ) use ($design): void {
        $field = fn (array $f): Field => $design([$f + ['key' => 'a', 'label' => 'A']])->fields[0];
        expect(Conversion::of($value, $field($from), $field($to)))->toBe([$turns, $into]);
    })->with([
        ['12', ['kind' => 'short_text'], ['kind' => 'whole_number'], true, 12],
        ['about 12', ['kind' => 'short_text'], ['kind' => 'whole_number'], false, null],
        ['12,5', ['kind' => 'short_text'], ['kind' => 'decimal'], true, 12.5],
        ['1.234,5', ['kind' => 'short_text'], ['kind' => 'decimal'], false, null],
        [12.5, ['kind' => 'decimal'], ['kind' => 'whole_number'], false, null],
        [12.0, ['kind' => 'decimal'], ['kind' => 'whole_number'], true, 12],
        [300, ['kind' => 'whole_number'], ['kind' => 'whole_number', 'limits' => ['highest' => 250]], false, null],
        [true, ['kind' => 'yes_no'], ['kind' => 'short_text'], true, 'yes'],
        ['No', ['kind' => 'short_text'], ['kind' => 'yes_no'], true, false],
        [
            'x',
            ['kind' => 'one_choice', 'choices' => [['code' => 'x', 'label' => 'Long name']]],
            ['kind' => 'short_text'],
            true,
            'Long name',
        ],
        [
            'green',
            ['kind' => 'short_text'],
            ['kind' => 'one_choice', 'choices' => [['code' => 'CM', 'label' => 'Green']]],
            true,
            'CM',
        ],
        [
            'x',
            ['kind' => 'one_choice', 'choices' => [['code' => 'x', 'label' => 'X']]],
            ['kind' => 'several_choices', 'choices' => [['code' => 'x', 'label' => 'X']]],
            true,
            ['x'],
        ],
        [
            ['x', 'y'],
            [
                'kind' => 'several_choices',
                'choices' => [['code' => 'x', 'label' => 'X'], ['code' => 'y', 'label' => 'Y']],
            ],
            ['kind' => 'one_choice', 'choices' => [['code' => 'x', 'label' => 'X']]],
            false,
            null,
        ],
        ['2026-05-01', ['kind' => 'date'], ['kind' => 'date_time'], true, '2026-05-01T00:00:00Z'],
        ['2026-05-01T23:00:00Z', ['kind' => 'date_time'], ['kind' => 'date'], true, '2026-05-01'],
        ['soon', ['kind' => 'short_text'], ['kind' => 'date'], false, null],
        [null, ['kind' => 'short_text'], ['kind' => 'date'], true, null],
    ]);

    it('brings together what two people changed, and names what only one can have', function (): void {
        $a = ['key' => 'a', 'label' => 'A', 'kind' => 'short_text'];
        $b = ['key' => 'b', 'label' => 'B', 'kind' => 'date'];
        $base = ['title' => 'T', 'purpose' => '', 'fields' => [$a, $b]];
        $merge = DesignMerge::of(
            $base,
            [
                'title' => 'Theirs',
                'purpose' => 'P',
                'fields' => [
                    $a + ['hint' => 'theirs'],
                    $b + ['required' => true],
                    ['key' => 'n', 'label' => 'N', 'kind' => 'time'],
                ],
            ],
            [
                'title' => 'Mine',
                'purpose' => '',
                'fields' => [
                    ['key' => 'm', 'label' => 'M', 'kind' => 'time'],
                    $b + ['hint' => 'mine'],
                    ['label' => 'A2'] + $a,
                ],
            ],
        );
        expect(array_column($merge->document['fields'], 'key'))
            ->toBe(['m', 'b', 'a', 'n'])
            ->and($merge->document['title'])
            ->toBe('Theirs')
            ->and($merge->document['purpose'])
            ->toBe('P')
            ->and($merge->document['fields'][1])
            ->toEqual($b + ['required' => true, 'hint' => 'mine'])
            ->and($merge->document['fields'][2])
            ->toEqual(['key' => 'a', 'label' => 'A2', 'kind' => 'short_text', 'hint' => 'theirs'])
            ->and($merge->clashes)
            ->toBe([['what' => '', 'part' => 'title', 'mine' => 'Mine']])
            ->and($merge->theirs)
            ->toContain('title', 'purpose', 'A', 'B', 'N');
        $gone = DesignMerge::of(
            $base,
            ['title' => 'T', 'purpose' => '', 'fields' => [$b]],
            ['title' => 'T', 'purpose' => '', 'fields' => [$a, $b + ['hint' => 'x']]],
        );
        expect(array_column($gone->document['fields'], 'key'))->toBe(['b']);
    });
});

it('tells whether a column could hold a value, whatever limits and choices say today', function (
    string $kind,
    array $fitting,
    array $others,
): void {
    $more = str_contains($kind, 'choice') ? ['choices' => [['code' => 'x', 'label' => 'X']]] : [];
    $field = LayerDesign::fromArray([
        'title' => 'T',
        'geometry' => 'point',
        'fields' => [['key' => 'a', 'label' => 'A', 'kind' => $kind] + $more],
    ])->fields[0];
    foreach ([null, ...$fitting] as $value) {
        expect(PinYard\Design\ValueRule::isOfKind($field, $value))->toBeTrue(json_encode($value));
    }
    foreach ($others as $value) {
        expect(PinYard\Design\ValueRule::isOfKind($field, $value))->toBeFalse(json_encode($value));
    }
})->with([
    ['whole_number', [0, -5, 999], ['7', 7.5, true, ['x']]],
    ['decimal', [0, 2.5], ['2.5', false, []]],
    ['yes_no', [true, false], [1, 'yes']],
    ['date', ['2026-05-01'], ['soon', '2026-02-30', 20260501]],
    ['time', ['06:15', '06:15:30'], ['24:00', 6]],
    ['date_time', ['2026-05-01T06:15:00Z'], ['2026-05-01', 5]],
    ['short_text', ['', 'x'], [1, ['x']]],
    ['one_choice', ['x', 'gone'], [1, ['x']]],
    ['several_choices', [[], ['x', 'gone']], ['x', 1]],
]);
