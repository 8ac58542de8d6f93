<?php

declare(strict_types=1);

use App\Maps\MapPage;
use App\Models\Audience;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Role;
use App\Programmes\EmptyBin;
use App\Rights\Viewer;
use Illuminate\Support\Facades\DB;

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->nests = $this->layer($this->field);
    $this->lights = $this->layer($this->field, [
        'title' => 'Lights',
        'fields' => [['key' => 'kind', 'label' => 'Kind', 'kind' => 'short_text']],
    ]);
    $this->sync($this->head, [
        $this->add($this->nests, ['values' => ['code' => 'GH-1', 'species' => 'CC', 'clutch' => 90]]),
        $this->add($this->nests, ['values' => ['code' => 'GH-2', 'species' => 'CM']]),
        $this->add($this->lights, ['values' => ['kind' => 'Lamp']]),
    ]);
    $this->actingAs($this->head);
    $this->part = fn (Layer $layer, array $more = []): array => ['layer' => $layer->id] + $more;
    $this->make = fn (array $layers, array $more = []): array => $this->postJson(
        "/api/v1/programmes/{$this->field->id}/maps",
        ['title' => 'M', 'layers' => $layers] + $more,
    )->assertCreated()->json();
    $this->save = fn (array $map, array $layers) => $this->patchJson("/api/v1/maps/{$map['id']}", [
        'layers' => $layers,
    ]);
    $this->view = fn (array $map): array => $this->getJson("/api/v1/maps/{$map['id']}/view")->assertOk()->json();
    $this->visit = function (string $address) {
        app('auth')->forgetGuards();

        return $this->getJson($address);
    };
});

it('shows several layers in their order, each with what it says', function (): void {
    $map = ($this->make)([
        ($this->part)($this->lights, ['title' => 'Lampen', 'opacity' => 0.5, 'visible' => false]),
        ($this->part)($this->nests, [
            'label' => ['parts' => [['field' => 'code'], ['text' => ' ('], ['field' => 'species'], ['text' => ')']]],
        ]),
    ], ['audience' => 'link', 'about' => '  Where lamps and nests meet. ']);
    $view = ($this->view)($map);
    expect(array_column($view['layers'], 'title'))->toBe(['Lampen', 'Nests'])
        ->and(array_column($view['layers'], 'visible'))->toBe([false, true])
        ->and(array_column($view['layers'], 'total'))->toBe([1, 2])
        ->and($view['about'])->toBe('Where lamps and nests meet.')
        ->and($view['notes'])->toBe([]);
    // Each part is a source of its own: the same layer can come twice.
    $twice = ($this->save)($map, [...$map['layers'], ($this->part)($this->nests)])->assertOk()->json('layers');
    expect(array_unique(array_column($twice, 'id')))->toHaveCount(3);
    $labels = array_map(
        fn (array $f): ?string => $f['properties']['label'] ?? null,
        $this->drawn("/api/v1/maps/{$map['id']}", 1),
    );
    sort($labels);
    expect($labels)->toBe(['GH-1 (Loggerhead)', 'GH-2 (Green)']);
    // A stranger sees the same, with ids of its own on each map.
    $open = '/api/v1/open/maps/'.basename($map['address']);
    $opened = ($this->visit)($open)->assertOk()->json();
    expect(array_column($opened['layers'], 'title'))->toBe(['Lampen', 'Nests', 'Nests']);
    $one = $this->drawn($open, 1)[0];
    ($this->visit)("$open/layers/{$map['layers'][1]['id']}/records/{$one['id']}")
        ->assertOk()
        ->assertJsonPath('name', $one['properties']['name']);
    // A record is asked of the layer that it is in.
    ($this->visit)("$open/layers/{$map['layers'][0]['id']}/records/{$one['id']}")->assertNotFound();
    ($this->visit)("$open/layers/nonsense/features.geojson")->assertNotFound();
});

