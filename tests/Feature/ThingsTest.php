<?php

declare(strict_types=1);

use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Role;
use App\Programmes\EmptyBin;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->programme = $this->programme($this->mara);
    $this->nests = $this->layer($this->programme);
    $this->actingAs($this->mara);
    $this->map = $this->postJson("/api/v1/programmes/{$this->programme->id}/maps", [
        'layer' => $this->nests->id,
        'title' => 'Season map',
        'audience' => 'link',
    ])->json();
    $this->board = $this->postJson("/api/v1/programmes/{$this->programme->id}/boards", [
        'title' => 'Dawn board',
    ])->json();
    $this->tidy = fn (
        string $action,
        array $things,
        mixed $with = null,
    ): Illuminate\Testing\TestResponse => $this->postJson('/api/v1/things', [
        'action' => $action,
        'things' => array_map(static fn (array $t): array => ['kind' => $t[0], 'id' => $t[1]], $things),
        'with' => $with,
    ]);
    $this->things = fn (bool $bin = false): array => collect(
        $this->getJson("/api/v1/programmes/{$this->programme->id}/things".($bin ? '?bin=1' : ''))
            ->assertOk()
            ->json('things'),
    )
        ->keyBy('title')
        ->all();
    $this->all = [['layer', $this->nests->id], ['map', $this->map['id']], ['board', $this->board['id']]];
});

it('puts several things on a shelf, tags them, gives them purposes, at once', function (): void {
    $shelf = $this->postJson("/api/v1/programmes/{$this->programme->id}/shelves", ['name' => ' Season 2026 '])
        ->assertCreated()
        ->json();
    ($this->tidy)('shelf', $this->all, $shelf['id'])->assertOk();
    ($this->tidy)('tag', $this->all, 'turtles')->assertOk();
    ($this->tidy)('tag', $this->all, 'Turtles')->assertOk();
    ($this->tidy)('purpose', [$this->all[0]], 'live')->assertOk();
    ($this->tidy)('purpose', [$this->all[0]], 'pilot year')->assertOk();
    $things = ($this->things)();
    expect($things['Nests'])
        ->toMatchArray(['shelf' => $shelf['id'], 'tags' => ['Turtles'], 'purposes' => ['live', 'pilot year']])
        ->and($things['Dawn board']['tags'])
        ->toBe(['Turtles'])
        ->and($things['Season map']['shared'])
        ->toBeTrue();
    expect($this->getJson("/api/v1/programmes/{$this->programme->id}/things")->json('purposes'))->toBe([
        'trial',
        'training',
        'live',
        'pilot year',
    ]);
    ($this->tidy)('untag', [$this->all[1]], 'TURTLES')
        ->assertOk()
        ->assertJsonPath('0.tags', []);
    ($this->tidy)('unpurpose', [$this->all[0]], 'live')
        ->assertOk()
        ->assertJsonPath('0.purposes', ['pilot year']);
    $this->patchJson("/api/v1/programmes/{$this->programme->id}/shelves/{$shelf['id']}", [
        'name' => 'Season',
    ])->assertOk();
    $this->postJson("/api/v1/programmes/{$this->programme->id}/shelves", ['name' => 'Season'])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'shelf_doubled');
    // What stands on a shelf stays when it is taken down.
    $this->deleteJson("/api/v1/programmes/{$this->programme->id}/shelves/{$shelf['id']}")->assertNoContent();
    expect(($this->things)()['Nests']['shelf'])->toBeNull();
});

it('stars for one person alone, crew members too, and lets only coordinators do the rest', function (): void {
    $crew = $this->crew($this->programme);
    $this->actingAs($crew);
    ($this->tidy)('star', $this->all)->assertOk()->assertJsonPath('0.starred', true);
    ($this->tidy)('tag', $this->all, 'x')->assertForbidden();
    ($this->tidy)('bin', $this->all)->assertForbidden();
    $this->actingAs($this->mara);
    expect(($this->things)()['Nests']['starred'])->toBeFalse();
    $stranger = $this->person();
    $this->actingAs($stranger);
    ($this->tidy)('star', $this->all)->assertNotFound();
    // One that is not theirs stops all of them.
    $own = $this->programme($stranger);
    ($this->tidy)('tag', [['programme', $own->id], ...$this->all], 'x')->assertNotFound();
    expect($own->fresh()->tags)->toBeNull();
});

