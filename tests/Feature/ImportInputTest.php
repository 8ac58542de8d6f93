<?php

declare(strict_types=1);

use App\Import\PlaceTable;
use OpenSpout\Writer\Common\Creator\WriterEntityFactory;

uses(Tests\ImportSteps::class);

/*
 * What people send, and what those send who mean no good. Each is taken, taken with a stated correction, or refused
 * with a sentence;
 * nothing is half done.
 */
beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
});

function xlsx(array $sheets): string
{
    $path = (string) tempnam(sys_get_temp_dir(), 'x');
    $writer = WriterEntityFactory::createXLSXWriter();
    $writer->openToFile($path);
    $first = true;
    foreach ($sheets as $name => $rows) {
        ($first ? $writer->getCurrentSheet() : $writer->addNewSheetAndMakeItCurrent())->setName($name);
        $first = false;
        foreach ($rows as $row) {
            $writer->addRow(WriterEntityFactory::createRowFromArray($row));
        }
    }
    $writer->close();
    $bytes = (string) file_get_contents($path);
    unlink($path);

    return $bytes;
}

dataset(
    'refused',
    fn () => [
        'an empty file' => [['a.csv' => "\n \n"], 'intake_empty'],
        'no text' => [['a.csv' => random_bytes(3000)."\0\0\1"], 'intake_no_text'],
        'one endless line' => [['a.csv' => str_repeat('a', 3_000_000)], 'intake_line_long'],
        'an old or locked workbook' => [
            ['a.xlsx' => "\xD0\xCF\x11\xE0\xA1\xB1\x1A\xE1".str_repeat("\0", 500)],
            'intake_ole',
        ],
        'a broken workbook' => [['a.xlsx' => substr(xlsx(['A' => [['x']]]), 0, 200)], 'intake_zip'],
        'a part of a shapefile' => [['a.dbf' => "\x03".str_repeat('x', 100)], 'intake_shp_missing'],
        'a broken map file' => [
            ['a.geojson' => '{"type":"FeatureCollection","features":[{"type":'],
            'intake_geo_unreadable',
        ],
        'a PDF' => [['a.pdf' => '%PDF-1.7 …'], 'intake_pdf'],
        'another archive' => [['a.rar' => 'Rar!...'], 'intake_packed'],
        'a phone picture of another kind' => [['a.heic' => "\0\0\0\x18ftypheic".str_repeat("\0", 50)], 'intake_heic'],
    ],
);

it('refuses with a sentence', function (array $files, string $code): void {
    $import = $this->bring($this->desk, $this->programme_, $files);
    expect($import['state'])
        ->toBe('failed')
        ->and($import['problems'][0]['code'])
        ->toBe($code)
        ->and(mb_strlen($import['problems'][0]['message']))
        ->toBeGreaterThan(20);
})->with('refused');

it('does not unpack what climbs out or blows up', function (): void {
    expect(
        $this->bring($this->desk, $this->programme_, ['a.zip' => $this->zip(['../../evil.csv' => 'a,b'])])[
            'problems'
        ][0]['code'],
    )->toBe('intake_zip_path');
    expect(
        $this->bring($this->desk, $this->programme_, [
            'b.zip' => $this->zip(['big.csv' => str_repeat("0,0\n", 40_000_000)]),
        ])['problems'][0]['code'],
    )->toBe('intake_zip_bomb');
    expect(
        $this->bring($this->desk, $this->programme_, ['c.zip' => $this->zip(['empty/' => ''])])['problems'][0]['code'],
    )->toBe('intake_zip_empty');
});

it('makes an empty layer of a file that has only heads, and calls it a success', function (): void {
    $import = $this->bring($this->desk, $this->programme_, ['plan.csv' => "Site,Date,Count\n"]);
    expect($import['state'])->toBe('review')->and(implode(' ', $import['reading']['notes']))->toContain('no rows');
    $import = $this->land($this->decide($import));
    expect($import['state'])
        ->toBe('done')
        ->and($import['counts'])
        ->toMatchArray(['read' => 0, 'made' => 0, 'waiting' => 0])
        ->and(array_column($this->getJson("/api/v1/layers/{$import['layer']}")->json('design.fields'), 'label'))
        ->toBe(['Site', 'Date', 'Count']);
});

