<?php

declare(strict_types=1);

use App\Maps\Tallies\AreaTallies;
use App\Models\Map;
use App\Rights\Viewer;
use Illuminate\Support\Facades\DB;
use PinYard\Carto\Tally;
use PinYard\Design\LayerDesign;

/** A square of so many degrees from its south-western corner. */
function squareAt(float $west, float $south, float $side): array
{
    return [
        'type' => 'Polygon',
        'coordinates' => [
            [
                [$west, $south],
                [$west + $side, $south],
                [$west + $side, $south + $side],
                [$west, $south + $side],
                [$west, $south],
            ],
        ],
    ];
}

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->nests = $this->layer($this->field);
    $this->sectors = $this->layer($this->field, [
        'title' => 'Sectors',
        'geometry' => 'area',
        'fields' => [
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
            ['key' => 'people', 'label' => 'People', 'kind' => 'whole_number'],
        ],
    ]);
    $this->areas = [];
    $sector = function (string $name, float $west, ?int $people): array {
        $op = $this->add($this->sectors, [
            'values' => array_filter(['name' => $name, 'people' => $people], is_scalar(...)),
            'geometry' => squareAt($west, -14.6, 0.1),
            'fix' => null,
        ]);
        $this->areas[$name] = $op['record'];

        return $op;
    };
    $nest = fn (float $lon, ?int $clutch, string $species = 'CC'): array => $this->add($this->nests, [
        'values' => array_filter(
            ['code' => 'N'.$lon, 'clutch' => $clutch, 'species' => $species],
            is_scalar(...),
        ),
        'geometry' => ['type' => 'Point', 'coordinates' => [$lon, -14.55]],
    ]);
    $this->sync($this->head, [
        $sector('A', -11.9, 400_000),
        $sector('B', -11.8, 0),
        $sector('C', -11.7, null),
        // Over A and B both.
        $sector('D', -11.85, 50_000),
        $nest(-11.88, 100),
        $nest(-11.87, 90, 'CM'),
        $nest(-11.83, null),
        $nest(-11.78, 60),
        // In none.
        $nest(-11.5, 250),
    ]);
    $this->actingAs($this->head);
    $this->look = fn (array $of, array $breaks = [1.5]): array => [
        'kind' => 'inside',
        'of' => array_replace(['layer' => $this->nests->id, 'measure' => 'count'], $of),
        'method' => 'hand',
        'scheme' => 'tide',
        'breaks' => $breaks,
    ];
    $this->make = fn (array $part, array $more = []): array => $this->postJson(
        "/api/v1/programmes/{$this->field->id}/maps",
        ['title' => 'M', 'layers' => [['layer' => $this->sectors->id, ...$part]]] + $more,
    )->assertCreated()->json();
    $this->told = function (array $of) {
        $map = ($this->make)([
            'look' => ($this->look)($of),
            'label' => ['parts' => [['field' => 'name'], ['text' => '='], ['tally' => true]]],
        ]);
        $labels = array_map(
            static fn (array $f): string => $f['properties']['label'],
            $this->drawn("/api/v1/maps/{$map['id']}", 0),
        );
        sort($labels);

        return implode(' ', $labels);
    };
});

it('tells each measure of the records in each area', function (): void {
    $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'name' => 'Green',
        'filter' => ['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CM']]],
    ])->assertCreated()->json('id');
    expect(($this->told)(['measure' => 'count']))->toBe('A=3 B=1 C=0 D=2')
        ->and(($this->told)(['measure' => 'count', 'slice' => $slice]))->toBe('A=1 B=0 C=0 D=0')
        ->and(($this->told)(['measure' => 'sum', 'field' => 'clutch']))->toBe('A=190 B=60 C=0 D=60')
        ->and(($this->told)(['measure' => 'mean', 'field' => 'clutch']))->toBe('A=95 B=60 C=– D=60')
        ->and(($this->told)(['measure' => 'least', 'field' => 'clutch']))->toBe('A=90 B=60 C=– D=60')
        ->and(($this->told)(['measure' => 'most', 'field' => 'clutch']))->toBe('A=100 B=60 C=– D=60')
        ->and(($this->told)(['measure' => 'share', 'share' => $slice]))->toBe('A=33.33 % B=0 % C=– D=0 %')
        // Of nobody, or of an unknown number of people, there is no rate.
        ->and(($this->told)(['measure' => 'rate', 'by' => 'people', 'times' => 100_000]))->toBe('A=0.75 B=– C=– D=4')
        ->and(($this->told)(['measure' => 'rate', 'by' => 'people', 'times' => 100_000, 'field' => 'clutch']))
        ->toBe('A=47.5 B=– C=– D=120')
        ->and(($this->told)(['measure' => 'mean', 'field' => 'clutch', 'least' => 2]))->toBe('A=95 B=– C=– D=–');
    // Back to people, rounded to whole ones (common practice, no source).
    expect(round(0.75 * 400_000 / 100_000))->toBe(3.0);
});

