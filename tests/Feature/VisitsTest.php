<?php

declare(strict_types=1);

use App\Designs\DesignStore;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;

beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->programme = $this->programme($this->mara);
    $this->nests = $this->layer($this->programme);
    $this->visits = $this->layer($this->programme, [
        'title' => 'Nest visits',
        'visits_of' => 'Nests',
        'fields' => [
            [
                'key' => 'state',
                'label' => 'State',
                'kind' => 'one_choice',
                'choices' => [['code' => 'calm', 'label' => 'Calm'], ['code' => 'dug', 'label' => 'Dug up']],
            ],
            ['key' => 'eggs', 'label' => 'Eggs seen', 'kind' => 'whole_number'],
        ],
    ]);
    $this->nests->refresh();
    $this->visit = fn (string $nest, string $when, array $values): array => $this->add($this->visits, [
        'visited' => $nest,
        'values' => $values,
        'captured_at' => $when,
    ]);
    $this->withFormulas = function (): void {
        $document = $this->nests->design()->toArray();
        $document['fields'][] = ['key' => 'seen', 'label' => 'Visits', 'kind' => 'calculated', 'formula' => 'visits()'];
        $document['fields'][] = [
            'key' => 'last_state',
            'label' => 'Last state',
            'kind' => 'calculated',
            'formula' => 'latest_visit("state")',
        ];
        $document['fields'][] = [
            'key' => 'last_eggs',
            'label' => 'Last eggs',
            'kind' => 'calculated',
            'formula' => 'latest_visit("eggs") * 2',
        ];
        $this->actingAs($this->mara)
            ->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $document])
            ->assertOk();
        $this->nests = $this->nests->fresh();
    };
    $this->nest = fn (string $id): array => $this->actingAs($this->mara)
        ->getJson("/api/v1/layers/{$this->nests->id}/records/$id")
        ->assertOk()
        ->json();
});

it('keeps visits with the record that they belong to, and works out what formulas say of them', function (): void {
    ($this->withFormulas)();
    $crew = $this->crew($this->programme);
    $nest = $this->add($this->nests);
    // The nest and its first visits come in one batch, out of their order in time.
    $outcomes = $this->sync($crew, [
        $nest,
        ($this->visit)($nest['record'], '2026-11-20T05:00:00Z', ['state' => 'dug', 'eggs' => 3]),
        ($this->visit)($nest['record'], '2026-11-18T05:00:00Z', ['state' => 'calm', 'eggs' => 7]),
    ])['outcomes'];
    expect(array_column($outcomes, 'outcome'))->toBe(['applied', 'applied', 'applied']);
    $record = ($this->nest)($nest['record']);
    expect($record['visits'])
        ->toBe(2)
        ->and($record['visited_at'])
        ->toStartWith('2026-11-20T05:00:00')
        ->and($record['values'])
        ->toMatchArray(['seen' => 2, 'last_state' => 'dug', 'last_eggs' => 6]);
    $told = $this->getJson("/api/v1/layers/{$this->nests->id}/records/{$nest['record']}/visits")
        ->assertOk()
        ->json();
    expect($told['layer'])
        ->toBe($this->visits->id)
        ->and(array_column(array_column($told['records'], 'values'), 'state'))
        ->toBe(['dug', 'calm'])
        ->and($told['records'][0]['visited'])
        ->toBe($nest['record']);
    // A visit is changed and deleted at the desk: the nest follows.
    $late = $told['records'][0];
    $this->patchJson("/api/v1/layers/{$this->visits->id}/records/{$late['id']}", [
        'base' => 1,
        'values' => ['eggs' => 5],
    ])->assertOk();
    expect(($this->nest)($nest['record'])['values']['last_eggs'])->toEqual(10);
    $this->deleteJson("/api/v1/layers/{$this->visits->id}/records/{$late['id']}")->assertNoContent();
    expect(($this->nest)($nest['record'])['values'])->toMatchArray([
        'seen' => 1,
        'last_state' => 'calm',
        'last_eggs' => 14,
    ]);
});

it('tells phones of a visited record whose calculated values changed', function (): void {
    ($this->withFormulas)();
    $crew = $this->crew($this->programme);
    [$nest] = $this->sync($crew, [$this->add($this->nests)])['outcomes'];
    $cursor = $this->nests->fresh()->change_number;
    $news = $this->sync(
        $crew,
        [($this->visit)($nest['record'], '2026-11-20T05:00:00Z', ['eggs' => 1])],
        [$this->nests->id => $cursor, $this->visits->id => 0],
    )['news'];
    expect($news[$this->nests->id]['records'][0]['values']['seen'])
        ->toEqual(1)
        ->and($news[$this->visits->id]['records'][0]['visited'])
        ->toBe($nest['record']);
});

