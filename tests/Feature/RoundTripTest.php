<?php

declare(strict_types=1);

use App\Designs\DesignStore;
use App\Models\Layer;
use PinYard\Design\LayerDesign;

uses(Tests\ImportSteps::class);

/*
 * Records made up from a fixed seed, of every kind of field and geometry, go out and come in again: nothing may have
 * changed.
 */

const EVERY_KIND = [
    ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
    ['key' => 'remarks', 'label' => 'Remarks', 'kind' => 'long_text'],
    ['key' => 'whole', 'label' => 'Whole', 'kind' => 'whole_number'],
    ['key' => 'decimal', 'label' => 'Decimal', 'kind' => 'decimal'],
    ['key' => 'fenced', 'label' => 'Fenced', 'kind' => 'yes_no'],
    ['key' => 'day', 'label' => 'Day', 'kind' => 'date'],
    ['key' => 'clock', 'label' => 'Clock', 'kind' => 'time'],
    ['key' => 'moment', 'label' => 'Moment', 'kind' => 'date_time'],
    [
        'key' => 'one',
        'label' => 'One',
        'kind' => 'one_choice',
        'choices' => [
            ['code' => 'a', 'label' => 'First, of all'],
            ['code' => 'b', 'label' => 'Second "one"'],
            ['code' => 'c', 'label' => 'Third; last'],
        ],
    ],
    [
        'key' => 'some',
        'label' => 'Some',
        'kind' => 'several_choices',
        'choices' => [
            ['code' => 'x', 'label' => 'Ex'],
            ['code' => 'y', 'label' => 'Why'],
            ['code' => 'z', 'label' => 'Zed'],
        ],
    ],
];

function madeUpText(): string
{
    $words = [
        'hill',
        'Bäche',
        '=SUM(A1)',
        '+1',
        '-dash',
        '@at',
        '"quoted"',
        "it's",
        'a,b',
        'c;d',
        '🐢',
        'x=y',
        '100%',
        '<b>',
        '\\n',
    ];
    $text = '';
    for ($i = mt_rand(1, 4); $i > 0; $i--) {
        $text .= ($text === '' ? '' : ' ').$words[mt_rand(0, count($words) - 1)];
    }

    return $text;
}

/** @return array<string, mixed> */
function madeUpValues(int $i): array
{
    $maybe = static fn (mixed $value): mixed => mt_rand(0, 4) === 0 ? null : $value;

    return array_filter(
        [
            'code' => "R$i ".madeUpText(),
            'remarks' => $maybe(madeUpText().(mt_rand(0, 1) ? "\n".madeUpText() : '')),
            'whole' => $maybe(mt_rand(-1_000_000, 1_000_000)),
            'decimal' => $maybe(round(mt_rand(-1_000_000, 1_000_000) / 997, mt_rand(0, 6)) + 0.5),
            'fenced' => $maybe((bool) mt_rand(0, 1)),
            'day' => $maybe(gmdate('Y-m-d', mt_rand(-1_000_000_000, 3_000_000_000))),
            'clock' => $maybe(sprintf('%02d:%02d', mt_rand(0, 23), mt_rand(0, 59))),
            'moment' => $maybe(gmdate('Y-m-d\TH:i:s\Z', mt_rand(0, 3_000_000_000))),
            'one' => $maybe(['a', 'b', 'c'][mt_rand(0, 2)]),
            'some' => $maybe([['x'], ['x', 'y'], ['z', 'x'], ['x', 'y', 'z']][mt_rand(0, 3)]),
        ],
        static fn (mixed $v): bool => $v !== null,
    );
}

