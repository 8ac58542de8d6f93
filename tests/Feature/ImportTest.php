<?php

declare(strict_types=1);

uses(Tests\ImportSteps::class);

beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
});

const NESTS_CSV = "Nest;Species;Laid;Eggs;Lat;Lon\n"
    ."A1;Loggerhead;03.05.2025;104;-14,5;-11,5\n"
    ."A2;Green;14.05.2025;98;-14,51;-11,51\n"
    ."A3;Loggerhead;15.05.2025;;-14,52;-11,52\n"
    ."A4;Loggerhead;15.05.2025;12,5;-14,52;-11,52\n"
    ."A5;Green;16.05.2025;88;;\n"
    ."A6;Green;16.05.2025;88;-11,53;-14,53\n";

it('brings a spreadsheet in: guesses, review, landing, history', function (): void {
    $import = $this->bring($this->desk, $this->programme_, ['nests.csv' => NESTS_CSV]);
    expect($import['state'])
        ->toBe('review')
        ->and(array_column($import['reading']['columns'], 'kind'))
        ->toBe(['short_text', 'one_choice', 'date', 'decimal', 'decimal', 'decimal'])
        ->and($import['settings']['columns'][2]['order'])
        ->toBe('dmy')
        ->and($import['settings']['location'])
        ->toMatchArray(['way' => 'pair', 'columns' => [5, 4], 'system' => 'EPSG:4326']);
    $columns = $import['settings']['columns'];
    $columns[3]['kind'] = 'whole_number';
    $columns[1]['kind'] = 'one_choice';
    $import = $this->decide($import, ['columns' => $columns]);
    expect($import['review'])
        ->toMatchArray(['tried' => 6, 'ready' => 4, 'placed' => 5, 'waiting' => 2])
        ->and($import['review']['unfit'][3])
        ->toBe(['count' => 1, 'rows' => [['row' => 5, 'value' => 12.5]]])
        ->and($import['review']['corrections']['swapped'])
        ->toBe(1);
    $import = $this->land($import);
    expect($import['state'])
        ->toBe('done')
        ->and($import['counts'])
        ->toMatchArray(['read' => 6, 'made' => 4, 'waiting' => 2]);
    $records = collect($this->recordsOf($import['layer']))->keyBy('name');
    expect($records->keys()->sort()->values()->all())
        ->toBe(['A1', 'A2', 'A3', 'A6'])
        ->and($records['A1']['values'])
        ->toMatchArray(['species' => 'Loggerhead', 'laid' => '2025-05-03', 'eggs' => 104])
        ->and([$records['A6']['lon'], $records['A6']['lat']])
        ->toBe([-11.53, -14.53])
        ->and(
            $this->getJson("/api/v1/layers/{$import['layer']}/records/{$records['A1']['id']}/history")->json('0.kind'),
        )
        ->toBe('import');
});

it('lets rows that cannot land be mended, tried again, downloaded, and takes the whole back', function (): void {
    $import = $this->bring($this->desk, $this->programme_, ['nests.csv' => NESTS_CSV]);
    $columns = $import['settings']['columns'];
    $columns[3]['kind'] = 'whole_number';
    $import = $this->land($this->decide($import, ['columns' => $columns]));
    $url = "/api/v1/imports/{$import['id']}";
    $waiting = $this->getJson("$url/waiting")->json();
    expect(array_column($waiting, 'row'))
        ->toBe([5, 6])
        ->and($waiting[0]['problems'][0]['message'])
        ->toContain('12')
        ->and($waiting[1]['problems'][0]['code'])
        ->toBe('intake_no_place');
    $csv = $this->get("$url/waiting.csv")
        ->assertOk()
        ->streamedContent();
    expect($csv)->toContain('Row,Nest,Species')->and($csv)->toContain('The row does not say where it is.');
    $this->patchJson("$url/waiting/5", ['cells' => ['3' => '12']])->assertNoContent();
    $this->patchJson("$url/waiting/6", ['place' => ['lon' => -11.6, 'lat' => -14.6]])->assertNoContent();
    expect($this->postJson("$url/retry", [])->json())->toMatchArray(['landed' => 2, 'waiting' => 0]);
    $records = collect($this->recordsOf($import['layer']))->keyBy('name');
    expect($records)
        ->toHaveCount(6)
        ->and($records['A5']['lon'])
        ->toBe(-11.6)
        ->and($records['A4']['values']['eggs'])
        ->toBe(12);
    $this->patchJson("/api/v1/layers/{$import['layer']}/records/{$records['A1']['id']}", [
        'base' => 1,
        'values' => ['eggs' => 105],
    ])->assertOk();
    expect(
        $this->postJson("$url/undo")
            ->assertOk()
            ->json(),
    )->toMatchArray(['deleted' => 5, 'kept' => 1, 'names' => ['A1'], 'layer_binned' => false]);
    expect(array_column($this->recordsOf($import['layer']), 'name'))
        ->toBe(['A1'])
        ->and(
            $this->getJson("/api/v1/layers/{$import['layer']}/records/{$records['A1']['id']}/history")->json('1.kind'),
        )
        ->toBe('import');
    $this->postJson("$url/undo")->assertUnprocessable();
});

