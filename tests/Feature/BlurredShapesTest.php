<?php

declare(strict_types=1);

use App\Models\Audience;
use App\Models\Layer;
use App\Models\Role;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Blur;
use PinYard\Geo\Box;
use PinYard\Geo\Wkb;

/*
 * Lines and areas whose places are blurred: of them the cells are told that they touch, on every way out, and nothing
 * that depends on where in these they go.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->guest = $this->member($this->field, Role::Guest);
    $fields = [
        ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
        ['key' => 'long', 'label' => 'Long', 'kind' => 'calculated', 'formula' => 'line_length()'],
        ['key' => 'size', 'label' => 'Size', 'kind' => 'calculated', 'formula' => 'area_size()'],
    ];
    $this->dens = $this->layer($this->field, ['title' => 'Dens', 'geometry' => 'area', 'fields' => [
        $fields[0], $fields[2],
    ]]);
    $this->ways = $this->layer($this->field, ['title' => 'Ways', 'geometry' => 'line', 'fields' => [
        $fields[0], $fields[1],
    ]]);
    // Four cells to the east of one another and as many to the south.
    $blur = Blur::of(500);
    [$this->west, , $this->step, $this->north] = $blur->cellOf(-11.5, -14.5);
    $this->step -= $this->west;
    [, $south] = $blur->cellOf(-11.5, $this->north - 3.5 * $this->step);
    $this->south = $south;
    /** A square some way within the outer cells; a line along the middle of the second row, by as much. */
    $this->square = function (float $in): array {
        [$w, $e] = [$this->west + $in * $this->step, $this->west + (4 - $in) * $this->step];
        [$s, $n] = [$this->south + $in * $this->step * 0.9, $this->north - $in * $this->step * 0.9];

        return ['type' => 'Polygon', 'coordinates' => [[[$w, $s], [$e, $s], [$e, $n], [$w, $n], [$w, $s]]]];
    };
    $this->line = fn (float $in): array => ['type' => 'LineString', 'coordinates' => [
        [$this->west + $in * $this->step, $this->north - $in * $this->step * 0.9],
        [$this->west + (4 - $in) * $this->step, $this->north - (0.5 + $in / 4) * $this->step * 0.9],
    ]];
    /** As small as a nest, in the first cell. */
    $this->nest = function (float $in): array {
        [$w, $n] = [$this->west + $in * $this->step, $this->north - $in * $this->step];

        return ['type' => 'Polygon', 'coordinates' => [[
            [$w, $n - 0.0001], [$w + 0.0002, $n - 0.0001], [$w + 0.0001, $n], [$w, $n - 0.0001],
        ]]];
    };
    $add = fn (Layer $layer, string $name, array $geometry): array => $this->add($layer, [
        'values' => ['name' => $name], 'geometry' => $geometry, 'fix' => null,
    ]);
    $this->den = $add($this->dens, 'Large', ($this->square)(0.1));
    $this->small = $add($this->dens, 'Small', ($this->nest)(0.2));
    $this->way = $add($this->ways, 'North', ($this->line)(0.2));
    $this->sync($this->head, [$this->den, $this->small, $this->way]);
    $this->say = function (string $of, array $rule): void {
        foreach ([$this->dens, $this->ways] as $layer) {
            $this->actingAs($this->head)->putJson("/api/v1/layers/$layer->id/seen-by/$of", ['rule' => $rule + [
                'rows' => 'all', 'place' => 'cell', 'metres' => 500, 'fields' => null, 'photos' => false,
            ]])->assertOk();
        }
    };
    $this->map = $this->mapOf($this->dens, [
        'look' => ['kind' => 'single'], 'card' => ['fields' => ['name', 'size'], 'photos' => false],
    ], Audience::Link, 'Dens and ways');
    $this->actingAs($this->head)->patchJson("/api/v1/maps/{$this->map->id}", [
        'beside' => ['part' => $this->map->layers[0]['id'], 'columns' => ['name', 'size']],
        'layers' => [...$this->map->layers, [
            'id' => 'lways', 'layer' => $this->ways->id, 'look' => ['kind' => 'single'],
            'label' => ['parts' => [['field' => 'name']]],
            'card' => ['fields' => ['name', 'long'], 'photos' => false],
        ]],
    ])->assertOk();
    $this->map->refresh();
    /** @return array<string, string> all that is told, by address */
    $this->told = function (?User $person): array {
        $addresses = [];
        $keep = function (string $address) use (&$addresses): void {
            $answer = $this->get($address, ['Accept' => 'application/json']);
            $text = (string) ($answer->baseResponse instanceof Symfony\Component\HttpFoundation\StreamedResponse
                ? $answer->streamedContent()
                : $answer->getContent());
            expect($answer->getStatusCode())->toBe(200, $address.' '.$answer->exception?->getMessage());
            $addresses[$address] = preg_replace('/"(as_of|server_time)":"[^"]*"/', '', $text)
                .$answer->headers->get('ETag');
        };
        if ($person === null) {
            app('auth')->forgetGuards();
            $at = "/api/v1/open/maps/{$this->map->link_token}";
            foreach ([$at, "$at/table", "$at/picture.png"] as $address) {
                $keep($address);
            }
            foreach ($this->map->layers as $part) {
                $keep("$at/layers/{$part['id']}/features.geojson");
                foreach ($this->getJson("$at/layers/{$part['id']}/features.geojson")->json('features') as $feature) {
                    $keep("$at/layers/{$part['id']}/records/{$feature['id']}");
                }
            }

            return $addresses;
        }
        $this->actingAs($person);
        foreach ([$this->dens, $this->ways] as $layer) {
            $at = "/api/v1/layers/$layer->id";
            foreach (["$at/records", "$at/records.geojson", "$at/records?bbox=-12,-15,-11,-14"] as $address) {
                $keep($address);
            }
            foreach (['csv', 'geojson', 'kml', 'xlsx'] as $format) {
                $id = $this->postJson("$at/exports", ['format' => $format])->json('id');
                $path = $this->get("/api/v1/exports/$id/file")->baseResponse->getFile()->getPathname();
                $addresses["$at as $format"] = (string) file_get_contents(
                    $format === 'xlsx' ? "zip://$path#xl/worksheets/sheet1.xml" : $path,
                );
            }
            $addresses["$at sync"] = (string) preg_replace('/"server_time":"[^"]*"/', '', (string) $this
                ->postJson('/api/v1/sync', [
                    'device' => '0192f3c4-0000-7000-8000-000000000001', 'operations' => [],
                    'cursors' => [$layer->id => 0],
                ])->getContent());
        }
        foreach ($this->map->layers as $part) {
            $keep("/api/v1/maps/{$this->map->id}/layers/{$part['id']}/features.geojson");
        }

        return $addresses;
    };
    /** Moves all within their cells as if they had always been so. */
    $this->move = function (): void {
        foreach ([
            [$this->dens, $this->den, ($this->square)(0.85)], [$this->dens, $this->small, ($this->nest)(0.6)],
            [$this->ways, $this->way, ($this->line)(0.6)],
        ] as [$layer, $record, $geometry]) {
            $shape = PinYard\Geo\Shape::fromGeoJson($geometry, $layer->design()->geometry);
            DB::table($layer->table())->where('id', PinYard\Record\RecordId::of($record['record'])->bytes())->update(
                App\Layers\PlaceColumns::of($shape, true)
                    + [$layer->design()->valueFields()[1]->column() => $shape->area ?? $shape->length],
            );
        }
        DB::table('told_places_until')->delete();
        DB::table('programmes')->where('id', $this->field->id)->update(['designs' => random_int(1, PHP_INT_MAX)]);
    };
});