it('shows but the slice that was chosen: records, counts, cards, photos', function (): void {
    $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'filter' => ['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CC']]],
    ])->json();
    $map = ($this->make)([($this->part)($this->nests, ['slice' => $slice['id']])], ['audience' => 'link']);
    $part = $map['layers'][0]['id'];
    $view = ($this->view)($map);
    expect($view['layers'][0]['total'])->toBe(1)->and($view['layers'][0]['slice'])->toBe($slice['name']);
    $drawn = $this->drawn("/api/v1/maps/{$map['id']}");
    expect(array_column(array_column($drawn, 'properties'), 'name'))->toBe(['GH-1']);
    $all = $this->getJson("/api/v1/layers/{$this->nests->id}/records")->json('records');
    $other = collect($all)->firstWhere('values.code', 'GH-2')['id'];
    $this->getJson("/api/v1/maps/{$map['id']}/layers/$part/records/{$drawn[0]['id']}")->assertOk();
    $this->getJson("/api/v1/maps/{$map['id']}/layers/$part/records/$other")->assertNotFound();
    $open = '/api/v1/open/maps/'.basename($map['address']);
    ($this->visit)("$open/layers/$part/records/".$this->behindLink(Map::query()->findOrFail($map['id']), $other))
        ->assertNotFound();
    // What comes into it is shown at once, what leaves it goes.
    $before = ($this->visit)($open)->assertOk();
    $this->actingAs($this->head)->patchJson("/api/v1/layers/{$this->nests->id}/records/$other", [
        'base' => 1,
        'values' => ['species' => 'CC'],
    ])->assertOk();
    expect(($this->visit)($open)->json('layers.0.total'))->toBe(2);
    app('auth')->forgetGuards();
    $this->getJson($open, ['If-None-Match' => (string) $before->headers->get('ETag')])->assertOk();
    // A slice that a map goes by is not deleted under it.
    $this->actingAs($this->head)->deleteJson("/api/v1/layers/{$this->nests->id}/slices/{$slice['id']}")
        ->assertStatus(422);
    // Its rule may change.
    $this->putJson("/api/v1/layers/{$this->nests->id}/slices/{$slice['id']}", [
        'filter' => ['all' => [['field' => 'clutch', 'test' => 'missing']]],
    ])->assertOk();
    expect(($this->visit)($open)->json('layers.0.total'))->toBe(1);
    // Phones go by the rule themselves.
    $pack = collect($this->actingAs($this->head)->getJson('/api/v1/packs')->json())
        ->firstWhere('programme', $this->field->id);
    expect($pack['maps'][0]['layers'][0]['slice']['filter'])->toBe([
        'all' => [['field' => 'clutch', 'test' => 'missing']],
    ]);
    // Without its slice it would show more than it was made to show, so it shows nothing.
    DB::table('slices')->delete($slice['id']);
    expect(($this->visit)($open)->json())->toMatchArray([
        'layers' => [],
        'notes' => ['One layer of this map cannot be shown.'],
    ]);
});

it('asks anew only for what has changed', function (): void {
    $map = ($this->make)([($this->part)($this->lights), ($this->part)($this->nests)]);
    $versions = fn (): array => array_column(($this->view)($map)['layers'], 'version');
    [$lights, $nests] = $versions();
    $this->sync($this->head, [$this->add($this->lights, ['values' => ['kind' => 'Fire']])]);
    $this->actingAs($this->head);
    $after = $versions();
    expect($after[0])->not->toBe($lights)->and($after[1])->toBe($nests);
    // Another colour, name or opacity draws the same records.
    ($this->save)($map, [
        ['look' => ['kind' => 'single', 'peg' => ['head' => 'bar', 'colour' => '#123456']], 'opacity' => 0.3] +
        $map['layers'][0],
        ['title' => 'Nester'] + $map['layers'][1],
    ])->assertOk();
    expect($versions())->toBe($after);
    // By another field each record is of another class.
    ($this->save)($map, [
        $map['layers'][0],
        ['look' => ['kind' => 'classes', 'field' => 'clutch', 'breaks' => [50]]] + $map['layers'][1],
    ])->assertOk();
    expect($versions()[1])->not->toBe($nests);
    // What is named by its version is kept by the browser, and by nobody under another.
    $part = $map['layers'][0]['id'];
    $address = "/api/v1/maps/{$map['id']}/layers/$part/features.geojson";
    expect($this->getJson("$address?v={$versions()[0]}")->assertOk()->headers->get('Cache-Control'))
        ->toContain('immutable')->toContain('private')
        ->and($this->getJson("$address?v=x")->assertOk()->headers->get('Cache-Control'))->toContain('no-cache');
});