it('updates records by a key, value by value, adds what is new, and can be taken back', function (): void {
    $layer = $this->layer($this->programme_);
    $this->sync($this->desk, [
        $this->add($layer, ['values' => ['code' => 'N-1', 'species' => 'CC', 'clutch' => 90]]),
        $this->add($layer, ['values' => ['code' => 'N-2', 'species' => 'CC', 'clutch' => 80]]),
    ]);
    $import = $this->bring(
        $this->desk,
        $this->programme_,
        [
            'more.csv' => "Code,Clutch,Species,lat,lon\n"
                ."N-1,95,CC,-14.5,-11.5\n"
                ."N-2,80,Loggerhead,-14.5,-11.5\n"
                ."N-3,70,Hawksbill,-14.6,-11.6\n"
                ."N-4,900,CM,-14.6,-11.6\n",
        ],
        ['layer' => $layer->id],
    );
    expect($import['settings'])
        ->toMatchArray(['mode' => 'append', 'layer' => $layer->id])
        ->and(array_column(array_filter($import['settings']['columns'], fn (array $c): bool => $c['take']), 'key'))
        ->toBe(['code', 'clutch', 'species']);
    $import = $this->decide($import, ['mode' => 'update', 'key_column' => 0]);
    expect($import['review']['update'])
        ->toMatchArray(['changed' => 1, 'unchanged' => 1, 'added' => 0])
        ->and($import['review'])
        ->toMatchArray(['ready' => 2, 'waiting' => 2])
        ->and($import['review']['update']['shown'][0])
        ->toMatchArray([
            'name' => 'N-1',
            'moved' => false,
            'values' => [['label' => 'Clutch', 'before' => '90', 'after' => '95']],
        ])
        ->and($import['review']['new_choices'])
        ->toBe(['species' => ['Hawksbill']]);
    $import = $this->decide($import, ['mode' => 'update', 'key_column' => 0, 'new_choices' => true]);
    expect($import['review']['update']['added'])->toBe(1);
    $import = $this->land($import);
    expect($import['counts'])->toMatchArray(['changed' => 1, 'unchanged' => 1, 'made' => 1, 'waiting' => 1]);
    $records = collect($this->recordsOf($layer->id))->keyBy('name');
    expect($records['N-1']['values']['clutch'])
        ->toBe(95)
        ->and($records['N-3']['values']['species'])
        ->toBe('Hawksbill')
        ->and($this->getJson("/api/v1/imports/{$import['id']}/waiting")->json('0.problems.0.code'))
        ->toBe('above_highest');
    expect($this->postJson("/api/v1/imports/{$import['id']}/undo")->json())->toMatchArray([
        'deleted' => 1,
        'restored' => 1,
        'kept' => 0,
    ]);
    expect(collect($this->recordsOf($layer->id))->keyBy('name')['N-1']['values']['clutch'])->toBe(90);
});