it('tells the same wherever in the cells that it touches a line or an area goes', function (string $of): void {
    ($this->say)($of === 'link' ? 'link' : 'guests', []);
    $person = $of === 'link' ? null : $this->guest;
    $before = ($this->told)($person);
    if ($person !== null) {
        foreach ([$this->dens->id, $this->ways->id] as $layer) {
            expect($before["/api/v1/layers/$layer as geojson"])
                ->toContain('"MultiPolygon"')->not->toContain('LineString')
                ->and($before["/api/v1/layers/$layer as csv"])->toContain('MULTIPOLYGON')
                ->and($before["/api/v1/layers/$layer sync"])->toContain('"MultiPolygon"');
        }
    }
    ($this->move)();
    foreach (($this->told)($person) as $address => $after) {
        $at = strspn($after ^ $before[$address], "\0");
        expect($after === $before[$address] ? '' : substr($before[$address], max(0, $at - 200), 300))
            ->toBe($after === $before[$address] ? '' : substr($after, max(0, $at - 200), 300), $address);
    }
})->with(['link', 'guest']);

it('shows the cells, and what stands for each in one of them', function (): void {
    ($this->say)('link', []);
    $at = "/api/v1/open/maps/{$this->map->link_token}";
    $features = fn (int $part): array => $this
        ->getJson("$at/layers/{$this->map->layers[$part]['id']}/features.geojson")->json('features');
    $corners = static fn (array $feature): int => count($feature['geometry']['coordinates'][0][0]) - 1;
    $dens = $features(0);
    expect($dens)->toHaveCount(2)
        ->and(array_column(array_column($dens, 'geometry'), 'type'))->toBe(['MultiPolygon', 'MultiPolygon'])
        // A square of cells, and one cell.
        ->and(array_map($corners, $dens))->toBe([4, 4]);
    $way = $features(1)[0];
    expect($way['geometry']['type'])->toBe('MultiPolygon')->and($corners($way))->toBe(4);
    $told = $this->getJson($at)->json('notes');
    expect(implode(' ', $told))->toContain('squares that it touches');
    // As areas and lines are found in a box: by what is shown of them.
    $seen = VisibleRecords::of(Viewer::anyone(), Layer::query()->findOrFail($this->dens->id));
    $cell = $this->step;
    expect($seen->rowsIn(Box::of(
        $this->west + 3.95 * $cell, $this->south, $this->west + 3.99 * $cell, $this->south + $cell * 0.1,
    ))->count())->toBe(1)
        ->and($seen->rowsIn(Box::of($this->west + 4.1 * $cell, $this->south, $this->west + 5 * $cell, $this->north))
            ->count())->toBe(0);
});

