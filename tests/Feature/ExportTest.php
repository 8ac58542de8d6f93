<?php

declare(strict_types=1);

uses(Tests\ImportSteps::class);

beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
    $this->layer_ = $this->layer($this->programme_, [
        'title' => 'Nests & more',
        'name_field' => 'code',
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            ['key' => 'remarks', 'label' => 'Remarks', 'kind' => 'long_text'],
            ['key' => 'clutch', 'label' => 'Clutch', 'kind' => 'whole_number'],
            ['key' => 'depth', 'label' => 'Depth', 'kind' => 'decimal'],
            [
                'key' => 'species',
                'label' => 'Species',
                'kind' => 'one_choice',
                'choices' => [
                    ['code' => 'CC', 'label' => 'Loggerhead'],
                    ['code' => 'CM', 'label' => 'Green, or "soup"'],
                ],
            ],
            [
                'key' => 'signs',
                'label' => 'Signs',
                'kind' => 'several_choices',
                'choices' => [['code' => 't', 'label' => 'Tracks'], ['code' => 'p', 'label' => 'Pit']],
            ],
            ['key' => 'fenced', 'label' => 'Fenced', 'kind' => 'yes_no'],
            ['key' => 'laid_on', 'label' => 'Laid on', 'kind' => 'date'],
            ['key' => 'seen_at', 'label' => 'Seen at', 'kind' => 'date_time'],
            ['key' => 'high_water_mark', 'label' => 'High water', 'kind' => 'time'],
            ['key' => 'high_water_metres', 'label' => 'High water (m)', 'kind' => 'decimal'],
        ],
    ]);
    $this->sync($this->desk, [
        $this->add($this->layer_, [
            'values' => [
                'code' => '=1+1',
                'remarks' => "two\nlines, \"quoted\" 🐢",
                'clutch' => 104,
                'depth' => 45.25,
                'species' => 'CM',
                'signs' => ['t', 'p'],
                'fenced' => true,
                'laid_on' => '2025-05-03',
                'seen_at' => '2025-05-03T04:30:00Z',
                'high_water_mark' => '06:15',
                'high_water_metres' => 1.5,
            ],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.5123456, -14.5123456]],
        ]),
        $this->add($this->layer_, ['values' => ['code' => 'N-2', 'fenced' => false]]),
    ]);
});

function takeOut(object $test, int $layer, array $with): string
{
    $export = $test
        ->postJson("/api/v1/layers/$layer/exports", $with)
        ->assertStatus(202)
        ->json();
    $export = $test->getJson("/api/v1/exports/{$export['id']}")->json();
    expect($export['state'])->toBe('done')->and($export['records'])->toBe(2);

    return (string) file_get_contents($test->get($export['url'])->assertOk()->baseResponse->getFile()->getPathname());
}

function bringBack(object $test, string $name, string $bytes, array $change = []): array
{
    $import = $test->bring($test->desk, $test->programme_, [$name => $bytes], ['layer' => $test->copy_->id]);
    $import = $test->decide($import, $change);
    $import = $test->land($import);
    expect($import['counts'])->toMatchArray(['made' => 2, 'waiting' => 0]);

    return collect($test->recordsOf($test->copy_->id))->keyBy('name')->all();
}

dataset('whole', [
    'CSV with labels' => ['csv', ['choices' => 'labels'], 'records.csv'],
    'CSV with codes' => ['csv', ['choices' => 'codes'], 'records.csv'],
    'CSV with local times' => ['csv', ['choices' => 'codes', 'times' => 'local'], 'records.csv'],
    'XLSX' => ['xlsx', [], 'records.xlsx'],
    'GeoJSON' => ['geojson', [], 'records.geojson'],
    'GeoPackage' => ['gpkg', [], 'records.gpkg'],
    'FlatGeobuf' => ['fgb', [], 'records.fgb'],
]);

it('comes in again as it went out', function (string $format, array $with, string $name): void {
    $bytes = takeOut($this, $this->layer_->id, ['format' => $format] + $with);
    $this->copy_ = \App\Designs\DesignStore::createLayer(
        $this->programme_,
        PinYard\Design\LayerDesign::fromArray(['title' => 'Copy'] + $this->layer_->design()->toArray()),
        null,
    );
    $back = bringBack($this, $name, $bytes);
    $here = collect($this->recordsOf($this->layer_->id))->keyBy('name')->all();
    foreach (['=1+1', 'N-2'] as $code) {
        expect($back[$code]['values'])
            ->toBe($here[$code]['values'])
            ->and($back[$code]['lon'])
            ->toEqualWithDelta($here[$code]['lon'], 1e-7)
            ->and($back[$code]['lat'])
            ->toEqualWithDelta($here[$code]['lat'], 1e-7);
    }
})->with('whole');

