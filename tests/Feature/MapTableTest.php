<?php

declare(strict_types=1);

use App\Models\Audience;

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->nests = $this->layer($this->field);
    $nest = fn (string $code, float $lon, ?int $clutch, string $species = 'CC'): array => $this->add($this->nests, [
        'values' => array_filter(['code' => $code, 'clutch' => $clutch, 'species' => $species], is_scalar(...)),
        'geometry' => ['type' => 'Point', 'coordinates' => [$lon, -14.5]],
    ]);
    $this->ops = [
        $nest('B', -11.9, 90),
        $nest('A', -11.8, 120, 'CM'),
        $nest('C', -11.7, null),
        $nest('D', -11.2, 50),
    ];
    $this->sync($this->head, $this->ops);
    $this->actingAs($this->head);
    $this->make = fn (array $beside, array $part = [], array $more = []): array => $this->postJson(
        "/api/v1/programmes/{$this->field->id}/maps",
        [
            'title' => 'M',
            'layers' => [['id' => 'lone', 'layer' => $this->nests->id, ...$part]],
            'beside' => ['part' => 'lone', 'columns' => ['code', 'clutch']] + $beside,
        ] + $more,
    )->assertCreated()->json();
    $this->rows = fn (array $map, string $query = ''): array => $this->getJson(
        "/api/v1/maps/{$map['id']}/table$query",
    )->assertOk()->json();
    $this->codes = fn (array $answer): string => implode('', array_column(array_column($answer['rows'], 'cells'), 0));
});

it('tells the rows in the order that was chosen, or asked for; what is missing comes last', function (): void {
    $map = ($this->make)(['sort' => 'clutch', 'down' => true]);
    $all = ($this->rows)($map);
    expect(($this->codes)($all))->toBe('ABDC')
        ->and($all['found'])->toBe(4)
        ->and($all['columns'])->toBe([
            ['key' => 'code', 'label' => 'Code', 'number' => false],
            ['key' => 'clutch', 'label' => 'Clutch', 'number' => true],
        ])
        ->and($all['rows'][3]['cells'])->toBe(['C', null])
        ->and(($this->codes)(($this->rows)($map, '?sort=clutch')))->toBe('DBAC')
        ->and(($this->codes)(($this->rows)($map, '?sort=code&down=1')))->toBe('DCBA')
        ->and(($this->codes)(($this->rows)($map, '?sort=code&limit=2')))->toBe('AB');
});

it('tells but what the map shows, counts it by class, and brings what was picked', function (): void {
    $map = ($this->make)(['sort' => 'code'], ['look' => ['kind' => 'category', 'field' => 'species']]);
    $box = ($this->rows)($map, '?bbox=-12,-15,-11.5,-14');
    expect(($this->codes)($box))->toBe('ABC')
        ->and($box['found'])->toBe(3)
        ->and($box['counts'])->toBe(['CC' => 2, 'CM' => 1])
        ->and($box['picked'])->toBeNull()
        ->and(array_column($box['rows'], 'class'))->toBe(['CM', 'CC', 'CC']);
    $class = ($this->rows)($map, '?class=CC&bbox=-12,-15,-11.5,-14');
    expect(($this->codes)($class))->toBe('BC')->and($class['found'])->toBe(2)
        // The counts stay those of all, so that another can be chosen.
        ->and($class['counts'])->toBe(['CC' => 2, 'CM' => 1]);
    $picked = ($this->rows)($map, '?limit=1&pick='.$this->ops[2]['record']);
    expect(($this->codes)($picked))->toBe('A')->and($picked['picked']['cells'][0])->toBe('C');
    expect(($this->rows)($map, '?class=')['found'])->toBe(0);
});

it('goes by classes of numbers as the map does', function (): void {
    $map = ($this->make)(
        ['sort' => 'code'],
        ['look' => ['kind' => 'classes', 'field' => 'clutch', 'breaks' => [90, 120]]],
    );
    $of = fn (string $class): string => ($this->codes)(($this->rows)($map, "?class=$class"));
    // A break belongs to the class above it.
    expect([$of('0'), $of('1'), $of('2'), $of('')])->toBe(['D', 'B', 'A', 'C'])
        ->and(($this->rows)($map)['counts'])->toBe(['' => 1, '0' => 1, '1' => 1, '2' => 1]);
});

