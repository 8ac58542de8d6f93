<?php

declare(strict_types=1);

use App\Models\Audience;
use App\Models\Layer;
use App\Records\Bits\BuildBits;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Support\Facades\Route;
use PinYard\Audience\Blur;
use PinYard\Geo\PointInArea;

/*
 * What everyone with a link is told of a layer: nothing that they get, by whatever way, depends on where in its cell a
 * record lies, on fields that are hidden, or on records that are.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->crew = $this->crew($this->field);
    $this->nests = $this->layer($this->field, [
        'title' => 'Nests',
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            ['key' => 'kind', 'label' => 'Kind', 'kind' => 'one_choice', 'choices' => [
                ['code' => 'a', 'label' => 'Green'], ['code' => 'b', 'label' => 'Hawksbill'],
            ]],
            ['key' => 'far', 'label' => 'East', 'kind' => 'calculated', 'formula' => 'longitude()'],
        ],
    ]);
    $this->sectors = $this->layer($this->field, [
        'title' => 'Sectors', 'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $ring = static fn (float $w): array => [
        [$w, -14.6], [$w + 0.1, -14.6], [$w + 0.1, -14.4], [$w, -14.4], [$w, -14.6],
    ];
    $this->area = fn (string $name, float $west): array => $this->add($this->sectors, [
        'values' => ['name' => $name],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [$ring($west)]],
        'fix' => null,
    ]);
    $this->nest = fn (array $values, float $lon = -11.512, float $lat = -14.503): array => $this->add($this->nests, [
        'values' => $values, 'geometry' => ['type' => 'Point', 'coordinates' => [$lon, $lat]],
    ]);
    $this->rule = fn (array $rule): mixed => $this->actingAs($this->head)->putJson(
        "/api/v1/layers/{$this->nests->id}/seen-by/link",
        ['rule' => $rule + ['rows' => 'all', 'place' => 'cell', 'metres' => 500, 'fields' => null, 'photos' => false]],
    );
    $this->photo = $this->announce($this->jpeg());
    $this->first = ($this->nest)(['code' => 'SECRET-1', 'eggs' => 71, 'kind' => 'a']);
    $this->second = ['photos' => [$this->photo]] + ($this->nest)(['code' => 'SECRET-2', 'eggs' => 72, 'kind' => 'b']);
    $third = ($this->nest)(['code' => 'Z', 'eggs' => 3, 'kind' => 'a'], -11.3);
    $this->sync($this->crew, [$this->first, $this->second, $third]);
    $this->sync($this->head, [($this->area)('West', -11.6), ($this->area)('East', -11.5)]);
    /** Addresses behind links, each with the outlet that it stands for. */
    $this->behind = function (): array {
        $shown = ['card' => ['fields' => ['code', 'eggs', 'kind', 'far'], 'photos' => true]];
        $map = $this->mapOf($this->nests, $shown + [
            'look' => ['kind' => 'category', 'field' => 'kind'],
            'label' => ['parts' => [['field' => 'kind'], ['text' => ' '], ['field' => 'code']]],
        ], Audience::Link, 'Kinds');
        // Of those around a place: who is in it would tell where they are.
        $near = $this->actingAs($this->head)->postJson("/api/v1/layers/{$this->nests->id}/slices", [
            'filter' => ['all' => [['field' => '@place', 'test' => 'within', 'value' => [
                'lon' => -11.512, 'lat' => -14.503, 'metres' => 50,
            ]]]],
        ])->assertCreated()->json('id');
        $part = fn (string $id, array $look, array $more = []): array => [
            'id' => $id, 'layer' => $this->nests->id, 'look' => $look,
        ] + $more + $shown;
        $this->actingAs($this->head)->patchJson("/api/v1/maps/$map->id", [
            'beside' => ['part' => $map->layers[0]['id'], 'columns' => ['code', 'eggs', 'kind', 'far', '@collected']],
            'layers' => [
                ...$map->layers,
                $part('lcells', ['kind' => 'density', 'field' => null, 'bits' => 18, 'breaks' => []]),
                $part('lnear', ['kind' => 'single'], ['slice' => $near]),
                $part('lclass', ['kind' => 'classes', 'field' => 'eggs', 'breaks' => [10]]),
                $part('lwhere', ['kind' => 'classes', 'field' => 'far', 'breaks' => [-11.4]]),
                $part('lsums', [
                    'kind' => 'single', 'size' => ['field' => 'eggs', 'most' => 9],
                    'gather' => ['tell' => 'sum', 'field' => 'eggs'], 'photos' => true,
                ], ['label' => ['parts' => [['formula' => 'far + 0']]]]),
                ['id' => 'lareas', 'layer' => $this->sectors->id, 'label' => [
                    'parts' => [['tally' => true]],
                ], 'look' => [
                    'kind' => 'inside', 'breaks' => [1, 2],
                    'of' => ['layer' => $this->nests->id, 'measure' => 'count', 'least' => 1],
                ]],
            ],
        ])->assertOk();
        $maps = [$map->refresh()];
        $on = ['layer' => $this->nests->id];
        $tiles = [
            ['kind' => 'number'] + $on,
            ['kind' => 'number', 'measure' => ['of' => 'sum', 'field' => 'eggs']] + $on,
            ['kind' => 'breakdown', 'by' => ['field' => 'kind']] + $on,
            ['kind' => 'breakdown', 'by' => ['areas' => $this->sectors->id]] + $on,
            ['kind' => 'table', 'by' => ['field' => 'kind'], 'columns' => [
                ['measure' => ['of' => 'mean', 'field' => 'eggs']],
            ]] + $on,
            ['kind' => 'spread', 'measure' => ['of' => 'mean', 'field' => 'far']] + $on,
            ['kind' => 'latest', 'names' => true, 'photo' => true, 'fields' => ['kind', 'eggs', 'far']] + $on,
            ['kind' => 'photos', 'names' => true] + $on,
            ['kind' => 'map', 'names' => true] + $on,
            ['kind' => 'details', 'names' => true, 'photo' => true] + $on,
            ['kind' => 'picker', 'by' => ['field' => 'kind']] + $on,
            ['kind' => 'text', 'text' => '{1}', 'values' => [$on + ['measure' => ['of' => 'most', 'field' => 'eggs']]]],
            ['kind' => 'map', 'map' => $maps[0]->id],
            ['kind' => 'number', 'slice' => $near] + $on,
            ['kind' => 'number', 'measure' => ['of' => 'share', 'slice' => $near]] + $on,
        ];
        foreach ($tiles as $i => $tile) {
            $tiles[$i] = $tile + ['id' => "t$i", 'title' => "T$i", 'width' => 3, 'height' => 2];
        }
        $board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
            'title' => 'B', 'audience' => 'link', 'tiles' => $tiles, 'visitors_pick' => true,
        ])->assertCreated()->json();
        $told = [];
        foreach ($maps as $map) {
            $at = "/api/v1/open/maps/{$map->link_token}";
            array_push($told, $at, "$at/table", "$at/wall", "$at/picture.png", ...array_map(
                static fn (array $l): string => "$at/layers/{$l['id']}/features.geojson",
                $map->layers,
            ));
        }
        $at = '/api/v1/open'.$this->linkOf($board);
        array_push($told, $at, "$at?pick=".rawurlencode('{"t2":"a"}'), "$at?find=".rawurlencode('{"t6":"SECRET"}'));
        foreach ([8, 12] as $tile) {
            $part = $this->getJson($at)->json("tiles.$tile.answer.view.layers.0.id");
            $told[] = "$at/tiles/t$tile/layers/$part/features.geojson";
        }

        // What others are made of first.
        return [$told, $maps[0], $at];
    };
    /** @return array<string, string> what each address answers, without the moment at which it was asked */
    $this->told = function (array $addresses): array {
        app('auth')->forgetGuards();
        $told = [];
        foreach ($addresses as $address) {
            $answer = $this->get($address);
            $text = (string) $answer->getContent();
            $told[$address] = $answer->getStatusCode().' '.preg_replace('/"as_of":"[^"]*"/', '', $text)
                .$answer->headers->get('ETag');
            expect($answer->getStatusCode())->toBe(200, $address.' '.$answer->exception?->getMessage());
        }

        return $told;
    };
});