it('keeps a note where a layer is gone, and the rest of the map', function (): void {
    $map = ($this->make)([($this->part)($this->lights), ($this->part)($this->nests)], ['audience' => 'link']);
    $open = '/api/v1/open/maps/'.basename($map['address']);
    $bin = fn (Layer $layer, string $what) => $this->actingAs($this->head)->postJson('/api/v1/things', [
        'things' => [['kind' => 'layer', 'id' => $layer->id]],
        'action' => $what,
        'with' => null,
    ])->assertOk();
    $bin($this->lights, 'bin');
    $view = ($this->view)($map);
    expect(array_column($view['layers'], 'title'))->toBe(['Nests'])
        ->and($view['notes'][0])->toContain('Lights');
    $opened = ($this->visit)($open)->assertOk()->json();
    expect(array_column($opened['layers'], 'title'))->toBe(['Nests'])
        ->and(json_encode($opened))->not->toContain('Lights');
    // It can be saved meanwhile, and loses nothing of what it said of the layer.
    $this->actingAs($this->head);
    ($this->save)($map, [$map['layers'][1], ['opacity' => 0.2] + $map['layers'][0]])
        ->assertOk()
        ->assertJsonPath('layers.1.opacity', 1);
    $bin($this->lights, 'restore');
    expect(array_column(($this->view)($map)['layers'], 'title'))->toBe(['Nests', 'Lights']);
    // When the last that is left goes, the map goes along; and comes back with it.
    $bin($this->lights, 'bin');
    $bin($this->nests, 'bin');
    ($this->visit)($open)->assertNotFound();
    $bin($this->nests, 'restore');
    ($this->visit)($open)->assertOk();
    // Gone for good it still says so.
    $this->travel(31)->days();
    EmptyBin::run();
    expect(Layer::withTrashed()->find($this->lights->id))->toBeNull();
    $this->actingAs($this->head);
    expect(($this->view)($map)['notes'][0])->toContain('Lights');
    ($this->save)($map, [$map['layers'][1]])->assertOk()->assertJsonCount(1, 'layers');
    expect(($this->view)($map)['notes'])->toBe([]);
});

it('takes layers of other programmes only from who coordinates them, and tells nobody more', function (): void {
    $other = $this->programme($this->head);
    $far = $this->layer($other, ['title' => 'Far']);
    $this->sync($this->head, [$this->add($far, ['values' => ['code' => 'FAR-1', 'species' => 'CC']])]);
    $this->actingAs($this->head);
    $map = ($this->make)([($this->part)($far), ($this->part)($this->nests)]);
    expect(($this->view)($map)['layers'][0]['total'])->toBe(1);
    // A second coordinator of this programme only, who sees nothing of the other.
    $second = $this->person();
    $this->field->members()->create(['user_id' => $second->id, 'role' => Role::Coordinator]);
    $this->actingAs($second);
    $view = ($this->view)($map);
    expect(array_column($view['layers'], 'title'))->toBe(['Nests'])
        ->and($view['notes'][0])->toContain('Far')
        ->and(json_encode($view))->not->toContain('FAR-1');
    $this->getJson("/api/v1/maps/{$map['id']}/layers/{$map['layers'][0]['id']}/features.geojson")->assertNotFound();
    // It may be moved and taken out, but tells no more than it did.
    ($this->save)($map, array_reverse($map['layers']))->assertOk();
    ($this->save)($map, [['card' => ['fields' => ['code'], 'photos' => false]] + $map['layers'][0]])
        ->assertStatus(422)
        ->assertJsonPath('problems.0.code', 'map_layer_not_yours');
    ($this->save)($map, [($this->part)($far)])
        ->assertStatus(422)
        ->assertJsonPath('problems.0.code', 'map_layer_unknown');
    ($this->save)($map, [$map['layers'][1]])->assertOk()->assertJsonCount(1, 'layers');
    expect($this->getJson("/api/v1/maps/{$map['id']}/addable?q=far")->json('layers'))->toBe([]);
});

