<?php

declare(strict_types=1);

uses(Tests\Intake::class);

beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
});

const NESTS_CSV = "Nest;Species;Laid;Eggs;Lat;Lon\nA1;Loggerhead;03.05.2025;104;-14,5;-11,5\nA2;Green;14.05.2025;98;-14,51;-11,51\nA3;Loggerhead;15.05.2025;;-14,52;-11,52\nA4;Loggerhead;15.05.2025;12,5;-14,52;-11,52\nA5;Green;16.05.2025;88;;\nA6;Green;16.05.2025;88;-11,53;-14,53\n";

it('brings a spreadsheet in: guesses, review, landing, history', function (): void {
    $import = $this->bring($this->desk, $this->programme_, ['nests.csv' => NESTS_CSV]);
    expect($import['state'])->toBe('review')
        ->and(array_column($import['reading']['columns'], 'kind'))->toBe(['short_text', 'one_choice', 'date', 'decimal', 'decimal', 'decimal'])
        ->and($import['settings']['columns'][2]['order'])->toBe('dmy')
        ->and($import['settings']['location'])->toMatchArray(['way' => 'pair', 'columns' => [5, 4], 'system' => 'EPSG:4326']);
    $columns = $import['settings']['columns'];
    $columns[3]['kind'] = 'whole_number';
    $columns[1]['kind'] = 'one_choice';
    $import = $this->decide($import, ['columns' => $columns]);
    expect($import['review'])->toMatchArray(['tried' => 6, 'ready' => 4, 'placed' => 5, 'waiting' => 2])
        ->and($import['review']['unfit'][3])->toBe(['count' => 1, 'rows' => [['row' => 5, 'value' => 12.5]]])
        ->and($import['review']['corrections']['swapped'])->toBe(1);
    $import = $this->land($import);
    expect($import['state'])->toBe('done')->and($import['counts'])->toMatchArray(['read' => 6, 'made' => 4, 'waiting' => 2]);
    $records = collect($this->recordsOf($import['layer']))->keyBy('name');
    expect($records->keys()->sort()->values()->all())->toBe(['A1', 'A2', 'A3', 'A6'])
        ->and($records['A1']['values'])->toMatchArray(['species' => 'Loggerhead', 'laid' => '2025-05-03', 'eggs' => 104])
        ->and([$records['A6']['lon'], $records['A6']['lat']])->toBe([-11.53, -14.53])
        ->and($this->getJson("/api/v1/layers/{$import['layer']}/records/{$records['A1']['id']}/history")->json('0.kind'))->toBe('import');
});