it('tells the same wherever in its cell a record lies, whatever hidden fields say, whatever is hidden', function (
    array $rule,
    bool $bits,
): void {
    $slice = $this->actingAs($this->head)->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'filter' => ['all' => [['field' => 'kind', 'test' => 'there']]],
    ])->json('id');
    $areas = ($rule['place'] ?? '') === 'area' ? ['areas' => $this->sectors->id] : [];
    ($this->rule)($areas + $rule + ['rows' => 'slice', 'slice' => $slice])->assertOk();
    [$addresses, $map, $board] = ($this->behind)();
    if ($bits) {
        (new BuildBits($this->nests->id, 0))->handle();
    }
    $before = ($this->told)($addresses);
    // Cards of what is told.
    foreach (["/api/v1/open/maps/$map->link_token/layers/{$map->layers[0]['id']}", "$board/tiles/t8/layers/l0000000",
        "$board/tiles/t12/layers/{$map->layers[0]['id']}"] as $at) {
        $features = $this->getJson("$at/features.geojson")->json('features');
        foreach ($features as $feature) {
            $addresses[] = "$at/records/{$feature['id']}";
        }
        expect($features)->toHaveCount(['cell' => 3, 'area' => 2, 'none' => 0][$rule['place'] ?? 'cell']);
    }
    // Details of what is picked in a list.
    $listed = $this->getJson($board)->json('tiles.6.answer.records');
    expect($listed)->toHaveCount(3);
    foreach ($listed as $record) {
        $addresses[] = "$board/tiles/t9/layers/l0000000/records/{$record['id']}?from=t6";
    }
    $before = ($this->told)($addresses);
    expect(implode('', $before))
        ->not->toContain('SECRET')->not->toContain('"71"')->not->toContain('[-11.512,-14.503]');
    // Moved within its cell, to the other side of the border between two sectors if it lies there.
    [$west, $south, $east, $north] = Blur::of(500)->cellOf(-11.512, -14.503);
    $this->sync($this->crew, [
        $this->changeOf($this->nests, $this->first['record'], ['code' => 'SECRET-9', 'eggs' => 99], [
            'code' => 'SECRET-1', 'eggs' => 71,
        ], ['geometry' => ['type' => 'Point', 'coordinates' => [
            // To the other end of its sector, or of its cell, where that is told.
            ...$areas === []
                ? [$west + ($east - $west) * 0.9, $south + ($north - $south) * 0.1]
                : [-11.5999, -14.4001],
        ]]]),
        // One that nobody with a link is told of: it is of no kind.
        ($this->nest)(['code' => 'SECRET-3', 'eggs' => 9_999], -11.49, -14.51),
    ]);
    expect(VisibleRecords::for($this->head, Layer::query()->findOrFail($this->nests->id))->count())->toBe(4);
    foreach (($this->told)($addresses) as $address => $after) {
        // Where they part, said shortly: pictures are among them.
        $at = strspn($after ^ $before[$address], "\0");
        expect($after === $before[$address] ? '' : substr($before[$address], max(0, $at - 300), 360))
            ->toBe($after === $before[$address] ? '' : substr($after, max(0, $at - 300), 360), $address)
            ->and(substr($after, 0, 4))->toBe('200 ', $address);
    }
})->with([
    'cells, two fields' => [['fields' => ['kind']]],
    'hidden places' => [['fields' => ['kind'], 'place' => 'none']],
    'only the area' => [['fields' => ['kind'], 'place' => 'area']],
])->with(['asked' => false, 'by bits' => true]);

