<?php

declare(strict_types=1);

use App\Models\Layer;
use App\Sync\News;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use PinYard\Record\RecordId;

beforeEach(function (): void {
    $this->field = $this->programme();
    $this->phone = $this->crew($this->field);
    $this->nests = $this->layer($this->field);
    $this->count = fn (): int => DB::table($this->nests->table())->count();
});

it('takes in records with their typed values, place, author, history', function (): void {
    $operation = $this->add($this->nests, [
        'values' => ['code' => 'GH-1', 'clutch' => 104, 'species' => 'CC', 'laid_on' => '2026-04-30'],
    ]);
    $answer = $this->sync($this->phone, [$operation]);
    expect($answer['outcomes'])->toBe([
        ['op' => $operation['op'], 'outcome' => 'applied', 'record' => $operation['record'], 'version' => 1],
    ]);
    $row = DB::table($this->nests->table())->first();
    expect($row)
        ->f_code->toBe('GH-1')
        ->f_clutch->toBe(104)
        ->f_species->toBe('CC')
        ->f_laid_on->toBe('2026-04-30')
        ->lon->toBe(-11.5)
        ->accuracy->toBe(4.0)
        ->created_by->toBe($this->phone->id)
        ->z->toBe(PinYard\Geo\ZOrder::of(PinYard\Geo\Position::of(-11.5, -14.5)));
    $history = DB::table('record_history')->where('layer_id', $this->nests->id)->first();
    expect(json_decode($history->values, true)['clutch'])->toBe(104)->and($history->version)->toBe(1);
});

it('keeps text to the letter, blanks and all', function (string $text): void {
    $this->sync($this->phone, [
        ($operation = $this->add($this->nests, ['values' => ['code' => $text, 'species' => 'CC']])),
    ]);
    $record = $this->actingAs($this->phone)
        ->getJson("/api/v1/layers/{$this->nests->id}/records/{$operation['record']}")
        ->json();
    expect($record['values']['code'])->toBe($text)->and($record['name'])->toBe($text);
})->with(['  A  ', "A\tB", "\u{FEFF}A", 'عش', '👩‍👩‍👧', "a\u{0301}"]);

it('gives the same answer again, however often it is asked, and writes once', function (): void {
    $batch = [
        $this->add($this->nests),
        $this->add($this->nests, ['values' => ['code' => 'x']]),
        $this->add($this->nests),
    ];
    $first = $this->sync($this->phone, $batch)['outcomes'];
    expect(array_column($first, 'outcome'))->toBe(['applied', 'refused', 'applied']);
    foreach ([$batch, array_reverse($batch), [...$batch, ...$batch]] as $again) {
        $byOp = array_column($this->sync($this->phone, $again)['outcomes'], null, 'op');
        expect(array_map(fn (array $o): array => $byOp[$o['op']], $first))->toBe($first);
    }
    expect(($this->count)())
        ->toBe(2)
        ->and(DB::table('sync_ledger')->where('user_id', $this->phone->id)->count())
        ->toBe(3);
});

it('answers an operation that stands twice in one batch once, and writes it once', function (): void {
    $operation = $this->add($this->nests);
    expect(array_column($this->sync($this->phone, [$operation, $operation])['outcomes'], 'outcome'))
        ->toBe(['applied', 'applied'])
        ->and(($this->count)())
        ->toBe(1);
});

it('refuses bad ones by field, value and reason, and the rest of the batch still lands', function (): void {
    $good = $this->add($this->nests);
    $bad = [
        [
            'clutch',
            'many',
            $this->add($this->nests, ['values' => ['code' => 'a', 'species' => 'CC', 'clutch' => 'many']]),
        ],
        ['species', 'XX', $this->add($this->nests, ['values' => ['code' => 'a', 'species' => 'XX']])],
        ['code', null, $this->add($this->nests, ['values' => ['species' => 'CC']])],
        [
            'geometry',
            '-200, 95',
            $this->add($this->nests, ['geometry' => ['type' => 'Point', 'coordinates' => [-200, 95]]]),
        ],
        ['photos', 41943040, $this->add($this->nests, ['photos' => [$this->announce('x', ['bytes' => 41943040])]])],
        [
            'photos',
            'text/plain',
            $this->add($this->nests, ['photos' => [$this->announce('x', ['type' => 'text/plain'])]]),
        ],
    ];
    $outcomes = $this->sync($this->phone, [...array_column($bad, 2), $good])['outcomes'];
    foreach ($bad as $i => [$field, $value]) {
        expect($outcomes[$i]['outcome'])
            ->toBe('refused')
            ->and($outcomes[$i]['problems'][0])
            ->field->toBe($field)
            ->value->toBe($value)
            ->and($outcomes[$i]['problems'][0]['message'])
            ->not->toContain('problem.')
            ->not->toContain('{');
    }
    expect(end($outcomes)['outcome'])->toBe('applied')->and(($this->count)())->toBe(1);
});

it('survives whatever stands where an operation should', function (): void {
    $junk = [
        null,
        5,
        'x',
        [],
        ['op' => 1],
        ['op' => RecordId::make()->text],
        [[[]]],
        ['kind' => str_repeat('x', 100_000)],
        $this->add($this->nests, ['values' => ['code' => str_repeat('x', 5_000_000), 'species' => 'CC']]),
    ];
    $outcomes = $this->sync($this->phone, [...$junk, $this->add($this->nests)])['outcomes'];
    expect(array_column($outcomes, 'outcome'))->toBe([...array_fill(0, count($junk), 'refused'), 'applied']);
});