it('reads a shapefile in a national grid, with and without its .prj', function (): void {
    $folder = sys_get_temp_dir().'/shape'.random_int(0, PHP_INT_MAX);
    mkdir($folder);
    file_put_contents(
        "$folder/a.geojson",
        json_encode([
            'type' => 'FeatureCollection',
            'features' => [
                [
                    'type' => 'Feature',
                    'properties' => ['ward' => 'Upper', 'people' => 1200],
                    'geometry' => [
                        'type' => 'Polygon',
                        'coordinates' => [[[-1.5, 52.0], [-1.4, 52.0], [-1.4, 52.1], [-1.5, 52.1], [-1.5, 52.0]]],
                    ],
                ],
                [
                    'type' => 'Feature',
                    'properties' => ['ward' => 'Two isles', 'people' => 7],
                    'geometry' => [
                        'type' => 'MultiPolygon',
                        'coordinates' => [
                            [[[-1.3, 52.0], [-1.2, 52.0], [-1.2, 52.1], [-1.3, 52.0]]],
                            [[[-1.1, 52.0], [-1.0, 52.0], [-1.0, 52.1], [-1.1, 52.0]]],
                        ],
                    ],
                ],
            ],
        ]),
    );
    exec("ogr2ogr -f 'ESRI Shapefile' -t_srs EPSG:27700 $folder/wards.shp $folder/a.geojson 2>&1", $said, $code);
    expect($code)->toBe(0);
    $parts = [];
    foreach (['shp', 'shx', 'dbf', 'prj'] as $end) {
        $parts["wards/wards.$end"] = (string) file_get_contents("$folder/wards.$end");
    }
    $this->programme_->update(['west' => -2, 'south' => 51, 'east' => 0, 'north' => 53]);
    $import = $this->bring($this->desk, $this->programme_, ['wards.zip' => $this->zip($parts)]);
    expect($import['source'])
        ->toMatchArray(['kind' => 'geo', 'wkt' => true, 'turned' => true])
        ->and($import['source']['system'])
        ->toContain('British National Grid')
        ->and($import['reading']['geometry'])
        ->toBe('area');
    $import = $this->land($this->decide($import));
    expect($import['counts'])->toMatchArray(['made' => 2, 'waiting' => 0]);
    $records = collect($this->recordsOf($import['layer']))->keyBy('name');
    // What GDAL turned into the grid and back is within a few millimetres of where it was.
    expect($records['Upper']['values']['people'])
        ->toBe(1200)
        ->and(min(array_column($records['Upper']['geometry']['coordinates'][0], 0)))
        ->toEqualWithDelta(-1.5, 1e-6)
        ->and($records['Two isles']['geometry']['type'])
        ->toBe('MultiPolygon')
        ->and($records['Two isles']['area'])
        ->toBeGreaterThan(7e7);

    unset($parts['wards/wards.prj'], $parts['wards/wards.shx']);
    $bare = $this->bring($this->desk, $this->programme_, ['wards.zip' => $this->zip($parts)]);
    expect($bare['source']['system'])
        ->toBeNull()
        ->and($bare['source']['turned'])
        ->toBeFalse()
        ->and(implode(' ', $bare['reading']['notes']))
        ->toContain('.shx');
    $candidates = $this->getJson("/api/v1/imports/{$bare['id']}/systems")
        ->assertOk()
        ->json();
    expect($candidates[0]['system'])->toBe('EPSG:27700')->and($candidates[0]['in_area'])->toBeGreaterThan(0);
    $this->decide($bare, ['location' => ['way' => 'geometry', 'columns' => [], 'system' => 'EPSG:27700']]);
    $bare = $this->getJson("/api/v1/imports/{$bare['id']}")->json();
    expect($bare['source']['turned'])->toBeTrue();
    $bare = $this->land($this->decide($bare));
    expect(
        min(
            array_column(
                collect($this->recordsOf($bare['layer']))->keyBy('name')['Upper']['geometry']['coordinates'][0],
                0,
            ),
        ),
    )->toEqualWithDelta(-1.5, 1e-4);
});

