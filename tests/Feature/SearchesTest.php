<?php

declare(strict_types=1);

use App\Models\Audience;

/* Searches that whoever looks at a map can ask of it. */

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->nests = $this->layer($this->field);
    $this->sync($this->head, array_map(
        fn (int $i): array => $this->add($this->nests, [
            'values' => ['code' => "N-$i", 'clutch' => $i * 10, 'species' => $i % 2 === 0 ? 'CC' : 'CM'],
        ]),
        range(1, 9),
    ));
    $this->actingAs($this->head);
    $this->slice = fn (array $rule): int => $this->nests->slices()->create([
        'name' => (string) json_encode($rule),
        'filter' => ['all' => [$rule]],
    ])->id;
    $this->large = ($this->slice)(['field' => 'clutch', 'test' => 'at_least', 'value' => 60]);
    $this->green = ($this->slice)(['field' => 'species', 'test' => 'is', 'value' => 'CM']);
    $this->map = $this->mapOf(
        $this->nests,
        ['slice' => $this->large, 'card' => ['fields' => ['code'], 'photos' => false]],
        Audience::Link,
    );
    $this->part = $this->map->layers[0]['id'];
    $this->save = fn (mixed $searches) => $this->patchJson("/api/v1/maps/{$this->map->id}", ['searches' => $searches]);
    $this->names = fn (array $features): array => collect($features)
        ->pluck('properties.name')->sort()->values()->all();
});

it('shows only what it finds, within what the map shows: features, legend, table', function (): void {
    $id = ($this->save)([['title' => 'Green ones', 'part' => $this->part, 'slice' => $this->green]])
        ->assertOk()->json('searches.0.id');
    $this->patchJson("/api/v1/maps/{$this->map->id}", ['beside' => [
        'part' => $this->part,
        'columns' => ['code'],
        'sort' => 'code',
        'down' => false,
        'all' => true,
        'chart' => false,
    ]])->assertOk();
    app('auth')->forgetGuards();
    $open = "/api/v1/open/maps/{$this->map->link_token}";
    $all = $this->getJson($open)->assertOk();
    $found = $this->getJson("$open?search=$id")->assertOk();
    expect($all->json('searches'))->toBe([['id' => $id, 'title' => 'Green ones']])
        ->and($all->json('layers.0.total'))->toBe(4)
        ->and($found->json('layers.0.total'))->toBe(2)
        ->and($found->headers->get('ETag'))->not->toBe($all->headers->get('ETag'))
        ->and($found->json('layers.0.version'))->not->toBe($all->json('layers.0.version'));
    $again = fn ($known) => $this->getJson("$open?search=$id", ['If-None-Match' => $known->headers->get('ETag')]);
    $features = $this->getJson("$open/layers/{$this->part}/features.geojson?search=$id")->json('features');
    expect(($this->names)($features))->toBe(['N-7', 'N-9'])
        ->and($this->getJson("$open/table?search=$id")->json('found'))->toBe(2)
        ->and($this->getJson("$open/table")->json('found'))->toBe(4)
        // Who has the one answer is not told that the other is the same.
        ->and($again($all)->status())
        ->toBe(200)
        ->and($again($found)->status())
        ->toBe(304);
    // A record that comes is found at once.
    $this->sync($this->head, [
        $this->add($this->nests, ['values' => ['code' => 'N-11', 'clutch' => 110, 'species' => 'CM']]),
    ]);
    expect($again($found)->json('layers.0.total'))->toBe(3);
});

it('shows everything where the search is not there', function (string $search): void {
    $open = "/api/v1/open/maps/{$this->map->link_token}?search=$search";
    expect($this->getJson($open)->assertOk()->json('layers.0.total'))->toBe(4);
})->with(['s0000000', 'x', '', '../../', str_repeat('s', 900)]);

it('keeps nothing for searches that are not there, however many are tried', function (): void {
    $open = "/api/v1/open/maps/{$this->map->link_token}";
    $ask = fn (string $search): string => (string) $this->getJson("$open?search=$search")->headers->get('ETag');
    $tag = $ask('');
    $kept = fn (): array => glob(storage_path('app/kept/*/*/*')) ?: [];
    $before = count($kept());
    foreach (range(0, 19) as $i) {
        expect($ask(sprintf('s%07d', $i)))->toBe($tag);
    }
    expect($kept())->toHaveCount($before);
});