it('is read by GDAL with the same counts, kinds and places', function (
    string $format,
    string $file,
    string $fields,
): void {
    $path = sys_get_temp_dir().'/'.random_int(0, PHP_INT_MAX)."-$file";
    file_put_contents($path, takeOut($this, $this->layer_->id, ['format' => $format]));
    exec(
        'ogrinfo -ro -so -al '.escapeshellarg(str_ends_with($path, '.zip') ? "/vsizip/$path" : $path).' 2>&1',
        $said,
        $code,
    );
    $said = implode("\n", $said);
    expect($code)
        ->toBe(0)
        ->and($said)
        ->toContain('Feature Count: 2')
        ->and($said)
        ->toContain('WGS 84')
        ->and($said)
        ->toContain('-11.512346')
        ->and($said)
        ->toMatch($fields);
})->with([
    'GeoPackage' => [
        'gpkg',
        'a.gpkg',
        '/clutch: Integer64.*fenced: Integer\(Boolean\).*laid_on: Date.*seen_at: DateTime.*choices.*Feature Count: 4/s',
    ],
    'shapefile' => ['shp', 'a.zip', '/high_water: .*high_wat_2: Real/s'],
    'FlatGeobuf' => ['fgb', 'a.fgb', '/depth: Real.*seen_at: DateTime/s'],
    'KML' => ['kml', 'a.kml', '/laid_on: String.*seen_at: String/s'],
    'GPX' => ['gpx', 'a.gpx', '/py_clutch/'],
    'GeoJSON' => ['geojson', 'a.geojson', '/clutch: Integer .*laid_on: Date .*seen_at: DateTime/s'],
]);

it('says before what is lost', function (): void {
    $formats = collect($this->getJson("/api/v1/layers/{$this->layer_->id}/formats")->json())->keyBy('format');
    expect($formats->keys()->all())
        ->toBe(['csv', 'xlsx', 'geojson', 'gpkg', 'shp', 'kml', 'gpx', 'fgb', 'photos'])
        ->and(implode(' ', $formats['shp']['losses']))
        ->toContain('ten letters');
});

it('gives parts of a file, and a selection of records', function (): void {
    $all = $this->recordsOf($this->layer_->id);
    $export = $this->postJson("/api/v1/layers/{$this->layer_->id}/exports", [
        'format' => 'csv',
        'ids' => [$all[0]['id']],
    ])->json();
    expect($this->getJson("/api/v1/exports/{$export['id']}")->json('records'))->toBe(1);
    $whole = (string) file_get_contents(
        $this->get("/api/v1/exports/{$export['id']}/file")
            ->baseResponse->getFile()
            ->getPathname(),
    );
    $part = $this->get("/api/v1/exports/{$export['id']}/file", ['Range' => 'bytes=10-19'])->assertStatus(206);
    expect($part->headers->get('Content-Range'))->toBe('bytes 10-19/'.strlen($whole));
    expect($whole)->toContain("\xEF\xBB\xBF")->and($whole)->not->toContain(',=1');
});

it('gives a crew member only what they see, and nobody another’s file', function (): void {
    $layer = $this->layer($this->programme_, ['title' => 'Own', 'rights' => ['crew' => ['see' => 'own']]]);
    $crew = $this->crew($this->programme_);
    $this->sync($this->desk, [$this->add($layer)]);
    $this->sync($crew, [$this->add($layer)]);
    $export = $this->actingAs($crew)
        ->postJson("/api/v1/layers/{$layer->id}/exports", ['format' => 'geojson'])
        ->assertStatus(202)
        ->json();
    expect($this->getJson("/api/v1/exports/{$export['id']}")->json('records'))->toBe(1);
    $this->actingAs($this->desk)
        ->getJson("/api/v1/exports/{$export['id']}")
        ->assertNotFound();
    $this->postJson("/api/v1/layers/{$layer->id}/exports", ['format' => 'dwg'])->assertUnprocessable();
});

it('puts photos into a zip under the names of their records', function (): void {
    $bytes = $this->jpeg();
    $import = $this->bring($this->desk, $this->programme_, ['p.zip' => $this->zip(['x y.jpg' => $bytes])]);
    $import = $this->land($this->decide($import));
    $this->patchJson("/api/v1/imports/{$import['id']}/waiting/2", ['place' => ['lon' => -11.5, 'lat' => -14.5]]);
    $this->postJson("/api/v1/imports/{$import['id']}/retry", []);
    $export = $this->postJson("/api/v1/layers/{$import['layer']}/exports", ['format' => 'photos'])->json();
    $zip = new ZipArchive;
    $zip->open(
        $this->get("/api/v1/exports/{$export['id']}/file")
            ->assertOk()
            ->baseResponse->getFile()
            ->getPathname(),
    );
    expect($zip->getFromName('x-y-1.jpg'))->toBe($bytes)->and($zip->getFromName('index.csv'))->toContain('x-y-1.jpg');
});

it('stops when its maker wants it no longer, and gives nothing out of a layer in the bin', function (): void {
    config(['queue.default' => 'null', 'queue.connections.null' => ['driver' => 'null']]);
    $export = $this->postJson("/api/v1/layers/{$this->layer_->id}/exports", ['format' => 'csv'])->json();
    $this->deleteJson("/api/v1/exports/{$export['id']}")->assertNoContent();
    // Reports come every few thousand records; this one is made to come at once.
    $model = App\Models\Export::query()->findOrFail($export['id']);
    expect(fn () => App\Export\RunExport::report($model, 5_000))->toThrow(App\Export\ExportStopped::class);
    $this->layer_->delete();
    $this->getJson("/api/v1/exports/{$export['id']}")->assertNotFound();
});
