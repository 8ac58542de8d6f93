<?php

declare(strict_types=1);

use App\Export\OldFiles;
use App\Models\Export;
use App\Models\Import;

uses(Tests\ImportSteps::class);

/*
 * What can be sent to the doors of bringing in and taking out that no screen would send. Nothing may end as a fault of
 * ours.
 */

beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
});

it('refuses an announcement that makes no sense', function (mixed $files, string $code): void {
    $this->actingAs($this->desk)
        ->postJson("/api/v1/programmes/{$this->programme_->id}/imports", ['files' => $files])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', $code);
})->with([
    'nothing' => [null, 'intake_files'],
    'no list' => [['name' => 'a.csv'], 'intake_files'],
    'an empty list' => [[], 'intake_files'],
    'no name' => [[['bytes' => 4]], 'intake_file'],
    'a name of no letters' => [[['name' => '', 'bytes' => 4]], 'intake_file'],
    'a negative size' => [[['name' => 'a.csv', 'bytes' => -1]], 'intake_file'],
    'a size in words' => [[['name' => 'a.csv', 'bytes' => 'many']], 'intake_file'],
    'only empty files' => [[['name' => 'a.csv', 'bytes' => 0]], 'intake_empty'],
    'more than there is room for' => [[['name' => 'a.csv', 'bytes' => 5_000_000_000]], 'intake_too_large'],
    'too many' => [array_fill(0, 2_001, ['name' => 'a.csv', 'bytes' => 1]), 'too_many'],
]);

it('keeps names of files apart from paths, and from each other', function (): void {
    $files = [
        ['name' => '../../etc/passwd', 'bytes' => 1],
        ['name' => 'C:\\Users\\a.csv', 'bytes' => 1],
        ['name' => 'a.csv', 'bytes' => 1],
    ];
    $import = $this->actingAs($this->desk)
        ->postJson("/api/v1/programmes/{$this->programme_->id}/imports", ['files' => $files])
        ->assertCreated();
    expect(array_column($import->json('files'), 'name'))->toBe(['passwd', 'a.csv', '2-a.csv']);
});

it('refuses settings that make no sense, each with its reason', function (array $change, string $code): void {
    $import = $this->bring($this->desk, $this->programme_, [
        'a.csv' => "code,seen,lat,lon\nA,2025-05-03,-14.5,-11.5\n",
    ]);
    $this->putJson("/api/v1/imports/{$import['id']}/settings", array_replace($import['settings'], $change))
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', $code);
    expect($this->getJson("/api/v1/imports/{$import['id']}")->json('state'))->toBe('review');
})->with([
    'no title' => [['title' => ' '], 'intake_title'],
    'a title without end' => [['title' => str_repeat('x', 200)], 'intake_title'],
    'a title that is a list' => [['title' => ['x']], 'intake_title'],
    'no such zone' => [['zone' => 'Mars/Olympus'], 'zone_unknown'],
    'a pair of one column' => [
        ['location' => ['way' => 'pair', 'columns' => [3], 'system' => 'EPSG:4326']],
        'intake_place_columns',
    ],
    'columns that are not there' => [
        ['location' => ['way' => 'pair', 'columns' => [30, 31], 'system' => 'EPSG:4326']],
        'intake_place_columns',
    ],
    'a place of no column' => [['location' => ['way' => 'text', 'columns' => []]], 'intake_place_columns'],
    'a system that is none' => [
        ['location' => ['way' => 'pair', 'columns' => [3, 2], 'system' => '; rm -rf /']],
        'intake_system',
    ],
    'an update without a key' => [['mode' => 'update', 'layer' => 1], 'intake_key'],
    'rows of no layer' => [['mode' => 'append'], 'intake_layer'],
]);

it('never fails by its own fault, whatever is decided', function (int $seed): void {
    mt_srand($seed);
    $import = $this->bring($this->desk, $this->programme_, [
        'a.csv' => "code,seen,lat,lon\nA,2025-05-03,-14.5,-11.5\nB,,x,\n",
    ]);
    $odd = [null, true, -1, 3, 1.5, '', 'x', [], [1], ['a' => []], str_repeat('y', 3_000), 9_223_372_036_854_775_807];
    $pick = static fn (): mixed => $odd[mt_rand(0, count($odd) - 1)];
    for ($i = 0; $i < 40; $i++) {
        $settings = $import['settings'];
        foreach (range(1, mt_rand(1, 3)) as $ignored) {
            $where = mt_rand(0, 3);
            if ($where === 0) {
                $settings[array_rand($settings)] = $pick();
            } elseif ($where === 1 && is_array($settings['columns']) && $settings['columns'] !== []) {
                $column = array_rand($settings['columns']);
                $part = ['take', 'key', 'label', 'kind', 'order', 'comma', 'with'][mt_rand(0, 6)];
                is_array($settings['columns'][$column]) ? ($settings['columns'][$column][$part] = $pick()) : null;
            } elseif ($where === 2 && is_array($settings['location'])) {
                $settings['location'][['way', 'columns', 'system', 'mend', 'match'][mt_rand(0, 4)]] = $pick();
            } else {
                $settings['columns'] = $pick();
            }
        }
        $answer = $this->putJson("/api/v1/imports/{$import['id']}/settings", $settings);
        expect($answer->getStatusCode())->toBeIn([200, 422], "seed $seed, round $i: ".json_encode($settings));
        $state = $this->getJson("/api/v1/imports/{$import['id']}")
            ->assertOk()
            ->json('state');
        if ($state !== 'review') {
            // It was read anew by a wish that cannot be met, and says so.
            expect($state)->toBe('failed');
            Import::query()
                ->whereKey($import['id'])
                ->update(['state' => 'review']);
        }
    }
})->with([1, 2, 3, 4]);

