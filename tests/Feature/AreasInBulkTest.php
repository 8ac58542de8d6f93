<?php

declare(strict_types=1);

use App\Designs\DesignStore;
use App\Models\Layer;
use App\Recalculation\Recalculate;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;

/* Areas of a whole layer at once, against the database's own ST_Contains. */

beforeEach(function (): void {
    $this->desk = $this->person();
    $this->programme_ = $this->programme($this->desk);
    $this->areas = $this->layer($this->programme_, [
        'title' => 'Wards',
        'geometry' => 'area',
        'name_field' => 'name',
        'fields' => [
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
            ['key' => 'people', 'label' => 'People', 'kind' => 'whole_number'],
        ],
    ]);
    $this->draw = function (string $name, ?int $people, array $ring): void {
        $this->actingAs($this->desk)
            ->postJson("/api/v1/layers/{$this->areas->id}/records", [
                'values' => ['name' => $name] + ($people === null ? [] : ['people' => $people]),
                'geometry' => ['type' => 'Polygon', 'coordinates' => [[...$ring, $ring[0]]]],
            ])
            ->assertCreated();
    };
    ($this->draw)('North, of the "hill"\\', 1_200, [[-12, -14.5], [-11, -14.5], [-11.2, -14], [-11.9, -14.1]]);
    ($this->draw)('South', null, [[-12, -15], [-11, -15], [-11, -14.5], [-12, -14.5]]);
    ($this->draw)('Town', 900, [[-11.6, -14.6], [-11.4, -14.6], [-11.4, -14.4], [-11.6, -14.4]]);
    $this->trees = $this->layer($this->programme_, [
        'title' => 'Trees',
        'fields' => [['key' => 'code', 'label' => 'Code', 'kind' => 'short_text']],
    ]);
    mt_srand(11);
    $this->sync(
        $this->desk,
        array_map(
            fn (int $i): array => $this->add($this->trees, [
                'values' => ['code' => "T$i"],
                'geometry' => [
                    'type' => 'Point',
                    'coordinates' => [
                        -12.2 + (mt_rand() / mt_getrandmax()) * 1.4,
                        -15.1 + (mt_rand() / mt_getrandmax()) * 1.3,
                    ],
                ],
            ]),
            range(1, 400),
        ),
    );
    $this->carry = function (array ...$fields): Layer {
        $layer = Layer::query()->findOrFail($this->trees->id);
        $document = $layer->design()->toArray();
        array_push($document['fields'], ...$fields);

        return DesignStore::saveNext(
            $layer,
            LayerDesign::fromArray($document, $layer->neighbours()),
            $layer->design_version,
            null,
        );
    };
});

it('gives each record the smallest area that it lies in, as the database would', function (): void {
    $layer = ($this->carry)([
        'key' => 'ward',
        'label' => 'Ward',
        'kind' => 'calculated',
        'formula' => 'area_of("Wards")',
    ]);
    $wrong = DB::select("
        select r.f_code, r.f_ward, w.f_name
        from {$layer->table()} r
        left join {$this->areas->table()} w on w.id = (
            select a.id from {$this->areas->table()} a
            where a.deleted = 0 and st_contains(a.shape, point(r.lon, r.lat))
            order by a.area_m2 limit 1
        )
        where not (r.f_ward <=> w.f_name)");
    expect($wrong)
        ->toBe([])
        ->and(DB::table($layer->table())->whereNull('f_ward')->count())
        ->toBeGreaterThan(20)
        ->and(DB::table($layer->table())->where('f_ward', 'Town')->count())
        ->toBeGreaterThan(3)
        ->and(DB::table($layer->table())->where('f_ward', 'North, of the "hill"\\')->count())
        ->toBeGreaterThan(20);
});

it('gives numbers of areas, and nothing where an area has none', function (): void {
    $layer = ($this->carry)(
        ['key' => 'ward', 'label' => 'Ward', 'kind' => 'calculated', 'formula' => 'area_of("Wards")'],
        [
            'key' => 'people',
            'label' => 'People there',
            'kind' => 'calculated',
            'formula' => 'area_of("Wards", "people")',
        ],
    );
    $by = DB::table($layer->table())
        ->select('f_ward')
        ->selectRaw('min(f_people) as least, max(f_people) as most')
        ->groupBy('f_ward')
        ->get()
        ->keyBy('f_ward');
    expect((float) $by['Town']->least)
        ->toBe(900.0)
        ->and((float) $by['Town']->most)
        ->toBe(900.0)
        ->and($by['South']->most)
        ->toBeNull();
});

it('gives the same whether the layer is walked at once or record by record', function (): void {
    $layer = ($this->carry)(
        ['key' => 'ward', 'label' => 'Ward', 'kind' => 'calculated', 'formula' => 'area_of("Wards")'],
        // More than the bare question, so it is worked out one by one.
        [
            'key' => 'shout',
            'label' => 'Ward again',
            'kind' => 'calculated',
            'formula' => 'code == "none" ? code : area_of("Wards")',
        ],
    );
    $differ = DB::table($layer->table())->whereRaw('not (f_ward <=> f_shout)')->count();
    expect($differ)->toBe(0);
});

it('follows when an area is moved, and when one goes', function (): void {
    $layer = ($this->carry)([
        'key' => 'ward',
        'label' => 'Ward',
        'kind' => 'calculated',
        'formula' => 'area_of("Wards")',
    ]);
    $before = DB::table($layer->table())->where('f_ward', 'Town')->count();
    $town = collect($this->getJson("/api/v1/layers/{$this->areas->id}/records")->json('records'))->firstWhere(
        'name',
        'Town',
    );
    $this->patchJson("/api/v1/layers/{$this->areas->id}/records/{$town['id']}", [
        'base' => $town['version'],
        'geometry' => [
            'type' => 'Polygon',
            'coordinates' => [[[-11.8, -14.8], [-11.2, -14.8], [-11.2, -14.2], [-11.8, -14.2], [-11.8, -14.8]]],
        ],
    ])->assertOk();
    expect(DB::table($layer->table())->where('f_ward', 'Town')->count())->toBeGreaterThan($before);
    $this->deleteJson("/api/v1/layers/{$this->areas->id}/records/{$town['id']}")->assertNoContent();
    expect(DB::table($layer->table())->where('f_ward', 'Town')->count())->toBe(0);
});

it('leaves a field with a condition to the slower way, which knows it', function (): void {
    $layer = ($this->carry)([
        'key' => 'ward',
        'label' => 'Ward',
        'kind' => 'calculated',
        'formula' => 'area_of("Wards")',
        'show_when' => 'code == "T1"',
    ]);
    (new Recalculate($layer->id, ['ward']))->handle();
    expect(DB::table($layer->table())->whereNotNull('f_ward')->where('f_code', '!=', 'T1')->count())->toBe(0);
});