it('finds layers by words: those at hand first, then starred ones, none of others', function (): void {
    $other = $this->programme($this->head);
    $this->layer($other, ['title' => 'Aardvark nests']);
    $starred = $this->layer($other, ['title' => 'Zebra nests']);
    $this->layer($this->programme(), ['title' => 'Strange nests']);
    $this->postJson('/api/v1/things', [
        'things' => [['kind' => 'layer', 'id' => $starred->id]],
        'action' => 'star',
        'with' => null,
    ])->assertOk();
    $map = ($this->make)([]);
    $find = fn (string $text): array => array_column(
        $this->getJson("/api/v1/maps/{$map['id']}/addable?q=".urlencode($text))->assertOk()->json('layers'),
        'title',
    );
    expect($find('NESTS'))->toBe(['Nests', 'Zebra nests', 'Aardvark nests'])
        ->and($find('zebra  nests'))->toBe(['Zebra nests'])
        ->and($find($other->name))->toBe(['Zebra nests', 'Aardvark nests'])
        ->and($find('%'))->toBe([])
        ->and($find(''))->toHaveCount(4);
    // What is found can be put on the map as it is.
    $part = $this->getJson("/api/v1/maps/{$map['id']}/addable?q=lights")->json('layers.0.part');
    ($this->save)($map, [$part])->assertOk()->assertJsonPath('layers', [$part]);
});

it('finds what a maker sees, and what a group of another programme shares with them', function (): void {
    $maker = $this->member($this->field, Role::Maker);
    $other = $this->programme($this->head);
    $shared = $this->layer($other, ['title' => 'Shared nests', 'fields' => [
        ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
        ['key' => 'kind', 'label' => 'Kind', 'kind' => 'one_choice', 'choices' => [['code' => 'a', 'label' => 'A']]],
    ]]);
    $closed = $this->layer($other, ['title' => 'Closed nests']);
    $this->sync($this->head, [$this->add($shared, ['values' => ['code' => 'S-1', 'kind' => 'a']])]);
    $member = $other->members()->create(['user_id' => $maker->id, 'role' => Role::Guest]);
    $this->actingAs($this->head);
    $group = $this->postJson("/api/v1/programmes/$other->id/groups", ['name' => 'Partners'])->json('id');
    $this->putJson("/api/v1/groups/$group/people/$member->id")->assertOk();
    foreach ([$shared->id => 'all', $closed->id => 'none'] as $layer => $rows) {
        foreach (['link', "group-$group"] as $of) {
            $this->putJson("/api/v1/layers/$layer/seen-by/$of", ['rule' => [
                'rows' => $of === 'link' ? 'none' : $rows, 'place' => 'exact', 'metres' => null,
                'fields' => ['code'], 'photos' => false,
            ]])->assertOk();
        }
    }
    // Of their own programme one layer is closed to them.
    $this->putJson("/api/v1/layers/{$this->lights->id}/seen-by/makers", ['rule' => ['rows' => 'none']])->assertOk();
    $this->actingAs($maker);
    $map = ($this->make)([]);
    $found = $this->getJson("/api/v1/maps/{$map['id']}/addable?q=")->assertOk()->json('layers');
    expect(array_column($found, 'title'))->toContain('Nests')->toContain('Shared nests')
        ->not->toContain('Closed nests')->not->toContain($this->lights->title);
    // What is proposed asks for nothing that is hidden from them.
    $part = array_column($found, null, 'title')['Shared nests']['part'];
    expect(json_encode($part))->not->toContain('kind":"category');
    foreach ([$closed, $this->lights] as $layer) {
        ($this->save)($map, [($this->part)($layer)])->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'map_layer_unknown');
    }
    ($this->save)($map, [$part])->assertOk();
    expect(($this->view)($map)['layers'][0]['total'])->toBe(1);
    // Whoever belongs to the map's programme alone sees nothing of it.
    $this->actingAs($this->member($this->field, Role::Guest));
    expect(($this->view)($map)['layers'])->toBe([]);
});

