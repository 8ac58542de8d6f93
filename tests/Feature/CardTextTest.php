<?php

declare(strict_types=1);

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->nests = $this->layer($this->field);
    $this->one = $this->add($this->nests, [
        'values' => ['code' => 'GH-1', 'species' => 'CM', 'clutch' => 90, 'laid_on' => '2026-06-01'],
    ]);
    $this->two = $this->add($this->nests, ['values' => ['code' => 'GH-2', 'species' => 'CC']]);
    $this->sync($this->head, [$this->one, $this->two]);
    $this->actingAs($this->head);
    $this->make = fn (array $text, array $fields = []): array => $this->postJson(
        "/api/v1/programmes/{$this->field->id}/maps",
        [
            'title' => 'M',
            'audience' => 'link',
            'layers' => [
                [
                    'id' => 'lone',
                    'layer' => $this->nests->id,
                    'card' => ['fields' => $fields, 'photos' => false, 'text' => $text],
                ],
            ],
        ],
    )->assertCreated()->json();
    $this->card = fn (array $map, array $record): array => $this->getJson(
        "/api/v1/maps/{$map['id']}/layers/lone/records/{$record['record']}",
    )->assertOk()->json();
    /** The sentences of a card in one line each. */
    $this->says = fn (array $map, array $record): array => array_map(
        static fn (array $pieces): string => implode('', array_column($pieces, 'text')),
        ($this->card)($map, $record)['text'],
    );
});

it('speaks in sentences, says what is missing, and keeps dates for the reader', function (): void {
    $map = ($this->make)([
        [
            'parts' => [
                ['text' => 'A '],
                ['field' => 'species'],
                ['text' => ' laid '],
                ['field' => 'clutch'],
                ['text' => ' eggs, '],
                ['field' => 'laid_on', 'as' => 'ago'],
                ['text' => ' ('],
                ['field' => 'laid_on'],
                ['text' => ').'],
            ],
        ],
    ]);
    expect(($this->says)($map, $this->one))->toBe(['A Green laid 90 eggs, 2026-06-01 (2026-06-01).'])
        ->and(($this->says)($map, $this->two))->toBe(['A Loggerhead laid not known eggs, not known (not known).'])
        ->and(array_column(($this->card)($map, $this->one)['text'][0], 'is'))
        ->toBe(['words', 'value', 'words', 'value', 'words', 'ago', 'words', 'date', 'words'])
        // The list of fields can go, and what the sentences say is not listed.
        ->and(($this->card)($map, $this->one)['values'])->toBe([]);
});

it('says a sentence only of records that it fits', function (array $only, array $of): void {
    $map = ($this->make)([['parts' => [['text' => 'yes']], 'only' => $only]]);
    $says = fn (array $record): bool => ($this->says)($map, $record) === ['yes'];
    expect([$says($this->one), $says($this->two)])->toBe($of);
})->with([
    [['field' => 'clutch', 'test' => 'there'], [true, false]],
    [['field' => 'clutch', 'test' => 'missing'], [false, true]],
    [['field' => 'species', 'test' => 'is', 'value' => 'CM'], [true, false]],
    [['field' => 'species', 'test' => 'is_not', 'value' => 'CM'], [false, true]],
    [['field' => 'clutch', 'test' => 'is_not', 'value' => 90], [false, true]],
    [['field' => 'clutch', 'test' => 'is', 'value' => 90.0], [true, false]],
    [['field' => 'clutch', 'test' => 'at_least', 'value' => 90], [true, false]],
    [['field' => 'clutch', 'test' => 'below', 'value' => 90], [false, false]],
    [['field' => 'clutch', 'test' => 'below', 'value' => 90.5], [true, false]],
    [['field' => 'laid_on', 'test' => 'at_least', 'value' => '2026-06-01'], [true, false]],
    [['field' => 'laid_on', 'test' => 'below', 'value' => '2026-06-01'], [false, false]],
]);

