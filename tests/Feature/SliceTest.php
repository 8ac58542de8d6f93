<?php

declare(strict_types=1);

beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->programme = $this->programme($this->mara);
    $this->nests = $this->layer($this->programme);
    $this->visits = $this->layer($this->programme, [
        'title' => 'Nest visits',
        'visits_of' => 'Nests',
        'fields' => [
            ['key' => 'eggs', 'label' => 'Eggs seen', 'kind' => 'whole_number'],
            [
                'key' => 'state',
                'label' => 'State',
                'kind' => 'one_choice',
                'choices' => [['code' => 'calm', 'label' => 'Calm'], ['code' => 'dug', 'label' => 'Dug up']],
            ],
        ],
    ]);
    $this->nests = $this->nests->fresh();
    $this->at = "/api/v1/layers/{$this->nests->id}";
    $this->actingAs($this->mara);
    $this->try = fn (array $filter, int $status = 200) => $this->postJson("$this->at/slices/try", ['filter' => $filter])
        ->assertStatus($status);
    $this->codes = function (array $filter): array {
        $asked = urlencode((string) json_encode($filter));
        $found = $this->getJson("$this->at/records?filter=$asked")->assertOk()->json('records');
        $codes = array_map(fn (array $r): string => $r['values']['code'], $found);
        sort($codes);

        return $codes;
    };
    $this->nest = function (string $code, array $change = [], $by = null): string {
        $add = $this->add($this->nests, ['values' => ['code' => $code, 'species' => 'CC'], ...$change]);
        $this->sync($by ?? $this->mara, [$add]);

        return $add['record'];
    };
    $this->visit = fn (string $nest, string $when, array $values) => $this->sync($this->mara, [
        $this->add($this->visits, ['visited' => $nest, 'values' => $values, 'captured_at' => $when]),
    ]);
});

it('asks for what the latest visit says, and how many there were', function (): void {
    $often = ($this->nest)('often');
    $once = ($this->nest)('once');
    ($this->nest)('never');
    ($this->visit)($often, '2026-05-01T08:00:00Z', ['state' => 'dug', 'eggs' => 9]);
    ($this->visit)($often, '2026-05-03T08:00:00Z', ['state' => 'calm']);
    ($this->visit)($once, '2026-05-02T08:00:00Z', ['state' => 'dug', 'eggs' => 3]);
    $says = fn (string $test, mixed $value = null, string $field = 'state'): array => [
        'of' => 'visit',
        'field' => $field,
        'test' => $test,
        ...$value === null ? [] : ['value' => $value],
    ];

    expect(($this->codes)(['all' => [$says('is', 'calm')]]))->toBe(['often'])
        // What an earlier visit said does not count.
        ->and(($this->codes)(['all' => [$says('is', 'dug')]]))->toBe(['once'])
        ->and(($this->codes)(['all' => [$says('missing', null, 'eggs')]]))->toBe(['often'])
        // A record that was never visited has no latest visit that could say anything.
        ->and(($this->codes)(['all' => [$says('is_not', 'calm')]]))->toBe(['once'])
        ->and(($this->codes)(['none' => [$says('is', 'calm')]]))->toBe(['never', 'once'])
        ->and(($this->codes)(['all' => [$says('since', '2026-05-03', 'collected_at')]]))->toBe(['often'])
        ->and(($this->codes)(['all' => [['field' => '@visits', 'test' => 'is', 'value' => 0]]]))->toBe(['never'])
        ->and(($this->codes)(['all' => [['field' => '@visits', 'test' => 'between', 'value' => [1, 1]]]]))
        ->toBe(['once'])
        ->and(($this->codes)(['all' => [['field' => '@visits', 'test' => 'at_least', 'value' => 1]]]))
        ->toBe(['often', 'once']);
    // A deleted visit is none.
    $last = $this->getJson("/api/v1/layers/{$this->visits->id}/records")->json('records');
    $calm = collect($last)->firstWhere('values.state', 'calm');
    $this->deleteJson("/api/v1/layers/{$this->visits->id}/records/{$calm['id']}")->assertSuccessful();
    expect(($this->codes)(['all' => [$says('is', 'dug')]]))->toBe(['often', 'once']);
});

