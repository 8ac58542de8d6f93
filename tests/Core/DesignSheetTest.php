<?php

declare(strict_types=1);

use PinYard\Design\LayerDesign;
use PinYard\Export\DesignSheet;
use PinYard\Export\DesignSheetReader;
use PinYard\Export\SheetTexts;

/** Rows as a spreadsheet gives them back: every cell a text. */
function asTexts(array $sheets): array
{
    return array_map(
        static fn (array $rows): array => array_map(
            static fn (array $row): array => array_map(strval(...), $row),
            $rows,
        ),
        $sheets,
    );
}

it('comes back from its own sheet as it was', function (): void {
    $many = array_map(static fn (int $i): array => ['code' => "c$i", 'label' => "Choice $i"], range(1, 60));
    $design = LayerDesign::fromArray([
        'title' => 'Nests',
        'purpose' => 'All of them',
        'geometry' => 'area',
        'name_field' => 'code',
        'fields' => [
            [
                'key' => 'code',
                'label' => 'Nest code',
                'kind' => 'short_text',
                'required' => true,
                'most' => 12,
                'shape' => '@@-###',
                'hint' => 'As on the stake',
            ],
            ['key' => 'part', 'label' => 'Counts', 'kind' => 'heading'],
            [
                'key' => 'clutch',
                'label' => 'Clutch',
                'kind' => 'whole_number',
                'limits' => ['lowest' => 40, 'highest' => 180, 'outside' => 'ask'],
                'unit' => 'eggs',
                'default' => 100,
            ],
            [
                'key' => 'depth',
                'label' => 'Depth',
                'kind' => 'decimal',
                'limits' => ['lowest' => 0.5, 'outside' => 'stop'],
                'unit' => 'm',
            ],
            ['key' => 'opened', 'label' => 'Opened', 'kind' => 'yes_no', 'default' => false],
            [
                'key' => 'laid',
                'label' => 'Laid on',
                'kind' => 'date',
                'limits' => ['highest' => 'today', 'outside' => 'stop'],
                'default' => 'today',
            ],
            [
                'key' => 'species',
                'label' => 'Species',
                'kind' => 'one_choice',
                'required' => true,
                'choices' => [['code' => 'CC', 'label' => 'Loggerhead'], ['code' => 'CM', 'label' => 'Green']],
            ],
            [
                'key' => 'threats',
                'label' => 'Threats',
                'kind' => 'several_choices',
                'choices' => [
                    ['code' => 'a', 'label' => 'Dogs; cats', 'colour' => '#2F5D8A', 'mark' => 'disc'],
                    ['code' => 'b', 'label' => 'Tide', 'retired' => true],
                ],
                'default' => ['a'],
            ],
            ['key' => 'site', 'label' => 'Site', 'kind' => 'one_choice', 'choices' => $many],
            [
                'key' => 'why',
                'label' => 'Why',
                'kind' => 'long_text',
                'show_when' => 'opened == true',
                'require_when' => 'clutch < 50',
            ],
            ['key' => 'twice', 'label' => 'Twice', 'kind' => 'calculated', 'formula' => 'clutch * 2', 'unit' => 'eggs'],
        ],
        'photos' => ['allowed' => true, 'least' => 1, 'most' => 3],
    ]);
    $reader = new DesignSheetReader;
    $read = $reader->read(asTexts(DesignSheet::of([$design])), 'file');
    expect($reader->notes)
        ->toBe([])
        ->and($read)
        ->toHaveCount(1)
        ->and(LayerDesign::fromArray($read[0])->toArray())
        ->toBe($design->toArray());
});

it('brings all kinds and starters through a sheet', function (string $file): void {
    $design = LayerDesign::fromArray(json_decode((string) file_get_contents($file), true));
    $read = (new DesignSheetReader)->read(asTexts(DesignSheet::of([$design])), 'x');
    $same = LayerDesign::fromArray($read[0])->toArray();
    expect($same['fields'])->toBe($design->toArray()['fields']);
})->with(fn (): array => glob(__DIR__.'/../../core/Design/starters/*.json'));