it('goes with its slice and its layer, and comes back with them', function (): void {
    ($this->save)([['title' => 'Green', 'part' => $this->part, 'slice' => $this->green]])->assertOk();
    $view = fn (): array => $this->getJson("/api/v1/maps/{$this->map->id}/view")->json();
    $layers = $this->map->refresh()->layers;
    $this->patchJson("/api/v1/maps/{$this->map->id}", ['layers' => []])->assertOk();
    expect($view()['searches'])->toBe([]);
    $this->patchJson("/api/v1/maps/{$this->map->id}", ['layers' => $layers])->assertOk();
    expect($view()['searches'])->toHaveCount(1);
    // A slice that a map asks by is held.
    $this->deleteJson("/api/v1/layers/{$this->nests->id}/slices/{$this->green}")->assertUnprocessable();
});

it('refuses a search that finds nothing it could be asked of', function (Closure $search, string $code): void {
    ($this->save)([$search->call($this)])->assertUnprocessable()->assertJsonPath('problems.0.code', $code);
})->with([
    'no name' => [fn (): array => ['title' => ' ', 'part' => $this->part, 'slice' => $this->green], 'search_title'],
    'no layer' => [fn (): array => ['title' => 'x', 'part' => 'lnone', 'slice' => $this->green], 'search_of'],
    'no slice' => [fn (): array => ['title' => 'x', 'part' => $this->part], 'search_of'],
    'a slice of another layer' => [
        function (): array {
            $other = $this->layer($this->field, ['title' => 'Other']);

            return ['title' => 'x', 'part' => $this->part, 'slice' => $other->slices()->create([
                'name' => 's', 'filter' => ['all' => [['field' => 'clutch', 'test' => 'missing']]],
            ])->id];
        },
        'slice_unknown',
    ],
]);

it('keeps its id when it is renamed, gives each its own, and takes no more than twenty', function (): void {
    $one = ['title' => 'a', 'part' => $this->part, 'slice' => $this->green];
    $saved = ($this->save)([$one, $one])->assertOk()->json('searches');
    expect($saved[0]['id'])->not->toBe($saved[1]['id']);
    $again = ($this->save)([['title' => 'b'] + $saved[1], $saved[0]])->assertOk()->json('searches');
    expect(array_column($again, 'id'))->toBe([$saved[1]['id'], $saved[0]['id']]);
    ($this->save)(array_fill(0, 21, $one))->assertUnprocessable();
    ($this->save)('all')->assertUnprocessable();
});

it('comes along in a copy of the map', function (): void {
    ($this->save)([['title' => 'Green', 'part' => $this->part, 'slice' => $this->green]])->assertOk();
    $copy = $this->postJson('/api/v1/things', [
        'action' => 'copy',
        'things' => [['kind' => 'map', 'id' => $this->map->id]],
    ])->assertOk()->json('0.id');
    expect($this->getJson("/api/v1/maps/$copy/view")->json('searches.0.title'))->toBe('Green');
});

it('goes to phones with what it shows, as long as that is there', function (): void {
    $crew = $this->crew($this->field);
    $id = ($this->save)([
        ['title' => 'Green ones', 'part' => $this->part, 'slice' => $this->green],
        ['title' => 'Large ones', 'part' => $this->part, 'slice' => $this->large],
    ])->assertOk()->json('searches.0.id');
    $searches = fn (): array => $this->actingAs($crew)->getJson('/api/v1/packs')->assertOk()->json('0.maps.0.searches');
    expect($searches()[0])->toBe(['id' => $id, 'title' => 'Green ones', 'part' => $this->part, 'slice' => [
        'name' => '{"field":"species","test":"is","value":"CM"}',
        'filter' => ['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CM']]],
    ]])->and($searches())->toHaveCount(2);
    $this->nests->slices()->whereKey($this->green)->delete();
    expect(array_column($searches(), 'title'))->toBe(['Large ones']);
});
