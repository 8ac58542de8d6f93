<?php

declare(strict_types=1);

use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Geo\Geodesic;

const PATH = ['type' => 'LineString', 'coordinates' => [[-11.6, -14.2], [-11.6, -14.15], [-11.55, -14.15]]];
const BEACH = [
    'type' => 'Polygon',
    'coordinates' => [[[-11.6, -14.2], [-11.5, -14.2], [-11.5, -14.1], [-11.6, -14.1], [-11.6, -14.2]]],
];

beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->programme = $this->programme($this->mara);
    $this->shapes = fn (string $geometry): Layer => $this->layer($this->programme, [
        'title' => 'Walks',
        'geometry' => $geometry,
        'fields' => [
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
            [
                'key' => 'km',
                'label' => 'Kilometres',
                'kind' => 'calculated',
                'formula' => 'round(line_length() / 1000, 3)',
            ],
            [
                'key' => 'ha',
                'label' => 'Hectares',
                'kind' => 'calculated',
                'formula' => 'round(area_size() / 10000, 2)',
            ],
        ],
    ]);
});

it('keeps lines, with their length in formulas', function (): void {
    $layer = ($this->shapes)('line');
    [$answer] = $this->sync($this->crew($this->programme), [
        $this->add($layer, ['values' => ['name' => 'Dawn'], 'geometry' => PATH]),
    ])['outcomes'];
    expect($answer['outcome'])->toBe('applied');
    $metres = Geodesic::length(PATH['coordinates']);
    $record = $this->actingAs($this->mara)
        ->getJson("/api/v1/layers/{$layer->id}/records/{$answer['record']}")
        ->json();
    expect($record['geometry'])
        ->toBe(PATH)
        ->and($record['length'])
        ->toEqualWithDelta($metres, 1e-6)
        ->and($record['values']['km'])
        ->toBe(round($metres / 1000, 3))
        ->and($record['values']['ha'])
        ->toBeNull();
    // Source: MariaDB reads what was written as well-known binary.
    expect(DB::table($layer->table())->selectRaw('st_astext(shape) as t')->value('t'))->toBe(
        'LINESTRING(-11.6 -14.2,-11.6 -14.15,-11.55 -14.15)',
    );
    $feature = $this->getJson("/api/v1/layers/{$layer->id}/records.geojson")->json('features.0');
    expect($feature['geometry'])->toBe(PATH);
});

it('keeps areas, corrected where a ring runs the wrong way, and refuses what is none', function (): void {
    $layer = ($this->shapes)('area');
    $turned = ['type' => 'Polygon', 'coordinates' => [array_reverse(array_slice(BEACH['coordinates'][0], 1))]];
    $made = $this->actingAs($this->mara)
        ->postJson("/api/v1/layers/{$layer->id}/records", ['values' => ['name' => 'Gull'], 'geometry' => $turned])
        ->assertCreated()
        ->json();
    expect(Geodesic::area($made['geometry']['coordinates'][0]))
        ->toBeGreaterThan(0)
        ->and($made['values']['ha'])
        ->toBe(round(abs(Geodesic::area(BEACH['coordinates'][0])) / 10_000, 2));
    $bow = ['type' => 'Polygon', 'coordinates' => [[[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]]];
    $this->postJson("/api/v1/layers/{$layer->id}/records", ['values' => [], 'geometry' => $bow])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'shape_crosses');
    $this->postJson("/api/v1/layers/{$layer->id}/records", [
        'values' => [],
        'geometry' => ['type' => 'Point', 'coordinates' => [0, 0]],
    ])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'shape_no_area');
    // Moved, and every version keeps its own outline.
    $moved = $this->patchJson("/api/v1/layers/{$layer->id}/records/{$made['id']}", [
        'base' => 1,
        'values' => [],
        'geometry' => BEACH,
    ])
        ->assertOk()
        ->json();
    expect($moved['geometry'])->toBe(BEACH);
    $history = $this->getJson("/api/v1/layers/{$layer->id}/records/{$made['id']}/history")->json();
    expect($history[0]['moved'])
        ->toBeTrue()
        ->and($history[1]['geometry']['coordinates'])
        ->toBe($made['geometry']['coordinates']);
    $this->postJson("/api/v1/layers/{$layer->id}/records/{$made['id']}/restore", ['version' => 1])
        ->assertOk()
        ->assertJsonPath('geometry.coordinates', $made['geometry']['coordinates']);
});