it('puts what is visited before its visits', function (): void {
    $of = static fn (array $change): LayerDesign => LayerDesign::fromArray([
        'title' => 'Nests',
        'geometry' => 'point',
        'fields' => [['key' => 'a', 'label' => 'A', 'kind' => 'date']],
        ...$change,
    ]);
    $read = (new DesignSheetReader)->read(
        asTexts(DesignSheet::of([$of(['title' => 'A visit', 'visits_of' => 'Nests']), $of([])])),
        'x',
    );
    expect(array_column($read, 'title'))
        ->toBe(['Nests', 'A visit'])
        ->and($read[1]['visits_of'])
        ->toBe('Nests');
});

// Common practice, no source: a title merged over the heads, a layer's name once, kinds in people's words, choices in
// one cell.
it('reads a sheet that a person drew up, and says what it made of it', function (): void {
    $rows = [
        ['Water survey 2026', '', '', ''],
        ['', '', '', ''],
        ['Form', 'Question', 'Type', 'Mandatory', 'Options', 'Min', 'Max', 'Help'],
        ['Wells', 'Name of the well', 'text', 'x', '', '', '', ''],
        ['', 'Temperature', 'Number', 'no', '', '0', '40,5', '°C'],
        ['', 'Colour', 'select one', 'yes', 'Clear, Brown, Ölig', '', '', ''],
        ['', '2nd check', 'tick', 'maybe', '', '', '', ''],
        ['', '', '', '', '', '', '', ''],
        ['Pumps', 'Serial', 'string', '', '', '', '', ''],
        ['', 'Works', 'boolean', '', '', '', '', ''],
    ];
    $reader = new DesignSheetReader;
    [$wells, $pumps] = $reader->read(['Sheet1' => $rows], 'survey');
    expect(array_column($wells['fields'], 'key'))
        ->toBe(['name_of_the_well', 'temperature', 'colour', 'field_2nd_check'])
        ->and(array_column($wells['fields'], 'kind'))
        ->toBe(['short_text', 'decimal', 'one_choice', 'short_text'])
        ->and($wells['fields'][0]['required'])
        ->toBeTrue()
        ->and($wells['fields'][1]['limits'])
        ->toBe(['lowest' => 0, 'highest' => 40.5, 'outside' => 'stop'])
        ->and($wells['fields'][2]['choices'])
        ->toBe([
            ['code' => 'clear', 'label' => 'Clear'],
            ['code' => 'brown', 'label' => 'Brown'],
            ['code' => 'olig', 'label' => 'Ölig'],
        ])
        ->and(array_column($pumps['fields'], 'kind'))
        ->toBe(['short_text', 'yes_no'])
        ->and(array_map(fn ($p) => $p->code, $reader->notes))
        ->toBe(['sheet_kind', 'sheet_yes'])
        ->and($reader->notes[0]->params['where'])
        ->toBe('Sheet1, row 7');
    LayerDesign::fromArray($wells);
});

it('takes a sheet for each layer where none is named, and keys that are taken', function (): void {
    $reader = new DesignSheetReader;
    $read = $reader->read(
        [
            'Trees' => [['Field', 'Kind', 'Key'], ['Girth', 'decimal', 'Girth (cm)'], ['Girth', 'decimal', '']],
            'Notes' => [['nothing', 'here']],
        ],
        'x',
    );
    expect($read[0]['title'])
        ->toBe('Trees')
        ->and(array_column($read[0]['fields'], 'key'))
        ->toBe(['girth_cm', 'girth'])
        ->and($reader->notes[0]->code)
        ->toBe('sheet_key');
    expect(
        (new DesignSheetReader)->read(['csv' => [['Field', 'Kind'], ['id', 'text'], ['true', 'text']]], 'Birds')[0],
    )->toMatchArray(['title' => 'Birds']);
});

it('is refused where no sheet holds fields', function (array $sheets): void {
    expect(refusals(fn () => (new DesignSheetReader)->read($sheets, 'x')))->toBe(['sheet_no_fields']);
})->with([
    [[]],
    [['A' => []]],
    [['A' => [['Field', 'Weather'], ['x', 'y']]]],
    [['A' => array_fill(0, 20, ['']) + [20 => ['Field', 'Kind']]]],
]);

it('knows kinds, yes and no in plain words', function (string $word, ?string $kind): void {
    expect(SheetTexts::kind($word)?->value)->toBe($kind);
})->with([
    ['Integer', 'whole_number'],
    ['whole_number', 'whole_number'],
    [' BOOLEAN ', 'yes_no'],
    ['timestamp', 'date_time'],
    ['several choices', 'several_choices'],
    ['Section', 'heading'],
    ['colour', null],
    ['', null],
]);