it('takes nothing at the wrong time', function (string $state, string $method, string $door): void {
    $import = $this->bring($this->desk, $this->programme_, ['a.csv' => "code,lat,lon\nA,-14.5,-11.5\n"]);
    Import::query()
        ->whereKey($import['id'])
        ->update(['state' => $state]);
    $this->json($method, "/api/v1/imports/{$import['id']}/$door", $import['settings'])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'intake_state');
})->with([
    ['done', 'PUT', 'settings'],
    ['landing', 'PUT', 'settings'],
    ['done', 'POST', 'land'],
    ['failed', 'POST', 'land'],
    ['reading', 'GET', 'systems'],
    ['review', 'POST', 'undo'],
    ['undone', 'POST', 'undo'],
    ['review', 'POST', 'retry'],
    ['review', 'PATCH', 'waiting/2'],
    ['done', 'POST', 'cancel'],
]);

it('refuses to mend what cannot be mended', function (): void {
    $import = $this->bring($this->desk, $this->programme_, ['a.csv' => "code,lat,lon\nA,x,y\n"]);
    $columns = array_map(static fn (array $c): array => ['kind' => 'short_text'] + $c, $import['settings']['columns']);
    $import = $this->land(
        $this->decide($import, [
            'columns' => $columns,
            'location' => ['way' => 'pair', 'columns' => [2, 1], 'system' => 'EPSG:4326'],
        ]),
    );
    $door = "/api/v1/imports/{$import['id']}/waiting";
    $this->patchJson("$door/99", ['cells' => ['0' => 'B']])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'intake_row');
    $this->patchJson("$door/2", ['cells' => ['77' => 'B']])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'intake_cell');
    $this->patchJson("$door/2", ['cells' => ['0' => ['B']]])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'intake_cell');
    $this->patchJson("$door/2", ['place' => ['lon' => 'x', 'lat' => 1]])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'position_no_numbers');
    $this->patchJson("$door/2", ['place' => ['lon' => 200, 'lat' => 1]])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'position_outside_world');
    expect($this->postJson("/api/v1/imports/{$import['id']}/retry", ['rows' => [99]])->json())->toMatchArray([
        'landed' => 0,
        'waiting' => 1,
    ]);
});

it('refuses to take out what there is not', function (array $wish, string $code): void {
    $layer = $this->layer($this->programme_, ['title' => 'Areas', 'geometry' => 'area']);
    $this->actingAs($this->desk)
        ->postJson("/api/v1/layers/{$layer->id}/exports", $wish)
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', $code);
})->with([
    'no format' => [[], 'export_format'],
    'an unknown one' => [['format' => 'dwg'], 'export_format'],
    'areas as GPX' => [['format' => 'gpx'], 'export_gpx_areas'],
    'a slice of another layer' => [['format' => 'csv', 'slice' => 999_999], 'slice_unknown'],
    'no records by name' => [['format' => 'csv', 'ids' => []], 'export_ids'],
    'ids that are none' => [['format' => 'csv', 'ids' => ['x']], 'id_shape'],
]);

it('forgets files that nobody will ask for any more', function (): void {
    $import = $this->bring($this->desk, $this->programme_, ['a.csv' => "code,lat,lon\nA,-14.5,-11.5\n"]);
    $model = Import::query()->findOrFail($import['id']);
    $layer = $this->layer($this->programme_);
    $export = $this->postJson("/api/v1/layers/{$layer->id}/exports", ['format' => 'csv'])->json();
    $file = Export::query()->findOrFail($export['id'])->path();
    OldFiles::forget();
    expect(is_file($model->file(0)))->toBeTrue()->and(is_file($file))->toBeTrue();
    $this->travel(40)->days();
    OldFiles::forget();
    expect(is_file($model->file(0)))
        ->toBeFalse()
        ->and(is_file($file))
        ->toBeFalse()
        ->and($model->refresh()->state)
        ->toBe('cancelled')
        ->and(Export::query()->find($export['id']))
        ->toBeNull();
});