it('has a walk for every outlet behind a link', function (): void {
    $found = [];
    foreach (Route::getRoutes() as $route) {
        if (in_array('GET', $route->methods(), true) && str_starts_with($route->uri(), 'api/v1/open/')) {
            $found[] = substr($route->uri(), strlen('api/v1/open/'));
        }
    }
    sort($found);
    expect($found)->toBe([
        'boards/{token}',
        'boards/{token}/tiles/{tile}/layers/{part}/features.geojson',
        'boards/{token}/tiles/{tile}/layers/{part}/records/{record}',
        'boards/{token}/tiles/{tile}/photos/{attachment}/{size}',
        'gates/{token}',
        'maps/{token}',
        'maps/{token}/layers/{part}/features.geojson',
        'maps/{token}/layers/{part}/records/{record}',
        'maps/{token}/photos/{attachment}/{size}',
        'maps/{token}/picture.png',
        'maps/{token}/table',
        'maps/{token}/wall',
        'marks/{mark}',
    ]);
});

it('spreads what it tells over the cell, the same each time, and never where it is', function (
    float $lon,
    float $lat,
): void {
    $this->sync($this->crew, array_map(fn (int $i): array => ($this->nest)(['kind' => 'a'], $lon, $lat), range(1, 40)));
    ($this->rule)(['metres' => 2_000])->assertOk();
    $layer = Layer::query()->findOrFail($this->nests->id);
    $rows = fn (): array => VisibleRecords::of(Viewer::anyone(), $layer)->rows()->orderBy('id')
        ->get(['id', 'lon', 'lat', 'z'])->slice(3)->map(static fn ($r): array => (array) $r)->all();
    $told = $rows();
    expect($rows())->toBe($told)->and($told)->toHaveCount(40);
    [$west, $south, $east, $north] = Blur::of(2_000)->cellOf($lon, $lat);
    $across = $up = [];
    foreach ($told as $row) {
        expect($row['lon'])->toBeGreaterThanOrEqual($west)->toBeLessThanOrEqual($east)
            ->and($row['lat'])->toBeGreaterThanOrEqual($south)->toBeLessThanOrEqual($north);
        $across[] = ($row['lon'] - $west) / ($east - $west);
        $up[] = ($row['lat'] - $south) / ($north - $south);
    }
    // All over the cell: the means of forty lie within four deviations of the middle.
    foreach ([$across, $up] as $shares) {
        expect(array_sum($shares) / 40)->toEqualWithDelta(0.5, 4 * sqrt(1 / 12 / 40))
            ->and(max($shares) - min($shares))->toBeGreaterThan(0.6);
    }
})->with([[-11.512, -14.503], [179.9999, 0.0001], [-179.9999, -0.0001], [10.0, 60.0], [10.0, -84.9], [0.0, 89.0]]);

