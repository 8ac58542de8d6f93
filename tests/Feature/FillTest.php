<?php

declare(strict_types=1);

describe('a formula written into a field for many records', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person('Head');
        $this->field = $this->programme($this->head);
        $this->trees = $this->layer($this->field, [
            'fields' => [
                ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'required' => true],
                ['key' => 'girth', 'label' => 'Girth', 'kind' => 'decimal'],
                [
                    'key' => 'size',
                    'label' => 'Size',
                    'kind' => 'one_choice',
                    'choices' => [['code' => 'S', 'label' => 'Small'], ['code' => 'L', 'label' => 'Large']],
                ],
                ['key' => 'age', 'label' => 'Age', 'kind' => 'whole_number', 'limits' => ['highest' => 50]],
                ['key' => 'planted', 'label' => 'Planted', 'kind' => 'date'],
                ['key' => 'double', 'label' => 'Double', 'kind' => 'calculated', 'formula' => 'age * 2'],
            ],
        ]);
        $this->actingAs($this->head);
        foreach ([['A', 30.0], ['B', 120.5], ['C', null], ['D', 900.0]] as [$code, $girth]) {
            $this->sync($this->head, [$this->add($this->trees, ['values' => ['code' => $code, 'girth' => $girth]])]);
        }
        $this->at = "/api/v1/layers/{$this->trees->id}";
        $this->values = fn (string $key): array => collect($this->getJson("$this->at/records")->json('records'))
            ->mapWithKeys(fn (array $r): array => [$r['values']['code'] => $r['values'][$key]])
            ->sortKeys()
            ->all();
    });

    it('is seen on ten records before, counts what it changes and skips, and is undone', function (): void {
        $body = ['field' => 'age', 'formula' => 'round(girth / 2.5)'];
        $preview = $this->postJson("$this->at/fills/preview", $body)
            ->assertOk()
            ->assertJsonPath('records', 4)
            ->json('shown');
        // Missing in, missing out; what lies beyond the field's limits is left as it is.
        expect(array_column($preview, 'after', 'name'))->toEqual(['D' => null, 'C' => null, 'B' => '48', 'A' => '12']);
        $fill = $this->postJson("$this->at/fills", $body)
            ->assertCreated()
            ->json();
        expect($fill)->toMatchArray(['state' => 'done', 'changed' => 2, 'skipped' => 2]);
        expect(($this->values)('age'))
            ->toBe(['A' => 12, 'B' => 48, 'C' => null, 'D' => null])
            ->and(($this->values)('double'))
            ->toBe(['A' => 24, 'B' => 96, 'C' => null, 'D' => null]);
        $this->deleteJson("$this->at/fills/{$fill['id']}")
            ->assertOk()
            ->assertJsonPath('state', 'undone')
            ->assertJsonPath('kept', 0);
        expect(($this->values)('age'))->toBe(['A' => null, 'B' => null, 'C' => null, 'D' => null]);
        $this->deleteJson("$this->at/fills/{$fill['id']}")->assertStatus(422);
    });

    it(
        'makes versions, history and news as any change does, and its undo keeps what was changed since',
        function (): void {
            $cursor = $this->trees->refresh()->change_number;
            $fill = $this->postJson("$this->at/fills", ['field' => 'size', 'formula' => 'girth > 100 ? "L" : "S"'])
                ->assertJsonPath('changed', 3)
                ->json();
            $news = $this->sync($this->head, [], [$this->trees->id => $cursor])['news'][$this->trees->id]['records'];
            expect($news)->toHaveCount(3);
            $record = collect($news)->firstWhere('name', 'A');
            expect($record['version'])->toBe(2);
            $history = $this->getJson("$this->at/records/{$record['id']}/history")->json();
            expect($history[0])
                ->toMatchArray(['version' => 2, 'kind' => 'change', 'author' => 'Head', 'changed' => ['size']])
                ->and($history[0]['values']['size'])
                ->toBe('S')
                ->and($history[0]['values']['girth'])
                ->toEqual(30);
            $this->patchJson("$this->at/records/{$record['id']}", [
                'base' => 2,
                'values' => ['size' => 'L'],
            ])->assertOk();
            $this->deleteJson("$this->at/fills/{$fill['id']}")
                ->assertOk()
                ->assertJsonPath('kept', 1);
            expect(($this->values)('size'))->toBe(['A' => 'L', 'B' => null, 'C' => null, 'D' => null]);
        },
    );

    it('tells phones of many records page by page, each once, and again of the undo', function (): void {
        $this->sync(
            $this->head,
            array_map(
                fn (int $i): array => $this->add($this->trees, ['values' => ['code' => "N$i", 'girth' => $i]]),
                range(1, 700),
            ),
        );
        $since = $this->trees->refresh()->change_number;
        $hear = function () use (&$since): array {
            $heard = [];
            do {
                $news = $this->sync($this->head, [], [$this->trees->id => $since])['news'][$this->trees->id];
                array_push($heard, ...$news['records']);
                $since = $news['cursor'];
            } while ($news['more']);

            return $heard;
        };
        $fill = $this->postJson("$this->at/fills", ['field' => 'size', 'formula' => '"L"'])
            ->assertJsonPath('changed', 704)
            ->json();
        $heard = $hear();
        expect($heard)
            ->toHaveCount(704)
            ->and(count(array_unique(array_column($heard, 'id'))))
            ->toBe(704)
            ->and($heard[0]['values']['size'])
            ->toBe('L')
            ->and($hear())
            ->toBe([]);
        $this->patchJson("$this->at/records/{$heard[5]['id']}", ['base' => 2, 'values' => ['size' => 'S']])->assertOk();
        expect($hear())->toHaveCount(1);
        $this->deleteJson("$this->at/fills/{$fill['id']}")->assertJsonPath('kept', 1);
        $heard = $hear();
        expect($heard)
            ->toHaveCount(703)
            ->and(array_unique(array_map(fn (array $r) => $r['values']['size'], $heard)))
            ->toBe([null])
            ->and($since)
            ->toBe($this->trees->refresh()->change_number);
    });

    it('is for the records of a slice, and for dates and yes or no', function (): void {
        $slice = $this->postJson("$this->at/slices", [
            'filter' => ['all' => [['field' => 'girth', 'test' => 'at_least', 'value' => 100]]],
        ])->json('id');
        $this->postJson("$this->at/fills", [
            'field' => 'planted',
            'formula' => 'date(2000, 1, 31)',
            'slice' => $slice,
        ])->assertJsonPath('changed', 2);
        expect(($this->values)('planted'))->toBe(['A' => null, 'B' => '2000-01-31', 'C' => null, 'D' => '2000-01-31']);
    });

    it('takes marks in a text for what they are', function (): void {
        $slice = $this->postJson("$this->at/slices", [
            'filter' => ['all' => [['field' => 'girth', 'test' => 'at_most', 'value' => 50]]],
        ])->json('id');
        $this->postJson("$this->at/fills", [
            'field' => 'code',
            'formula' => '"Why? :x \' \\\\ " ~ code',
            'slice' => $slice,
        ])
            ->assertCreated()
            ->assertJsonPath('changed', 1);
        expect(array_keys(($this->values)('girth')))->toContain("Why? :x ' \\ A");
    });

    it('is refused with the reason', function (array $body, string $code): void {
        $this->postJson("$this->at/fills/preview", $body)
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', $code);
    })->with([
        [['field' => 'nothing', 'formula' => '1'], 'fill_field'],
        [['field' => 'double', 'formula' => '1'], 'fill_field'],
        [['field' => 'age', 'formula' => 'code'], 'fill_type'],
        [['field' => 'age', 'formula' => 'girth +'], 'formula_unfinished'],
        [['field' => 'age', 'formula' => '1', 'slice' => 99], 'slice_unknown'],
        [['field' => 'age'], 'must_be_text'],
    ]);
});