it('hands things over to another coordinator', function (): void {
    $other = $this->person('Ruth');
    $this->programme->members()->create(['user_id' => $other->id, 'role' => Role::Coordinator]);
    ($this->tidy)('hand_over', [...$this->all, ['programme', $this->programme->id]], $other->id)->assertOk();
    expect(($this->things)()['Nests']['owner'])
        ->toBe('Ruth')
        ->and($this->programme->fresh()->owner_id)
        ->toBe($other->id);
    ($this->tidy)('hand_over', $this->all, $this->crew($this->programme)->id)
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'owner_unknown');
});

it('rests in the bin: gone from everywhere, whole when it comes back', function (): void {
    [$record] = $this->sync($this->mara, [$this->add($this->nests)])['outcomes'];
    $token = basename($this->map['address']);
    $this->getJson("/api/v1/open/maps/$token")->assertOk();
    ($this->tidy)('bin', [$this->all[0]])->assertOk();
    $this->getJson("/api/v1/layers/{$this->nests->id}")->assertNotFound();
    $this->getJson("/api/v1/open/maps/$token")->assertNotFound();
    $this->getJson("/api/v1/maps/{$this->map['id']}")->assertNotFound();
    $this->getJson("/api/v1/boards/{$this->board['id']}/answers")
        ->assertOk()
        ->assertJsonPath('tiles.0.kind', 'broken');
    expect($this->getJson('/api/v1/packs')->json('0.layers'))
        ->toBe([])
        ->and(array_keys(($this->things)()))
        ->toBe(['Dawn board'])
        ->and(array_keys(($this->things)(true)))
        ->toBe(['Nests', 'Season map']);
    // A phone that is still out brings its record in: it is there when the layer comes back.
    [$late] = $this->sync($this->mara, [$this->add($this->nests)], [$this->nests->id => 0])['outcomes'];
    expect($late['outcome'])->toBe('applied');
    ($this->tidy)('restore', [['map', $this->map['id']]])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'layer_in_bin');
    ($this->tidy)('restore', [$this->all[0]])->assertOk();
    expect($this->getJson("/api/v1/layers/{$this->nests->id}/records")->json('total'))->toBe(2);
    $this->getJson(
        "/api/v1/open/maps/$token/layers/{$this->map['layers'][0]['id']}/records/{$this->behindLink(
            App\Models\Map::query()->where('link_token', $token)->sole(),
            $record['record'],
        )}",
    )->assertOk();
});

it('takes a whole programme into the bin, and its links with it', function (): void {
    $token = basename($this->map['address']);
    ($this->tidy)('bin', [['programme', $this->programme->id]])->assertOk();
    $this->getJson("/api/v1/programmes/{$this->programme->id}")->assertNotFound();
    $this->getJson("/api/v1/layers/{$this->nests->id}")->assertNotFound();
    $this->getJson("/api/v1/layers/{$this->nests->id}/records")->assertNotFound();
    $this->getJson("/api/v1/maps/{$this->map['id']}")->assertNotFound();
    $this->getJson("/api/v1/open/maps/$token")->assertNotFound();
    expect(array_column($this->getJson('/api/v1/bin')->json(), 'title'))
        ->toBe([$this->programme->name])
        ->and($this->getJson('/api/v1/search?q=nests')->json())
        ->toBe([]);
    ($this->tidy)('restore', [['programme', $this->programme->id]])->assertOk();
    $this->getJson("/api/v1/open/maps/$token")->assertOk();
});

