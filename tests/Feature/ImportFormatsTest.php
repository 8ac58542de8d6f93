<?php

declare(strict_types=1);

use App\Import\Gdal;
use OpenSpout\Writer\Common\Creator\WriterEntityFactory;

uses(Tests\ImportSteps::class);

beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
});

it('reads what GDAL writes: counts, values and places', function (string $driver, string $name, string $title): void {
    $folder = sys_get_temp_dir().'/gdal'.random_int(0, PHP_INT_MAX);
    mkdir($folder);
    file_put_contents(
        "$folder/a.geojson",
        json_encode([
            'type' => 'FeatureCollection',
            'features' => array_map(
                static fn (int $i): array => [
                    'type' => 'Feature',
                    'properties' => ['name' => "Stone $i", 'girth' => $i * 1.5],
                    'geometry' => ['type' => 'Point', 'coordinates' => [-11.5 - $i / 100, -14.5]],
                ],
                range(1, 5),
            ),
        ]),
    );
    exec(
        'ogr2ogr -f '.
            escapeshellarg($driver).
            " $folder/$name $folder/a.geojson ".
            ($driver === 'GPX' ? '-dsco GPX_USE_EXTENSIONS=YES' : '').
            ' 2>&1',
        $said,
        $code,
    );
    expect($code)->toBe(0, implode("\n", $said));
    $import = $this->bring($this->desk, $this->programme_, [$name => (string) file_get_contents("$folder/$name")]);
    expect($import['state'])->toBe('review');
    $columns = array_map(
        static fn (array $c): array => [
            'kind' => 'short_text',
            'take' => in_array(strtolower($c['label']), ['name'], true),
        ] + $c,
        $import['settings']['columns'],
    );
    $import = $this->land($this->decide($import, ['columns' => $columns]));
    expect($import['counts'])->toMatchArray(['read' => 5, 'made' => 5, 'waiting' => 0]);
    $records = collect($this->recordsOf($import['layer']))->sortBy('lon')->values();
    expect($records[0]['lon'])
        ->toEqualWithDelta(-11.55, 1e-6)
        ->and(array_values($records[0]['values']))
        ->toBe([$title]);
})->with([
    'KML' => ['LIBKML', 'a.kml', 'Stone 5'],
    'KMZ' => ['LIBKML', 'a.kmz', 'Stone 5'],
    'GPX' => ['GPX', 'a.gpx', 'Stone 5'],
    'GeoPackage' => ['GPKG', 'a.gpkg', 'Stone 5'],
    'FlatGeobuf' => ['FlatGeobuf', 'a.fgb', 'Stone 5'],
    'GeoJSON' => ['GeoJSON', 'b.geojson', 'Stone 5'],
]);

it('reads an ODS workbook', function (): void {
    $path = sys_get_temp_dir().'/a.ods';
    $writer = WriterEntityFactory::createODSWriter();
    $writer->openToFile($path);
    foreach ([['Code', 'Lat', 'Lon', 'Girth'], ['A', -14.5, -11.5, 12.5], ['B', -14.6, -11.6, 13]] as $row) {
        $writer->addRow(WriterEntityFactory::createRowFromArray($row));
    }
    $writer->close();
    $import = $this->land(
        $this->decide($this->bring($this->desk, $this->programme_, ['a.ods' => (string) file_get_contents($path)])),
    );
    expect($import['counts']['made'])
        ->toBe(2)
        ->and(collect($this->recordsOf($import['layer']))->firstWhere('name', 'A')['values'])
        ->toMatchArray(['girth' => 12.5]);
});

/*
 * UTM against GeoConvert (geographiclib-tools), which computes it by Karney 2011; the British grid's false origin by
 * the registry's own definition (EPSG:27700).
 */
it('turns coordinates of other systems into degrees', function (): void {
    [$utm] = (new Gdal)->degrees([[500_000.0 - 40_000, 8_380_000.0]], 'EPSG:32729');
    exec("echo '29S 460000 8380000' | GeoConvert -g -p 6", $said);
    [$lat, $lon] = array_map(floatval(...), explode(' ', $said[0]));
    expect($utm[0])->toEqualWithDelta($lon, 1e-8)->and($utm[1])->toEqualWithDelta($lat, 1e-8);
    // True origin 49° N, 2° W lies at 400 km east, -100 km north on OSGB 36; on WGS 84 that is some hundred metres
    // away.
    [$origin, $nowhere] = (new Gdal)->degrees([[400_000.0, -100_000.0], [1e20, 1e20]], 'EPSG:27700');
    expect($origin[0])
        ->toEqualWithDelta(-2, 0.002)
        ->and($origin[1])
        ->toEqualWithDelta(49, 0.002)
        ->and($nowhere)
        ->toBeNull();
});

