<?php

declare(strict_types=1);

use App\Models\Attachment;
use App\Models\Audience;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/* The records of a map leafed through by their photos: those that its cards show, with the places that it tells. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->crew = $this->crew($this->field);
    $this->nests = $this->layer($this->field, ['name_field' => 'code']);
    /** A record with so many photos that have arrived, collected so many minutes ago. */
    $this->nest = function (string $code, int $photos, int $minutes, mixed $layer = null, array $more = []): array {
        $of = $photos === 0 ? [] : range(1, $photos);
        $announced = array_map(fn (int $i): array => $this->announce("$code$i"), $of);
        $add = $this->add($layer ?? $this->nests, [
            'values' => ['code' => $code, 'species' => 'CC'],
            'photos' => $announced,
            'captured_at' => now()->subMinutes($minutes)->format('Y-m-d\TH:i:s.v\Z'),
            ...$more,
        ]);
        expect($this->sync($this->crew, [$add])['outcomes'][0]['outcome'])->toBe('applied');
        Attachment::query()->where('record_id', RecordId::of($add['record'])->bytes())
            ->update(['state' => 'stored', 'width' => 400, 'height' => 300]);

        return $add;
    };
    $this->map = fn (array $part = []): mixed => $this->mapOf(
        $this->nests,
        $part + ['card' => ['fields' => ['code'], 'photos' => true]],
        Audience::Link,
    );
    $this->wall = function (mixed $map, string $query = '', int $status = 200): array {
        app('auth')->forgetGuards();

        return $this->getJson("/api/v1/open/maps/$map->link_token/wall$query")->assertStatus($status)->json();
    };
    $this->names = static fn (array $wall): array => array_column($wall['photos'], 'name');
});

it('shows the photos of cards, those collected last first, with where they were taken', function (): void {
    $old = ($this->nest)('old', 1, 90, more: ['geometry' => ['type' => 'Point', 'coordinates' => [-11.2, -14.1]]]);
    ($this->nest)('none', 0, 60);
    ($this->nest)('Ünü', 2, 30);
    $map = ($this->map)();
    $wall = ($this->wall)($map);
    expect(($this->names)($wall))->toBe(['Ünü', 'Ünü', 'old'])
        ->and($wall)->toMatchArray(['n' => 3, 'first' => true, 'last' => true])
        ->and($wall['photos'][2])->toMatchArray([
            'lon' => -11.2, 'lat' => -14.1, 'place' => 'exact', 'width' => 400, 'layer' => 'Nests',
            'part' => $map->layers[0]['id'],
        ])
        // Behind a link they are called otherwise, and lead to the card and the picture all the same.
        ->and($wall['photos'][2]['record'])->not->toBe($old['record']);
    $at = "/api/v1/open/maps/$map->link_token";
    $this->getJson("$at/layers/{$map->layers[0]['id']}/records/{$wall['photos'][2]['record']}")
        ->assertOk()->assertJsonPath('name', 'old')->assertJsonPath('photos.0.id', $wall['photos'][2]['id']);
    $this->getJson($at)->assertOk()->assertJsonPath('photos', true);
    // Whoever belongs to the programme leafs through the same.
    $ours = $this->actingAs($this->crew)->getJson("/api/v1/maps/$map->id/wall")->assertOk()->json();
    expect(($this->names)($ours))->toBe(['Ünü', 'Ünü', 'old'])
        ->and($ours['photos'][2]['record'])->toBe($old['record']);
});

it('leaves out what is on its way, refused, removed, no picture, or of a record that is gone', function (): void {
    ($this->nest)('shown', 1, 5);
    foreach (['on_way', 'refused', 'removed'] as $i => $state) {
        $add = ($this->nest)($state, 1, 10 + $i);
        Attachment::query()->where('record_id', RecordId::of($add['record'])->bytes())->update(['state' => $state]);
    }
    $sound = ($this->nest)('sound', 1, 20);
    Attachment::query()->where('record_id', RecordId::of($sound['record'])->bytes())->update(['type' => 'audio/mpeg']);
    $gone = ($this->nest)('gone', 1, 30);
    $this->actingAs($this->head)->deleteJson("/api/v1/layers/{$this->nests->id}/records/{$gone['record']}");
    expect(($this->names)(($this->wall)(($this->map)())))->toBe(['shown']);
});

it('shows none where cards show none, nor names that they do not tell', function (): void {
    ($this->nest)('secret', 1, 5);
    $bare = ($this->map)(['card' => ['fields' => ['code'], 'photos' => false]]);
    expect(($this->wall)($bare))->toBe(['photos' => [], 'n' => 0, 'first' => true, 'last' => true]);
    $this->getJson("/api/v1/open/maps/$bare->link_token")->assertJsonPath('photos', false);
    $nameless = ($this->map)(['card' => ['fields' => ['species'], 'photos' => true]]);
    expect(json_encode(($this->wall)($nameless)))->not->toContain('secret')->toContain('Loggerhead');
    $silent = ($this->map)(['card' => ['fields' => [], 'photos' => true]]);
    expect(($this->names)(($this->wall)($silent)))->toBe([null]);
    // The layer is closed to everyone with the link, or its photos are, or its places.
    $rule = fn (array $rule): mixed => $this->actingAs($this->head)->putJson(
        "/api/v1/layers/{$this->nests->id}/seen-by/link",
        ['rule' => $rule + ['rows' => 'all', 'place' => 'exact', 'fields' => null, 'photos' => true]],
    )->assertOk();
    $map = ($this->map)();
    $rule(['place' => 'none']);
    expect(($this->wall)($map)['photos'][0])->toMatchArray(['place' => 'none', 'lon' => null, 'lat' => null]);
    $rule(['place' => 'cell', 'metres' => 2_000]);
    expect(($this->wall)($map)['photos'][0]['place'])->toBe('cell')
        ->and(($this->wall)($map)['photos'][0]['lon'])->not->toBe(-11.5);
    $rule(['photos' => false]);
    expect(($this->wall)($map)['n'])->toBe(0);
    $rule(['rows' => 'none']);
    expect(($this->wall)($map)['n'])->toBe(0);
});

