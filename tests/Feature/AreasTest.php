<?php

declare(strict_types=1);

use App\Recalculation\Recalculate;
use Illuminate\Support\Facades\DB;
use PinYard\Geo\PointInArea;

beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->programme = $this->programme($this->mara);
    $this->areas = $this->layer($this->programme, [
        'title' => 'Beaches',
        'geometry' => 'area',
        'fields' => [
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
            ['key' => 'guards', 'label' => 'Guards', 'kind' => 'whole_number'],
        ],
    ]);
    $this->nests = $this->layer($this->programme, [
        'fields' => [['key' => 'code', 'label' => 'Code', 'kind' => 'short_text']],
    ]);
    $this->actingAs($this->mara);
    $this->square = fn (string $name, float $lon, float $lat, float $size, int $guards = 1): array => $this->postJson(
        "/api/v1/layers/{$this->areas->id}/records",
        [
            'values' => ['name' => $name, 'guards' => $guards],
            'geometry' => [
                'type' => 'Polygon',
                'coordinates' => [
                    [
                        [$lon, $lat],
                        [$lon + $size, $lat],
                        [$lon + $size, $lat + $size],
                        [$lon, $lat + $size],
                        [$lon, $lat],
                    ],
                ],
            ],
        ],
    )
        ->assertCreated()
        ->json();
    $this->formulas = function (): void {
        $document = $this->nests->design()->toArray();
        $document['fields'][] = [
            'key' => 'beach',
            'label' => 'Beach',
            'kind' => 'calculated',
            'formula' => 'area_of("Beaches")',
        ];
        $document['fields'][] = [
            'key' => 'twice',
            'label' => 'Twice',
            'kind' => 'calculated',
            'formula' => 'area_of("Beaches", "guards") * 2',
        ];
        $this->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $document])->assertOk();
        $this->nests = $this->nests->fresh();
    };
    $this->values = fn (): array => collect($this->getJson("/api/v1/layers/{$this->nests->id}/records")
        ->json('records'))
        ->mapWithKeys(fn (array $r): array => [$r['values']['code'] => [$r['values']['beach'], $r['values']['twice']]])
        ->sortKeys()
        ->all();
    $this->at = fn (string $code, float $lon, float $lat): array => $this->add($this->nests, [
        'design' => $this->nests->design_version,
        'values' => ['code' => $code],
        'geometry' => ['type' => 'Point', 'coordinates' => [$lon, $lat]],
    ]);
});

it('knows in which area a record lies, the smallest of several, and keeps that current', function (): void {
    ($this->square)('All', -12, -15, 1, 5);
    $small = ($this->square)('Gull', -11.6, -14.6, 0.2, 2);
    ($this->formulas)();
    $this->sync($this->mara, [
        ($this->at)('a', -11.5, -14.5),
        ($this->at)('b', -11.9, -14.9),
        ($this->at)('c', -10, -10),
    ]);
    expect(($this->values)())->toEqual(['a' => ['Gull', 4], 'b' => ['All', 10], 'c' => [null, null]]);
    $before = $this->nests->fresh()->change_number;
    $this->patchJson("/api/v1/layers/{$this->areas->id}/records/{$small['id']}", [
        'base' => 1,
        'values' => ['name' => 'Gull Beach', 'guards' => 7],
    ])->assertOk();
    expect(($this->values)()['a'])
        ->toEqual(['Gull Beach', 14])
        ->and($this->nests->fresh()->change_number)
        ->toBeGreaterThan($before);
    $this->deleteJson("/api/v1/layers/{$this->areas->id}/records/{$small['id']}")->assertNoContent();
    expect(($this->values)()['a'])->toEqual(['All', 10]);
});