dataset('texts', [
    'UTF-16 with its mark' => [
        "\xFF\xFE".mb_convert_encoding("Name\tLat\tLon\nÅsa\t-14.5\t-11.5\n", 'UTF-16LE', 'UTF-8'),
        'Åsa',
        'UTF-16',
    ],
    'UTF-16 without' => [mb_convert_encoding("Name;Lat;Lon\nÅsa;-14.5;-11.5\n", 'UTF-16BE', 'UTF-8'), 'Åsa',
        'UTF-16'],
    'Latin-1' => [mb_convert_encoding("Name;Lat;Lon\nÅsa;-14.5;-11.5\n", 'ISO-8859-1', 'UTF-8'), 'Åsa', 'Latin-1'],
    'a byte order mark' => ["\xEF\xBB\xBFName,Lat,Lon\r\nÅsa,-14.5,-11.5\r\n", 'Åsa', null],
    'old line ends' => ["Name,Lat,Lon\nÅsa,-14.5,-11.5", 'Åsa', null],
    'quotes, line ends and commas in cells (RFC 4180)' => [
        "Name,Lat,Lon\n\"Åsa \"\"the\n first\"\", of\",-14.5,-11.5\n",
        'Åsa "the first", of',
        null,
    ],
    'formulas of spreadsheets, as texts' => ["Name,Lat,Lon\n=HYPERLINK(1),-14.5,-11.5\n", '=HYPERLINK(1)', null],
    'a quote that is never closed' => [
        "Name,Lat,Lon\nÅsa,-14.5,-11.5\n\"Bo,-14.6,-11.6\nCy,-14.7,-11.7\n",
        'Åsa',
        'row 3',
    ],
    'doubled heads' => ["Name,Name,Lat,Lon\nÅsa,b,-14.5,-11.5\n", 'Åsa', 'Name 2'],
    'a title above the heads' => [
        "Nests of 2025,,,\n,,,\nName,Lat,Lon,x\nÅsa,-14.5,-11.5,y\nBo,-14.6,-11.6,z\n",
        'Åsa',
        'row 3',
    ],
    'no heads' => ["Åsa,-14.5123,-11.5123\nBo,-14.6123,-11.6123\n", 'Åsa', 'first row'],
    'right to left, emoji' => ["الاسم,lat,lon\nÅsa,-14.5,-11.5\n🐢,-14.6,-11.6\n", 'Åsa', null],
]);

it('reads texts as they come, and says what it did', function (string $bytes, string $name, ?string $note): void {
    $import = $this->bring($this->desk, $this->programme_, ['a.csv' => $bytes]);
    expect($import['state'])->toBe('review');
    $note === null
        ? expect($import['reading']['notes'])->toBe(
            array_filter($import['reading']['notes'], fn (string $n): bool => str_contains($n, 'parted')),
        )
        : expect(implode(' ', $import['reading']['notes']))->toContain($note);
    $import = $this->land($this->decide($import));
    expect($import['state'])
        ->toBe('done')
        ->and(
            array_values(
                array_filter(
                    array_column($this->recordsOf($import['layer']), 'name'),
                    fn (?string $n): bool => $n === $name,
                ),
            ),
        )
        ->toBe([$name]);
})->with('texts');

it('takes 500 columns, and a layer gets those that are wanted', function (): void {
    $heads = implode(',', array_map(static fn (int $i): string => "c$i", range(1, 500)));
    $import = $this->bring($this->desk, $this->programme_, [
        'a.csv' => "$heads,lat,lon\n".implode(',', range(1, 500)).",-14.5,-11.5\n",
    ]);
    expect($import['state'])->toBe('review');
    $this->putJson("/api/v1/imports/{$import['id']}/settings", $import['settings'])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'too_many');
    $columns = array_map(
        static fn (array $c, int $i): array => ['take' => $i < 100] + $c,
        $import['settings']['columns'],
        array_keys($import['settings']['columns']),
    );
    $import = $this->land($this->decide($import, ['columns' => $columns]));
    expect($import['counts']['made'])->toBe(1);
});

