<?php

declare(strict_types=1);

use PinYard\Design\Choice;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Import\ColumnSettings;
use PinYard\Import\ImportProposal;
use PinYard\Import\ImportSettings;
use PinYard\Import\TableAnalysis;

/**
 * @param  array<string, list<string>>  $columns  values by head
 * @return array{array<string, mixed>, TableAnalysis}
 */
function proposed(array $columns, bool $geometry = false, string $title = 'old_trees'): array
{
    $analysis = new TableAnalysis(array_map(strval(...), array_keys($columns)));
    $rows = max(array_map(count(...), $columns));
    for ($i = 0; $i < $rows; $i++) {
        $analysis->add(array_values(array_map(static fn (array $values): string => $values[$i] ?? '', $columns)), null);
    }

    return [
        ImportProposal::settings(
            $title,
            $analysis->names,
            $analysis->tallies,
            $analysis->guesses(),
            $geometry,
            1,
            'Europe/Lisbon',
            '',
        ),
        $analysis,
    ];
}

it('proposes a title, keys and what to take', function (): void {
    [$settings] = proposed([
        'Tree No.' => ['A', 'B'],
        'Lat' => ['1.5', '2.5'],
        'Lon' => ['3.5', '4.5'],
        'Ümfang (cm)' => ['12', '15'],
        'Empty' => ['', ''],
    ]);
    expect($settings['title'])
        ->toBe('Old trees')
        ->and($settings['zone'])
        ->toBe('Europe/Lisbon')
        // `lat` and `lon` are a record's own, so no field may bear their names.
        ->and(array_column($settings['columns'], 'key'))
        ->toBe(['tree_no', 'lat_2', 'lon_2', 'umfang_cm', 'empty'])
        ->and(array_column($settings['columns'], 'take'))
        ->toBe([true, false, false, true, true])
        ->and($settings['location'])
        ->toMatchArray(['way' => 'pair', 'columns' => [2, 1], 'system' => 'EPSG:4326']);
});

it('leaves the system open where the numbers are no degrees', function (): void {
    [$settings] = proposed(['x' => ['530000', '531000'], 'y' => ['180000', '181000']]);
    expect($settings['location'])->toMatchArray(['way' => 'pair', 'system' => '']);
});

it('joins a date with the time beside it', function (): void {
    [$settings] = proposed([
        'Seen' => ['13/05/2026', '14/05/2026'],
        'At' => ['06:30', '07:15'],
        'Left' => ['08:00', '09:00'],
    ]);
    expect($settings['columns'][0])
        ->toMatchArray(['kind' => 'date_time', 'with' => 1, 'order' => 'dmy', 'take' => true])
        ->and($settings['columns'][1]['take'])
        ->toBeFalse()
        ->and($settings['columns'][2])
        ->toMatchArray(['kind' => 'time', 'take' => true]);
});

it('keeps a column of places as a value too, and one of bare pairs not', function (): void {
    [$named] = proposed(['Place' => ['Gull Rock', 'Heron Hut'], 'n' => ['1', '2']]);
    [$pairs] = proposed(['Place' => ['-14.5, -11.5', '-14.6, -11.6'], 'n' => ['1', '2']]);
    expect($named['location'])
        ->toMatchArray(['way' => 'text', 'columns' => [0]])
        ->and($named['columns'][0]['take'])
        ->toBeTrue()
        ->and($pairs['columns'][0]['take'])
        ->toBeFalse();
});

it('gives no two columns one key', function (): void {
    [$settings] = proposed(['Name' => ['a'], 'name!' => ['b'], 'id' => ['c'], 'Ñame' => ['d'], '2025' => ['e']]);
    $keys = array_column($settings['columns'], 'key');
    expect(array_unique($keys))
        ->toBe($keys)
        ->and($keys[2])
        ->not->toBe('id')
        ->and(preg_match('/^[a-z]/', $keys[4]))
        ->toBe(1);
});

it('makes a design that stands, whatever the heads', function (array $heads): void {
    [$settings] = proposed(array_fill_keys($heads, ['x', 'y']));
    $design = ImportProposal::design(ImportSettings::of($settings), [], GeometryKind::Point, 'file.csv', false);
    expect(count($design->fields))
        ->toBe(count($heads))
        ->and($design->info->source)
        ->toBe('file.csv')
        ->and(LayerDesign::fromArray($design->toArray())->toArray())
        ->toEqual($design->toArray());
})->with([
    'words of databases' => [['select', 'from', 'order', 'key', 'group']],
    'words of formulas' => [['true', 'and', 'not', 'null', 'in']],
    'words that every record has' => [['id', 'lon', 'version', 'author', 'photos']],
    'other scripts' => [['الاسم', '名前', 'имя', '🐢', '–']],
    'very long ones' => [[str_repeat('long head ', 12), str_repeat('other head ', 11)]],
]);