it('asks for crews and for one\'s own', function (): void {
    $north = $this->programme->crews()->create(['name' => 'North']);
    $ines = $this->crew($this->programme);
    $this->programme->members()->where('user_id', $ines->id)->update(['crew_id' => $north->id]);
    ($this->nest)('by Ines', [], $ines);
    ($this->nest)('by Mara');
    $crew = fn (string $test): array => ['all' => [['field' => '@crew', 'test' => $test, 'value' => [$north->id]]]];

    expect(($this->codes)($crew('one_of')))->toBe(['by Ines'])
        ->and(($this->codes)($crew('none_of')))->toBe(['by Mara'])
        ->and(($this->codes)($own = ['all' => [['field' => '@own', 'test' => 'is', 'value' => true]]]))
        ->toBe(['by Mara']);
    ($this->try)($crew('one_of'))->assertJsonPath('name', 'By North')->assertJsonPath('found', 1);
    $this->actingAs($ines);
    expect(($this->codes)($own))->toBe(['by Ines']);
    $this->actingAs($this->mara);
    ($this->try)(['all' => [['field' => '@crew', 'test' => 'one_of', 'value' => [$north->id + 1]]]], 422)
        ->assertJsonPath('problems.0.code', 'filter_crew');
});

it('asks for areas of another layer, as they are at that moment', function (): void {
    $beaches = $this->layer($this->programme, [
        'title' => 'Beaches',
        'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $square = fn (float $west, float $size): array => [
        'type' => 'Polygon',
        'coordinates' => [
            [
                [$west, -14.6],
                [$west + $size, -14.6],
                [$west + $size, -14.4],
                [$west, -14.4],
                [$west, -14.6],
            ],
        ],
    ];
    $area = $this->postJson("/api/v1/layers/{$beaches->id}/records", [
        'values' => ['name' => 'Süderstrand'],
        'geometry' => $square(-11.6, 0.15),
    ])->assertCreated()->json();
    ($this->nest)('in', ['geometry' => ['type' => 'Point', 'coordinates' => [-11.5, -14.5]]]);
    ($this->nest)('out', ['geometry' => ['type' => 'Point', 'coordinates' => [-11.4, -14.5]]]);
    $inside = [
        'all' => [
            [
                'field' => '@place',
                'test' => 'in_area',
                'value' => ['layer' => $beaches->id, 'record' => $area['id']],
            ],
        ],
    ];
    ($this->try)($inside)->assertExactJson(['found' => 1, 'of' => 2, 'name' => 'In Süderstrand']);
    $askable = $this->getJson("$this->at/askable")->assertOk()->json();
    expect($askable['areas'])->toBe([
        [
            'layer' => $beaches->id,
            'title' => 'Beaches',
            'areas' => [['record' => $area['id'], 'name' => 'Süderstrand']],
        ],
    ]);
    $this->patchJson("/api/v1/layers/{$beaches->id}/records/{$area['id']}", [
        'base' => 1,
        'values' => [],
        'was' => [],
        'geometry' => $square(-11.6, 0.3),
    ])->assertSuccessful();
    expect(($this->codes)($inside))->toBe(['in', 'out']);
    $this->deleteJson("/api/v1/layers/{$beaches->id}/records/{$area['id']}")->assertSuccessful();
    expect(($this->codes)($inside))->toBe([]);
    ($this->try)($inside, 422)->assertJsonPath('problems.0.code', 'filter_area');
    // An area of a layer that is none, or of another programme, is none.
    $foreign = $this->layer($this->programme($this->mara), ['geometry' => 'area', 'fields' => []]);
    foreach ([$this->nests->id, $foreign->id, 0] as $layer) {
        $inside['all'][0]['value']['layer'] = $layer;
        ($this->try)($inside, 422)->assertJsonPath('problems.0.code', 'filter_area');
    }
});

it('tells what can be asked, with what fits each', function (): void {
    $subjects = collect($this->getJson("$this->at/askable")->assertOk()->json('subjects'));
    expect($subjects->map(fn (array $s): string => ($s['of'] === 'visit' ? 'visit ' : '').$s['field'])->all())->toBe([
        'code',
        'clutch',
        'species',
        'laid_on',
        'collected_at',
        '@place',
        '@crew',
        '@own',
        '@accepted',
        '@visits',
        'visit eggs',
        'visit state',
        'visit collected_at',
    ]);
    // Each test of each of them is taken.
    $values = [
        'in_area' => null,
        'within' => ['lon' => 1, 'lat' => 2, 'metres' => 3],
        'in_shape' => ['type' => 'Polygon', 'coordinates' => [[[0, 0], [1, 0], [1, 1], [0, 0]]]],
        'last_days' => 3,
    ];
    foreach ($subjects as $s) {
        foreach ($s['tests'] as $test) {
            $one = match (true) {
                $s['choices'] !== [] => $s['choices'][0]['code'],
                in_array($s['kind'], ['date', 'date_time'], true), $s['field'] === 'collected_at' => '2026-05-01',
                $s['kind'] === 'short_text' => 'x',
                in_array($s['field'], ['@own', '@accepted'], true) => true,
                default => 3,
            };
            $value = $values[$test] ??
                match ($test) {
                    'between' => [$one, $one],
                    'one_of', 'none_of' => [$one],
                    'missing', 'there', 'today', 'this_week' => null,
                    default => $one,
                };
            if ($test === 'in_area' || $s['field'] === '@crew') {
                continue;
            }
            $condition = ['of' => $s['of'], 'field' => $s['field'], 'test' => $test];
            ($this->try)(['all' => [$value === null ? $condition : [...$condition, 'value' => $value]]]);
        }
    }
});

it('is changed wherever it is used, and deleted where it is not', function (): void {
    ($this->nest)('A', ['values' => ['code' => 'A', 'species' => 'CM']]);
    ($this->nest)('B');
    $slice = $this->postJson("$this->at/slices", [
        'filter' => ['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CC']]],
    ])->assertCreated()->json();
    $board = $this->postJson("/api/v1/programmes/{$this->programme->id}/boards", [
        'title' => 'Süd',
        'tiles' => [
            [
                'id' => 'a',
                'kind' => 'latest',
                'title' => 'Which',
                'layer' => $this->nests->id,
                'slice' => $slice['id'],
            ],
        ],
    ])->assertCreated()->json();
    $names = fn (): array => array_column(
        $this->getJson("/api/v1/boards/{$board['id']}/answers")->json('tiles.0.answer.records'),
        'name',
    );
    expect($names())->toBe(['B']);
    $this->putJson("$this->at/slices/{$slice['id']}", [
        'filter' => ['none' => [['field' => 'species', 'test' => 'is', 'value' => 'CC']]],
    ])->assertOk()->assertJsonPath('name', 'not Species: Loggerhead');
    expect($names())->toBe(['A']);
    $this->deleteJson("$this->at/slices/{$slice['id']}")
        ->assertStatus(422)
        ->assertJsonPath('problems.0.message', 'This slice is still used by: Süd. Take it out there first.');
    $this->patchJson("/api/v1/boards/{$board['id']}", ['tiles' => [], 'was' => ['tiles' => $board['tiles']]])
        ->assertSuccessful();
    $this->deleteJson("$this->at/slices/{$slice['id']}")->assertNoContent();
    $this->deleteJson("$this->at/slices/{$slice['id']}")->assertNotFound();
    // One of another layer is not found by this one's address.
    $foreign = $this->visits->slices()->create(['name' => 'x', 'filter' => ['all' => []]]);
    $this->putJson("$this->at/slices/{$foreign->id}", ['filter' => ['all' => []]])->assertNotFound();
});