it('works values out for the card alone, and says so where they cannot be', function (): void {
    $map = ($this->make)([
        [
            'parts' => [
                ['text' => 'Half of them: '],
                ['formula' => 'round(clutch / 2)'],
                ['text' => '; '],
                ['formula' => 'clutch / (clutch - 90)'],
                ['text' => '; '],
                ['formula' => 'clutch > 50'],
                ['text' => '; '],
                ['formula' => 'laid_on'],
            ],
        ],
    ]);
    expect(($this->says)($map, $this->one))->toBe(['Half of them: 45; not known; yes; 2026-06-01'])
        ->and(($this->says)($map, $this->two))->toBe(['Half of them: not known; not known; not known; not known'])
        ->and(array_column(($this->card)($map, $this->one)['text'][0], 'is')[7])->toBe('date');
});

it('draws some numbers, without what is missing; and no parts of a whole below zero', function (): void {
    $layer = $this->layer($this->field, [
        'title' => 'Counts',
        'fields' => array_map(
            static fn (string $key): array => [
                'key' => $key,
                'label' => ucfirst($key),
                'kind' => 'decimal',
                'unit' => 'm',
            ],
            ['a', 'b', 'c'],
        ),
    ]);
    $record = $this->add($layer, ['values' => ['a' => 2.5, 'b' => -1]]);
    $this->sync($this->head, [$record]);
    $this->actingAs($this->head);
    $chart = function (mixed $chart) use ($layer, $record): mixed {
        $map = $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
            'title' => 'M',
            'layers' => [
                [
                    'id' => 'lone',
                    'layer' => $layer->id,
                    'card' => ['fields' => [], 'photos' => false, 'chart' => $chart],
                ],
            ],
        ]);

        return $map->status() === 422
            ? $map->json('problems.0.code')
            : $this->getJson("/api/v1/maps/{$map->json('id')}/layers/lone/records/{$record['record']}")->json('chart');
    };
    expect($chart(['kind' => 'bars', 'fields' => ['a', 'b', 'c']]))->toEqual([
        'kind' => 'bars',
        'bars' => [
            ['label' => 'A', 'value' => 2.5, 'text' => '2.5 m'],
            ['label' => 'B', 'value' => -1, 'text' => '-1 m'],
        ],
    ])
        ->and(array_column($chart(['kind' => 'donut', 'fields' => ['a', 'b']])['bars'], 'label'))->toBe(['A'])
        ->and($chart(['kind' => 'pie', 'fields' => ['a', 'b']]))->toBe('chart_kind')
        ->and($chart(['kind' => 'bars', 'fields' => ['a', 'a']]))->toBe('chart_fields')
        ->and($chart(['kind' => 'bars', 'fields' => ['a', 'wings']]))->toBe('look_field')
        ->and($chart(['kind' => 'bars', 'fields' => [['a'], 1]]))->toBe('look_field');
});

it('tells a stranger no more than its sentences say', function (): void {
    $map = ($this->make)([
        [
            'parts' => [['text' => 'Eggs: '], ['field' => 'clutch']],
            'only' => ['field' => 'species', 'test' => 'is', 'value' => 'CM'],
        ],
        [
            'parts' => [['text' => 'Named: '], ['formula' => 'clutch > 5']],
            'only' => ['field' => 'code', 'test' => 'there'],
        ],
    ]);
    app('auth')->forgetGuards();
    $open = '/api/v1/open/maps/'.basename($map['address']);
    $told = array_map(
        fn (array $f): string => (string) $this->getJson("$open/layers/lone/records/{$f['properties']['id']}")
            ->assertOk()
            ->content(),
        $this->drawn($open, 0),
    );
    expect(implode($told))->toContain('90')
        // What is asked for is not told, and a name that no sentence says neither.
        ->not->toContain('Green')
        ->not->toContain('Loggerhead')
        ->not->toContain('GH-');
});