it('brings a table of metres in, in the system that was chosen', function (): void {
    $import = $this->bring($this->desk, $this->programme_, [
        'm.csv' => "id,easting,northing\nA,230000,8395000\nB,231000,8396000\nC,x,8396000\n",
    ]);
    expect($import['settings']['location'])
        ->toMatchArray(['way' => 'pair', 'system' => ''])
        ->and($this->getJson("/api/v1/imports/{$import['id']}/systems")->json('0.system'))
        ->toBe('EPSG:32729')
        ->and(
            $this->getJson("/api/v1/imports/{$import['id']}/systems?code=99")
                ->assertUnprocessable()
                ->json('problems.0.code'),
        )
        ->toBe('intake_system');
    $import = $this->land(
        $this->decide($import, ['location' => ['system' => 'EPSG:32729'] + $import['settings']['location']]),
    );
    expect($import['counts'])
        ->toMatchArray(['made' => 2, 'waiting' => 1])
        ->and($this->recordsOf($import['layer'])[0]['lon'])
        ->toBeGreaterThan(-12)
        ->toBeLessThan(-11);
});

it('brings the newer file in the same way, though its columns stand in another order', function (): void {
    $first = $this->bring($this->desk, $this->programme_, [
        'a.csv' => "code,seen,lat,lon\nA,03/05/2025,-14.5,-11.5\nB,04/05/2025,-14.5,-11.5\n",
    ]);
    $columns = $first['settings']['columns'];
    $columns[0]['label'] = 'Number of the tree';
    $columns[1]['order'] = 'mdy';
    $first = $this->land($this->decide($first, ['columns' => $columns, 'title' => 'Trees']));
    $again = $this->bring(
        $this->desk,
        $this->programme_,
        ['b.csv' => "seen,code,lon,lat\n05/06/2025,C,-11.5,-14.5\n"],
        ['like' => $first['id']],
    );
    expect($again['settings'])
        ->toMatchArray(['mode' => 'append', 'layer' => $first['layer']])
        ->and($again['settings']['columns'][1]['label'])
        ->toBe('Number of the tree')
        ->and($again['settings']['location']['columns'])
        ->toBe([2, 3]);
    $again = $this->land($this->decide($again));
    expect(collect($this->recordsOf($first['layer']))->firstWhere('name', 'C')['values']['seen'])->toBe('2025-05-06');
    $list = $this->getJson("/api/v1/programmes/{$this->programme_->id}/imports")->json();
    expect(array_column($list, 'layer_title'))
        ->toBe(['Trees', 'Trees'])
        ->and($list[0]['files'][0]['sha256'])
        ->toHaveLength(64);
});

it('never lands dates whose order nobody told, nor rows into visits', function (): void {
    $import = $this->bring($this->desk, $this->programme_, [
        'a.csv' => "code,seen,lat,lon\nA,03/05/2025,-14.5,-11.5\n",
    ]);
    $import = $this->decide($import);
    expect($import['review']['undecided'])->toBe([1]);
    $this->postJson("/api/v1/imports/{$import['id']}/land")
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'intake_order_open');
    $nests = $this->layer($this->programme_);
    $visits = $this->layer($this->programme_, ['title' => 'Visits', 'visits_of' => 'Nests']);
    $this->postJson("/api/v1/imports/{$import['id']}/into/{$visits->id}")
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'intake_visits');
    $this->postJson("/api/v1/imports/{$import['id']}/into/{$nests->id}")
        ->assertOk()
        ->assertJsonPath('columns.0.take', true)
        ->assertJsonPath('columns.1.take', false);
});

it('knows records of a layer as places', function (): void {
    $layer = $this->layer($this->programme_, ['name_field' => 'code']);
    $this->sync($this->desk, [$this->add($layer, ['values' => ['code' => 'Heron Hut', 'species' => 'CC']])]);
    $this->postJson("/api/v1/programmes/{$this->programme_->id}/places", ['layer' => $layer->id])
        ->assertOk()
        ->assertJsonPath('places', 1);
    expect($this->getJson("/api/v1/programmes/{$this->programme_->id}/places?q=heron%20hutt")->json('0'))
        ->toMatchArray(['name' => 'Heron Hut', 'lon' => -11.5])
        ->and($this->getJson("/api/v1/programmes/{$this->programme($this->desk)->id}/places?q=heron%20hut")->json())
        ->toBe([]);
    $this->postJson("/api/v1/programmes/{$this->programme_->id}/places", ['layer' => 0])->assertUnprocessable();
});