it('agrees on map, legend, card and label, and hatches what too few records say', function (): void {
    $map = ($this->make)([
        'look' => ($this->look)(['measure' => 'mean', 'field' => 'clutch', 'least' => 2], [50]),
        'card' => ['fields' => ['name'], 'photos' => false],
    ]);
    $view = $this->getJson("/api/v1/maps/{$map['id']}/view")->assertOk()->json('layers.0');
    expect($view['by'])->toBe('Nests: mean of Clutch')
        ->and(array_map(static fn (array $l): array => [$l['code'], $l['label'], $l['count']], $view['legend']))->toBe([
            ['0', 'under 50', 0],
            ['1', '50 and more', 1],
            ['few', 'Nests: fewer than 2', 2],
            [null, 'No number', 1],
        ])
        ->and($view['legend'][2]['hatched'])->toBeTrue();
    $features = array_column($this->drawn("/api/v1/maps/{$map['id']}", 0), 'properties', 'id');
    $class = fn (string $name): ?string => $features[$this->areas[$name]]['class'] ?? null;
    expect([$class('A'), $class('B'), $class('C'), $class('D')])->toBe(['1', 'few', null, 'few']);
    $card = fn (string $name): array => $this->getJson(
        "/api/v1/maps/{$map['id']}/layers/{$map['layers'][0]['id']}/records/{$this->areas[$name]}",
    )->assertOk()->json('values.0');
    expect($card('A'))->toMatchArray(['label' => 'Nests: mean of Clutch', 'text' => '95 (of 2 records)'])
        ->and($card('B')['text'])->toBe('Nests: fewer than 2')
        ->and($card('C')['text'])->toBe('No number');
    $hatch = array_values(
        array_filter($view['style'], static fn (array $l): bool => isset($l['paint']['fill-pattern'])),
    );
    expect($hatch)->toHaveCount(1)->and($hatch[0]['paint']['fill-pattern'])->toStartWith('hatch-');
});

it('is kept current: a new record, one that moves, one that goes, a border that moves', function (): void {
    $map = ($this->make)(['look' => ($this->look)([])], ['audience' => 'link']);
    $state = function () use ($map): array {
        $this->actingAs($this->head);

        return array_column(
            $this->getJson("/api/v1/maps/{$map['id']}/view")->assertOk()->json('layers.0.legend'),
            'count',
        );
    };
    expect($state())->toBe([2, 2]);
    $tag = $this->getJson('/api/v1/open/maps/'.basename($map['address']))->assertOk()->headers->get('ETag');
    $new = $this->add($this->nests, ['geometry' => ['type' => 'Point', 'coordinates' => [-11.65, -14.55]]]);
    $again = $this->add($this->nests, ['geometry' => ['type' => 'Point', 'coordinates' => [-11.64, -14.55]]]);
    $this->sync($this->head, [$new, $again]);
    expect($state())->toBe([1, 3]);
    $this->getJson('/api/v1/open/maps/'.basename($map['address']), ['If-None-Match' => $tag])->assertOk();
    // One moves out to nowhere.
    $this->actingAs($this->head);
    $this->sync($this->head, [
        $this->changeOf($this->nests, $new['record'], [], [], [
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.2, -14.2]],
        ]),
    ]);
    expect($state())->toBe([2, 2]);
    $this->sync($this->head, [
        $this->changeOf($this->sectors, $this->areas['C'], [], [], [
            'geometry' => squareAt(-11.9, -14.6, 0.3),
            'fix' => null,
        ]),
    ]);
    expect($state())->toBe([1, 3]);
});

it('refuses what cannot be counted, with the reason', function (array $of, string $code): void {
    $look = ($this->look)($of);
    $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'title' => 'M',
        'layers' => [['layer' => $this->sectors->id, 'look' => $look]],
    ])->assertUnprocessable()->assertJsonPath('problems.0.code', $code);
    $this->postJson("/api/v1/layers/{$this->sectors->id}/classes", ['of' => $look['of'], 'count' => 3])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', $code);
})->with([
    'no such layer' => [['layer' => 987_654], 'tally_layer'],
    'no layer at all' => [['layer' => 'nests'], 'tally_layer'],
    'no such measure' => [['measure' => 'median'], 'tally_measure'],
    'a mean of nothing' => [['measure' => 'mean'], 'look_field'],
    'a mean of words' => [['measure' => 'mean', 'field' => 'code'], 'look_field'],
    'a share of what' => [['measure' => 'share'], 'tally_share'],
    'a slice that is not there' => [['slice' => 987_654], 'slice_unknown'],
    'a rate by words' => [['measure' => 'rate', 'by' => 'name'], 'look_field'],
    'a rate by seven' => [['measure' => 'rate', 'by' => 'people', 'times' => 7], 'tally_times'],
    'too high a least number' => [['measure' => 'mean', 'field' => 'clutch', 'least' => 100_000], 'tally_least'],
]);