it('follows what changes, comes and goes', function (): void {
    ($this->say)('link', []);
    $layer = fn (): Layer => Layer::query()->findOrFail($this->dens->id);
    $rows = fn () => VisibleRecords::of(Viewer::anyone(), $layer())->rows()->orderBy('id')->get(['id', 'lon', 'shape']);
    $before = $rows();
    $this->sync($this->head, [$this->changeOf($this->dens, $this->small['record'], ['name' => 'Other'], [
        'name' => 'Small',
    ], ['geometry' => ($this->nest)(2.3)])]);
    $after = $rows();
    expect($before)->toHaveCount(2)->and($after)->toHaveCount(2)
        ->and($after[0])->toEqual($before[0])
        ->and(Wkb::geoJson($after[1]->shape, $this->dens->design()->geometry)['coordinates'][0][0][0][0])
        ->toEqualWithDelta($this->west + 2 * $this->step, 1e-6);
    // What stood before tells nothing until it is worked out again.
    DB::table('told_places')->where('of_layer', $this->dens->id)->update(['of_change' => 99_999]);
    expect($rows()->pluck('lon')->filter()->all())->toBe([]);
    DB::table('told_places_until')->delete();
    expect($rows()->pluck('lon')->filter()->all())->toHaveCount(2);
});