it('empties the bin after thirty days, records, history and table with it', function (): void {
    $this->sync($this->mara, [$this->add($this->nests)]);
    $visits = $this->layer($this->programme, ['title' => 'Nest visits', 'visits_of' => 'Nests', 'fields' => []]);
    ($this->tidy)('bin', [$this->all[0]])->assertOk();
    $this->travel(29)->days();
    expect(EmptyBin::run())
        ->toBe(0)
        ->and(Layer::withTrashed()->find($this->nests->id))
        ->not->toBeNull();
    $this->travel(2)->days();
    expect(EmptyBin::run())->toBeGreaterThan(1);
    foreach ([$this->nests, $visits] as $layer) {
        expect(Layer::withTrashed()->find($layer->id))
            ->toBeNull()
            ->and(Schema::hasTable($layer->table()))
            ->toBeFalse()
            ->and(DB::table('record_history')->where('layer_id', $layer->id)->exists())
            ->toBeFalse();
    }
    expect(Map::withTrashed()->find($this->map['id']))->toBeNull();
    ($this->tidy)('bin', [['programme', $this->programme->id]])->assertOk();
    $this->travel(31)->days();
    EmptyBin::run();
    expect(Programme::withTrashed()->find($this->programme->id))->toBeNull();
    $this->travelBack();
});

it('copies a layer, a map and a board within the programme, without records and unshared', function (): void {
    $this->sync($this->mara, [$this->add($this->nests)]);
    $copies = ($this->tidy)('copy', $this->all)->assertOk()->json();
    expect(array_column($copies, 'title'))
        ->toBe(['Nests (copy)', 'Season map (copy)', 'Dawn board (copy)'])
        ->and(array_column($copies, 'shared'))
        ->toBe([false, false, false]);
    expect($this->getJson("/api/v1/layers/{$copies[0]['id']}/records")->json('total'))
        ->toBe(0)
        ->and($this->getJson("/api/v1/layers/{$copies[0]['id']}")->json('design.fields'))
        ->toBe($this->getJson("/api/v1/layers/{$this->nests->id}")->json('design.fields'));
});

it(
    'copies a programme as a fresh season: visits, shared lists, maps, boards, slices and questions tied anew',
    function (): void {
        $list = $this->choiceList($this->programme);
        $visits = $this->layer($this->programme, [
            'title' => 'Nest visits',
            'visits_of' => 'Nests',
            'fields' => [
                [
                    'key' => 'side',
                    'label' => 'Side',
                    'kind' => 'one_choice',
                    'list' => $list->id,
                    'choices' => [['code' => 'x', 'label' => 'X']],
                ],
            ],
        ]);
        $document = $this->nests->fresh()->design()->toArray();
        $document['fields'][] = ['key' => 'seen', 'label' => 'Seen', 'kind' => 'calculated', 'formula' => 'visits()'];
        $document['fields'][] = ['key' => 'twice', 'label' => 'Twice', 'kind' => 'calculated', 'formula' => 'seen * 2'];
        $this->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $document])->assertOk();
        $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", [
            'filter' => ['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CC']]],
        ])->json('id');
        $this->patchJson("/api/v1/boards/{$this->board['id']}", [
            'tiles' => [
                [
                    'id' => 'a',
                    'kind' => 'number',
                    'title' => 'Loggerheads',
                    'layer' => $this->nests->id,
                    'slice' => $slice,
                    'field' => null,
                    'width' => 4,
                    'height' => 2,
                ],
            ],
        ])->assertOk();
        $this->putJson("/api/v1/programmes/{$this->programme->id}/questions", [
            [
                'text' => 'How many?',
                'note' => '',
                'fields' => [['layer' => $this->nests->id, 'key' => 'species']],
                'tile' => ['board' => $this->board['id'], 'tile' => 'a'],
            ],
        ])->assertOk();
        [$copy] = ($this->tidy)('copy', [['programme', $this->programme->id]])
            ->assertOk()
            ->json();
        $layers = collect($this->getJson("/api/v1/programmes/{$copy['id']}/layers")->json())->keyBy('title');
        expect($layers->keys()->all())
            ->toBe(['Nest visits', 'Nests'])
            ->and($layers['Nest visits']['visits_of'])
            ->toBe($layers['Nests']['id'])
            ->and($layers['Nests']['records'])
            ->toBe(0);
        expect(
            array_column($this->getJson("/api/v1/layers/{$layers['Nests']['id']}")->json('design.fields'), 'key'),
        )->toContain('seen', 'twice');
        $copied = $this->getJson("/api/v1/programmes/{$copy['id']}/lists")->json('0');
        expect($copied['id'])
            ->not->toBe($list->id)
            ->and($copied['used_by'][0]['layer'])
            ->toBe($layers['Nest visits']['id']);
        $board = $this->getJson("/api/v1/programmes/{$copy['id']}/boards")->json('0');
        expect($board['tiles'][0]['layer'])
            ->toBe($layers['Nests']['id'])
            ->and($board['tiles'][0]['slice'])
            ->not->toBe($slice);
        $this->getJson("/api/v1/boards/{$board['id']}/answers")
            ->assertOk()
            ->assertJsonPath('tiles.0.answer.value', 0);
        expect($this->getJson("/api/v1/programmes/{$copy['id']}/questions")->json('0'))->toMatchArray([
            'text' => 'How many?',
            'state' => 'answered',
        ]);
        expect($this->getJson("/api/v1/programmes/{$copy['id']}/maps")->json('0.layers.0.layer'))
            ->toBe($layers['Nests']['id'])
            ->and($visits->id)
            ->not->toBe($layers['Nest visits']['id']);
    },
);