it('gives the same in SQL over the whole layer', function (): void {
    ($this->withFormulas)();
    [$a, $b, $c] = [$this->add($this->nests), $this->add($this->nests), $this->add($this->nests)];
    $this->sync($this->mara, [
        $a,
        $b,
        $c,
        ($this->visit)($a['record'], '2026-11-20T05:00:00Z', ['state' => 'calm', 'eggs' => 4]),
        ($this->visit)($a['record'], '2026-11-21T05:00:00Z', ['state' => 'dug']),
        ($this->visit)($b['record'], '2026-11-20T05:00:00Z', ['eggs' => 9]),
    ]);
    $columns = ['f_seen', 'f_last_state', 'f_last_eggs'];
    $before = DB::table($this->nests->table())->orderBy('id')->get($columns)->toArray();
    DB::table($this->nests->table())->update(array_fill_keys($columns, null));
    App\Recalculation\Recalculate::dispatchSync($this->nests->id, ['seen', 'last_state', 'last_eggs']);
    expect(DB::table($this->nests->table())->orderBy('id')->get($columns)->toArray())
        ->toEqual($before)
        ->and((array) $before[0])
        ->toBe(['f_seen' => 2.0, 'f_last_state' => 'dug', 'f_last_eggs' => null]);
});

it('refuses a visit to nothing, to what one may not see, and a record that claims to be one', function (): void {
    $other = $this->layer($this->programme($this->person()));
    [$hidden] = $this->sync($this->mara, [$this->add($this->nests)])['outcomes'];
    $this->layer($this->programme, ['title' => 'Other']);
    $outcomes = $this->sync($this->mara, [
        $this->add($this->visits, ['values' => []]),
        $this->add($this->visits, ['values' => [], 'visited' => RecordId::make()->text]),
        $this->add($this->nests, ['visited' => $hidden['record']]),
        $this->add($this->visits, ['values' => [], 'visited' => 'x']),
    ])['outcomes'];
    expect(array_map(fn (array $o): string => $o['problems'][0]['code'], $outcomes))->toBe([
        'visit_of_what',
        'visit_unknown',
        'visit_not_here',
        'id_shape',
    ]);
    $document = $this->nests->design()->toArray();
    $document['rights'] = ['crew' => ['add' => true, 'see' => 'own']];
    $this->actingAs($this->mara)
        ->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $document])
        ->assertOk();
    [$unseen] = $this->sync($this->crew($this->programme), [
        ($this->visit)($hidden['record'], '2026-11-20T05:00:00Z', []),
    ])['outcomes'];
    expect($unseen['problems'][0]['code'])->toBe('visit_unknown');
    expect($other->visits_of)->toBeNull();
});

it('lets a layer have one layer of visits, of points, and no visits of visits', function (
    array $change,
    string $code,
): void {
    $document = ['title' => 'More visits', 'geometry' => 'point', 'visits_of' => 'Nests', 'fields' => [], ...$change];
    $this->actingAs($this->mara)
        ->postJson("/api/v1/programmes/{$this->programme->id}/layers", $document)
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', $code);
})->with([
    [[], 'visits_layer_taken'],
    [['visits_of' => 'Nest visits'], 'visits_of_visits'],
    [['visits_of' => 'Nobody'], 'visits_layer_unknown'],
    [['geometry' => 'line'], 'visits_point'],
    [['visits_of' => ''], 'empty'],
]);

it('says which formula reads a field of visits that is to leave', function (): void {
    ($this->withFormulas)();
    $document = $this->visits->design()->toArray();
    $document['fields'] = [$document['fields'][0]];
    $told = $this->actingAs($this->mara)
        ->putJson("/api/v1/layers/{$this->visits->id}/design", ['base' => 1, 'design' => $document])
        ->assertUnprocessable()
        ->json('problems.0');
    expect($told['code'])
        ->toBe('visit_field_used')
        ->and($told['message'])
        ->toContain('Last eggs')
        ->and($told['message'])
        ->toContain('"eggs"');
    // Once the formula is gone, the field may leave, and the earlier design of the nests stays readable.
    $nests = $this->nests->design()->toArray();
    array_pop($nests['fields']);
    $this->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 2, 'design' => $nests])->assertOk();
    $this->putJson("/api/v1/layers/{$this->visits->id}/design", ['base' => 1, 'design' => $document])->assertOk();
    expect($this->nests->fresh()->design(2)->field('last_eggs'))->not->toBeNull();
    $turned = ['visits_of' => null] + $document;
    $this->putJson("/api/v1/layers/{$this->visits->id}/design", ['base' => 2, 'design' => $turned])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'visits_fixed');
});