it('shows members their own as it is and what others made as cells', function (): void {
    $crew = $this->crew($this->field);
    $mine = $this->add($this->dens, [
        'values' => ['name' => 'Mine'], 'geometry' => ($this->nest)(1.4), 'fix' => null,
    ]);
    $this->sync($crew, [$mine]);
    ($this->say)('crews', []);
    $records = $this->actingAs($crew)->getJson("/api/v1/layers/{$this->dens->id}/records")->assertOk()->json('records');
    $byName = array_column($records, null, 'name');
    expect($byName['Mine']['geometry']['type'])->toBe('Polygon')
        ->and($byName['Mine'])->not->toHaveKey('place')
        ->and($byName['Mine']['area'])->not->toBeNull()
        ->and($byName['Small']['geometry']['type'])->toBe('MultiPolygon')
        ->and($byName['Small']['place'])->toBe('cell')
        ->and($byName['Small']['area'])->toBeNull();
    // Also on their phones, and in files.
    $news = $this->postJson('/api/v1/sync', [
        'device' => '0192f3c4-0000-7000-8000-000000000001', 'operations' => [], 'cursors' => [$this->dens->id => 0],
    ])->assertOk()->json("news.{$this->dens->id}.records");
    expect(array_column(array_column($news, 'geometry'), 'type'))->toEqualCanonicalizing([
        'Polygon', 'MultiPolygon', 'MultiPolygon',
    ]);
});

it('draws for members their own as it is where of others the area alone is told, or nothing', function (
    string $place,
    array $kinds,
): void {
    $sectors = $this->layer($this->field, ['title' => 'Sectors', 'geometry' => 'area', 'fields' => []]);
    $this->sync($this->head, [$this->add($sectors, ['values' => [], 'fix' => null, 'geometry' => [
        'type' => 'Polygon', 'coordinates' => [[[-12, -15], [-11, -15], [-11, -14], [-12, -14], [-12, -15]]],
    ]])]);
    $crew = $this->crew($this->field);
    $this->sync($crew, [$this->add($this->dens, [
        'values' => ['name' => 'Mine'], 'geometry' => ($this->nest)(1.4), 'fix' => null,
    ])]);
    ($this->say)('crews', ['place' => $place, 'areas' => $sectors->id, 'metres' => null]);
    $at = "/api/v1/maps/{$this->map->id}/layers/{$this->map->layers[0]['id']}/features.geojson";
    $features = $this->actingAs($crew)->getJson($at)->assertOk()->json('features');
    expect(array_column(array_column($features, 'geometry'), 'type'))->toEqualCanonicalizing($kinds);
    $seen = VisibleRecords::for($crew, Layer::query()->findOrFail($this->dens->id));
    expect($seen->rowsIn(Box::of(-12, -15, -11, -14))->count())->toBe(count($kinds));
})->with([
    'by areas' => ['area', ['Polygon', 'Point', 'Point']],
    'no places' => ['none', ['Polygon']],
]);

it('tells no place of a line or an area on a past day', function (): void {
    ($this->say)('guests', []);
    $layer = Layer::query()->findOrFail($this->dens->id);
    $told = fn (): array => VisibleRecords::for($this->guest, $layer)->rows()->get(['lon', 'shape'])->all();
    expect(array_filter(array_column($told(), 'lon')))->toHaveCount(2);
    // What is kept is of today: a past day has other shapes.
    $layer->standOn('2026-01-01', '2026-01-02 00:00:00', fn (): string => $this->dens->table());
    expect($told())->toHaveCount(2)->and(array_filter(array_column($told(), 'lon')))->toBe([])
        ->and(array_filter(array_column($told(), 'shape')))->toBe([]);
});

it('shows areas that are only told by other areas without their shape', function (): void {
    $sectors = $this->layer($this->field, ['title' => 'Sectors', 'geometry' => 'area', 'fields' => []]);
    $this->sync($this->head, [$this->add($sectors, ['values' => [], 'fix' => null, 'geometry' => [
        'type' => 'Polygon', 'coordinates' => [[[-12, -15], [-11, -15], [-11, -14], [-12, -14], [-12, -15]]],
    ]])]);
    ($this->say)('link', ['place' => 'area', 'areas' => $sectors->id]);
    $features = $this->getJson(
        "/api/v1/open/maps/{$this->map->link_token}/layers/{$this->map->layers[0]['id']}/features.geojson",
    )->json('features');
    expect(array_column(array_column($features, 'geometry'), 'type'))->toBe(['Point', 'Point']);
});
