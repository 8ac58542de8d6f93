<?php

declare(strict_types=1);

use PinYard\Carto\Label;
use PinYard\Carto\LayerOnMap;
use PinYard\Carto\Look;
use PinYard\Carto\MapWeight;
use PinYard\Carto\WeightOfLayer;
use PinYard\Carto\ZoomRange;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Neighbours;
use PinYard\Refused;

function mappedDesign(string $geometry = 'point', array $fields = []): LayerDesign
{
    return LayerDesign::fromArray([
        'title' => 'Nests',
        'purpose' => '',
        'geometry' => $geometry,
        'fields' => $fields === [] ? [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            ['key' => 'part', 'label' => 'Part', 'kind' => 'heading'],
        ] : $fields,
    ], Neighbours::none());
}

it('comes to a map with a look, a full card, drawn everywhere', function (): void {
    $part = LayerOnMap::suggest(LayerOnMap::newId(), 7, mappedDesign());
    expect($part->toArray())->toMatchArray([
        'layer' => 7,
        'title' => null,
        'card' => ['fields' => ['code', 'eggs'], 'photos' => true],
        'label' => null,
        'slice' => null,
        'opacity' => 1.0,
        'zoom' => [0.0, 22.0],
        'visible' => true,
        'in_legend' => true,
    ])->and($part->id)->toMatch('/^l[0-9a-f]{7}$/');
});

it('is the same when it is read again from what it says of itself', function (): void {
    $design = mappedDesign();
    $part = LayerOnMap::read([
        'id' => 'abc123',
        'title' => '  Nester ',
        'look' => ['kind' => 'single', 'peg' => ['head' => 'disc', 'colour' => '#0f5c53']],
        'card' => ['fields' => ['eggs', 'nonsense'], 'photos' => false],
        'label' => ['parts' => [['field' => 'code'], ['text' => ' · '], ['field' => 'eggs']], 'zoom' => [12, 22]],
        'slice' => 4,
        'opacity' => 0.4,
        'zoom' => [8, 14.5],
        'visible' => false,
        'in_legend' => false,
    ], 7, $design, 'layers/0');
    $again = LayerOnMap::read($part->toArray(), 7, $design, 'layers/0')->toArray();
    expect($again)->toEqual($part->toArray())
        ->and($again['id'])->toBe('abc123')
        ->and($again['title'])->toBe('Nester')
        ->and($again['card'])->toBe(['fields' => ['eggs'], 'photos' => false]);
    expect(LayerOnMap::stored($part->toArray(), $design)->toArray())->toEqual($part->toArray());
});

it('is refused with the reason and where it stands', function (array $bad, string $code, string $field): void {
    try {
        LayerOnMap::read($bad, 7, mappedDesign(), 'layers/3');
        $problem = null;
    } catch (Refused $e) {
        $problem = $e->problems[0];
    }
    expect($problem?->code)->toBe($code)->and($problem?->field)->toBe("layers/3/$field");
})->with([
    [['opacity' => 0], 'layer_opacity', 'opacity'],
    [['opacity' => 1.01], 'layer_opacity', 'opacity'],
    [['opacity' => '0.5'], 'layer_opacity', 'opacity'],
    [['opacity' => NAN], 'layer_opacity', 'opacity'],
    [['zoom' => [5, 5]], 'zoom_range', 'zoom'],
    [['zoom' => [9, 4]], 'zoom_range', 'zoom'],
    [['zoom' => [-1, 4]], 'zoom_range', 'zoom'],
    [['zoom' => [0, NAN]], 'zoom_range', 'zoom'],
    [['zoom' => [0, 30]], 'zoom_range', 'zoom'],
    [['zoom' => 'all'], 'zoom_range', 'zoom'],
    [['zoom' => [1]], 'zoom_range', 'zoom'],
    [['visible' => 'yes'], 'must_be_yes_no', 'visible'],
    [['in_legend' => 1], 'must_be_yes_no', 'in_legend'],
    [['title' => str_repeat('ü', 81)], 'layer_on_map_title', 'title'],
    [['title' => ['x']], 'layer_on_map_title', 'title'],
    [['look' => ['kind' => 'category', 'field' => 'eggs']], 'look_field', 'look/field'],
    [['label' => ['parts' => []]], 'label_empty', 'label'],
    [['label' => ['parts' => [['text' => 'only words']]]], 'label_empty', 'label'],
    [['label' => ['parts' => [['field' => 'gone']]]], 'label_field', 'label/parts/0'],
    [['label' => ['parts' => [['field' => 'part']]]], 'label_field', 'label/parts/0'],
    [['label' => ['parts' => [['field' => 'code'], ['text' => str_repeat('x', 41)]]]], 'label_text', 'label/parts/1'],
    [['label' => ['parts' => array_fill(0, 13, ['field' => 'code'])]], 'label_parts', 'label'],
    [['label' => ['parts' => [['field' => 'code']], 'size' => 60]], 'label_size', 'label/size'],
    [['label' => ['parts' => [['field' => 'code']], 'size' => '13']], 'label_size', 'label/size'],
    [['label' => ['parts' => [['field' => 'code']], 'zoom' => [3, 1]]], 'zoom_range', 'label/zoom'],
    [['label' => 'code'], 'label_parts', 'label'],
]);