it('is merged where two people change it, layer by layer', function (): void {
    $map = ($this->make)([($this->part)($this->lights), ($this->part)($this->nests)]);
    [$lights, $nests] = $map['layers'];
    $send = fn (array $layers) => $this->patchJson("/api/v1/maps/{$map['id']}", [
        'layers' => $layers,
        'was' => ['layers' => $map['layers']],
    ]);
    $send([['opacity' => 0.5] + $lights, $nests])->assertOk();
    // From the same beginning: moved, and the other layer changed.
    $merged = $send([['title' => 'Nester'] + $nests, $lights])->assertOk()->json('layers');
    expect(array_column($merged, 'title', 'id'))->toBe([$nests['id'] => 'Nester', $lights['id'] => null])
        ->and($merged[1]['opacity'])->toBe(0.5);
    // The same of the same to something else: somebody must decide.
    $send([['opacity' => 0.9] + $lights, $nests])
        ->assertStatus(422)
        ->assertJsonPath('problems.0.code', 'changed_meanwhile');
});

it('refuses what is no layer, too many, or a slice of another', function (): void {
    $map = ($this->make)([]);
    $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", ['filter' => ['all' => []]])->json('id');
    foreach (
        [
            [array_fill(0, 60, ($this->part)($this->nests)), 'map_layers_many', 'layers'],
            [[($this->part)($this->lights, ['slice' => $slice])], 'slice_unknown', 'layers/0/slice'],
            [[($this->part)($this->lights), ['layer' => 999_999]], 'map_layer_unknown', 'layers/1/layer'],
            [['x'], 'map_layer_unknown', 'layers/0/layer'],
            [[['layer' => ['x']]], 'map_layer_unknown', 'layers/0/layer'],
            [[($this->part)($this->lights, ['opacity' => 7])], 'layer_opacity', 'layers/0/opacity'],
            [['a' => ($this->part)($this->lights)], 'must_be_list', 'layers'],
        ] as [$layers, $code, $field]
    ) {
        ($this->save)($map, $layers)
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', $code)
            ->assertJsonPath('problems.0.field', $field);
    }
    expect(($this->view)($map))->toMatchArray(['layers' => [], 'notes' => []]);
    // An empty map is one, also for strangers.
    $open = $this->patchJson("/api/v1/maps/{$map['id']}", ['audience' => 'link'])->json('address');
    ($this->visit)('/api/v1/open/maps/'.basename($open))->assertOk()->assertJsonPath('layers', []);
});

it('goes along to a copy of its programme with its layers and slices', function (): void {
    $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", ['filter' => ['all' => []]])->json('id');
    $far = $this->layer($this->programme($this->head), ['title' => 'Far']);
    $this->actingAs($this->head);
    ($this->make)([
        ($this->part)($this->nests, ['slice' => $slice, 'opacity' => 0.5]),
        ($this->part)($far),
        ($this->part)($this->lights),
    ], ['about' => 'Words']);
    $copied = $this->postJson('/api/v1/things', [
        'things' => [['kind' => 'programme', 'id' => $this->field->id]],
        'action' => 'copy',
        'with' => null,
    ])->assertOk()->json('0.id');
    $map = $this->getJson("/api/v1/programmes/$copied/maps")->assertOk()->json('0');
    $titles = Layer::query()->whereIn('id', array_column($map['layers'], 'layer'))->pluck('programme_id', 'title');
    expect($titles->all())->toEqual(['Nests' => $copied, 'Far' => $far->programme_id, 'Lights' => $copied])
        ->and($map['layers'][0]['slice'])->not->toBe($slice)->not->toBeNull()
        ->and($map['layers'][0]['opacity'])->toBe(0.5)
        ->and($map['about'])->toBe('Words');
});