it('finds what is blurred in a box by where it is told to be', function (): void {
    ($this->rule)(['metres' => 500])->assertOk();
    $seen = VisibleRecords::of(Viewer::anyone(), Layer::query()->findOrFail($this->nests->id));
    [$west, $south, $east, $north] = Blur::of(500)->cellOf(-11.512, -14.503);
    $in = static fn (float $w, float $s, float $e, float $n): int => $seen
        ->rowsIn(PinYard\Geo\Box::of($w, $s, $e, $n))->count();
    expect($in($west, $south, $east, $north))->toBe(2)
        ->and($in($west - 1, $south - 1, $west, $north + 1))->toBe(0);
});

it('finds in any box what is told to be in it, and no more', function (float $lon, float $lat): void {
    mt_srand(7);
    $near = static fn (float $of, float $by): float => $of + $by * (mt_rand() / mt_getrandmax() - 0.5);
    $around = static fn (float $lon): float => fmod($lon + 540, 360) - 180;
    $this->sync($this->crew, array_map(
        fn (int $i): array => ($this->nest)(['kind' => 'a'], $around($near($lon, 0.1)), $near($lat, 0.1)),
        range(1, 120),
    ));
    ($this->rule)(['metres' => 2_000])->assertOk();
    $seen = VisibleRecords::of(Viewer::anyone(), Layer::query()->findOrFail($this->nests->id));
    $all = $seen->rows()->get(['id', 'lon', 'lat'])->all();
    for ($i = 0; $i < 30; $i++) {
        [$west, $south] = [$near($lon, 0.12), $near($lat, 0.12)];
        $box = PinYard\Geo\Box::of(
            $around($west), $south, $around($west + mt_rand(1, 90) / 1_000), $south + mt_rand(1, 90) / 1_000,
        );
        $in = array_filter($all, static fn ($r): bool => $box->contains(PinYard\Geo\Position::of($r->lon, $r->lat)));
        $told = static fn ($rows): array => collect($rows)
            ->mapWithKeys(static fn ($r): array => [bin2hex($r->id) => [$r->lon, $r->lat]])->sortKeys()->all();
        expect($told($seen->rowsIn($box)->get(['id', 'lon', 'lat'])))->toBe($told($in));
    }
    // In order of their places, the first of them without going through all.
    expect($seen->drawn(9)->pluck('id')->all())->toBe(array_slice($seen->rows()->orderBy('z')->pluck('id')->all(), 0, 9))
        ->and($seen->drawn(500)->count())->toBe(count($all));
    // One of them across a border: cells to its north are half as large in degrees.
})->with([[-11.5, -14.5], [179.99, 0.01], [10.0, 41.0], [10.0, 34.85], [10.0, 84.9]]);

