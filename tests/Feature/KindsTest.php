<?php

declare(strict_types=1);

use App\Layers\StoredValue;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;

describe('values of every kind', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person('Head');
        $choices = [
            ['code' => 'a', 'label' => 'Ash'],
            ['code' => 'b', 'label' => 'Birch'],
            ['code' => 'ab', 'label' => 'Both'],
        ];
        $this->posts = $this->layer($this->programme($this->head), [
            'fields' => [
                ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text', 'required' => true],
                ['key' => 'story', 'label' => 'Story', 'kind' => 'long_text'],
                ['key' => 'n', 'label' => 'N', 'kind' => 'whole_number'],
                ['key' => 'x', 'label' => 'X', 'kind' => 'decimal', 'unit' => 'kg'],
                ['key' => 'yes', 'label' => 'Yes', 'kind' => 'yes_no'],
                ['key' => 'd', 'label' => 'D', 'kind' => 'date'],
                ['key' => 't', 'label' => 'T', 'kind' => 'time'],
                ['key' => 'at', 'label' => 'At', 'kind' => 'date_time'],
                ['key' => 'one', 'label' => 'One', 'kind' => 'one_choice', 'choices' => $choices],
                ['key' => 'some', 'label' => 'Some', 'kind' => 'several_choices', 'choices' => $choices],
                ['key' => 'part', 'label' => 'Part', 'kind' => 'heading'],
                ['key' => 'sum', 'label' => 'Sum', 'kind' => 'calculated', 'formula' => 'n + x'],
            ],
        ]);
        $this->rows = [
            [
                'name' => 'P',
                'story' => "Two\nlines",
                'n' => -3,
                'x' => 2.5,
                'yes' => true,
                'd' => '2026-05-01',
                't' => '06:15',
                'at' => '2026-05-01T06:15:30Z',
                'one' => 'a',
                'some' => ['a', 'b'],
                'sum' => -0.5,
            ],
            [
                'name' => 'Q',
                'story' => null,
                'n' => 9_007_199_254_740_991,
                'x' => 0.1,
                'yes' => false,
                'd' => '2025-12-31',
                't' => '23:59:59',
                'at' => '2025-12-31T23:59:59Z',
                'one' => 'ab',
                'some' => ['ab'],
                'sum' => null,
            ],
            [
                'name' => 'R',
                'story' => null,
                'n' => null,
                'x' => null,
                'yes' => null,
                'd' => null,
                't' => null,
                'at' => null,
                'one' => null,
                'some' => null,
                'sum' => null,
            ],
        ];
        foreach ($this->rows as $row) {
            expect(
                $this->sync($this->head, [
                    $this->add($this->posts, ['values' => array_filter($row, fn ($v): bool => $v !== null)]),
                ])['outcomes'][0]['outcome'],
            )->toBe('applied');
        }
        $this->found = fn (array $filter): array => collect(
            $this->actingAs($this->head)
                ->getJson(
                    "/api/v1/layers/{$this->posts->id}/records?filter=".
                        rawurlencode((string) json_encode(['all' => [$filter]])),
                )
                ->assertOk()
                ->json('records'),
        )
            ->pluck('name')
            ->sort()
            ->values()
            ->all();
    });

    it('come out as they went in, in lists and in a phone\'s news', function (): void {
        $listed = collect(
            $this->actingAs($this->head)
                ->getJson("/api/v1/layers/{$this->posts->id}/records")
                ->json('records'),
        )
            ->sortBy('name')
            ->pluck('values')
            ->values()
            ->all();
        $news = collect($this->sync($this->head, [], [$this->posts->id => 0])['news'][$this->posts->id]['records'])
            ->sortBy('name')
            ->pluck('values')
            ->values()
            ->all();
        // A sum beyond 1e15 is no measurement, so it is missing.
        expect($listed)->toEqual($this->rows)->and($news)->toEqual($this->rows);
    });

    it('are found by the tests that fit their kind', function (array $filter, array $names): void {
        expect(($this->found)($filter))->toBe($names);
    })->with([
        [['field' => 'x', 'test' => 'at_least', 'value' => 0.1], ['P', 'Q']],
        [['field' => 'x', 'test' => 'at_most', 'value' => 1], ['Q']],
        [['field' => 'n', 'test' => 'is', 'value' => -3], ['P']],
        [['field' => 'yes', 'test' => 'is', 'value' => true], ['P']],
        [['field' => 'yes', 'test' => 'is', 'value' => false], ['Q']],
        [['field' => 'some', 'test' => 'has', 'value' => 'a'], ['P']],
        [['field' => 'some', 'test' => 'has', 'value' => 'ab'], ['Q']],
        [['field' => 'one', 'test' => 'one_of', 'value' => ['a', 'ab']], ['P', 'Q']],
        [['field' => 't', 'test' => 'at_least', 'value' => '12:00'], ['Q']],
        [['field' => 'd', 'test' => 'since', 'value' => '2026-01-01'], ['P']],
        [['field' => 'at', 'test' => 'until', 'value' => '2025-12-31'], ['Q']],
        [['field' => 'story', 'test' => 'is', 'value' => "Two\nlines"], ['P']],
        [['field' => 'sum', 'test' => 'at_most', 'value' => 0], ['P']],
    ]);

    it('are not looked for by tests that do not fit', function (array $filter, string $code): void {
        $this->actingAs($this->head)
            ->getJson(
                "/api/v1/layers/{$this->posts->id}/records?filter=".
                    rawurlencode((string) json_encode(['all' => [$filter]])),
            )
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', $code);
    })->with([
        [['field' => 'some', 'test' => 'is', 'value' => 'a'], 'test_unfit'],
        [['field' => 'some', 'test' => 'has', 'value' => 'zz'], 'filter_value'],
        [['field' => 'yes', 'test' => 'is', 'value' => 1], 'filter_value'],
        [['field' => 'part', 'test' => 'is', 'value' => 'x'], 'field_unknown'],
        [['field' => 't', 'test' => 'at_least', 'value' => 'noon'], 'filter_value'],
        [['field' => 'x', 'test' => 'at_least', 'value' => '1'], 'filter_value'],
    ]);

    it('give a slice its name in words', function (array $filter, string $name): void {
        $this->actingAs($this->head)
            ->postJson("/api/v1/layers/{$this->posts->id}/slices", ['filter' => ['all' => [$filter]]])
            ->assertCreated()
            ->assertJsonPath('name', $name);
    })->with([
        [['field' => 'some', 'test' => 'has', 'value' => 'b'], 'Some: Birch'],
        [['field' => 'yes', 'test' => 'is', 'value' => true], 'Yes: yes'],
        [['field' => 'x', 'test' => 'at_least', 'value' => 2.5], 'X at least 2.5 kg'],
    ]);
});