it('goes on without what has left the design', function (): void {
    $stored = [
        'id' => 'abc1',
        'layer' => 7,
        'look' => ['kind' => 'category', 'field' => 'gone'],
        'card' => ['fields' => ['gone', 'code'], 'photos' => true],
        'label' => ['parts' => [['field' => 'gone']], 'size' => 13, 'zoom' => [0, 22]],
    ];
    $part = LayerOnMap::stored($stored, mappedDesign());
    $sized = ['kind' => 'classes', 'field' => 'eggs', 'breaks' => [5], 'size' => ['field' => 'gone', 'most' => 3]];
    $left = LayerOnMap::stored(['look' => $sized] + $stored, mappedDesign())->look;
    expect($left->fields())->toBe(['eggs'])->and($left->size)->toBeNull();
    expect($part->look->fields())->toBe([])->and($part->label)->toBeNull()->and($part->fields)->toBe(['code']);
});

it('puts a label together, and says what is missing', function (): void {
    $label = Label::read(
        ['parts' => [['field' => 'code'], ['text' => ' (eggs: '], ['field' => 'eggs'], ['text' => ')']]],
        mappedDesign(),
        'label',
    );
    $of = fn (array $values): ?string => $label->textOf(
        fn (string $key): ?string => $values[$key] ?? null,
        fn (): ?string => null,
    );
    expect($of(['code' => 'GH-1', 'eggs' => '90']))->toBe('GH-1 (eggs: 90)')
        ->and($of(['code' => 'GH-1']))->toBe('GH-1 (eggs: –)')
        ->and($of(['code' => '', 'eggs' => '0']))->toBe('– (eggs: 0)')
        ->and($of([]))->toBeNull()
        ->and($label->fields())->toBe(['code', 'eggs']);
});

it('narrows what a style says of zooms, and leaves out what would never be drawn', function (): void {
    $range = ZoomRange::read([8, 12], 'zoom');
    expect($range->narrow(['id' => 'a', 'minzoom' => 10]))->toEqual(['id' => 'a', 'minzoom' => 10.0, 'maxzoom' => 12.0])
        ->and($range->narrow(['id' => 'a', 'maxzoom' => 10]))
        ->toEqual(['id' => 'a', 'minzoom' => 8.0, 'maxzoom' => 10.0])
        ->and($range->narrow(['id' => 'a', 'maxzoom' => 8]))->toBeNull()
        ->and(ZoomRange::all()->narrow(['id' => 'a']))->toBe(['id' => 'a'])
        ->and(ZoomRange::all()->narrow(['id' => 'a', 'minzoom' => 10]))->toEqual(['id' => 'a', 'minzoom' => 10.0]);
});

