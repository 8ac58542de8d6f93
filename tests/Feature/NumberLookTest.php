<?php

declare(strict_types=1);

use PinYard\Carto\Scheme;
use PinYard\Stats\Classes;
use PinYard\Stats\Method;
use PinYard\Stats\Spread;

/* Marks by classes of a number: worked out, drawn, told in the legend, behind a link and on the phone. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->phone = $this->crew($this->field);
    $this->nests = $this->layer($this->field, [
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            ['key' => 'clutch', 'label' => 'Clutch', 'kind' => 'whole_number', 'unit' => 'eggs'],
            ['key' => 'double', 'label' => 'Double', 'kind' => 'calculated', 'formula' => 'clutch * 2'],
        ],
    ]);
    $this->bring = function (array $clutches): void {
        $this->sync(
            $this->phone,
            array_map(
                fn (int $i, ?int $n): array => $this->add($this->nests, [
                    'values' => array_filter(['code' => "N-$i", 'clutch' => $n], fn ($v): bool => $v !== null),
                ]),
                array_keys($clutches),
                $clutches,
            ),
        );
        $this->actingAs($this->head);
    };
    $this->actingAs($this->head);
    $this->newMap = fn (): array => $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'layer' => $this->nests->id,
        'title' => 'Clutches',
    ])->assertCreated()->json();
    // The look of the one layer of a map.
    $this->look = fn (int $map, array $look, array $more = []) => $this->patchJson("/api/v1/maps/$map", $more + [
        'layers' => [['look' => $look] + App\Models\Map::query()->findOrFail($map)->layers[0]],
    ]);
    $this->ask = fn (array $body, int $status = 200) => $this->postJson(
        "/api/v1/layers/{$this->nests->id}/classes",
        $body,
    )->assertStatus($status);
});

it('proposes classes, and draws and counts by them everywhere alike', function (): void {
    ($this->bring)([10, 11, 12, 60, 61, 62, 100, 104, null, null]);
    $made = ($this->ask)(['field' => 'clutch', 'count' => 3])->json();
    // The roundest numbers in the gaps from 12 to 60 and from 62 to 100.
    expect($made['look']['breaks'])->toEqual([50, 100])
        ->and($made['counts'])->toBe([3, 3, 2])
        ->and($made['spread']['missing'])->toBe(2)
        ->and($made['fit'])->toBeGreaterThan(0.99)
        ->and(array_column($made['look']['classes'], 'colour'))->toBe(Scheme::Tide->colours(3));
    $map = ($this->newMap)();
    $look = $made['look'];
    $look['classes'][2]['label'] = 'große Gelege';
    $look['classes'][1]['head'] = 'diamond';
    $map = ($this->look)($map['id'], $look, ['audience' => 'link'])
        ->assertOk()
        ->json();
    expect($map['layers'][0]['look'])->toEqual($look);
    $view = $this->getJson("/api/v1/maps/{$map['id']}/view")->assertOk()->json();
    $lines = array_map(fn (array $l): array => [$l['label'], $l['count'], $l['head']], $view['layers'][0]['legend']);
    expect($lines)->toBe([
        ['under 50 eggs', 3, 'disc'],
        ['50 to under 100 eggs', 3, 'diamond'],
        ['große Gelege', 2, 'disc'],
        ['No number', 2, 'ring'],
    ]);
    $classes = array_count_values(array_map(
        fn (array $f): string => $f['properties']['class'] ?? 'none',
        $this->drawn("/api/v1/maps/{$map['id']}"),
    ));
    ksort($classes);
    expect($classes)->toBe(['0' => 3, '1' => 3, '2' => 2, 'none' => 2]);
    // A stranger gets the same, and of the numbers nothing but their classes.
    $open = $this->getJson('/api/v1/open/maps/'.basename($map['address']))->assertOk();
    expect($open->json('layers.0.legend'))->toBe($view['layers'][0]['legend'])
        ->and($open->json('layers.0.by'))->toBe('Clutch')
        ->and(array_unique(array_merge(...array_map(
            fn (array $f): array => array_keys($f['properties']),
            $this->drawn('/api/v1/open/maps/'.basename($map['address'])),
        ))))->each->toBeIn(['id', 'class', 'name']);
    // The crew takes it along.
    $packs = $this->actingAs($this->phone)->getJson('/api/v1/packs')->assertOk()->json();
    $pack = collect($packs)->firstWhere('programme', $this->field->id);
    expect(collect($pack['maps'])->firstWhere('id', $map['id'])['layers'][0]['look'])->toEqual($look);
});

it('goes by numbers that are worked out, too', function (): void {
    ($this->bring)([10, 11, 60]);
    ($this->ask)(['field' => 'double', 'count' => 2])->assertJsonPath('counts', [2, 1]);
});

it('finds the same in runs of a large layer as in all of its values', function (): void {
    mt_srand(3);
    $values = array_map(fn (): int => (int) (mt_rand(0, 100_000) ** 1.2), range(1, 9_000));
    foreach (array_chunk($values, 1_000) as $some) {
        ($this->bring)($some);
    }
    $whole = Spread::ofValues($values);
    foreach ([Method::Natural, Method::Quantile, Method::Equal, Method::Deviation] as $method) {
        $made = ($this->ask)(['field' => 'clutch', 'count' => 5, 'method' => $method->value])->json();
        $exact = Classes::breaks($whole, $method, 5);
        $found = array_map(floatval(...), $made['look']['breaks']);
        expect($made['spread']['count'])->toBe(9_000)
            ->and($made['spread']['mean'])->toEqualWithDelta($whole->mean, $whole->mean * 1e-9)
            ->and(count($found))->toBe(count($exact));
        // At most a thousandth of the loss more than from every single value, by 4,096 runs.
        if ($method === Method::Natural) {
            expect(Classes::loss($whole, $found))->toBeLessThan(Classes::loss($whole, $exact) * 1.001);
        }
        foreach ($found as $i => $break) {
            expect(abs($break - $exact[$i]))->toBeLessThan(($whole->most() - $whole->least()) / 150);
        }
    }
});

it('finds them of a large layer too, whose first records say little of where its numbers lie', function (): void {
    mt_srand(5);
    // What was collected first is small, and what came later is not.
    $values = [...array_map(fn (): int => mt_rand(0, 50), range(1, 4_200)), ...array_map(
        fn (): int => mt_rand(0, 90_000),
        range(1, 4_800),
    )];
    foreach (array_chunk($values, 1_000) as $some) {
        ($this->bring)($some);
    }
    ($this->bring)([null, null]);
    // As of a layer that was written to often.
    App\Models\Layer::query()->whereKey($this->nests->id)->update(['change_number' => 1_000_000]);
    $whole = Spread::ofValues($values);
    $made = ($this->ask)(['field' => 'clutch', 'count' => 5])->json();
    expect($made['spread']['count'])->toBe(9_000)
        ->and($made['spread']['missing'])->toBe(2)
        ->and($made['spread']['least'])->toEqual($whole->least())
        ->and($made['spread']['most'])->toEqual($whole->most())
        ->and(Classes::loss($whole, array_map(floatval(...), $made['look']['breaks'])))
        ->toBeLessThan(Classes::loss($whole, Classes::breaks($whole, Method::Natural, 5)) * 1.001);
});

it('has an answer where there is little to class, and refuses what is none', function (): void {
    ($this->ask)(['field' => 'clutch'])
        ->assertJsonPath('look.breaks', [])
        ->assertJsonPath('spread.least', null)
        ->assertJsonPath('fit', null);
    ($this->bring)([7, 7, 7, null]);
    ($this->ask)(['field' => 'clutch'])
        ->assertJsonPath('look.breaks', [])
        ->assertJsonPath('counts', [3])
        ->assertJsonPath('spread.bars', []);
    ($this->ask)(['field' => 'clutch', 'method' => 'hand', 'breaks' => [3, 7.5]])->assertJsonPath('counts', [0, 3, 0]);
    foreach (
        [
            ['field' => 'code'],
            ['field' => 'nope'],
            ['field' => 'clutch', 'count' => 1],
            ['field' => 'clutch', 'count' => 10],
            ['field' => 'clutch', 'count' => '4'],
            ['field' => 'clutch', 'method' => 'best'],
            ['field' => 'clutch', 'scheme' => []],
            ['field' => 'clutch', 'breaks' => [5, 5]],
            ['field' => 'clutch', 'breaks' => [5, 'NaN']],
            ['field' => 'clutch', 'breaks' => range(1, 9)],
        ] as $body
    ) {
        ($this->ask)($body, 422);
    }
    $map = ($this->newMap)()['id'];
    $look = ['kind' => 'classes', 'field' => 'clutch', 'breaks' => [1, 2]];
    $peg = ['head' => 'disc', 'colour' => '#000000'];
    foreach (
        [
            ['field' => 'code'] + $look,
            ['breaks' => [2, 1]] + $look,
            ['classes' => array_fill(0, 4, $peg)] + $look,
            ['classes' => [['head' => '<svg>', 'colour' => '#000000']]] + $look,
            ['classes' => [['label' => str_repeat('ä', 81)] + $peg]] + $look,
        ] as $bad
    ) {
        ($this->look)($map, $bad)->assertStatus(422);
    }
    // Classes that are not named have the scheme's colours.
    ($this->look)($map, $look)->assertOk()->assertJsonPath('layers.0.look.classes.2.head', 'disc');
});

it('is drawn by something else when its field has left the design', function (): void {
    ($this->bring)([10, 60]);
    $map = ($this->newMap)()['id'];
    ($this->look)($map, ['kind' => 'classes', 'field' => 'double', 'breaks' => [50]])->assertOk();
    $document = $this->nests->design()->toArray();
    array_pop($document['fields']);
    $this->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $document])->assertOk();
    $view = $this->getJson("/api/v1/maps/$map/view")->assertOk()->json();
    expect($view['layers'][0]['legend'])->toHaveCount(1)->and($view['layers'][0]['total'])->toBe(2);
});

it('warns whoever makes the map of marks that can hardly be told apart', function (): void {
    ($this->bring)([10, 60]);
    $map = ($this->newMap)()['id'];
    $peg = fn (string $colour, string $head = 'disc'): array => ['head' => $head, 'colour' => $colour];
    $look = fn (array $classes): array => [
        'kind' => 'classes',
        'field' => 'clutch',
        'breaks' => [50, 100],
        'classes' => $classes,
    ];
    $warned = function (array $classes) use ($map, $look): array {
        ($this->look)($map, $look($classes))->assertOk();

        return array_merge(...array_values(
            $this->getJson("/api/v1/maps/$map/advice")->assertOk()->json('warnings'),
        ));
    };
    expect($warned([]))->toBe([])
        // A red and a green that are one to who has no cones for the one or the other.
        ->and($warned([$peg('#A0522D'), $peg('#6B6B00'), $peg('#FFFFFF')]))->toHaveCount(1)
        ->and($warned([$peg('#A0522D'), $peg('#A0522D', 'bar'), $peg('#A0522D')]))->toBe([])
        ->and($warned([$peg('#111111'), $peg('#121212'), $peg('#FFFFFF')])[0])->toContain(
            '“under 50 eggs” and “50 to under 100 eggs”',
        );
});

it('draws and tells sizes by a second number, and whether both go together', function (): void {
    ($this->bring)([10, 20, 40, 80, null, -3]);
    $map = ($this->newMap)()['id'];
    $look = ['kind' => 'single', 'size' => ['field' => 'clutch', 'most' => 80]];
    $saved = ($this->look)($map, $look, ['audience' => 'link'])->assertOk()->json();
    $view = $this->getJson("/api/v1/maps/$map/view")->assertOk()->json('layers.0');
    expect($view['sizes']['by'])->toBe('Clutch')
        ->and(array_column($view['sizes']['marks'], 'text'))->toBe(['16 eggs', '40 eggs', '80 eggs'])
        ->and($view['sizes']['marks'][2]['pixels'])->toEqual(44)
        ->and($view['sizes']['missing'])->toBe(2);
    $open = '/api/v1/open/maps/'.basename($saved['address']);
    app('auth')->forgetGuards();
    $drawn = array_column($this->drawn($open), 'properties');
    $sizes = array_map(fn (array $p): mixed => $p['size'] ?? null, $drawn);
    sort($sizes);
    // Steps and not the numbers; what has none below zero.
    expect($sizes)->toEqual([null, null, 21 / 60, 0.5, 42 / 60, 1]);
    $this->actingAs($this->head);
    $together = fn (string $a, string $b) => $this->getJson("/api/v1/layers/{$this->nests->id}/together?a=$a&b=$b");
    expect($together('clutch', 'double')->assertOk()->json())
        ->toMatchArray(['pairs' => 5, 'rho' => 1, 'word' => 'strongly']);
    foreach ([['code', 'clutch'], ['clutch', 'gone'], ['clutch', '']] as [$a, $b]) {
        $together($a, $b)->assertStatus(422)->assertJsonPath('problems.0.code', 'look_field');
    }
    ($this->look)($map, ['size' => ['field' => 'clutch', 'most' => -1]] + $look)->assertStatus(422);
    // A field that has left takes the sizes along, and the map goes on.
    $design = $this->nests->design()->toArray();
    ($this->look)($map, ['kind' => 'single', 'size' => ['field' => 'double', 'most' => 80]])->assertOk();
    array_pop($design['fields']);
    $this->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $design])->assertOk();
    expect($this->getJson("/api/v1/maps/$map/view")->assertOk()->json('layers.0.sizes'))->toBeNull();
});