it('keeps a value through its column and back, and shows it to people', function (
    string $kind,
    mixed $value,
    string|int|float $stored,
    string $shown,
): void {
    $more = str_contains($kind, 'choice')
        ? ['choices' => [['code' => 'a', 'label' => 'Ash'], ['code' => 'b', 'label' => 'Birch']]]
        : [];
    $more += in_array($kind, ['whole_number', 'decimal'], true) ? ['unit' => 'kg'] : [];
    $field = LayerDesign::fromArray([
        'title' => 'T',
        'geometry' => 'point',
        'fields' => [['key' => 'a', 'label' => 'A', 'kind' => $kind] + $more],
    ])->fields[0];
    expect(StoredValue::toColumn(FieldKind::from($kind), $value))
        ->toBe($stored)
        ->and(StoredValue::fromColumn(FieldKind::from($kind), $stored))
        ->toBe($value)
        ->and(StoredValue::shown($field, $stored))
        ->toBe($shown)
        ->and(StoredValue::shown($field, null))
        ->toBeNull();
})->with([
    ['short_text', 'x', 'x', 'x'],
    ['whole_number', 7, 7, '7 kg'],
    ['decimal', 2.5, 2.5, '2.5 kg'],
    ['decimal', 30.0, 30.0, '30 kg'],
    ['yes_no', true, 1, 'yes'],
    ['yes_no', false, 0, 'no'],
    ['date', '2026-05-01', '2026-05-01', '2026-05-01'],
    ['date_time', '2026-05-01T06:15:00Z', '2026-05-01 06:15:00', '2026-05-01T06:15:00Z'],
    ['one_choice', 'b', 'b', 'Birch'],
    ['several_choices', ['a', 'b'], 'a,b', 'Ash, Birch'],
]);
