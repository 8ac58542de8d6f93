<?php

declare(strict_types=1);

use App\Models\Import;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;

uses(Tests\ImportSteps::class);

/*
 * What becomes of records that were brought in: their history, their way to phones, their undo, beside all else that
 * happens to a layer.
 */

beforeEach(function (): void {
    $this->desk = $this->person('Mara');
    $this->programme_ = $this->programme($this->desk);
    $this->landed = function (
        string $csv = "code,girth,lat,lon\nA,10,-14.5,-11.5\nB,20,-14.6,-11.6\nC,30,-14.7,-11.7\n",
        array $with = [],
    ): array {
        return $this->land($this->decide($this->bring($this->desk, $this->programme_, ['trees.csv' => $csv], $with)));
    };
    $this->named = fn (int $layer): Illuminate\Support\Collection => collect($this->recordsOf($layer))->keyBy('name');
    $this->history = fn (int $layer, string $record): array => $this->getJson(
        "/api/v1/layers/$layer/records/$record/history",
    )
        ->assertOk()
        ->json();
    $this->fill = fn (int $layer, string $formula): array => $this->postJson("/api/v1/layers/$layer/fills", [
        'field' => 'girth',
        'formula' => $formula,
        'slice' => null,
    ])
        ->assertCreated()
        ->json();
});

it('begins the history of a record with its bringing in', function (): void {
    $import = ($this->landed)();
    $record = ($this->named)($import['layer'])['A'];
    $history = ($this->history)($import['layer'], $record['id']);
    expect($history)
        ->toHaveCount(1)
        ->and($history[0])
        ->toMatchArray(['version' => 1, 'kind' => 'import', 'author' => 'Mara'])
        ->and(DB::table('record_history')->where('layer_id', $import['layer'])->count())
        ->toBe(0);
});

it('remembers what was brought in when a record is changed, and takes it up again', function (): void {
    $import = ($this->landed)();
    $record = ($this->named)($import['layer'])['A'];
    $door = "/api/v1/layers/{$import['layer']}/records/{$record['id']}";
    $this->patchJson($door, ['base' => 1, 'values' => ['girth' => 11]])->assertOk();
    $this->patchJson($door, [
        'base' => 2,
        'values' => ['code' => 'A2'],
        'geometry' => ['type' => 'Point', 'coordinates' => [-11.1, -14.1]],
    ])->assertOk();
    $history = ($this->history)($import['layer'], $record['id']);
    expect(array_column($history, 'kind'))->toBe(['change', 'change', 'import']);
    $back = $this->postJson("$door/restore", ['version' => 1])
        ->assertOk()
        ->json();
    expect($back['values'])
        ->toMatchArray(['code' => 'A', 'girth' => 10])
        ->and([$back['lon'], $back['lat']])
        ->toBe([-11.5, -14.5])
        ->and($back['version'])
        ->toBe(4);
});

it('merges two people who began from what was brought in', function (): void {
    $import = ($this->landed)();
    $record = ($this->named)($import['layer'])['A'];
    $door = "/api/v1/layers/{$import['layer']}/records/{$record['id']}";
    $this->patchJson($door, ['base' => 1, 'values' => ['girth' => 11]])->assertOk();
    $merged = $this->patchJson($door, ['base' => 1, 'values' => ['code' => 'A9']])
        ->assertOk()
        ->json();
    expect($merged['values'])->toMatchArray(['code' => 'A9', 'girth' => 11]);
    $this->patchJson($door, ['base' => 1, 'values' => ['girth' => 12]])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'value_clash');
});

