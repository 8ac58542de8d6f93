<?php

declare(strict_types=1);

use PinYard\Geo\AreaCells;
use PinYard\Geo\Position;
use PinYard\Geo\ZOrder;

uses(Tests\ImportSteps::class);

/*
 * Files that neither we nor GDAL wrote: by the npm packages exceljs 4.4.0, @mapbox/shp-write 0.4.3 and tokml 0.4.0, and
 * an open data set,
 * Natural Earth's countries as world-atlas 2 carries them. Points in areas against jsts 2.12.1.
 */
beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
});

function node(string $script, string ...$words): string
{
    $process = new Symfony\Component\Process\Process(['node', ...$words, '-e', $script], base_path(), null, null, 120);

    return $process->mustRun()->getOutput();
}

const STONES = 'const features = [1, 2, 3].map((i) => ({ type: "Feature", properties: { name: `Stone ${i}`, girth: '
    .'i * 1.5 }, geometry: { type: "Point", coordinates: [-11.5 - i / 100, -14.5] } })); const all = { type: '
        .'"FeatureCollection", features };';

it('reads a workbook of exceljs: merged heads, dates, times, results of formulas, a second sheet', function (): void {
    $path = sys_get_temp_dir().'/stranger.xlsx';
    node(
        'const { Workbook } = require("exceljs"); 
        const w = new Workbook();
        const s = w.addWorksheet("Nests");
        s.mergeCells("A1:E1"); s.getCell("A1").value = "Season 2025";
        s.addRow(["Code", "Seen", "Eggs", "Lat", "Lon"]);
        s.addRow(["A", new Date(Date.UTC(2025, 4, 3)), { formula: "50+54", result: 104 }, -14.5, -11.5]);
        s.addRow(["B", new Date(Date.UTC(2025, 4, 14)), 98, -14.6, -11.6]);
        s.getColumn(2).numFmt = "dd/mm/yyyy";
        w.addWorksheet("Notes").addRow(["x"]); w.xlsx.writeFile('.
            json_encode($path).
            ');',
    );
    $import = $this->bring($this->desk, $this->programme_, ['stranger.xlsx' => (string) file_get_contents($path)]);
    expect($import['settings']['head_row'])
        ->toBe(2)
        ->and(array_column($import['reading']['columns'], 'kind'))
        ->toBe(['short_text', 'date', 'whole_number', 'decimal', 'decimal']);
    $import = $this->land($this->decide($import));
    expect($import['counts'])
        ->toMatchArray(['made' => 2, 'waiting' => 0])
        ->and(collect($this->recordsOf($import['layer']))->firstWhere('name', 'A')['values'])
        ->toMatchArray(['seen' => '2025-05-03', 'eggs' => 104]);
});

it('reads a zipped shapefile of shp-write and a KML of tokml', function (): void {
    $zip = base64_decode(
        node(
            STONES.
                'require("@mapbox/shp-write").zip(all, { outputType: "base64", compression: "DEFLATE" }).then((z) '
                    .'=> process.stdout.write(z));',
        ),
    );
    $kml = node(STONES.'process.stdout.write(require("tokml")(all, { name: "name" }));');
    foreach (['stones.zip' => $zip, 'stones.kml' => $kml] as $name => $bytes) {
        $import = $this->bring($this->desk, $this->programme_, [$name => $bytes]);
        expect($import['state'])->toBe('review', json_encode($import['problems']));
        $import = $this->land($this->decide($import));
        expect($import['counts'])
            ->toMatchArray(['made' => 3, 'waiting' => 0])
            ->and(min(array_column($this->recordsOf($import['layer']), 'lon')))
            ->toEqualWithDelta(-11.53, 1e-6);
    }
});

it('reads the countries of the world, each of them whole', function (): void {
    $json = node(
        'const { feature } = require("topojson-client"); const w = require("world-atlas/countries-110m.json"); '
            .'process.stdout.write(JSON.stringify(feature(w, w.objects.countries)));',
    );
    $import = $this->bring($this->desk, $this->programme_, ['countries.geojson' => $json]);
    expect($import['reading']['rows'])->toBe(177)->and($import['reading']['geometry'])->toBe('area');
    $import = $this->land($this->decide($import, ['title' => 'Countries']));
    $waiting = $this->getJson("/api/v1/imports/{$import['id']}/waiting")->json();
    // At this scale a border of Sudan crosses itself; it waits, and says where. A part of North Korea that encloses
    // nothing is left out.
    expect($import['counts']['made'] + $import['counts']['waiting'])
        ->toBe(177)
        ->and($import['counts']['waiting'])
        ->toBe(1)
        ->and(array_diff(array_column(array_merge(...array_column($waiting, 'problems')), 'code'), ['shape_crosses']))
        ->toBe([]);
    $records = collect($this->recordsOf($import['layer']))
        ->merge($this->getJson("/api/v1/layers/{$import['layer']}/records?page=1")->json('records'))
        ->keyBy('name');
    // Land areas as atlases give them (km², from memory), within the generalisation of this scale.
    foreach (
        [
            'Australia' => 7_690_000,
            'Brazil' => 8_510_000,
            'Iceland' => 103_000,
            'Russia' => 17_100_000,
        ] as $name => $square
    ) {
        expect($records[$name]['area'] / 1e6)->toEqualWithDelta($square, $square * 0.06);
    }
    expect($records['Indonesia']['geometry']['type'])->toBe('MultiPolygon')->and($records)->toHaveKey('Fiji');
});

it('finds places in an area with a hole as jsts does', function (): void {
    $rings = [
        [[10, 50], [12, 50], [12.5, 51], [11, 50.4], [10.5, 52], [10, 50]],
        [[10.3, 50.3], [10.6, 50.3], [10.4, 50.8], [10.3, 50.3]],
    ];
    mt_srand(3);
    $places = [];
    for ($i = 0; $i < 2_000; $i++) {
        $places[] = [9.8 + (mt_rand() / mt_getrandmax()) * 3, 49.8 + (mt_rand() / mt_getrandmax()) * 2.4];
    }
    $said = json_decode(
        node(
            'import GeoJSONReader from "jsts/org/locationtech/jts/io/GeoJSONReader.js"; import RelateOp from '
                .'"jsts/org/locationtech/jts/operation/relate/RelateOp.js"; const r = new GeoJSONReader(); const a '
                    .'= r.read({ type: "Polygon", coordinates: '.
                json_encode($rings).
                ' });
        process.stdout.write(JSON.stringify('.
                json_encode($places).
                '.map((c) => RelateOp.contains(a, r.read({ type: "Point", coordinates: c })))));',
            '--input-type=module',
        ),
        true,
    );
    $sorted = [];
    foreach ($places as $i => [$lon, $lat]) {
        $sorted[] = [ZOrder::of(Position::of($lon, $lat)), $lon, $lat, $said[$i]];
    }
    sort($sorted);
    $cells = new AreaCells([$rings]);
    $differ = array_filter($sorted, static fn (array $p): bool => ($cells->at($p[0], $p[1], $p[2]) !== null) !== $p[3]);
    expect($differ)->toBe([])->and(count(array_filter($said)))->toBeGreaterThan(300);
});