it('keeps boards current in what a rule asks beside the records', function (): void {
    $nest = ($this->nest)('A');
    $north = $this->programme->crews()->create(['name' => 'North']);
    $other = $this->person('Other');
    $this->programme->members()->create(['user_id' => $other->id, 'role' => 'coordinator']);
    $slice = fn (array $rule): int => $this->postJson("$this->at/slices", ['filter' => ['all' => [$rule]]])
        ->assertCreated()
        ->json('id');
    $tile = fn (string $id, array $rule): array => [
        'id' => $id,
        'kind' => 'number',
        'title' => $id,
        'layer' => $this->nests->id,
        'slice' => $slice($rule),
    ];
    $board = $this->postJson("/api/v1/programmes/{$this->programme->id}/boards", [
        'title' => 'All',
        'tiles' => [
            $tile('visited', ['field' => '@visits', 'test' => 'at_least', 'value' => 1]),
            $tile('crew', ['field' => '@crew', 'test' => 'one_of', 'value' => [$north->id]]),
            $tile('own', ['field' => '@own', 'test' => 'is', 'value' => true]),
        ],
    ])->assertCreated()->json('id');
    $tag = null;
    $counts = function () use ($board, &$tag): array {
        // As a screen asks: with the tag that it has.
        $answer = $this->getJson("/api/v1/boards/$board/answers", $tag === null ? [] : ['If-None-Match' => $tag]);
        expect($answer->status())->toBe(200);
        $tag = $answer->headers->get('ETag');

        return array_map(fn (array $t): int => $t['answer']['value'], $answer->json('tiles'));
    };
    expect($counts())->toBe([0, 0, 1]);
    ($this->visit)($nest, '2026-05-01T08:00:00Z', ['eggs' => 1]);
    expect($counts())->toBe([1, 0, 1]);
    $this->programme->members()->where('user_id', $this->mara->id)->update(['crew_id' => $north->id]);
    expect($counts())->toBe([1, 1, 1]);
    // What is somebody's own is not what another one is told.
    $this->actingAs($other);
    expect($counts())->toBe([1, 1, 0]);
});