it('finds the classes of what lies in areas', function (): void {
    $made = $this->postJson("/api/v1/layers/{$this->sectors->id}/classes", [
        'of' => ['layer' => $this->nests->id, 'measure' => 'count'],
        'method' => 'natural',
        'count' => 2,
    ])->assertOk()->json();
    expect($made['look']['kind'])->toBe('inside')
        ->and($made['look']['breaks'])->toBe([2])
        ->and($made['counts'])->toBe([2, 2])
        ->and($made['spread']['count'])->toBe(4);
    // Points are no areas.
    $this->postJson("/api/v1/layers/{$this->nests->id}/classes", [
        'of' => ['layer' => $this->nests->id, 'measure' => 'count'],
    ])->assertUnprocessable()->assertJsonPath('problems.0.code', 'tally_areas');
});

it('counts what MariaDB’s own st_contains counts, in areas over each other and with holes', function (): void {
    mt_srand(41);
    $at = static fn (float $from, float $to): float => round($from + (mt_rand() / mt_getrandmax()) * ($to - $from), 6);
    $ops = [];
    foreach ([40, 7, 150, 12, 4] as $corners) {
        [$lon, $lat] = [$at(-11.9, -11.1), $at(-14.9, -14.1)];
        $ring = [];
        for ($i = 0; $i < $corners; $i++) {
            $r = $at(0.1, 0.3);
            $ring[] = [
                round($lon + $r * cos(2 * M_PI * $i / $corners), 6),
                round($lat + $r * sin(2 * M_PI * $i / $corners), 6),
            ];
        }
        $corner = [$lon - 0.03, $lat - 0.03];
        $hole = [$corner, [$lon - 0.03, $lat + 0.03], [$lon + 0.03, $lat], $corner];
        $ops[] = $this->add($this->sectors, [
            'values' => ['name' => "S$corners"],
            'geometry' => ['type' => 'Polygon', 'coordinates' => [[...$ring, $ring[0]], $hole]],
            'fix' => null,
        ]);
    }
    for ($i = 0; $i < 400; $i++) {
        $ops[] = $this->add($this->nests, [
            'values' => ['code' => "R$i", 'species' => 'CC'] + ($i % 5 === 0 ? [] : ['clutch' => mt_rand(1, 200)]),
            'geometry' => ['type' => 'Point', 'coordinates' => [$at(-12, -11), $at(-15, -14)]],
        ]);
    }
    foreach (array_chunk($ops, 100) as $chunk) {
        $this->sync($this->head, $chunk);
    }
    $tally = Tally::read(
        ['layer' => $this->nests->id, 'measure' => 'mean', 'field' => 'clutch'],
        $this->sectors->design(),
        fn (): LayerDesign => $this->nests->design(),
    );
    $tallies = new AreaTallies(
        $tally,
        $this->sectors->refresh(),
        $this->nests->refresh(),
        null,
        null,
        Viewer::person($this->head),
    );
    $clutch = $this->nests->design()->field('clutch')->column();
    $wanted = DB::select(
        "select a.id, count(p.id) as n, count(p.$clutch) as known, sum(p.$clutch) as total, min(p.$clutch) as least "
            ."from {$this->sectors->table()} a left join {$this->nests->table()} p "
            .'on st_contains(a.shape, point(p.lon, p.lat)) group by a.id',
    );
    $all = $tallies->all();
    expect($wanted)->toHaveCount(9)->and(max(array_column($wanted, 'n')))->toBeGreaterThan(20);
    foreach ($wanted as $row) {
        [$state] = $all[$row->id];
        expect([$state->records, $state->known, $state->sum(), $state->least])->toBe([
            $row->n,
            $row->known,
            (float) $row->total,
            $row->least === null ? null : (float) $row->least,
        ]);
    }
    // Kept, they say the same again.
    $again = new AreaTallies(
        $tally,
        $this->sectors,
        $this->nests,
        null,
        null,
        Viewer::person($this->head),
    );
    expect($again->all())->toEqual($all);
});