it('sorts areas by what they are coloured by', function (): void {
    $sectors = $this->layer($this->field, [
        'title' => 'Sectors',
        'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $square = fn (string $name, float $west, float $side): array => $this->add($sectors, [
        'values' => ['name' => $name],
        'geometry' => [
            'type' => 'Polygon',
            'coordinates' => [
                [
                    [$west, -14.9],
                    [$west + $side, -14.9],
                    [$west + $side, -14.1],
                    [$west, -14.1],
                    [$west, -14.9],
                ],
            ],
        ],
        'fix' => null,
    ]);
    $this->sync($this->head, [$square('few', -11.3, 0.2), $square('many', -11.95, 0.3), $square('none', -11.5, 0.1)]);
    $this->actingAs($this->head);
    $map = $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'title' => 'M',
        'layers' => [
            [
                'id' => 'lareas',
                'layer' => $sectors->id,
                'look' => [
                    'kind' => 'inside',
                    'of' => ['layer' => $this->nests->id, 'measure' => 'mean', 'field' => 'clutch'],
                    'breaks' => [80],
                ],
            ],
        ],
        'beside' => ['part' => 'lareas', 'columns' => ['name', '@tally'], 'sort' => '@tally', 'down' => true],
    ])->assertCreated()->json();
    $told = ($this->rows)($map);
    expect(array_column($told['rows'], 'cells'))->toBe([['many', '105'], ['few', '50'], ['none', null]])
        ->and(array_column($told['rows'], 'value'))->toBe([105, 50, null])
        ->and($told['columns'][1]['label'])->toBe('Nests: mean of Clutch')
        ->and($told['counts'])->toEqual(['' => 1, '0' => 1, '1' => 1])
        ->and(array_column(array_column(($this->rows)($map, '?class=1')['rows'], 'cells'), 0))->toBe(['many'])
        ->and(array_column(array_column(($this->rows)($map, '?sort=@tally')['rows'], 'cells'), 0))
        ->toBe(['few', 'many', 'none']);
});

it('gives a stranger the same, with ids of its own, and nothing of columns that are not shown', function (): void {
    $map = ($this->make)(['sort' => 'code'],
        ['look' => ['kind' => 'single'], 'card' => ['fields' => [], 'photos' => false]],
        ['audience' => 'link'],
    );
    app('auth')->forgetGuards();
    $open = '/api/v1/open/maps/'.basename($map['address']);
    expect($this->getJson($open)->assertOk()->json('beside.columns'))->toBe(['code', 'clutch']);
    $answer = $this->getJson("$open/table")->assertOk();
    expect(($this->codes)($answer->json()))->toBe('ABCD')
        ->and($answer->content())->not->toContain('"CC"')
        ->not->toContain($this->ops[0]['record']);
    $id = $answer->json('rows.1.id');
    $this->getJson("$open/layers/lone/records/$id")->assertOk();
    $this->getJson("$open/table?pick=$id")->assertOk()->assertJsonPath('picked.cells.0', 'B');
    $this->getJson("$open/table?sort=species")->assertUnprocessable()->assertJsonPath('problems.0.code', 'table_sort');
    $tag = $answer->headers->get('ETag');
    $this->getJson("$open/table", ['If-None-Match' => $tag])->assertStatus(304);
});

it('refuses a table of what is not there, with the reason', function (mixed $beside, string $code): void {
    $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'title' => 'M',
        'layers' => [['id' => 'lone', 'layer' => $this->nests->id]],
        'beside' => $beside,
    ])->assertUnprocessable()->assertJsonPath('problems.0.code', $code);
})->with([
    'of no layer' => [['columns' => ['code']], 'table_part'],
    'of another map’s layer' => [['part' => 'lother', 'columns' => ['code']], 'table_part'],
    'without columns' => [['part' => 'lone', 'columns' => []], 'table_columns'],
    'with too many' => [['part' => 'lone', 'columns' => array_fill(0, 13, 'code')], 'table_columns'],
    'with what is no field' => [['part' => 'lone', 'columns' => ['wings']], 'table_column'],
    'with what colours no area' => [['part' => 'lone', 'columns' => ['@tally']], 'table_column'],
    'sorted by what it has not' => [['part' => 'lone', 'columns' => ['code'], 'sort' => 'clutch'], 'table_sort'],
    'that is no yes and no no' => [['part' => 'lone', 'columns' => ['code'], 'down' => 'yes'], 'must_be_yes_no'],
]);

it('outlives its layer and its columns', function (): void {
    $map = ($this->make)(['sort' => 'clutch'], [], ['audience' => Audience::Link->value]);
    $design = $this->nests->design()->toArray();
    $design['fields'] = array_values(
        array_filter($design['fields'], static fn (array $f): bool => $f['key'] !== 'clutch'),
    );
    $this->putJson("/api/v1/layers/{$this->nests->id}/design", [
        'design' => $design,
        'base' => $this->nests->design_version,
    ]);
    if ($this->nests->refresh()->design()->field('clutch') === null) {
        expect(($this->codes)(($this->rows)($map)))->toBe('ABCD');
    }
    $this->patchJson("/api/v1/maps/{$map['id']}", ['layers' => []])->assertOk();
    expect($this->getJson("/api/v1/maps/{$map['id']}/view")->json('beside'))->toBeNull();
    $this->getJson("/api/v1/maps/{$map['id']}/table")->assertNotFound();
    $this->patchJson("/api/v1/maps/{$map['id']}", ['beside' => null])->assertOk()->assertJsonPath('beside', null);
});