it('knows visits in drafts, conditions and trials of formulas', function (): void {
    [$nest] = $this->sync($this->mara, [$this->add($this->nests)])['outcomes'];
    $this->sync($this->mara, [($this->visit)($nest['record'], '2026-11-20T05:00:00Z', ['state' => 'dug'])]);
    $try = fn (string $formula): array => $this->actingAs($this->mara)
        ->postJson("/api/v1/layers/{$this->nests->id}/formulas/try", ['formula' => $formula])
        ->json();
    expect($try('visits() * 10')['tries'][0]['value'])
        ->toEqual(10)
        ->and($try('latest_visit("state") == "dug" ? "again" : "fine"')['tries'][0]['value'])
        ->toBe('again')
        ->and($try('latest_visit("stat")')['problems'][0]['code'])
        ->toBe('formula_visit_near')
        ->and($try('latest_visit("zzzzzzzz")')['problems'][0]['code'])
        ->toBe('formula_visit')
        ->and($try('latest_visit("eggs") + "a"')['problems'][0]['code'])
        ->toBe('formula_type');
    $draft = $this->nests->design()->toArray();
    $draft['fields'][] = ['key' => 'again', 'label' => 'Look again', 'kind' => 'yes_no', 'show_when' => 'visits() > 0'];
    $this->postJson('/api/v1/designs/check', $draft)
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'formula_no_visits');
    $this->postJson("/api/v1/designs/check?layer={$this->nests->id}", $draft)->assertOk();
    $this->actingAs($this->person())
        ->postJson("/api/v1/designs/check?layer={$this->nests->id}", $draft)
        ->assertUnprocessable();
});

it('tells on cards of maps the visits that whoever looks may see', function (): void {
    $nest = $this->add($this->nests, ['values' => ['code' => 'V-1', 'species' => 'CC']]);
    $other = $this->add($this->nests, ['values' => ['code' => 'V-2', 'species' => 'CC']]);
    $this->sync($this->mara, [$nest, $other]);
    $this->sync($this->mara, [
        ($this->visit)($nest['record'], '2026-06-01T06:00:00Z', ['eggs' => 40]),
        ($this->visit)($nest['record'], '2026-06-03T06:00:00Z', ['eggs' => 38]),
        ($this->visit)($nest['record'], '2026-06-02T06:00:00Z', ['state' => 'calm']),
        ($this->visit)($other['record'], '2026-06-09T06:00:00Z', ['eggs' => 7]),
    ]);
    $this->actingAs($this->mara);
    $map = fn (?string $field) => $this->mapOf($this->nests, [
        'card' => ['fields' => ['code'], 'photos' => false, 'visits' => ['field' => $field]],
    ], App\Models\Audience::Link);
    $told = fn (App\Models\Map $map): ?array => $this->getJson(
        "/api/v1/maps/$map->id/layers/{$map->layers[0]['id']}/records/{$nest['record']}",
    )->assertOk()->json('visits');
    $with = $map('eggs');
    expect($told($with))->toEqual([
        'count' => 3,
        'label' => 'Eggs seen',
        'list' => [
            ['at' => '2026-06-03T06:00:00.000Z', 'value' => 38, 'text' => '38'],
            ['at' => '2026-06-02T06:00:00.000Z', 'value' => null, 'text' => null],
            ['at' => '2026-06-01T06:00:00.000Z', 'value' => 40, 'text' => '40'],
        ],
    ])
        ->and($told($map(null))['label'])->toBeNull()
        // What is no number of theirs draws nothing.
        ->and($told($map('state'))['label'])->toBeNull()
        ->and($told($map('gone'))['count'])->toBe(3);
    app('auth')->forgetGuards();
    $open = "/api/v1/open/maps/$with->link_token/layers/{$with->layers[0]['id']}/records/".
        $this->behindLink($with, $nest['record']);
    $behind = fn (): ?array => $this->getJson($open)->assertOk()->json('visits');
    expect($behind()['count'])->toBe(3);
    // Visits that are closed to the public are not told behind the link, however the card is made.
    $closed = $this->visits->design()->toArray();
    $closed['rights']['public'] = ['see' => false];
    DesignStore::saveNext(
        Layer::query()->findOrFail($this->visits->id),
        LayerDesign::fromArray($closed, $this->visits->neighbours()),
        1,
        null,
        [],
    );
    expect($behind())->toBeNull();
    $this->actingAs($this->mara);
    expect($told($with)['count'])->toBe(3);
});