it('draws solid, faint, in a range and with labels as it says', function (string $geometry): void {
    $part = LayerOnMap::read([
        'opacity' => 0.5,
        'zoom' => [11, 22],
        'label' => ['parts' => [['field' => 'code']], 'size' => 15],
    ], 7, mappedDesign($geometry), 'layers/0');
    $style = $part->style('src');
    $types = array_column($style, 'type', 'id');
    // Dots stand in for pegs below zoom 10, so here are none.
    expect(array_filter(array_keys($types), fn (string $id): bool => str_ends_with($id, '-dots')))->toBe([]);
    foreach ($style as $layer) {
        expect($layer['minzoom'])->toBeGreaterThanOrEqual(11)->and($layer['source'])->toBe('src');
        $faint = array_filter($layer['paint'], fn (mixed $v, string $k): bool => str_ends_with($k, 'opacity') &&
            $v <= 0.5, ARRAY_FILTER_USE_BOTH);
        expect($faint)->not->toBe([]);
    }
    $labels = array_values(array_filter($style, fn (array $l): bool => isset($l['layout']['text-field'])));
    expect(count($labels))->toBe(['point' => 1, 'line' => 3, 'area' => 2][$geometry]);
    foreach ($labels as $label) {
        // They give way to each other: the style's own default.
        expect($label['layout'])->not->toHaveKey('text-allow-overlap')->and($label['layout']['text-size'])->toBe(15);
    }
    expect(count(array_unique(array_column($style, 'id'))))->toBe(count($style));
})->with(['point', 'line', 'area']);

it('weighs what is drawn when the map opens, and says what would help', function (): void {
    $of = fn (WeightOfLayer ...$layers): MapWeight => new MapWeight(array_values($layers));
    $light = $of(
        new WeightOfLayer('Nests', 900, 900, 90_000, true),
        new WeightOfLayer('Big', 20_000, 20_000, 4_000_000, false),
    );
    expect($light->level())->toBe('light')->and($light->shapes())->toBe(900)->and($light->reasons())->toBe([]);
    $many = $of(new WeightOfLayer('Nests', 12_000, 12_000, 1_500_000, true));
    expect($many->level())->toBe('medium')->and(array_column($many->reasons(), 'code'))->toBe(['shapes']);
    $cut = $of(new WeightOfLayer('Nests', 20_000, 45_000, 3_000_000, true), new WeightOfLayer('X', 1, 1, 100, true));
    expect($cut->level())->toBe('medium')
        ->and(array_column($cut->reasons(), 'code'))->toBe(['cut', 'shapes'])
        ->and($cut->reasons()[0])->toMatchArray(['drawn' => 20_000, 'total' => 45_000]);
    $corners = $of(new WeightOfLayer('Shores', 40, 40, 9_000_000, true));
    expect($corners->level())->toBe('heavy')->and(array_column($corners->reasons(), 'code'))->toBe(['corners']);
    $layers = $of(...array_fill(0, 9, new WeightOfLayer('L', 1, 1, 100, true)));
    expect($layers->level())->toBe('medium')->and($layers->reasons())->toBe([['code' => 'layers', 'count' => 9]]);
    expect($of()->level())->toBe('light');
});

it('proposes a look that can be read, and says why', function (array $sizes, ?string $field, array $reason): void {
    $fields = [['key' => 'code', 'label' => 'Code', 'kind' => 'short_text']];
    foreach ($sizes as $key => [$inUse, $retired]) {
        $choices = array_map(
            fn (int $i): array => ['code' => "c$i", 'label' => "C $i"] + ($i >= $inUse ? ['retired' => true] : []),
            range(0, $inUse + $retired - 1),
        );
        $fields[] = ['key' => $key, 'label' => ucfirst($key), 'kind' => 'one_choice', 'choices' => $choices];
    }
    $design = mappedDesign('point', $fields);
    expect(Look::suggest($design)->fields()[0] ?? null)->toBe($field)->and(Look::reason($design))->toBe($reason);
})->with([
    'none' => [[], null, ['code' => 'none']],
    'few' => [['kind' => [4, 0]], 'kind', ['code' => 'few', 'field' => 'Kind', 'count' => 4]],
    'just few enough, retired ones apart' => [
        ['kind' => [12, 30]], 'kind', ['code' => 'few', 'field' => 'Kind', 'count' => 12],
    ],
    'too many, then few' => [
        ['town' => [13, 0], 'kind' => [2, 0]], 'kind', ['code' => 'few', 'field' => 'Kind', 'count' => 2],
    ],
    'far too many' => [
        ['town' => [900, 0]], null, ['code' => 'many', 'field' => 'Town', 'count' => 900, 'most' => 12],
    ],
]);