// Source: MariaDB's ST_Contains as a second opinion, on a ragged area with a hole.
it('finds one by one and over the whole layer what the database finds', function (): void {
    $ring = [];
    for ($i = 0; $i < 40; $i++) {
        $far = $i % 2 === 0 ? 0.3 : 0.17;
        $ring[] = [round(-11.5 + $far * cos(($i * M_PI) / 20), 6), round(-14.5 + $far * sin(($i * M_PI) / 20), 6)];
    }
    $hole = [[-11.55, -14.55], [-11.55, -14.45], [-11.45, -14.45], [-11.45, -14.55], [-11.55, -14.55]];
    $this->postJson("/api/v1/layers/{$this->areas->id}/records", [
        'values' => ['name' => 'Star'],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [[...$ring, $ring[0]], $hole]],
    ])->assertCreated();
    ($this->formulas)();
    $dice = new Random\Randomizer(new Random\Engine\Mt19937(7));
    $this->sync(
        $this->mara,
        array_map(
            fn (int $i): array => ($this->at)(
                "n$i",
                -11.5 + $dice->getInt(-400, 400) / 1000,
                -14.5 + $dice->getInt(-400, 400) / 1000 + 1e-5,
            ),
            range(1, 200),
        ),
    );
    $wanted = DB::table($this->nests->table().' as n')
        ->join(
            $this->areas->table().' as a',
            fn ($join) => $join->whereRaw('st_contains(a.shape, point(n.lon, n.lat))'),
        )
        ->orderBy('n.id')
        ->pluck('n.f_code')
        ->all();
    $found = fn (): array => DB::table($this->nests->table())
        ->where('f_beach', 'Star')
        ->orderBy('id')
        ->pluck('f_code')
        ->all();
    expect($found())->toBe($wanted)->and(count($wanted))->toBeGreaterThan(20)->toBeLessThan(180);
    DB::table($this->nests->table())->update(['f_beach' => null]);
    Recalculate::dispatchSync($this->nests->id, ['beach']);
    expect($found())->toBe($wanted);
});

it('checks the layer and its fields, with the place of the mistake', function (string $formula, ?string $code): void {
    $try = $this->postJson("/api/v1/layers/{$this->nests->id}/formulas/try", ['formula' => $formula])->json();
    expect($try['problems'][0]['code'] ?? null)->toBe($code);
})->with([
    ['area_of("Beaches")', null],
    ['area_of("Beaches", "guards") + 1', null],
    ['area_of("Beach")', 'formula_areas'],
    ['area_of("Beaches", "guard")', 'formula_area_field'],
    ['area_of("Beaches") + 1', 'formula_type'],
    ['area_of(code)', 'formula_areas'],
    ['area_of()', 'formula_arguments'],
]);

it('keeps what formulas read of areas', function (): void {
    ($this->formulas)();
    $document = $this->areas->design()->toArray();
    foreach ([['title' => 'Shores'], ['geometry' => 'line'], ['fields' => [$document['fields'][0]]]] as $change) {
        $this->putJson("/api/v1/layers/{$this->areas->id}/design", ['base' => 1, 'design' => $change + $document])
            ->assertUnprocessable()
            ->assertJsonPath('problems.0.code', 'area_used');
    }
    $this->putJson("/api/v1/layers/{$this->areas->id}/design", [
        'base' => 1,
        'design' => ['purpose' => 'Ours'] + $document,
    ])->assertOk();
    // In the bin its areas are missing, and the layer that asks stays readable.
    $this->postJson('/api/v1/things', [
        'action' => 'bin',
        'things' => [['kind' => 'layer', 'id' => $this->areas->id]],
    ])->assertOk();
    $this->getJson("/api/v1/layers/{$this->nests->id}")->assertOk();
});

it('counts a hole as outside, and crosses the antimeridian', function (): void {
    $ring = [[179.0, -1.0], [-179.0, -1.0], [-179.0, 1.0], [179.0, 1.0], [179.0, -1.0]];
    $hole = [[179.9, -0.1], [179.9, 0.1], [-179.9, 0.1], [-179.9, -0.1], [179.9, -0.1]];
    expect(PointInArea::of([$ring], 180.0, 0.0))
        ->toBeTrue()
        ->and(PointInArea::of([$ring], -179.5, 0.5))
        ->toBeTrue()
        ->and(PointInArea::of([$ring, $hole], 180.0, 0.0))
        ->toBeFalse()
        ->and(PointInArea::of([$ring], 0.0, 0.0))
        ->toBeFalse()
        ->and(PointInArea::of([$ring], 178.9, 0.0))
        ->toBeFalse();
});

it('survives visits to areas, and areas that are visited', function (): void {
    $this->layer($this->programme, [
        'title' => 'Beach visits',
        'visits_of' => 'Beaches',
        'fields' => [['key' => 'a', 'label' => 'A', 'kind' => 'date']],
    ]);
    expect($this->areas->fresh()->design()->title)
        ->toBe('Beaches')
        ->and($this->nests->fresh()->design()->title)
        ->toBe('Nests');
});