it('keeps a map whose counted layer goes, and colours it again when that comes back', function (): void {
    $map = ($this->make)(['look' => ($this->look)([])], ['audience' => 'link']);
    $tidy = fn (string $what) => $this->postJson('/api/v1/things', [
        'action' => $what,
        'with' => null,
        'things' => [['kind' => 'layer', 'id' => $this->nests->id]],
    ])->assertOk();
    $tidy('bin');
    $view = $this->getJson("/api/v1/maps/{$map['id']}/view")->assertOk()->json();
    expect($view['layers'][0]['by'])->toBeNull()->and($view['notes'][0])->toContain('was coloured by');
    // What is saved meanwhile does not lose it.
    $this->patchJson("/api/v1/maps/{$map['id']}", [
        'layers' => [['opacity' => 0.5] + $map['layers'][0]],
    ])->assertOk()->assertJsonPath('layers.0.look.kind', 'inside')->assertJsonPath('layers.0.opacity', 0.5);
    $tidy('restore');
    expect($this->getJson("/api/v1/maps/{$map['id']}/view")->json('layers.0.by'))->toBe('Nests');
});

it('keeps the slices that it counts by, and takes them along to a copy of the programme', function (): void {
    $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'name' => 'Green',
        'filter' => ['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CM']]],
    ])->assertCreated()->json('id');
    $map = ($this->make)(['look' => ($this->look)(['measure' => 'share', 'share' => $slice])]);
    $this->deleteJson("/api/v1/layers/{$this->nests->id}/slices/$slice")
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'slice_used');
    $copy = $this->postJson('/api/v1/things', [
        'action' => 'copy',
        'with' => null,
        'things' => [['kind' => 'programme', 'id' => $this->field->id]],
    ]);
    $copied = Map::query()->where('programme_id', '>', $this->field->id)->latest('id')->firstOrFail();
    $of = $copied->layers[0]['look']['of'];
    expect($copy->status())->toBeLessThan(300)
        ->and($of['layer'])->not->toBe($this->nests->id)
        ->and($of['share'])->not->toBe($slice)
        ->and(Map::query()->findOrFail($map['id'])->layers[0]['look']['of']['share'])->toBe($slice);
});

it('goes to phones with its slices and its words, of several maps at once', function (): void {
    $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'name' => 'Green',
        'filter' => ['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CM']]],
    ])->assertCreated()->json('id');
    ($this->make)([
        'look' => ($this->look)(['measure' => 'mean', 'field' => 'clutch', 'slice' => $slice, 'least' => 2]),
    ]);
    ($this->make)(['look' => ($this->look)(['measure' => 'count'])]);
    $parts = fn ($person): array => array_column(
        array_column($this->actingAs($person)->getJson('/api/v1/packs')->assertOk()->json('0.maps'), 'layers'),
        0,
    );
    foreach ([$this->crew($this->field), $this->head] as $person) {
        [$mean, $count] = $parts($person);
        expect($mean['counted']['by'])->toBe('Nests: Green: mean of Clutch')
            ->and($mean['counted']['few'])->toBe('Nests: fewer than 2')
            ->and($mean['counted']['slice']['name'])->toBe('Green')
            ->and($mean['look']['of']['field'])->toBe('clutch')
            ->and($count['counted'])->toMatchArray(['by' => 'Nests', 'slice' => null, 'share' => null]);
    }
    // Where a nest is told to be somewhere in a square, no phone counts it in the area that it is told to be in; where
    // its area is told, it lies in that.
    $crew = $this->crew($this->field);
    $rules = [['cell', 500, null, null], ['area', null, $this->sectors->id, 'Nests']];
    foreach ($rules as [$place, $metres, $areas, $by]) {
        $this->actingAs($this->head)->putJson("/api/v1/layers/{$this->nests->id}/seen-by/crews", ['rule' => [
            'rows' => 'all', 'place' => $place, 'metres' => $metres, 'areas' => $areas,
            'fields' => null, 'photos' => true,
        ]])->assertOk();
        expect($parts($crew)[1]['counted']['by'] ?? null)->toBe($by);
    }
});

it('lets only whoever sees a layer count it on a map', function (): void {
    $other = $this->layer($this->programme(), ['title' => 'Theirs']);
    $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'title' => 'M',
        'layers' => [['layer' => $this->sectors->id, 'look' => ($this->look)(['layer' => $other->id])]],
    ])->assertUnprocessable()->assertJsonPath('problems.0.code', 'tally_layer');
    $this->postJson("/api/v1/layers/{$this->sectors->id}/classes", [
        'of' => ['layer' => $other->id, 'measure' => 'count'],
    ])->assertUnprocessable()->assertJsonPath('problems.0.code', 'tally_layer');
});