it('tells the first version also after fills, and after their undo', function (): void {
    $import = ($this->landed)();
    $record = ($this->named)($import['layer'])['B'];
    ($this->fill)($import['layer'], 'girth * 2');
    $second = ($this->fill)($import['layer'], 'girth + 1');
    $values = fn (): array => array_map(
        static fn (array $v): array => [$v['version'], $v['kind']],
        ($this->history)($import['layer'], $record['id']),
    );
    expect(($this->named)($import['layer'])['B']['values']['girth'])
        ->toBe(41)
        ->and($values())
        ->toBe([[3, 'change'], [2, 'change'], [1, 'import']]);
    $this->deleteJson("/api/v1/layers/{$import['layer']}/fills/{$second['id']}")->assertOk();
    $restored = $this->postJson("/api/v1/layers/{$import['layer']}/records/{$record['id']}/restore", ['version' => 1])
        ->assertOk()
        ->json();
    expect($restored['values']['girth'])->toBe(20);
});

it('keeps what a fill changed when the import is taken back, and names it', function (): void {
    $import = ($this->landed)();
    ($this->fill)($import['layer'], 'girth > 15 ? girth + 1 : girth');
    $told = $this->postJson("/api/v1/imports/{$import['id']}/undo")
        ->assertOk()
        ->json();
    expect($told)
        ->toMatchArray(['deleted' => 1, 'kept' => 2, 'layer_binned' => false])
        ->and($told['names'])
        ->toEqualCanonicalizing(['B', 'C']);
});

it('brings records back from an undo one by one', function (): void {
    $import = ($this->landed)("code,girth,lat,lon\nA,10,-14.5,-11.5\n");
    $record = ($this->named)($import['layer'])['A'];
    $this->patchJson("/api/v1/layers/{$import['layer']}/records/{$record['id']}", [
        'base' => 1,
        'values' => ['girth' => 12],
    ])->assertOk();
    $again = ($this->landed)("code,girth,lat,lon\nD,40,-14.5,-11.5\n", ['layer' => $import['layer']]);
    $added = ($this->named)($import['layer'])['D'];
    $this->postJson("/api/v1/imports/{$again['id']}/undo")
        ->assertOk()
        ->assertJsonPath('deleted', 1);
    expect(($this->named)($import['layer'])->keys()->all())->toBe(['A']);
    $this->postJson("/api/v1/layers/{$import['layer']}/records/{$added['id']}/restore", [])
        ->assertOk()
        ->assertJsonPath('values.girth', 40);
    expect(($this->named)($import['layer'])->keys()->sort()->values()->all())->toBe(['A', 'D']);
});

it('puts a layer that had nothing else into the bin, and the layer can come back empty', function (): void {
    $import = ($this->landed)();
    $this->postJson("/api/v1/imports/{$import['id']}/undo")
        ->assertOk()
        ->assertJsonPath('layer_binned', true);
    $this->getJson("/api/v1/layers/{$import['layer']}")->assertNotFound();
    Layer::withTrashed()->findOrFail($import['layer'])->restore();
    expect($this->recordsOf($import['layer']))->toBe([]);
});

it('tells phones of records that came, and that went', function (): void {
    $import = ($this->landed)();
    $crew = $this->crew($this->programme_);
    $news = $this->sync($crew, [], [$import['layer'] => 0])['news'][$import['layer']];
    expect($news['records'])->toHaveCount(3)->and($news['gone'])->toBe([]);
    $cursor = $news['cursor'];
    expect($this->sync($crew, [], [$import['layer'] => $cursor])['news'][$import['layer']]['records'] ?? [])->toBe([]);
    $this->actingAs($this->desk);
    $more = ($this->landed)("code,girth,lat,lon\nE,50,-14.5,-11.5\n", ['layer' => $import['layer']]);
    $news = $this->sync($crew, [], [$import['layer'] => $cursor])['news'][$import['layer']];
    expect(array_column($news['records'], 'name'))->toBe(['E']);
    $this->actingAs($this->desk)
        ->postJson("/api/v1/imports/{$more['id']}/undo")
        ->assertOk();
    $gone = $this->sync($crew, [], [$import['layer'] => $news['cursor']])['news'][$import['layer']];
    expect($gone['gone'])
        ->toBe([$news['records'][0]['id']])
        ->and($gone['records'])
        ->toBe([]);
});