it('puts geotagged photos on the map, each a record with its picture', function (): void {
    $photos = [];
    foreach (['a' => [-14.5, -11.5], 'b' => null] as $name => $at) {
        $path = sys_get_temp_dir()."/$name.jpg";
        file_put_contents($path, $this->jpeg());
        $tags =
            '-DateTimeOriginal="2025:05:03 06:30:00"'.
            ($at === null
                ? ''
                : " -GPSLatitude=$at[0] -GPSLatitudeRef=S "
                    ."-GPSLongitude=$at[1] -GPSLongitudeRef=W -GPSImgDirection=271.5 -GPSImgDirectionRef=T "
                        .'-GPSAltitude=12.5');
        exec("exiftool -q -overwrite_original $tags $path", result_code: $code);
        expect($code)->toBe(0);
        $photos["$name.jpg"] = (string) file_get_contents($path);
    }
    $photos['broken.jpg'] = substr($photos['a.jpg'], 0, 60).random_bytes(200);
    $import = $this->bring($this->desk, $this->programme_, ['photos.zip' => $this->zip($photos)]);
    expect($import['source']['kind'])->toBe('photos');
    $import = $this->land($this->decide($import));
    expect($import['counts'])->toMatchArray(['made' => 1, 'waiting' => 2]);
    [$record] = $this->recordsOf($import['layer']);
    expect($record['photos'])
        ->toHaveCount(1)
        ->and($record['values'])
        ->toMatchArray(['photo' => 'a.jpg', 'direction' => 271.5, 'height' => 12.5, 'taken' => '2025-05-03T06:30:00Z'])
        ->and([$record['lon'], $record['lat']])
        ->toBe([-11.5, -14.5]);
    $this->get("/api/v1/imports/{$import['id']}/photos/3")
        ->assertOk()
        ->assertHeader('Content-Type', 'image/jpeg');
    $this->patchJson("/api/v1/imports/{$import['id']}/waiting/3", [
        'place' => ['lon' => -11.6, 'lat' => -14.6],
    ])->assertNoContent();
    expect($this->postJson("/api/v1/imports/{$import['id']}/retry", ['rows' => [3]])->json('landed'))->toBe(1);
    expect(collect($this->recordsOf($import['layer']))->firstWhere('name', 'b.jpg')['photos'])->toHaveCount(1);
});

it('puts photos to the nearest record within a distance, and takes them away again', function (): void {
    $layer = $this->layer($this->programme_, ['name_field' => 'code']);
    $this->sync($this->desk, [
        $this->add($layer, [
            'values' => ['code' => 'near', 'species' => 'CC'],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.5, -14.5]],
        ]),
        $this->add($layer, [
            'values' => ['code' => 'nearer', 'species' => 'CC'],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.5001, -14.5]],
        ]),
    ]);
    $photos = [];
    // One some 11 m from the one record and 3 m from the other, one a kilometre away.
    foreach (['a' => [14.5, 11.50013], 'far' => [14.51, 11.5]] as $name => [$south, $west]) {
        $path = sys_get_temp_dir()."/at-$name.jpg";
        file_put_contents($path, $this->jpeg());
        exec(
            'exiftool -q -overwrite_original '
                ."-GPSLatitude=$south -GPSLatitudeRef=S -GPSLongitude=$west -GPSLongitudeRef=W $path",
        );
        $photos["$name.jpg"] = (string) file_get_contents($path);
    }
    $import = $this->bring($this->desk, $this->programme_, ['p.zip' => $this->zip($photos)]);
    $import = $this->land($this->decide($import, ['mode' => 'attach', 'layer' => $layer->id, 'within' => 30]));
    expect($import['counts'])->toMatchArray(['read' => 2, 'changed' => 1, 'waiting' => 1, 'made' => 0]);
    $records = fn () => collect($this->recordsOf($layer->id))->keyBy('name');
    expect($records())
        ->toHaveCount(2)
        ->and($records()['nearer']['photos'])
        ->toHaveCount(1)
        ->and($records()['near']['photos'])
        ->toBe([])
        ->and($this->getJson("/api/v1/imports/{$import['id']}/waiting")->json('0.problems.0.code'))
        ->toBe('intake_none_near');
    $this->patchJson("/api/v1/imports/{$import['id']}/waiting/3", [
        'place' => ['lon' => -11.5, 'lat' => -14.5],
    ])->assertNoContent();
    expect($this->postJson("/api/v1/imports/{$import['id']}/retry", [])->json('landed'))
        ->toBe(1)
        ->and($records()['near']['photos'])
        ->toHaveCount(1);
    expect($this->postJson("/api/v1/imports/{$import['id']}/undo")->json('restored'))
        ->toBe(2)
        ->and($records()['near']['photos'])
        ->toBe([]);
});
