<?php

declare(strict_types=1);

use App\Files\FileArrival;
use App\Models\Attachment;
use App\Models\Audience;
use App\Models\Map;
use App\Models\Upload;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use PinYard\Carto\Look;
use PinYard\Geo\ZOrder;
use PinYard\Record\RecordId;

/* Looks other than by choice and by classes, from the records to what is drawn: features, legend, table, card, pack. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->phone = $this->crew($this->field);
    $this->sites = $this->layer($this->field, [
        'title' => 'Sites',
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number', 'unit' => 'eggs'],
            ['key' => 'deep', 'label' => 'Deep', 'kind' => 'decimal', 'decimals' => 2, 'unit' => 'cm'],
        ],
    ]);
    mt_srand(11);
    $this->rows = [];
    $records = [];
    for ($i = 0; $i < 60; $i++) {
        $values = array_filter(
            [
                'code' => "S-$i",
                'eggs' => mt_rand(0, 5) === 0 ? null : mt_rand(0, 40),
                'deep' => mt_rand(0, 5) === 0 ? null : mt_rand(-500, 4000) / 100,
            ],
            static fn (mixed $v): bool => $v !== null,
        );
        $place = [-11.6 + mt_rand(0, 400) / 10_000, -14.2 + mt_rand(0, 400) / 10_000];
        $this->rows[] = $values + ['lon' => $place[0], 'lat' => $place[1]];
        $records[] = $this->add($this->sites, [
            'values' => $values,
            'geometry' => ['type' => 'Point', 'coordinates' => $place],
        ]);
    }
    $this->sync($this->phone, $records);
    $this->actingAs($this->head);
    $this->with = fn (array $look, array $more = []): Map => $this->mapOf(
        $this->sites,
        $more + ['look' => $look, 'card' => ['fields' => ['code'], 'photos' => false]],
        Audience::Link,
    );
    $this->view = fn (Map $map): array => $this->getJson("/api/v1/maps/$map->id/view")->assertOk()->json();
});

it('counts over all records what it draws of each', function (array $look): void {
    $map = ($this->with)($look);
    $read = Look::read($look, $this->sites->design());
    $expected = [];
    foreach ($this->rows as $row) {
        $code = $read->marks->classOf(static fn (string $key): mixed => $row[$key] ?? null) ?? '';
        $expected[$code] = ($expected[$code] ?? 0) + 1;
    }
    $drawn = array_count_values(
        array_map(
            static fn (array $f): string => $f['properties']['class'] ?? '',
            $this->drawn("/api/v1/maps/$map->id", 0),
        ),
    );
    ksort($expected);
    ksort($drawn);
    expect($drawn)->toBe($expected);
    $told = array_column(($this->view)($map)['layers'][0]['legend'], 'count', 'code');
    if ($look['kind'] === 'shades') {
        $none = $expected[''] ?? 0;
        expect($told)->toEqual(['shades' => array_sum($expected) - $none, '' => $none]);
    } else {
        foreach ($expected as $code => $n) {
            expect($told[$code])->toBe($n);
        }
        expect(array_sum($told))->toBe(60);
    }
})->with([
    'shades' => [['kind' => 'shades', 'field' => 'deep', 'from' => -5, 'to' => 40]],
    'shades whose ends lie within' => [['kind' => 'shades', 'field' => 'eggs', 'from' => 10, 'to' => 20]],
    'two numbers' => [['kind' => 'crossed', 'fields' => ['eggs', 'deep'], 'breaks' => [[10, 25], [0, 12.5]]]],
    'two numbers, one of them in one class' => [
        ['kind' => 'crossed', 'fields' => ['deep', 'eggs'], 'breaks' => [[], [20]]],
    ],
]);

it('cuts the table to a line of the legend', function (): void {
    $map = ($this->with)(['kind' => 'shades', 'field' => 'deep', 'from' => 0, 'to' => 40]);
    $this->patchJson("/api/v1/maps/$map->id", [
        'beside' => ['part' => $map->layers[0]['id'], 'columns' => ['code'], 'sort' => 'code', 'down' => false,
            'all' => true, 'chart' => false],
    ])->assertOk();
    $known = count(array_filter($this->rows, static fn (array $r): bool => isset($r['deep'])));
    $found = fn (string $class): int => $this->getJson("/api/v1/maps/$map->id/table?class=$class")->json('found');
    expect($found('shades'))->toBe($known)->and($found(''))->toBe(60 - $known);
});

it('draws a cell for each quarter with records, with how many there are', function (?string $field): void {
    $bits = 14;
    $map = ($this->with)(['kind' => 'density', 'field' => $field, 'bits' => $bits, 'breaks' => [2, 50]]);
    $expected = [];
    foreach ($this->rows as $row) {
        // Another way to the same cell: by its column and row.
        [$x, $y] = ZOrder::steps($row['lon'], $row['lat']);
        $cell = ($x >> $bits).' '.($y >> $bits);
        $expected[$cell] ??= null;
        $adds = $field === null ? 1 : $row[$field] ?? null;
        $expected[$cell] = $adds === null ? $expected[$cell] : (float) $expected[$cell] + $adds;
    }
    $drawn = [];
    foreach ($this->drawn("/api/v1/maps/$map->id", 0) as $cell) {
        [$west, $south, $east, $north] = [
            $cell['geometry']['coordinates'][0][0][0],
            $cell['geometry']['coordinates'][0][0][1],
            $cell['geometry']['coordinates'][0][2][0],
            $cell['geometry']['coordinates'][0][2][1],
        ];
        [$x, $y] = ZOrder::steps(($west + $east) / 2, ($south + $north) / 2);
        $drawn[($x >> $bits).' '.($y >> $bits)] = $cell['properties']['class'] ?? '';
    }
    $classes = array_map(
        static fn (?float $v): string => $v === null ? '' : (string) (($v >= 2) + ($v >= 50)),
        array_map(static fn (float|int|null $v): ?float => $v === null ? null : (float) $v, $expected),
    );
    ksort($classes);
    ksort($drawn);
    expect($drawn)->toBe($classes);
    $layer = ($this->view)($map)['layers'][0];
    $lines = array_filter(array_column($layer['legend'], 'count', 'code'));
    $count = array_filter(array_count_values($classes));
    ksort($lines);
    ksort($count);
    // The legend counts cells, the layer its records.
    expect($lines)->toEqual($count)->and($layer['total'])->toBe(60)->and($layer['geometry'])->toBe('area');
})->with([[null], ['eggs']]);

it('says of a cell how many lie in it, and how large it is', function (): void {
    $map = ($this->with)(['kind' => 'density', 'field' => 'eggs', 'bits' => 18, 'breaks' => []]);
    $cells = $this->drawn("/api/v1/maps/$map->id", 0);
    $part = $map->layers[0]['id'];
    $records = 0;
    $eggs = 0;
    foreach ($cells as $cell) {
        $card = $this->getJson("/api/v1/maps/$map->id/layers/$part/records/{$cell['id']}")->assertOk()->json();
        $records += (int) $card['values'][0]['text'];
        $eggs += (int) $card['values'][1]['text'];
        // By geodesics, where a step is 40,075 km / 2^31 at the equator: 4.9 km, and 3 % less at 14 degrees south.
        expect($card['values'][2]['text'])->toBe('4,700 m');
    }
    expect($records)->toBe(60)
        ->and($eggs)->toBe(array_sum(array_column($this->rows, 'eggs')))
        ->and($this->getJson("/api/v1/maps/$map->id/layers/$part/records/cell-1")->status())->toBe(404)
        ->and($this->getJson("/api/v1/maps/$map->id/layers/$part/records/cell-99999999999999999999")->status())
        ->toBe(404);
});

it('finds cells of a fitting size, and classes of what lies in them', function (): void {
    $made = $this->postJson("/api/v1/layers/{$this->sites->id}/classes", ['cells' => ['field' => null], 'count' => 3])
        ->assertOk()->json();
    expect($made['look']['kind'])->toBe('density')
        // Four hundredths of a degree are 238,600 steps: about 24 cells of 2^13 of them.
        ->and($made['look']['bits'])->toBe(13)
        ->and($made['spread']['count'])->toBe(array_sum($made['counts']));
    // Before there are records the programme's area says how large cells may be.
    $empty = $this->layer($this->field, ['title' => 'Nothing yet']);
    $first = fn (): int => $this->postJson("/api/v1/layers/$empty->id/classes", ['cells' => ['field' => null]])
        ->assertOk()->json('look.bits');
    $bits = $first();
    expect($bits)->toBeGreaterThan(13);
    $this->sync($this->phone, [$this->add($empty)]);
    $this->actingAs($this->head);
    expect($first())->toBe($bits);
    foreach ([['bits' => 2], ['field' => 'code'], ['slice' => 99]] as $bad) {
        $this->postJson("/api/v1/layers/{$this->sites->id}/classes", ['cells' => $bad + ['bits' => 14]])
            ->assertUnprocessable();
    }
});

it('gathers points with what they add, and only then tells it', function (): void {
    $drawn = fn (array $look): array => $this->drawn('/api/v1/maps/'.($this->with)($look)->id, 0);
    $sum = ['kind' => 'single', 'gather' => ['tell' => 'sum', 'field' => 'eggs']];
    expect(array_sum(array_map(static fn (array $f): float => $f['properties']['adds'] ?? 0, $drawn($sum))))
        ->toEqual(array_sum(array_column($this->rows, 'eggs')))
        ->and(array_filter(
            $drawn(['kind' => 'single', 'gather' => ['tell' => 'count']]),
            static fn (array $f): bool => isset($f['properties']['adds']),
        ))
        ->toBe([])
        ->and(($this->view)(($this->with)($sum))['layers'][0]['gather']['clusterProperties'])
        ->toHaveKey('adds');
});

it('goes on without what is summed when that leaves the design', function (): void {
    $map = ($this->with)(['kind' => 'single', 'gather' => ['tell' => 'sum', 'field' => 'eggs']]);
    DB::table('maps')->where('id', $map->id)->update([
        'layers' => str_replace('"eggs"', '"gone"', (string) json_encode($map->layers)),
    ]);
    expect(($this->view)($map)['layers'][0]['gather'])->toBeNull();
});

it('lets photos stand for records where the card shows them, known to each by ids of their own', function (): void {
    $layer = $this->layer($this->field, ['title' => 'Seen', 'photos' => ['allowed' => true, 'most' => 3]]);
    $bytes = $this->jpeg();
    $photo = $this->announce($bytes);
    $record = $this->add($layer, ['values' => ['code' => 'A', 'species' => 'CC'], 'photos' => [$photo]]);
    $this->sync($this->phone, [$record]);
    $attachment = Attachment::query()->findOrFail(RecordId::of($photo['id'])->bytes());
    $upload = Upload::query()->create([
        'id' => (string) Str::uuid7(),
        'attachment_id' => $attachment->id,
        'user_id' => $this->phone->id,
        'length' => strlen($bytes),
        'expires_at' => now()->addDay(),
    ]);
    @mkdir(storage_path('uploads'), recursive: true);
    file_put_contents($upload->file(), $bytes);
    FileArrival::finish($upload, $attachment);
    $this->actingAs($this->head);
    $map = fn (bool $shown): Map => $this->mapOf($layer, [
        'look' => ['kind' => 'single', 'photos' => true],
        'card' => ['fields' => [], 'photos' => $shown],
    ], Audience::Link);
    $told = fn (string $base): array => array_column(array_column($this->drawn($base, 0), 'properties'), 'photo');
    $open = $map(true);
    expect($told("/api/v1/maps/$open->id"))->toBe([$photo['id']])
        ->and($told('/api/v1/maps/'.$map(false)->id))->toBe([]);
    app('auth')->forgetGuards();
    [$id] = $told("/api/v1/open/maps/$open->link_token");
    expect($id)->not->toBe($photo['id']);
    $this->get("/api/v1/open/maps/$open->link_token/photos/$id/thumb")->assertOk();
});

it('tells phones the legend, the sources and the cards that they draw', function (array $look): void {
    ($this->with)($look)->openTo(Audience::Programme);
    $this->actingAs($this->phone);
    $part = $this->getJson('/api/v1/packs')->assertOk()->json('0.maps.0.layers.0');
    expect($part['card']['fields'])->toBe(['code'])
        ->and($part['legend'])->not->toBeEmpty()
        ->and($part['by'])->not->toBeNull();
})->with([
    [['kind' => 'shades', 'field' => 'deep', 'from' => 0, 'to' => 40]],
    [['kind' => 'crossed', 'fields' => ['eggs', 'deep'], 'breaks' => [[10], [12.5]]]],
    [['kind' => 'density', 'field' => null, 'bits' => 14, 'breaks' => [2]]],
]);

it('works labels out by the language of Build, for the label alone', function (): void {
    $label = fn (string $formula): array => [
        'parts' => [['field' => 'code'], ['text' => ': '], ['formula' => $formula]],
    ];
    $map = ($this->with)(['kind' => 'single'], ['label' => $label('round(eggs / 3)')]);
    $written = array_column(
        array_column($this->drawn("/api/v1/maps/$map->id", 0), 'properties'),
        'label',
    );
    sort($written);
    $expected = array_map(
        static fn (array $row): string => $row['code'].': '.
            (isset($row['eggs']) ? (string) (int) floor($row['eggs'] / 3 + 0.5) : '–'),
        $this->rows,
    );
    sort($expected);
    expect($written)->toBe($expected)
        // What it works with is not told otherwise.
        ->and(json_encode($this->drawn("/api/v1/maps/$map->id", 0)))->not->toContain('eggs');
    foreach (['eggs +', 'longitude()', 'wings'] as $bad) {
        $this->patchJson("/api/v1/maps/$map->id", [
            'layers' => [['label' => $label($bad)] + $map->layers[0]],
        ])->assertUnprocessable()->assertJsonPath('problems.0.field', 'layers/0/label/parts/2');
    }
    $this->actingAs($this->phone);
    $map->openTo(Audience::Programme);
    expect($this->getJson('/api/v1/packs')->json('0.maps.0.layers.0.label.trees'))->toHaveKey('round(eggs / 3)');
});

it('draws a label that moves with the clock anew when the day does', function (): void {
    $map = ($this->with)(['kind' => 'single'], [
        'label' => ['parts' => [['field' => 'code'], ['text' => ' '], ['formula' => 'today()']]],
    ]);
    $told = fn (): string => (string) json_encode($this->drawn("/api/v1/maps/$map->id", 0));
    $this->travelTo('2026-06-01 12:00:00');
    expect($told())->toContain('2026-06-01');
    $this->travelTo('2026-06-02 12:00:00');
    expect($told())->toContain('2026-06-02')->not->toContain('2026-06-01');
});