it('lets a phone add to a layer that was brought in, beside a landing', function (): void {
    $import = ($this->landed)();
    $layer = Layer::query()->findOrFail($import['layer']);
    $crew = $this->crew($this->programme_);
    $answer = $this->sync($crew, [$this->add($layer, ['values' => ['code' => 'P', 'girth' => 5]])]);
    expect($answer['outcomes'][0]['outcome'])->toBe('applied');
    $this->actingAs($this->desk);
    $numbers = DB::table($layer->table())->orderBy('change_number')->pluck('change_number')->all();
    expect($numbers)
        ->toBe(array_unique($numbers))
        ->and(max($numbers))
        ->toBeLessThanOrEqual($layer->refresh()->change_number);
});

it('knows of a record which row of which file it was', function (): void {
    $import = ($this->landed)();
    $model = Import::query()->findOrFail($import['id']);
    foreach (($this->named)($import['layer']) as $name => $record) {
        $bytes = PinYard\Record\RecordId::of($record['id'])->bytes();
        expect(substr($bytes, 0, 10))
            ->toBe($model->prefix)
            ->and(unpack('J', "\0\0".substr($bytes, 10))[1])
            ->toBe(['A' => 2, 'B' => 3, 'C' => 4][$name]);
    }
});

it('works out calculated fields and conditions of a layer that rows are added to', function (): void {
    $layer = $this->layer($this->programme_, [
        'title' => 'Ruled',
        'name_field' => 'code',
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'required' => true],
            [
                'key' => 'girth',
                'label' => 'Girth',
                'kind' => 'whole_number',
                'limits' => ['lowest' => 1, 'highest' => 500, 'outside' => 'stop'],
            ],
            [
                'key' => 'kind',
                'label' => 'Kind',
                'kind' => 'one_choice',
                'default' => 'o',
                'choices' => [['code' => 'o', 'label' => 'Oak'], ['code' => 'x', 'label' => 'Other']],
            ],
            ['key' => 'which', 'label' => 'Which', 'kind' => 'short_text', 'show_when' => 'kind == "x"'],
            ['key' => 'width', 'label' => 'Width', 'kind' => 'calculated', 'formula' => 'round(girth / 3.14159, 1)'],
        ],
    ]);
    $csv = "code,girth,which,lat,lon\nA,31,elm,-14.5,-11.5\nB,,ash,-14.5,-11.5\n,5,,-14.5,-11.5\nD,900,,-14.5,-11.5\n";
    $import = ($this->landed)($csv, ['layer' => $layer->id]);
    $records = ($this->named)($layer->id);
    expect($import['counts'])
        ->toMatchArray(['made' => 2, 'waiting' => 2])
        ->and($records['A']['values'])
        ->toMatchArray(['girth' => 31, 'kind' => 'o', 'which' => null, 'width' => 9.9])
        ->and($records['B']['values'])
        ->toMatchArray(['girth' => null, 'width' => null]);
    $why = array_map(
        static fn (array $r): string => $r['problems'][0]['code'],
        $this->getJson("/api/v1/imports/{$import['id']}/waiting")->json(),
    );
    expect($why)->toBe(['required', 'above_highest']);
});

it('lands rows without the values that do not fit, if that is wished', function (): void {
    $import = $this->bring($this->desk, $this->programme_, [
        'a.csv' => "code,girth,lat,lon\nA,10,-14.5,-11.5\nB,many,-14.5,-11.5\n",
    ]);
    $columns = $import['settings']['columns'];
    $columns[1]['kind'] = 'whole_number';
    $review = $this->decide($import, ['columns' => $columns, 'unfit' => 'empty'])['review'];
    expect($review)
        ->toMatchArray(['ready' => 2, 'waiting' => 0])
        ->and($review['corrections']['emptied'])
        ->toBe(1);
    $import = $this->land($import);
    expect($import['counts'])
        ->toMatchArray(['made' => 2, 'waiting' => 0, 'emptied' => 1])
        ->and(($this->named)($import['layer'])['B']['values']['girth'])
        ->toBeNull();
});