it('says how heavy it is, and what would help', function (): void {
    $map = ($this->make)([($this->part)($this->nests), ($this->part)($this->lights, ['visible' => false])]);
    $this->getJson("/api/v1/maps/{$map['id']}/advice")
        ->assertOk()
        ->assertJsonPath('weight', ['level' => 'light', 'shapes' => 2, 'reasons' => []]);
    $many = ($this->make)(array_fill(0, 9, ($this->part)($this->nests)));
    $this->getJson("/api/v1/maps/{$many['id']}/advice")
        ->assertJsonPath('weight.level', 'medium')
        ->assertJsonPath(
            'weight.reasons.0',
            '9 layers are drawn when the map opens. Leave off those that not everybody needs.',
        );
});

it('keeps what is drawn for exactly one way of seeing', function (): void {
    $shut = $this->layer($this->field, [
        'title' => 'Own only',
        'rights' => ['crew' => ['add' => true, 'see' => 'own']],
        'fields' => [['key' => 'code', 'label' => 'Code', 'kind' => 'short_text']],
    ]);
    [$ann, $ben] = [$this->crew($this->field), $this->crew($this->field)];
    $this->sync($ann, [$this->add($shut, ['values' => ['code' => 'ANN']])]);
    $this->sync($ben, [$this->add($shut, ['values' => ['code' => 'BEN']])]);
    $map = $this->mapOf($shut, ['card' => ['fields' => ['code'], 'photos' => false]], Audience::Link);
    $names = function (Viewer $viewer) use ($map): array {
        $page = (new MapPage($map->fresh(), $viewer))->layers();
        $answer = reset($page)->features()->response(request());
        $features = json_decode((string) $answer->getContent(), true)['features'];
        $names = array_column(array_column($features, 'properties'), 'name');
        sort($names);

        return $names;
    };
    expect($names(Viewer::person($this->head)))->toBe(['ANN', 'BEN'])
        ->and($names(Viewer::person($ann)))->toBe(['ANN'])
        ->and($names(Viewer::person($ben)))->toBe(['BEN'])
        ->and($names(Viewer::person($this->person())))->toBe([]);
});

it('says why a look was proposed, until somebody has chosen', function (): void {
    $map = ($this->make)([($this->part)($this->nests), ($this->part)($this->lights)]);
    $why = fn (): array => $this->getJson("/api/v1/maps/{$map['id']}/advice")->assertOk()->json('why');
    expect($why()[$map['layers'][0]['id']])->toContain('Species')
        ->and($why()[$map['layers'][1]['id']])->toContain('no list of choices');
    ($this->save)($map, [
        ['look' => ['kind' => 'single', 'peg' => ['head' => 'bar', 'colour' => '#123456']]] + $map['layers'][0],
        $map['layers'][1],
    ])->assertOk();
    expect(array_keys($why()))->toBe([$map['layers'][1]['id']]);
});

it('takes changes in quick succession, of which the second names what the first sent', function (): void {
    $map = ($this->make)([($this->part)($this->nests)]);
    $look = static fn (array $classes): array => [
        'layers' => [
            ['look' => ['kind' => 'category', 'field' => 'species', 'classes' => $classes]] + $map['layers'][0],
        ],
    ];
    // Not in the order of the choices, in small letters, without the mark for what is missing.
    $first = $look([['code' => 'CM', 'head' => 'disc', 'colour' => '#aa0000']]);
    $second = $look([
        ['code' => 'CM', 'head' => 'disc', 'colour' => '#aa0000'],
        ['code' => 'CC', 'head' => 'bar', 'colour' => '#00aa00'],
    ]);
    $patch = fn (array $change, array $was) => $this->patchJson(
        "/api/v1/maps/{$map['id']}",
        $change + ['was' => $was],
    );
    $patch($first, ['layers' => $map['layers']])->assertOk();
    $patch($second, $first)->assertOk()->assertJsonPath('layers.0.look.classes.0.colour', '#00AA00');
    // Whoever began before both still hears of it.
    $patch($look([['code' => 'CC', 'head' => 'ring', 'colour' => '#0000FF']]), ['layers' => $map['layers']])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'changed_meanwhile');
});