it('finds lines that only pass through a box', function (): void {
    $layer = ($this->shapes)('line');
    $this->actingAs($this->mara)
        ->postJson("/api/v1/layers/{$layer->id}/records", [
            'values' => [],
            'geometry' => ['type' => 'LineString', 'coordinates' => [[-12, -15], [-11, -14]]],
        ])
        ->assertCreated();
    $in = fn (string $box): int => count(
        $this->getJson("/api/v1/layers/{$layer->id}/records.geojson?bbox=$box")->json('features'),
    );
    expect($in('-11.6,-14.6,-11.4,-14.4'))->toBe(1)->and($in('-10,-14,-9,-13'))->toBe(0);
});

it('works lengths and areas out in SQL as in PHP', function (): void {
    $layer = ($this->shapes)('area');
    foreach ([0.1, 0.2, 0.4] as $size) {
        $ring = [[-11.6, -14.2], [-11.6 + $size, -14.2], [-11.6 + $size, -14.2 + $size], [-11.6, -14.2]];
        $this->actingAs($this->mara)
            ->postJson("/api/v1/layers/{$layer->id}/records", [
                'values' => [],
                'geometry' => ['type' => 'Polygon', 'coordinates' => [$ring]],
            ])
            ->assertCreated();
    }
    $before = DB::table($layer->table())->orderBy('id')->pluck('f_ha')->all();
    DB::table($layer->table())->update(['f_ha' => null]);
    App\Recalculation\Recalculate::dispatchSync($layer->id, ['ha']);
    expect(DB::table($layer->table())->orderBy('id')->pluck('f_ha')->all())
        ->toBe($before)
        ->and($before)
        ->not->toContain(null);
});

it('turns a layer of points into lines without losing a place, and back', function (): void {
    $layer = $this->layer($this->programme);
    $this->sync($this->mara, [$this->add($layer), $this->add($layer)]);
    $document = $layer->design()->toArray();
    $review = $this->actingAs($this->mara)
        ->postJson("/api/v1/layers/{$layer->id}/design/review", [
            'base' => 1,
            'design' => ['geometry' => 'line'] + $document,
        ])
        ->assertOk()
        ->json();
    expect($review['effects'])
        ->toHaveCount(1)
        ->and($review['effects'][0]['code'])
        ->toBe('geometry')
        ->and($review['effects'][0]['count'])
        ->toBe(2);
    $this->putJson("/api/v1/layers/{$layer->id}/design", [
        'base' => 1,
        'design' => ['geometry' => 'line'] + $document,
    ])->assertOk();
    $record = $this->getJson("/api/v1/layers/{$layer->id}/records")->json('records.0');
    expect($record['geometry'])
        ->toBeNull()
        ->and($record['lon'])
        ->toBe(-11.5);
    $this->patchJson("/api/v1/layers/{$layer->id}/records/{$record['id']}", [
        'base' => 1,
        'values' => [],
        'geometry' => PATH,
    ])->assertOk();
    // A phone that is still out sends a point by the design that it knows.
    [$late] = $this->sync($this->mara, [$this->add($layer, ['design' => 1])])['outcomes'];
    expect($late['outcome'])->toBe('applied');
    $this->putJson("/api/v1/layers/{$layer->id}/design", ['base' => 2, 'design' => $document])->assertOk();
    expect($this->getJson("/api/v1/layers/{$layer->id}/records/{$record['id']}")->json())->not->toHaveKey('geometry');
    $this->putJson("/api/v1/layers/{$layer->id}/design", [
        'base' => 3,
        'design' => ['geometry' => 'line'] + $document,
    ])->assertOk();
    expect($this->getJson("/api/v1/layers/{$layer->id}/records/{$record['id']}")->json('geometry'))->toBe(PATH);
});

