<?php

declare(strict_types=1);

use App\Export\ExportColumns;
use App\Export\LineSql;
use App\Export\RunExport;
use App\Export\TextExport;
use App\Models\Export;
use App\Models\Layer;

uses(Tests\ImportSteps::class);

/*
 * Two hands write the same lines: the database for many records, PHP where SQL cannot say it. They must never differ.
 */

beforeEach(function (): void {
    $this->desk = $this->person('Ann "the hand", Bo');
    $this->programme_ = $this->programme($this->desk);
    $this->layer_ = $this->layer($this->programme_, [
        'title' => 'All kinds',
        'name_field' => 'text',
        'altitude' => ['unit' => 'm'],
        'fields' => [
            ['key' => 'text', 'label' => 'Text, with "signs"', 'kind' => 'short_text'],
            ['key' => 'long', 'label' => 'Long', 'kind' => 'long_text'],
            ['key' => 'whole', 'label' => 'Whole', 'kind' => 'whole_number'],
            ['key' => 'decimal', 'label' => 'Decimal', 'kind' => 'decimal'],
            ['key' => 'yes', 'label' => 'Yes', 'kind' => 'yes_no'],
            ['key' => 'day', 'label' => 'Day', 'kind' => 'date'],
            ['key' => 'clock', 'label' => 'Clock', 'kind' => 'time'],
            ['key' => 'moment', 'label' => 'Moment', 'kind' => 'date_time'],
            [
                'key' => 'one',
                'label' => 'One',
                'kind' => 'one_choice',
                'choices' => [['code' => 'a', 'label' => 'A "quoted", one'], ['code' => 'b', 'label' => '=B']],
            ],
        ],
    ]);
    $texts = [
        'plain',
        'with, comma',
        'with "quotes"',
        "two\nlines",
        '=1+1',
        '+49',
        '-5',
        '@home',
        'ümlaut 🐢',
        'back\\slash',
        "tab\there",
        '</script>',
        'ends with space.',
    ];
    $operations = [];
    foreach ($texts as $i => $text) {
        $operations[] = $this->add($this->layer_, [
            'values' => [
                'text' => str_replace(["\n", "\t"], ' ', $text),
                'long' => $text,
                'whole' => $i * 1_000_003 - 5,
                'decimal' => [0.1, 1e-7, 123456.789, -2.5, 1e14, 3.0][$i % 6],
                'yes' => $i % 2 === 0,
                'day' => '2026-02-0'.(($i % 9) + 1),
                'clock' => '06:1'.$i % 10,
                'moment' => '2026-02-03T04:05:0'.$i % 10 .'Z',
                'one' => $i % 2 === 0 ? 'a' : 'b',
            ],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.5 - $i / 7, -14.5 + $i / 11]],
        ]);
    }
    $operations[] = $this->add($this->layer_, ['values' => []]);
    $this->sync($this->desk, $operations);
});

function exportOf(Layer $layer, int $user, string $format, string $choices): Export
{
    $export = Export::query()->create([
        'layer_id' => $layer->id,
        'user_id' => $user,
        'state' => 'working',
        'name' => 'x',
        'settings' => ['format' => $format, 'choices' => $choices, 'times' => 'utc'],
    ]);
    @mkdir(dirname($export->path()), recursive: true);

    return $export->load(['layer.programme', 'user']);
}

/** The same columns, but such that SQL is not asked. */
function byHand(ExportColumns $columns): ExportColumns
{
    $reflection = new ReflectionClass(ExportColumns::class);
    $made = $reflection->newInstanceWithoutConstructor();
    $reflection
        ->getConstructor()
        ->invoke($made, array_map(static fn (array $c): array => ['sql' => null] + $c, $columns->columns));

    return $made;
}

it('writes the same CSV in SQL and in PHP', function (string $choices): void {
    $export = exportOf($this->layer_, $this->desk->id, 'csv', $choices);
    $columns = RunExport::columns($export);
    expect(LineSql::csv($this->layer_, $columns))->toBeString();
    (new TextExport)->csv($export, $columns, RunExport::rows($export));
    $sql = csvOf($export->path());
    (new TextExport)->csv($export, byHand($columns), RunExport::rows($export));
    expect($sql)->toBe(csvOf($export->path()))->and($sql)->toHaveCount(15);
})->with(['labels', 'codes', 'both']);

it('writes the same GeoJSON in SQL and in PHP', function (string $choices): void {
    $export = exportOf($this->layer_, $this->desk->id, 'geojson', $choices);
    $columns = RunExport::columns($export);
    expect(LineSql::geoJson($this->layer_, $columns))->toBeString();
    (new TextExport)->geoJson($export, $columns, RunExport::rows($export));
    $sql = json_decode((string) file_get_contents($export->path()), true, flags: JSON_THROW_ON_ERROR);
    (new TextExport)->geoJson($export, byHand($columns), RunExport::rows($export));
    $php = json_decode((string) file_get_contents($export->path()), true, flags: JSON_THROW_ON_ERROR);
    expect($sql['features'])->toEqual($php['features'])->and($sql['features'])->toHaveCount(14);
})->with(['labels', 'codes']);

it('leaves to PHP what SQL cannot say', function (): void {
    $local = exportOf($this->layer_, $this->desk->id, 'csv', 'labels');
    $local->settings = ['times' => 'local'] + $local->settings;
    expect(LineSql::csv($this->layer_, RunExport::columns($local)))->toBeNull();
    $area = $this->layer($this->programme_, ['title' => 'Areas', 'geometry' => 'area']);
    $export = exportOf($area, $this->desk->id, 'csv', 'codes');
    expect(LineSql::csv($area, RunExport::columns($export)))
        ->toBeNull()
        ->and(LineSql::geoJson($area, RunExport::columns($export)))
        ->toBeNull();
});

/**
 * Numbers as numbers: 1.0E-7 and 0.0000001 are the same.
 *
 * @return list<list<string|float|null>>
 */
function csvOf(string $path): array
{
    $rows = [];
    $file = fopen($path, 'rb');
    while (($row = fgetcsv($file, null, ',', '"', '')) !== false) {
        $rows[] = array_map(
            static fn (?string $cell): string|float|null => is_numeric($cell) ? (float) $cell : $cell,
            $row,
        );
    }

    return $rows;
}