it('names records by the column that is called so', function (array $heads, ?string $name): void {
    [$settings] = proposed(
        array_map(static fn (string $kind): array => $kind === 'text' ? ['Ann', 'Bo', 'Cy'] : ['1', '2', '3'], $heads),
    );
    expect(ImportProposal::design(ImportSettings::of($settings), [], GeometryKind::Point, '', false)->nameField)->toBe(
        $name,
    );
})->with([
    'the first text' => [['n' => 'number', 'ref' => 'text', 'what' => 'text'], 'ref'],
    'one called name' => [['ref' => 'text', 'Name' => 'text'], 'name'],
    'one called nombre' => [['ref' => 'text', 'Nombre' => 'text'], 'nombre'],
    'no text at all' => [['a' => 'number', 'b' => 'number'], null],
]);

it('makes choices of values, codes as they are, words with codes of their own', function (): void {
    $choices = ImportProposal::choices(
        ['CC' => 4, 'Green turtle' => 2, 'green Turtle' => 1, ' 12 ' => 3, 'ü' => 1],
        false,
    );
    expect(array_map(static fn (Choice $c): array => [$c->code, $c->label], $choices))->toBe([
        ['12', '12'],
        ['CC', 'CC'],
        ['green_turtle', 'Green turtle'],
        ['u', 'ü'],
    ]);
    expect(
        array_map(
            static fn (Choice $c): string => $c->label,
            ImportProposal::choices(['a; b' => 1, 'b|c' => 1, '["d","a"]' => 1], true),
        ),
    )->toBe(['a', 'b', 'c', 'd']);
});

it('fits columns to the fields of a layer by label or key, each field once', function (): void {
    [$settings] = proposed([
        'CODE' => ['a'],
        'clutch_size' => ['3'],
        'Clutch size!' => ['4'],
        'unknown' => ['x'],
        'Width' => ['2'],
    ]);
    $design = LayerDesign::fromArray([
        'title' => 'Nests',
        'geometry' => 'point',
        'fields' => [
            ['key' => 'code', 'label' => 'Nest', 'kind' => 'short_text'],
            ['key' => 'clutch', 'label' => 'Clutch size', 'kind' => 'whole_number'],
            ['key' => 'width', 'label' => 'Width', 'kind' => 'calculated', 'formula' => 'clutch * 2'],
        ],
    ]);
    $into = ImportProposal::into($settings, $design);
    expect(array_map(static fn (array $c): ?string => $c['take'] ? $c['key'] : null, $into['columns']))
        ->toBe(['code', 'clutch', null, null, null])
        ->and($into['columns'][1]['kind'])
        ->toBe('whole_number');
});

it('reads settings as they are sent, and leaves out what makes no sense', function (): void {
    $settings = ImportSettings::of([
        'title' => ' Trees ',
        'columns' => [
            ['take' => true, 'kind' => 'date', 'label' => 'Seen'],
            ['take' => 'yes', 'kind' => 'calculated'],
            'x',
        ],
        'location' => ['way' => 'sideways', 'columns' => [0, 'x', 99], 'match' => 7],
        'mode' => 'new',
        'within' => -4,
        'unfit' => 'whatever',
    ]);
    expect($settings->title)
        ->toBe('Trees')
        ->and($settings->way)
        ->toBe('none')
        ->and($settings->placeColumns)
        ->toBe([0])
        ->and($settings->match)
        ->toBe(1.0)
        ->and($settings->within)
        ->toBe(1.0)
        ->and($settings->unfit)
        ->toBe('wait')
        ->and($settings->undecided())
        ->toBe([0])
        ->and($settings->inMetres())
        ->toBeFalse()
        ->and(array_map(static fn (ColumnSettings $c): bool => $c->take, $settings->columns))
        ->toBe([true, false, false]);
});

it('tells what most rows are, of points, lines and areas', function (array $shapes, string $kind): void {
    $analysis = new TableAnalysis(['a']);
    foreach ($shapes as $wkt) {
        $analysis->add(['x'], $wkt);
    }
    expect($analysis->geometry())->toBe($kind);
})->with([
    'points' => [['POINT (1 2)', 'POINT (1 2)', 'LINESTRING (1 2, 3 4)'], 'point'],
    'lines of one part and of several' => [
        ['MULTILINESTRING ((1 2, 3 4))', 'LINESTRING (1 2, 3 4)', 'POINT (1 2)'],
        'line',
    ],
    'areas' => [['MULTIPOLYGON (((1 2, 3 4, 5 6, 1 2)))'], 'area'],
    'nothing' => [['', 'GEOMETRYCOLLECTION EMPTY'], 'point'],
]);

it('looks at the beginning of a long table closely, and at every so manieth row after', function (): void {
    $analysis = new TableAnalysis(['n', 'kind']);
    for ($i = 1; $i <= 30_000; $i++) {
        $analysis->add([(string) $i, $i === 29_999 ? 'rare' : 'usual'], null);
    }
    expect($analysis->rows)
        ->toBe(30_000)
        ->and($analysis->tallies[0]->many)
        ->toBeTrue()
        ->and($analysis->tallies[0]->looked)
        ->toBeLessThan(22_000)
        ->and(array_keys($analysis->tallies[1]->distinct))
        ->toBe(['usual', 'rare']);
});