it('refuses a batch that is none, or too large, whole', function (): void {
    $this->actingAs($this->phone);
    $device = RecordId::make()->text;
    foreach (
        [
            ['operations' => 'x'],
            ['operations' => ['a' => 1]],
            ['operations' => array_fill(0, 2001, null)],
            ['device' => 'me', 'operations' => []],
        ] as $body
    ) {
        $this->postJson('/api/v1/sync', $body + ['device' => $device, 'cursors' => []])
            ->assertStatus(422)
            ->assertJsonStructure(['problems' => [['code', 'message']]]);
    }
});

it('keeps strangers\' ids and layers out', function (): void {
    $other = $this->layer($this->programme());
    $mine = $this->add($this->nests);
    $this->sync($this->phone, [$mine]);
    $thief = $this->crew($this->field);
    $codes = fn (array $batch, $who): array => array_map(
        fn (array $o): string => $o['problems'][0]['code'] ?? $o['outcome'],
        $this->sync($who, $batch)['outcomes'],
    );
    expect($codes([$mine], $thief))
        ->toBe(['op_taken'])
        ->and($codes([$this->add($this->nests, ['record' => $mine['record']])], $thief))
        ->toBe(['record_exists'])
        ->and(
            $codes(
                [
                    $this->add($other),
                    $this->add($this->nests, ['layer' => 999_999_999]),
                    $this->add($this->nests, ['design' => 7]),
                ],
                $this->phone,
            ),
        )
        ->toBe(['layer_unknown', 'layer_unknown', 'design_unknown']);
});

it('judges a record by the design that its form showed', function (): void {
    $old = $this->add($this->nests);
    $document = $this->nests->design()->toArray();
    $document['fields'][] = ['key' => 'observer', 'label' => 'Observer', 'kind' => 'short_text', 'required' => true];
    App\Designs\DesignStore::saveNext($this->nests, PinYard\Design\LayerDesign::fromArray($document), 1, null);
    $new = $this->add($this->nests, ['design' => 2]);
    $outcomes = $this->sync($this->phone, [$old, $new])['outcomes'];
    expect($outcomes[0]['outcome'])
        ->toBe('applied')
        ->and($outcomes[1]['problems'][0])
        ->field->toBe('observer')
        ->code->toBe('required');
});

it('hands out news in pages, each change once, up to the layer\'s own number', function (): void {
    $operations = array_map(fn () => $this->add($this->nests), range(1, 1103));
    $this->sync($this->phone, $operations);
    $seen = [];
    $cursor = 0;
    do {
        $news = $this->sync($this->phone, [], [$this->nests->id => $cursor])['news'][$this->nests->id];
        array_push($seen, ...array_column($news['records'], 'id'));
        $cursor = $news['cursor'];
    } while ($news['more']);
    $sent = array_column($operations, 'record');
    sort($sent);
    sort($seen);
    expect($seen)
        ->toBe($sent)
        ->and($cursor)
        ->toBe($this->nests->refresh()->change_number);
});

it('begins again with a phone that has seen more than the server, as after a restored backup', function (): void {
    $this->sync($this->phone, [($operation = $this->add($this->nests))]);
    $news = $this->sync($this->phone, [], [$this->nests->id => 5000])['news'][$this->nests->id];
    expect(array_column($news['records'], 'id'))
        ->toBe([$operation['record']])
        ->and($news['cursor'])
        ->toBe($this->nests->refresh()->change_number);
});

it('names layers that are no longer this person\'s', function (): void {
    $gone = $this->layer($this->programme());
    expect($this->sync($this->phone, [], [$gone->id => 5, $this->nests->id => 0])['lost'])->toBe([$gone->id]);
});

it('lets nobody add where crews may not, but coordinators still can', function (): void {
    $closed = $this->layer($this->field, ['rights' => ['crew' => ['add' => false]]]);
    $outcome = fn ($who): string => $this->sync($who, [$this->add($closed)])['outcomes'][0]['outcome'];
    expect($outcome($this->phone))
        ->toBe('refused')
        ->and($outcome($this->field->members()->first()->user))
        ->toBe('applied');
});

it(
    'answers a round in which nothing has changed as it would by asking the layers, with few queries',
    function (): void {
        $head = $this->person();
        $field = $this->programme($head);
        $phone = $this->crew($field);
        $layers = array_map(fn (): Layer => $this->layer($field), range(1, 5));
        $this->sync($phone, [$this->add($layers[0]), $this->add($layers[1])]);
        // In one of them crews see just their own records.
        $design = $layers[2]->design()->toArray();
        $design['rights']['crew']['see'] = 'own';
        $this->actingAs($head)
            ->putJson("/api/v1/layers/{$layers[2]->id}/design", ['base' => 1, 'design' => $design])
            ->assertOk();
        $now = Layer::query()->findMany(array_column($layers, 'id'))->keyBy('id');
        foreach ([$phone, $head] as $who) {
            $round = [
                'device' => (string) Str::uuid7(),
                'operations' => [],
                'cursors' => (object) $now->map(fn (Layer $l): int => $l->change_number)->all(),
            ];
            DB::flushQueryLog();
            DB::enableQueryLog();
            $news = $this->actingAs($who)->postJson('/api/v1/sync', $round)->assertOk()->json('news');
            expect(count(DB::getQueryLog()))->toBeLessThan(12);
            DB::disableQueryLog();
            foreach ($now as $id => $layer) {
                expect($news[$id])->toBe(News::of($who, Layer::query()->findOrFail($id), $layer->change_number));
            }
            expect($news[$layers[2]->id])->toMatchArray(['scope' => $who->is($head) ? 'all' : 'own', 'design' => 2]);
        }
        // Who is no longer of the programme is told so, changed or not.
        $field->members()->where('user_id', $phone->id)->delete();
        expect($this->actingAs($phone)->postJson('/api/v1/sync', $round)->json('lost'))->toHaveCount(5);
    },
);