it('finds everything by its words, and nothing of others', function (): void {
    $this->sync($this->mara, [$this->add($this->nests, ['values' => ['code' => 'GH-77 %', 'species' => 'CC']])]);
    $this->putJson("/api/v1/programmes/{$this->programme->id}/questions", [
        ['text' => 'Which beaches hatch well?', 'note' => '', 'fields' => [], 'tile' => null],
    ]);
    $kinds = fn (string $q): array => array_column(
        $this->getJson('/api/v1/search?q='.urlencode($q))
            ->assertOk()
            ->json(),
        'kind',
    );
    expect($kinds('nests'))
        ->toContain('layer')
        ->and($kinds('SEASON map'))
        ->toBe(['map'])
        ->and($kinds('gh-77'))
        ->toBe(['record'])
        ->and($kinds('7 %'))
        ->toBe(['record'])
        ->and($kinds('clutch'))
        ->toBe(['field'])
        ->and($kinds('beaches well'))
        ->toBe(['question'])
        ->and($kinds('dawn'))
        ->toBe(['board'])
        ->and($kinds('  '))
        ->toBe([])
        ->and($kinds('nowhere'))
        ->toBe([]);
    $this->actingAs($this->person());
    expect($kinds('nests'))->toBe([])->and($kinds('gh-77'))->toBe([]);
});

it('is refused with the reason', function (array $body, string $code): void {
    $this->postJson('/api/v1/things', $body)->assertUnprocessable()->assertJsonPath('problems.0.code', $code);
})->with([
    [['action' => 'burn', 'things' => [['kind' => 'layer', 'id' => 1]]], 'tidy_action'],
    [['action' => 'star', 'things' => []], 'tidy_nothing'],
    [['action' => 'star', 'things' => [['kind' => 'person', 'id' => 1]]], 'tidy_thing'],
    [['action' => 'star', 'things' => [['kind' => 'layer', 'id' => '1']]], 'tidy_thing'],
    [['action' => 'tag', 'things' => [['kind' => 'layer', 'id' => 1]], 'with' => ' '], 'tag_shape'],
    [['action' => 'tag', 'things' => [['kind' => 'layer', 'id' => 1]], 'with' => str_repeat('a', 41)], 'tag_shape'],
    [['action' => 'hand_over', 'things' => [['kind' => 'layer', 'id' => 1]]], 'owner_unknown'],
    [['action' => 'shelf', 'things' => [['kind' => 'layer', 'id' => 1]], 'with' => 'top'], 'shelf_unknown'],
    [['action' => 'star', 'things' => array_fill(0, 501, ['kind' => 'layer', 'id' => 1])], 'too_many'],
]);