it('refuses a sentence that cannot be said, naming it', function (mixed $text, string $code, string $field): void {
    $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'title' => 'M',
        'layers' => [['layer' => $this->nests->id, 'card' => ['fields' => [], 'text' => $text]]],
    ])->assertUnprocessable()->assertJsonPath('problems.0.code', $code)->assertJsonPath('problems.0.field', $field);
})->with([
    'no list' => ['hello', 'card_lines', 'layers/0/card/text'],
    'too many' => [array_fill(0, 13, ['parts' => [['text' => 'x']]]), 'card_lines', 'layers/0/card/text'],
    'no parts' => [[['only' => null]], 'card_parts', 'layers/0/card/text/0'],
    'a field that is not there' => [
        [['parts' => [['text' => 'x'], ['field' => 'wings']]]],
        'label_field',
        'layers/0/card/text/0/parts/1',
    ],
    'words without end' => [
        [['parts' => [['text' => str_repeat('x', 301)]]]],
        'label_text',
        'layers/0/card/text/0/parts/0',
    ],
    'a test that is none' => [
        [['parts' => [['text' => 'x']], 'only' => ['field' => 'clutch', 'test' => 'like', 'value' => 1]]],
        'card_test',
        'layers/0/card/text/0/only',
    ],
    'a formula that is none' => [
        [['parts' => [['text' => 'x'], ['formula' => 'clutch +']]]],
        'formula_unfinished',
        'layers/0/card/text/0/parts/1',
    ],
    'a formula about the place' => [
        [['parts' => [['formula' => 'latitude()']]]],
        'card_formula',
        'layers/0/card/text/0/parts/0',
    ],
    'compared with nothing' => [
        [['parts' => [['text' => 'x']], 'only' => ['field' => 'clutch', 'test' => 'is']]],
        'card_value',
        'layers/0/card/text/0/only',
    ],
]);

it('goes on without what has left the design', function (): void {
    $map = ($this->make)([
        ['parts' => [['text' => 'Eggs: '], ['field' => 'clutch']]],
        ['parts' => [['text' => 'A '], ['field' => 'species']]],
        ['parts' => [['text' => '']]],
    ]);
    expect($map['layers'][0]['card']['text'])->toHaveCount(2);
    $document = App\Models\Map::query()->findOrFail($map['id']);
    $layers = $document->layers;
    $layers[0]['card']['text'][0]['parts'][1]['field'] = 'gone';
    $document->update(['layers' => $layers]);
    expect(($this->says)($map, $this->one))->toBe(['A Green']);
});

it('says of each record what phones say (tests/vectors/cards.json)', function (): void {
    $vectors = json_decode((string) file_get_contents(base_path('tests/vectors/cards.json')), true);
    $layer = $this->layer($this->field, $vectors['design']);
    $design = $layer->design();
    foreach ($vectors['cases'] as $case) {
        $record = $this->add($layer, ['values' => $case['values']]);
        $this->sync($this->head, [$record]);
        $this->actingAs($this->head);
        $map = $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
            'title' => 'M',
            'layers' => [
                ['id' => 'lone', 'layer' => $layer->id, 'card' => array_diff_key($case['card'], ['trees' => 1])],
            ],
        ])->assertCreated()->json();
        $card = ($this->card)($map, $record);
        expect($card['name'])->toBe($case['name'])
            ->and(array_map(
                static fn (array $line): array => array_map(
                    static fn (array $p): array => [$p['text'], $p['is']],
                    $line,
                ),
                $card['text'],
            ))
            ->toBe($case['text'])
            ->and(array_map(static fn (array $v): array => [$v['label'], $v['text']], $card['values']))
            ->toBe($case['shown'])
            ->and(
                $card['chart'] === null
                    ? null
                    : array_map(
                        static fn (array $b): array => [$b['label'], $b['value'], $b['text']],
                        $card['chart']['bars'],
                    ),
            )
            ->toEqual($case['chart'] ?? null)
            // What phones work with is what the server works with.
            ->and(PinYard\Carto\CardText::read($case['card']['text'] ?? [], $design, 'card')->trees())
            ->toEqual($case['card']['trees'] ?? []);
    }
});