it('refuses rules that are none, and says how it is done', function (array $rule, string $code): void {
    $place = $this->actingAs($this->head)->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'filter' => ['all' => [['field' => '@place', 'test' => 'within', 'value' => [
            'lon' => -11.5, 'lat' => -14.5, 'metres' => 100,
        ]]]],
    ])->json('id');
    $named = ['PLACE' => $place, 'OWN' => $this->nests->id];
    array_walk_recursive($rule, static fn (mixed & $v): mixed => is_string($v) ? $v = $named[$v] ?? $v : $v);
    ($this->rule)($rule)->assertStatus(422)->assertJsonPath('problems.0.code', $code);
    expect(VisibleRecords::of(Viewer::anyone(), Layer::query()->findOrFail($this->nests->id))->sight->isWhole())
        ->toBeTrue();
})->with([
    [['metres' => 1], 'audience_metres'],
    [['metres' => 500_001], 'audience_metres'],
    [['metres' => '500'], 'audience_metres'],
    [['rows' => 'some'], 'audience_rows'],
    [['rows' => 'slice', 'slice' => 0], 'slice_unknown'],
    [['rows' => 'slice', 'slice' => 'PLACE'], 'audience_slice_place'],
    [['place' => 'near'], 'audience_place'],
    [['place' => 'area'], 'audience_areas'],
    [['place' => 'area', 'areas' => 'OWN'], 'audience_areas'],
    [['place' => 'area', 'areas' => 0], 'audience_areas'],
    [['place' => 'area', 'areas' => [1]], 'audience_areas'],
    [['fields' => ['nobody']], 'field_unknown'],
    [['fields' => 'all'], 'audience_fields'],
]);

it('shows nothing when the slice of a rule has gone, and what was asked for again after it', function (): void {
    $slice = $this->actingAs($this->head)->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'filter' => ['all' => [['field' => 'kind', 'test' => 'is', 'value' => 'a']]],
    ])->json('id');
    ($this->rule)(['rows' => 'slice', 'slice' => $slice])->assertOk()->assertJsonPath('rules.link.rows', 'slice');
    $map = $this->mapOf($this->nests, ['look' => ['kind' => 'category', 'field' => 'kind']], Audience::Link);
    $told = fn (): array => $this->getJson("/api/v1/open/maps/$map->link_token")->assertOk()->json('layers');
    expect($told()[0]['total'])->toBe(2);
    $this->actingAs($this->head)->putJson("/api/v1/layers/{$this->nests->id}/slices/$slice", [
        'name' => null, 'filter' => ['all' => [['field' => 'kind', 'test' => 'is', 'value' => 'b']]],
    ])->assertOk();
    expect($told()[0]['total'])->toBe(1);
    $this->actingAs($this->head)->deleteJson("/api/v1/layers/{$this->nests->id}/slices/$slice");
    expect($told())->toBe([]);
    $this->actingAs($this->head)->getJson("/api/v1/programmes/{$this->field->id}/audiences")->assertOk()
        ->assertJsonPath('layers.0.rules.link.lost', true)
        ->assertJsonPath('things.0.closed.0.title', 'Nests');
    ($this->rule)(['rows' => 'all'])->assertOk();
    expect($told()[0]['total'])->toBe(3);
});

it('does not save over what somebody else has said meanwhile', function (): void {
    $was = ($this->rule)(['metres' => 500])->assertOk()->json('rules.link');
    $save = fn (array $rule, mixed $was): mixed => $this->putJson(
        "/api/v1/layers/{$this->nests->id}/seen-by/link",
        ['rule' => $rule + $was, 'was' => $was],
    );
    $save(['rows' => 'none'], $was)->assertOk();
    $save(['metres' => 100], $was)->assertStatus(409)->assertJsonPath('problems.0.code', 'audience_stale');
    expect(VisibleRecords::of(Viewer::anyone(), Layer::query()->findOrFail($this->nests->id))->seesNothing())
        ->toBeTrue();
});