it('leafs forth and back through many, and begins at any of them', function (): void {
    // Several of one moment: in their own order, each once.
    foreach (range(1, 20) as $i) {
        ($this->nest)("n$i", 3, intdiv($i, 4) * 10);
    }
    $map = ($this->map)();
    $first = ($this->wall)($map);
    expect($first['photos'])->toHaveCount(48)
        ->and($first)->toMatchArray(['n' => 60, 'first' => true, 'last' => false]);
    $next = ($this->wall)($map, '?after='.$first['photos'][47]['id']);
    expect($next['photos'])->toHaveCount(12)->and($next)->toMatchArray(['first' => false, 'last' => true]);
    $all = array_column([...$first['photos'], ...$next['photos']], 'id');
    expect(array_unique($all))->toHaveCount(60);
    $from = ($this->wall)($map, "?from=$all[50]");
    expect(array_column($from['photos'], 'id'))->toBe(array_slice($all, 50))
        ->and($from['first'])->toBeFalse();
    $back = ($this->wall)($map, "?before=$all[50]");
    expect(array_column($back['photos'], 'id'))->toBe(array_slice($all, 2, 48))->and($back['first'])->toBeFalse();
    $back = ($this->wall)($map, "?before=$all[2]");
    expect(array_column($back['photos'], 'id'))->toBe(array_slice($all, 0, 2))->and($back['first'])->toBeTrue();
    // One that is not there, of another map, or no id at all.
    foreach (['nonsense', substr($all[0], 0, 21), str_repeat('A', 22)] as $wrong) {
        expect(($this->wall)($map, "?after=$wrong", 422)['problems'][0]['code'])->toBe('wall_photo_gone');
    }
    expect(($this->wall)(($this->map)(), "?from=$all[0]", 422)['problems'][0]['code'])->toBe('wall_photo_gone');
});

it('takes all layers of the map together, or one, each photo once', function (): void {
    $eggs = $this->layer($this->field, ['title' => 'Eggs', 'name_field' => 'code']);
    ($this->nest)('nest', 1, 10);
    ($this->nest)('egg', 1, 5, $eggs);
    $map = ($this->map)();
    $this->actingAs($this->head)->patchJson("/api/v1/maps/$map->id", ['layers' => [
        ...$map->layers,
        ['id' => 'leggs00', 'layer' => $eggs->id, 'look' => ['kind' => 'single'],
            'card' => ['fields' => ['code'], 'photos' => true]],
        // The same layer once more, which shows the same photo.
        ['id' => 'lagain0', 'layer' => $this->nests->id, 'look' => ['kind' => 'single'],
            'card' => ['fields' => ['code'], 'photos' => true]],
        // Cells stand for many: their cards show no photo.
        ['id' => 'lcells0', 'layer' => $eggs->id, 'look' => ['kind' => 'density', 'bits' => 20, 'breaks' => []]],
    ]])->assertOk();
    $map->refresh();
    expect(($this->names)(($this->wall)($map)))->toBe(['egg', 'nest'])
        ->and(($this->names)(($this->wall)($map, '?part=leggs00')))->toBe(['egg'])
        ->and(($this->names)(($this->wall)($map, '?part=lcells0')))->toBe([])
        ->and(($this->names)(($this->wall)($map, '?part=lnothin')))->toBe([]);
});

it('keeps to slices and to the search that is asked', function (): void {
    ($this->nest)('one', 1, 10);
    ($this->nest)('two', 1, 5);
    $slice = $this->nests->slices()->create(['name' => 'Twos', 'filter' => ['all' => [
        ['field' => 'code', 'test' => 'is', 'value' => 'two'],
    ]]]);
    $map = ($this->map)();
    $search = $this->actingAs($this->head)->patchJson("/api/v1/maps/$map->id", ['searches' => [
        ['title' => 'Twos', 'part' => $map->layers[0]['id'], 'slice' => $slice->id],
    ]])->assertOk()->json('searches.0.id');
    $map->refresh();
    expect(($this->names)(($this->wall)($map, "?search=$search")))->toBe(['two'])
        ->and(($this->names)(($this->wall)($map)))->toBe(['two', 'one']);
    // Closed again, its link leads nowhere; and what is asked behind another is another's.
    DB::table('maps')->where('id', $map->id)->update(['audience' => 'programme']);
    ($this->wall)($map->refresh(), '', 404);
});