it('reads workbooks: sheets, merged titles, dates, and cells that are times', function (): void {
    $import = $this->bring($this->desk, $this->programme_, [
        'w.xlsx' => xlsx([
            'Empty' => [],
            'Nests' => [
                ['Season 2025', '', '', ''],
                ['Code', 'Seen', 'Lat', 'Lon'],
                ['A1', '2025-05-03', -14.5, -11.5],
                ['A2', '2025-05-04', -14.6, -11.6],
            ],
            'Other' => [['x'], ['1']],
        ]),
    ]);
    expect($import['source']['table'])
        ->toBe('Nests')
        ->and($import['settings']['head_row'])
        ->toBe(2)
        ->and(implode(' ', $import['reading']['notes']))
        ->toContain('2 sheets');
    $other = $this->decide($import, ['table' => 'Other', 'head_row' => 1]);
    expect($other['state'])->toBe('review')->and($other['source']['table'])->toBe('Other');
    $back = $this->decide($this->getJson("/api/v1/imports/{$import['id']}")->json(), [
        'table' => 'Nests',
        'head_row' => 2,
    ]);
    $import = $this->land($this->decide($this->getJson("/api/v1/imports/{$import['id']}")->json()));
    expect($back['source']['table'])
        ->toBe('Nests')
        ->and($import['counts']['made'])
        ->toBe(2)
        ->and($this->recordsOf($import['layer'])[1]['values'])
        ->toMatchArray(['code' => 'A1', 'seen' => '2025-05-03']);
});

it('takes odd geometries row by row', function (): void {
    $f = static fn (string $n, mixed $g): array => [
        'type' => 'Feature',
        'properties' => ['name' => $n],
        'geometry' => $g,
    ];
    $json = json_encode([
        'type' => 'FeatureCollection',
        'crs' => ['type' => 'name', 'properties' => ['name' => 'urn:ogc:def:crs:EPSG::3857']],
        'features' => [
            $f('3D', ['type' => 'Point', 'coordinates' => [-1280174.19, -1631206.27, 55.0]]),
            $f('None', null),
            $f('Line', ['type' => 'LineString', 'coordinates' => [[0, 0], [1, 1]]]),
            $f('One of several', ['type' => 'MultiPoint', 'coordinates' => [[-1280174.19, -1631206.27]]]),
        ],
    ]);
    $import = $this->bring($this->desk, $this->programme_, ['a.geojson' => $json]);
    expect(implode(' ', $import['reading']['notes']))->toContain('mixes');
    $import = $this->land($this->decide($import));
    $records = collect($this->recordsOf($import['layer']))->keyBy('name');
    expect($records->keys()->sort()->values()->all())
        ->toBe(['3D', 'One of several'])
        ->and($records['3D']['lon'])
        ->toEqualWithDelta(-11.5, 1e-5)
        ->and($records['3D']['lat'])
        ->toEqualWithDelta(-14.5, 1e-2)
        ->and(
            array_column(
                array_merge(
                    ...array_column($this->getJson("/api/v1/imports/{$import['id']}/waiting")->json(), 'problems'),
                ),
                'code',
            ),
        )
        ->toBe(['intake_no_place', 'intake_other_shape']);
});

it('takes polygons over the antimeridian, and tells of those that cross themselves', function (): void {
    $f = static fn (string $n, array $ring): array => [
        'type' => 'Feature',
        'properties' => ['name' => $n],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [$ring]],
    ];
    $import = $this->bring($this->desk, $this->programme_, [
        'a.geojson' => json_encode([
            'type' => 'FeatureCollection',
            'features' => [
                $f('Bow tie', [[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]),
                $f('Far', [[179, -17], [-179, -17], [-179, -16], [179, -16], [179, -17]]),
            ],
        ]),
    ]);
    $import = $this->land($this->decide($import));
    // 2 by 1 degrees at 16.5° S are some 23,600 km²; round the other way it would be 178 times as much.
    expect($this->recordsOf($import['layer'])[0]['area'])
        ->toBeLessThan(2.5e10)
        ->and($this->getJson("/api/v1/imports/{$import['id']}/waiting")->json('0.problems.0.code'))
        ->toBe('shape_crosses');
});