it('keeps altitudes and what the receiver said, where the layer asks for it', function (): void {
    $layer = $this->layer($this->programme, [
        'altitude' => ['unit' => 'ft', 'required' => true],
        'fix' => ['keep' => ['satellites', 'type', 'time']],
        'fields' => [
            ['key' => 'feet', 'label' => 'Feet', 'kind' => 'calculated', 'formula' => 'round(altitude() / 0.3048)'],
        ],
    ]);
    $fix = [
        'accuracy' => 3.2,
        'altitude' => 30.48,
        'satellites' => 11,
        'type' => '3d',
        'at' => '2026-11-25T05:00:00.250Z',
    ];
    $outcomes = $this->sync($this->mara, [
        $this->add($layer, ['values' => [], 'fix' => $fix]),
        $this->add($layer, ['values' => [], 'fix' => $fix, 'altitude' => 61]),
        $this->add($layer, ['values' => [], 'fix' => null]),
        $this->add($layer, ['values' => [], 'altitude' => 99_000]),
        $this->add($layer, ['values' => [], 'altitude' => 'high']),
    ])['outcomes'];
    expect(array_column($outcomes, 'outcome'))
        ->toBe(['applied', 'applied', 'refused', 'refused', 'refused'])
        ->and([
            $outcomes[2]['problems'][0]['code'],
            $outcomes[3]['problems'][0]['code'],
            $outcomes[4]['problems'][0]['code'],
        ])
        ->toBe(['altitude_required', 'altitude_range', 'altitude_number']);
    $first = $this->actingAs($this->mara)
        ->getJson("/api/v1/layers/{$layer->id}/records/{$outcomes[0]['record']}")
        ->json();
    expect($first['altitude'])
        ->toBe(30.48)
        ->and($first['fix'])
        ->toBe(['satellites' => 11, 'type' => '3d', 'at' => '2026-11-25T05:00:00Z'])
        ->and($first['values']['feet'])
        ->toEqual(100);
    $changed = $this->patchJson("/api/v1/layers/{$layer->id}/records/{$first['id']}", [
        'base' => 1,
        'values' => [],
        'altitude' => 15.24,
    ])
        ->assertOk()
        ->json();
    expect($changed['altitude'])->toBe(15.24)->and($changed['values']['feet'])->toEqual(50);
    $this->patchJson("/api/v1/layers/{$layer->id}/records/{$first['id']}", [
        'base' => 2,
        'values' => [],
        'altitude' => 'x',
    ])->assertUnprocessable();
});

it('gives single crews rights of their own, and the public none where the design says so', function (): void {
    $layer = $this->layer($this->programme, [
        'rights' => [
            'crew' => ['add' => true, 'see' => 'own'],
            'crews' => [['crew' => 'Gulls', 'add' => false, 'see' => 'all', 'change' => 'all', 'delete' => 'all']],
            'public' => ['see' => false],
        ],
    ]);
    [$plain, $gull] = [$this->crew($this->programme), $this->crew($this->programme)];
    $gulls = $this->programme->crews()->create(['name' => 'Gulls']);
    $this->programme
        ->members()
        ->where('user_id', $gull->id)
        ->update(['crew_id' => $gulls->id]);
    [$mine] = $this->sync($plain, [$this->add($layer)])['outcomes'];
    [$none] = $this->sync($gull, [$this->add($layer)])['outcomes'];
    expect($mine['outcome'])->toBe('applied')->and($none['problems'][0]['code'])->toBe('add_not_allowed');
    $this->actingAs($gull)
        ->patchJson("/api/v1/layers/{$layer->id}/records/{$mine['record']}", ['base' => 1, 'values' => ['clutch' => 9]])
        ->assertOk();
    $map = $this->actingAs($this->mara)
        ->postJson("/api/v1/programmes/{$this->programme->id}/maps", [
            'layer' => $layer->id,
            'title' => 'M',
            'audience' => 'link',
        ])
        ->assertCreated()
        ->json();
    $token = basename($map['address']);
    $this->getJson("/api/v1/open/maps/$token/layers/{$map['layers'][0]['id']}/features.geojson")->assertNotFound();
    $this->getJson(
        "/api/v1/open/maps/$token/layers/{$map['layers'][0]['id']}/records/{$this->behindLink(
            App\Models\Map::query()->where('link_token', $token)->sole(),
            $mine['record'],
        )}",
    )->assertNotFound();
});