it('does not write over what somebody else has changed meanwhile', function (): void {
    $slice = $this->postJson("$this->at/slices", ['filter' => ['all' => []]])->assertCreated()->json();
    $was = ['name' => $slice['name'], 'filter' => $slice['filter']];
    $missing = fn (string $field): array => ['all' => [['field' => $field, 'test' => 'missing']]];
    $this->putJson("$this->at/slices/{$slice['id']}", ['filter' => $missing('clutch'), 'was' => $was])->assertOk();
    $this->putJson("$this->at/slices/{$slice['id']}", ['filter' => $missing('laid_on'), 'was' => $was])
        ->assertStatus(409)
        ->assertJsonPath('problems.0.code', 'slice_stale');
    $this->getJson("$this->at/slices")->assertJsonPath('0.name', 'Clutch missing');
});

it('goes along to a copy of its programme: crews by their copies, areas as they are drawn', function (): void {
    $crew = $this->programme->crews()->create(['name' => 'North']);
    $beaches = $this->layer($this->programme, [
        'title' => 'Beaches',
        'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $ring = [[-11.6, -14.6], [-11.4, -14.6], [-11.4, -14.4], [-11.6, -14.4], [-11.6, -14.6]];
    $area = $this->postJson("/api/v1/layers/{$beaches->id}/records", [
        'values' => ['name' => 'West'],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [$ring]],
    ])->assertCreated()->json('id');
    $this->postJson("$this->at/slices", [
        'filter' => [
            'any' => [
                ['field' => '@place', 'test' => 'in_area', 'value' => ['layer' => $beaches->id, 'record' => $area]],
                ['none' => [['field' => '@crew', 'test' => 'one_of', 'value' => [$crew->id]]]],
            ],
        ],
    ])->assertCreated();
    $things = $this->postJson('/api/v1/things', [
        'action' => 'copy',
        'things' => [['kind' => 'programme', 'id' => $this->programme->id]],
    ])->assertSuccessful()->json();
    $copy = App\Models\Programme::query()->findOrFail($things[0]['id']);
    $slice = $copy->layers()->where('title', 'Nests')->firstOrFail()->slices()->firstOrFail();
    [$place, $none] = $slice->filter['any'];
    expect($place['test'])->toBe('in_shape')
        ->and($place['value']['coordinates'][0])->toHaveCount(5)
        ->and($none['none'][0]['value'])->toBe([$copy->crews()->firstOrFail()->id]);
    $this->getJson("/api/v1/layers/{$slice->layer_id}/records?slice={$slice->id}")->assertOk()->assertJsonPath('total', 0);
});