it('finds places by name beside coordinates in the same column', function (): void {
    PlaceTable::keep(
        [
            ['name' => 'Pelican Quay', 'of' => 'Test', 'lon' => -11.51, 'lat' => -14.51],
            ['name' => 'Turtle Bay', 'of' => 'North', 'lon' => -11.4, 'lat' => -14.4],
            ['name' => 'Turtle Bay', 'of' => 'South', 'lon' => -11.6, 'lat' => -14.6],
        ],
        'test',
        $this->programme_,
    );
    $import = $this->bring($this->desk, $this->programme_, [
        'sightings.csv' => "Place,What\n\"-14.55, -11.55\",a\nPelican Quay,b\nPelikan Quay,c\nTurtle "
            ."Bay,d\n\"Turtle Bay, South\",e\nNowhere at all,f\n14°30'S 11°30'W,g\n",
    ]);
    expect($import['settings']['location'])->toMatchArray(['way' => 'text', 'columns' => [0]]);
    $import = $this->land($this->decide($import));
    $records = collect($this->recordsOf($import['layer']))->keyBy(fn (array $r): string => $r['values']['what']);
    expect($records->keys()->sort()->values()->all())
        ->toBe(['a', 'b', 'c', 'e', 'g'])
        ->and($records['c']['lon'])
        ->toBe(-11.51)
        ->and($records['e']['lat'])
        ->toBe(-14.6)
        ->and($records['g']['lat'])
        ->toBe(-14.5);
    $waiting = $this->getJson("/api/v1/imports/{$import['id']}/waiting")->json();
    expect(array_column(array_merge(...array_column($waiting, 'problems')), 'code'))
        ->toBe(['intake_several', 'intake_unknown_place'])
        ->and($waiting[0]['place']['candidates'])
        ->toHaveCount(2);
});

it('is not everyone’s door', function (): void {
    $import = $this->bring($this->desk, $this->programme_, ['a.csv' => "a,b\n1,2\n"]);
    $crew = $this->crew($this->programme_);
    $this->actingAs($crew)
        ->getJson("/api/v1/imports/{$import['id']}")
        ->assertForbidden();
    $this->actingAs($this->person())
        ->getJson("/api/v1/imports/{$import['id']}")
        ->assertNotFound();
});

it('goes on where the sending was cut, and takes no byte too many', function (): void {
    $import = $this->actingAs($this->desk)
        ->postJson("/api/v1/programmes/{$this->programme_->id}/imports", [
            'files' => [['name' => '../../a.csv', 'bytes' => 8]],
        ])
        ->json();
    expect($import['files'][0]['name'])->toBe('a.csv');
    $send = fn (int $at, string $bytes) => $this->call(
        'PATCH',
        "/api/v1/imports/{$import['id']}/files/0",
        server: ['HTTP_UPLOAD_OFFSET' => (string) $at, 'HTTP_ACCEPT' => 'application/json'],
        content: $bytes,
    );
    $send(0, "a,b\n")->assertOk()->assertJsonPath('offset', 4);
    $send(0, 'xxxx')->assertStatus(409)->assertJsonPath('offset', 4);
    $send(4, '12345')->assertUnprocessable();
    $send(4, "1,2\n")->assertOk()->assertJsonPath('offset', 8);
    expect($this->getJson("/api/v1/imports/{$import['id']}")->json('state'))->toBe('review');
});

it('lands the kind of shape that is chosen, where a file mixes several', function (): void {
    $f = static fn (string $n, string $type, array $coordinates): array => [
        'type' => 'Feature',
        'properties' => ['name' => $n],
        'geometry' => ['type' => $type, 'coordinates' => $coordinates],
    ];
    $import = $this->bring($this->desk, $this->programme_, [
        'a.geojson' => json_encode([
            'type' => 'FeatureCollection',
            'features' => [
                $f('P', 'Point', [-11.5, -14.5]),
                $f('Q', 'Point', [-11.6, -14.5]),
                $f('L', 'LineString', [[-11.5, -14.5], [-11.6, -14.6]]),
            ],
        ]),
    ]);
    expect($import['reading']['geometry'])
        ->toBe('point')
        ->and($import['reading']['shapes'])
        ->toBe(['POINT' => 2, 'LINESTRING' => 1])
        ->and($this->decide($import)['review'])
        ->toMatchArray(['ready' => 2, 'geometry' => 'point']);
    $import = $this->decide($import, ['shape' => 'line']);
    expect($import['review'])->toMatchArray(['ready' => 1, 'geometry' => 'line']);
    $import = $this->land($import);
    expect($import['counts'])
        ->toMatchArray(['made' => 1, 'waiting' => 2])
        ->and($this->getJson("/api/v1/layers/{$import['layer']}")->json('design.geometry'))
        ->toBe('line');
});