/** @return array<string, mixed> */
function madeUpGeometry(string $kind): array
{
    $at = static fn (): array => [
        -12 + round(mt_rand() / mt_getrandmax(), 6),
        -15 + round(mt_rand() / mt_getrandmax(), 6),
    ];
    if ($kind === 'point') {
        return ['type' => 'Point', 'coordinates' => $at()];
    }
    if ($kind === 'line') {
        return ['type' => 'LineString', 'coordinates' => array_map($at, range(1, mt_rand(2, 6)))];
    }
    [$lon, $lat] = $at();
    $star = static function (float $lon, float $lat, float $size): array {
        $ring = array_map(
            static fn (int $k): array => [
                round($lon + $size * cos(($k * M_PI) / 4), 6),
                round($lat + $size * sin(($k * M_PI) / 4), 6),
            ],
            range(0, 7),
        );

        return [...$ring, $ring[0]];
    };

    return mt_rand(0, 1)
        ? ['type' => 'Polygon', 'coordinates' => [$star($lon, $lat, 0.02), array_reverse($star($lon, $lat, 0.01))]]
        : ['type' => 'MultiPolygon', 'coordinates' => [[$star($lon, $lat, 0.02)], [$star($lon + 0.1, $lat, 0.01)]]];
}

beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
    $this->make = fn (string $title, string $geometry): Layer => DesignStore::createLayer(
        $this->programme_,
        LayerDesign::fromArray([
            'title' => $title,
            'geometry' => $geometry,
            'name_field' => 'code',
            'fields' => EVERY_KIND,
        ]),
        null,
    );
});

it('changes nothing', function (string $geometry, string $format, array $with, float $near): void {
    mt_srand(crc32("$geometry $format"));
    $here = ($this->make)('Here', $geometry);
    foreach (range(1, 25) as $i) {
        $this->actingAs($this->desk)
            ->postJson("/api/v1/layers/{$here->id}/records", [
                'values' => madeUpValues($i),
                'geometry' => madeUpGeometry($geometry),
            ])
            ->assertCreated();
    }
    $export = $this->postJson("/api/v1/layers/{$here->id}/exports", ['format' => $format] + $with)
        ->assertStatus(202)
        ->json();
    $bytes = (string) file_get_contents(
        $this->get("/api/v1/exports/{$export['id']}/file")
            ->assertOk()
            ->baseResponse->getFile()
            ->getPathname(),
    );
    $there = ($this->make)('There', $geometry);
    $import = $this->bring($this->desk, $this->programme_, ["records.$format" => $bytes], ['layer' => $there->id]);
    $import = $this->land($this->decide($import));
    expect($import['counts'])->toMatchArray(['read' => 25, 'made' => 25, 'waiting' => 0]);
    $before = collect($this->recordsOf($here->id))->keyBy('name');
    $after = collect($this->recordsOf($there->id))->keyBy('name');
    foreach ($before as $name => $record) {
        expect($after[$name]['values'])
            ->toBe($record['values'], "$name in $format")
            ->and($after[$name]['lon'])
            ->toEqualWithDelta($record['lon'], $near)
            ->and($after[$name]['lat'])
            ->toEqualWithDelta($record['lat'], $near);
        if ($geometry !== 'point') {
            expect($after[$name]['geometry']['type'])
                ->toBe($record['geometry']['type'])
                ->and($after[$name]['length'])
                ->toEqualWithDelta($record['length'], 0.05);
        }
    }
})->with([
    'points as CSV' => ['point', 'csv', ['choices' => 'labels'], 1e-9],
    'points as CSV with codes, in local times' => ['point', 'csv', ['choices' => 'codes', 'times' => 'local'], 1e-9],
    'points as a workbook' => ['point', 'xlsx', ['choices' => 'labels'], 1e-9],
    'points as GeoJSON' => ['point', 'geojson', [], 1e-7],
    'points as GeoPackage' => ['point', 'gpkg', [], 1e-9],
    'points as FlatGeobuf' => ['point', 'fgb', [], 1e-9],
    'lines as GeoJSON' => ['line', 'geojson', [], 1e-6],
    'lines as GeoPackage' => ['line', 'gpkg', [], 1e-6],
    'areas as GeoJSON' => ['area', 'geojson', [], 1e-6],
    'areas as GeoPackage' => ['area', 'gpkg', [], 1e-6],
    'areas as FlatGeobuf' => ['area', 'fgb', [], 1e-6],
    'lines as CSV' => ['line', 'csv', ['choices' => 'labels'], 1e-6],
    'areas as CSV' => ['area', 'csv', ['choices' => 'labels'], 1e-6],
    'areas as a workbook' => ['area', 'xlsx', ['choices' => 'labels'], 1e-6],
]);