it('goes by the copies of its areas in a copy, and tells no places where it has none', function (): void {
    ($this->rule)(['place' => 'area', 'areas' => $this->sectors->id])->assertOk();
    $copied = fn (string $kind, int $id): int => $this->postJson('/api/v1/things', [
        'action' => 'copy', 'things' => [['kind' => $kind, 'id' => $id]], 'with' => null,
    ])->assertOk()->json('0.id');
    $season = $copied('programme', $this->field->id);
    $sight = VisibleRecords::of(Viewer::anyone(), Layer::query()
        ->where('programme_id', $season)->where('title', 'Nests')->sole())->sight;
    expect($sight->place->value)->toBe('area')
        ->and($sight->areas)
        ->toBe(Layer::query()->where('programme_id', $season)->where('title', 'Sectors')->value('id'));
    // Its areas in the bin.
    $seen = fn (): array => VisibleRecords::of(Viewer::anyone(), Layer::query()->findOrFail($this->nests->id))
        ->rows()->pluck('lon')->filter()->all();
    expect($seen())->toHaveCount(2);
    $map = $this->mapOf($this->nests, [], Audience::Link);
    $note = fn (): string => $this->getJson("/api/v1/open/maps/$map->link_token")->assertOk()->json('notes.0');
    expect($note())->toContain('the area that it lies in');
    $this->sectors->refresh()->delete();
    expect($seen())->toBe([])->and($note())->toContain('is not told');
});

it('hides in a copy what was hidden', function (): void {
    $slice = $this->actingAs($this->head)->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'filter' => ['all' => [['field' => 'kind', 'test' => 'is', 'value' => 'a']]],
    ])->json('id');
    ($this->rule)(['rows' => 'slice', 'slice' => $slice, 'fields' => ['kind']])->assertOk();
    $seen = static fn (Layer $layer) => VisibleRecords::of(Viewer::anyone(), $layer)->sight;
    $was = $seen(Layer::query()->findOrFail($this->nests->id));
    $copied = fn (string $kind, int $id): int => $this->postJson('/api/v1/things', [
        'action' => 'copy', 'things' => [['kind' => $kind, 'id' => $id]], 'with' => null,
    ])->assertOk()->json('0.id');
    $season = $copied('programme', $this->field->id);
    $copy = Layer::query()->where('programme_id', $season)->where('title', 'Nests')->sole();
    expect($seen($copy)->key())->toBe($was->key());
    // A layer that is copied alone leaves its slices behind.
    $alone = $copied('layer', $this->nests->id);
    expect($seen(Layer::query()->findOrFail($alone))->key())->toBe('nothing');
});

it('leaves whoever belongs to the programme what they see', function (): void {
    ($this->rule)(['rows' => 'none'])->assertOk();
    foreach ([$this->head, $this->crew] as $person) {
        $sight = VisibleRecords::for($person, Layer::query()->findOrFail($this->nests->id))->sight;
        expect($sight->isWhole())->toBeTrue();
    }
});

it('shows what becomes of one place', function (): void {
    $blurred = $this->actingAs($this->head)
        ->getJson("/api/v1/layers/{$this->nests->id}/blurred?metres=500")->assertOk();
    expect($blurred->json('least'))->toBeGreaterThanOrEqual(500)
        ->and(PointInArea::of($blurred->json('told.coordinates.0'), ...$blurred->json('was.coordinates')))->toBeTrue();
    $in = $this->getJson("/api/v1/layers/{$this->nests->id}/blurred?areas={$this->sectors->id}")->assertOk();
    expect($in->json('told.coordinates.0'))->toContain([-11.6, -14.6])
        // One of the three lies in no sector.
        ->and([$in->json('outside'), $in->json('of')])->toBe([1, 3]);
    foreach (['metres=3', '', 'areas=', "areas={$this->nests->id}", 'areas[]=1', 'metres[]=1'] as $bent) {
        $this->getJson("/api/v1/layers/{$this->nests->id}/blurred?$bent")->assertStatus(422);
    }
});
