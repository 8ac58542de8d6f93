<?php

declare(strict_types=1);

use App\Designs\DesignStore;
use App\Models\Conflict;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;

/* Deciding what phones brought in dispute, through the API as Check does it, and what the phones hear of it. */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->desk = $this->person('Desk'));
    $this->ann = $this->crew($this->programme_);
    $this->ben = $this->crew($this->programme_);
    $this->layer_ = $this->layer($this->programme_, [
        'rights' => ['crew' => ['add' => true, 'see' => 'all', 'change' => 'all', 'delete' => 'all']],
    ]);
    $first = $this->add($this->layer_, ['values' => ['code' => 'A', 'species' => 'CC', 'clutch' => 90]]);
    $this->record = $first['record'];
    $this->sync($this->ann, [$first]);
    $this->change = fn (array $values, array $was, array $more = []): array => $this->changeOf(
        $this->layer_,
        $this->record,
        $values,
        $was,
        $more,
    );
    $this->list = fn (string $query = ''): array => $this->actingAs($this->desk)
        ->getJson("/api/v1/programmes/{$this->programme_->id}/disputes$query")
        ->assertOk()
        ->json();
    $this->settle = fn (int $id, array $with) => $this->actingAs($this->desk)->postJson("/api/v1/disputes/$id", $with);
    $this->row = fn (?string $record = null): ?object => DB::table($this->layer_->table())
        ->where('id', RecordId::of($record ?? $this->record)->bytes())
        ->first();
    $this->narrow = function (): void {
        $layer = Layer::query()->findOrFail($this->layer_->id);
        $design = $layer->design()->toArray();
        $design['fields'][1]['limits'] = ['lowest' => 1, 'highest' => 150];
        DesignStore::saveNext($layer, LayerDesign::fromArray($design), $layer->design_version, null);
    };
    $this->clash = function (): array {
        $this->sync($this->ann, [($this->change)(['clutch' => 95, 'code' => 'B'], ['clutch' => 90, 'code' => 'A'])]);
        $this->sync($this->ben, [
            ($this->change)(
                ['clutch' => 97, 'code' => 'C', 'species' => 'CM'],
                ['clutch' => 90, 'code' => 'A', 'species' => 'CC'],
            ),
        ]);

        return ($this->list)()['disputes'][0];
    };
});

it('shows a clash with both sides, who and when, in words', function (): void {
    $clash = ($this->clash)();
    expect($clash)
        ->toMatchArray([
            'kind' => 'clash',
            'name' => 'B',
            'does' => 'change',
            'by' => 'Crew',
            'theirs_by' => 'Crew',
            'layer_title' => 'Nests',
        ])
        ->and($clash['clashes'][0])
        ->toBe([
            'key' => 'clutch',
            'label' => 'Clutch',
            'stands' => 'theirs',
            'was' => '90',
            'theirs' => '95',
            'mine' => '97',
        ])
        ->and(array_column($clash['values'], 'value', 'label'))
        ->toBe(['Clutch' => '97', 'Code' => 'C', 'Species' => 'Green'])
        ->and(($this->list)()['open'])
        ->toBe(1)
        ->and($this->getJson("/api/v1/programmes/{$this->programme_->id}")->json('stages.check.disputes'))
        ->toBe(1);
});

it('decides value by value; phones hear of it, history shows it', function (): void {
    $clash = ($this->clash)();
    $settled = ($this->settle)($clash['id'], ['choose' => ['clutch' => 'mine', 'code' => 'theirs']])
        ->assertOk()
        ->json();
    expect($settled)
        ->toMatchArray(['settled_by' => 'Desk', 'settlement' => ['choose' => ['clutch' => 'mine', 'code' => 'theirs']]])
        ->and(($this->row)())
        ->toMatchObject(['f_clutch' => 97, 'f_code' => 'B', 'f_species' => 'CM', 'version' => 4]);
    $news = $this->sync($this->ann, [], [$this->layer_->id => 3])['news'][$this->layer_->id];
    expect($news['records'][0]['values'])
        ->toMatchArray(['clutch' => 97, 'code' => 'B'])
        ->and(($this->list)())
        ->toMatchArray(['open' => 0, 'disputes' => []])
        ->and(($this->list)('?settled=1')['disputes'][0]['id'])
        ->toBe($clash['id'])
        ->and(($this->list)("?record={$this->record}")['disputes'])
        ->toHaveCount(1);
});

it('makes no version where all stays as it is, and decides nothing twice', function (): void {
    $clash = ($this->clash)();
    ($this->settle)($clash['id'], ['choose' => ['clutch' => 'theirs', 'code' => 'theirs']])->assertOk();
    expect(($this->row)()->version)->toBe(3);
    ($this->settle)($clash['id'], ['choose' => ['clutch' => 'mine', 'code' => 'mine']])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'dispute_settled');
});

it('wants a choice for each value, and names the one that is missing', function (mixed $choose): void {
    $clash = ($this->clash)();
    $problem = ($this->settle)($clash['id'], ['choose' => $choose])
        ->assertUnprocessable()
        ->json('problems.0');
    expect($problem)
        ->toMatchArray(['code' => 'dispute_choose'])
        ->and(($this->row)()->version)
        ->toBe(3)
        ->and(($this->list)()['open'])
        ->toBe(1);
})->with([
    [[]],
    [null],
    ['mine'],
    [['clutch' => 'mine']],
    [['clutch' => 'both', 'code' => 'mine']],
    [['clutch' => true, 'code' => 'mine']],
]);

it('takes a place from the other side', function (): void {
    $to = static fn (float $lon): array => ['type' => 'Point', 'coordinates' => [$lon, -14.5]];
    $this->sync($this->ann, [
        ($this->change)([], [], ['kind' => 'move', 'geometry' => $to(-11.4), 'was_geometry' => $to(-11.5)]),
    ]);
    $this->sync($this->ben, [
        ($this->change)([], [], ['kind' => 'move', 'geometry' => $to(-11.3), 'was_geometry' => $to(-11.5)]),
    ]);
    $clash = ($this->list)()['disputes'][0];
    expect($clash['clashes'][0])->toMatchArray(['key' => '@place', 'theirs' => $to(-11.4), 'mine' => $to(-11.3)]);
    ($this->settle)($clash['id'], ['choose' => ['@place' => 'mine']])->assertOk();
    expect(($this->row)()->lon)->toBe(-11.3);
});

it('deletes or keeps, where one deleted and the other changed', function (string $choice, int $deleted): void {
    $this->sync($this->ann, [($this->change)(['clutch' => 95], ['clutch' => 90])]);
    $this->sync($this->ben, [($this->change)([], [], ['kind' => 'delete'])]);
    ($this->settle)(($this->list)()['disputes'][0]['id'], ['choose' => ['@deleted' => $choice]])->assertOk();
    expect(($this->row)()->deleted)->toBe($deleted);
})->with([['mine', 1], ['theirs', 0]]);

it('deletes again what a change had won back', function (): void {
    $this->sync($this->ann, [($this->change)([], [], ['kind' => 'delete'])]);
    $this->sync($this->ben, [($this->change)(['clutch' => 97], ['clutch' => 90])]);
    ($this->settle)(($this->list)()['disputes'][0]['id'], ['choose' => ['@deleted' => 'theirs']])->assertOk();
    expect(($this->row)()->deleted)->toBe(1);
});

it('says why a value cannot be taken today, and decides nothing', function (): void {
    $clash = ($this->clash)();
    $layer = Layer::query()->findOrFail($this->layer_->id);
    $design = $layer->design()->toArray();
    $design['fields'][1]['limits'] = ['lowest' => 1, 'highest' => 96];
    DesignStore::saveNext($layer, LayerDesign::fromArray($design), 1, null);
    ($this->settle)($clash['id'], ['choose' => ['clutch' => 'mine', 'code' => 'mine']])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'above_highest');
    expect(($this->row)())
        ->toMatchObject(['f_clutch' => 95, 'f_code' => 'B'])
        ->and(($this->list)()['open'])
        ->toBe(1);
});

it('lets in a held record as it was, with its photos and what was done to it afterwards', function (): void {
    $bytes = $this->jpeg();
    $add = $this->add($this->layer_, [
        'values' => ['code' => 'W', 'species' => 'CC', 'clutch' => 200],
        'photos' => [$this->announce($bytes)],
        'captured_at' => '2026-05-01T06:00:00Z',
    ]);
    $later = ($this->change)(['code' => 'W2'], ['code' => 'W'], ['record' => $add['record']]);
    ($this->narrow)();
    $answers = $this->sync($this->ann, [$add, $later])['outcomes'];
    expect(array_column($answers, 'outcome'))
        ->toBe(['held', 'held'])
        ->and(($this->row)($add['record']))
        ->toBeNull();
    $held = ($this->list)()['disputes'];
    expect($held)
        ->toHaveCount(2)
        ->and($held[0])
        ->toMatchArray(['kind' => 'held', 'name' => 'W', 'record' => null, 'geometry' => $add['geometry']])
        ->and($held[0]['reasons'][0]['message'])
        ->toContain('Clutch')
        ->and($held[0]['photos'][0]['state'])
        ->toBe('on_way');
    ($this->settle)($held[0]['id'], ['take' => true])->assertOk();
    expect(($this->row)($add['record']))
        ->toMatchObject([
            'f_clutch' => 200,
            'f_code' => 'W2',
            'created_by' => $this->ann->id,
            'collected_at' => '2026-05-01 06:00:00.000',
        ])
        ->and(($this->list)()['open'])
        ->toBe(0)
        ->and($this->getJson("/api/v1/layers/{$this->layer_->id}/records/{$add['record']}")->json('photos'))
        ->toHaveCount(1);
});

it('sets a held record aside; the phone hears that it is gone, and it can be brought back', function (): void {
    $add = $this->add($this->layer_, ['values' => ['code' => 'W', 'species' => 'CC', 'clutch' => 200]]);
    ($this->narrow)();
    $this->sync($this->ann, [$add]);
    ($this->settle)(($this->list)()['disputes'][0]['id'], ['take' => false])->assertOk();
    expect($this->sync($this->ann, [], [$this->layer_->id => 1])['news'][$this->layer_->id]['gone'])->toBe([
        $add['record'],
    ]);
    $this->actingAs($this->desk)
        ->postJson("/api/v1/layers/{$this->layer_->id}/records/{$add['record']}/restore")
        ->assertOk();
    expect(($this->row)($add['record']))->toMatchObject(['deleted' => 0, 'f_clutch' => 200]);
});

it('lets in a held change as it was, in the name of who made it', function (): void {
    $change = ($this->change)(['clutch' => 200], ['clutch' => 90]);
    ($this->narrow)();
    $this->sync($this->ben, [$change]);
    ($this->settle)(($this->list)()['disputes'][0]['id'], ['take' => true])->assertOk();
    expect(($this->row)()->f_clutch)
        ->toBe(200)
        ->and(
            DB::table('record_history')
                ->where('record_id', RecordId::of($this->record)->bytes())
                ->where('version', 2)
                ->value('user_id'),
        )
        ->toBe($this->ben->id);
    ($this->settle)(Conflict::query()->where('layer_id', $this->layer_->id)->value('id'), ['take' => 'yes'])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'dispute_take');
});

it('takes leave of a person: work done before is held, later work and reading end', function (): void {
    $before = $this->add($this->layer_, ['captured_at' => now()->subHour()->format('Y-m-d\TH:i:s\Z')]);
    $member = $this->programme_->members()->where('user_id', $this->ann->id)->value('id');
    $this->actingAs($this->desk)
        ->deleteJson("/api/v1/programmes/{$this->programme_->id}/people/$member")
        ->assertNoContent();
    $after = $this->add($this->layer_, ['captured_at' => now()->addMinute()->format('Y-m-d\TH:i:s\Z')]);
    $round = $this->sync($this->ann, [$before, $after], [$this->layer_->id => 0]);
    expect(array_column($round['outcomes'], 'outcome'))
        ->toBe(['held', 'refused'])
        ->and($round['lost'])
        ->toBe([$this->layer_->id])
        ->and($round['news'])
        ->toBe([]);
    $this->actingAs($this->ann)
        ->getJson("/api/v1/layers/{$this->layer_->id}")
        ->assertNotFound();
    ($this->settle)(($this->list)()['disputes'][0]['id'], ['take' => true])->assertOk();
    expect(($this->row)($before['record'])->created_by)->toBe($this->ann->id);
    // A coordinator must stay.
    $last = $this->programme_->members()->where('user_id', $this->desk->id)->value('id');
    $this->actingAs($this->desk)
        ->deleteJson("/api/v1/programmes/{$this->programme_->id}/people/$last")
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'last_coordinator');
});

it('tells a phone how much it may see, and which records are its own', function (): void {
    $round = $this->sync($this->ben, [], [$this->layer_->id => 0])['news'][$this->layer_->id];
    expect($round['scope'])->toBe('all')->and($round['records'][0]['mine'])->toBeFalse();
    $layer = Layer::query()->findOrFail($this->layer_->id);
    DesignStore::saveNext(
        $layer,
        LayerDesign::fromArray(['rights' => ['crew' => ['see' => 'own']]] + $layer->design()->toArray()),
        1,
        null,
    );
    expect($this->sync($this->ann, [], [$this->layer_->id => 0])['news'][$this->layer_->id])
        ->toMatchArray(['scope' => 'own'])
        ->and($this->sync($this->ben, [], [$this->layer_->id => 0])['news'][$this->layer_->id]['records'])
        ->toBe([]);
});

it('reads a compressed round, and refuses one that is none or bursts', function (): void {
    $send = fn (string $body) => $this->actingAs($this->ann)->call(
        'POST',
        '/api/v1/sync',
        server: [
            'CONTENT_TYPE' => 'application/json',
            'HTTP_CONTENT_ENCODING' => 'gzip',
            'HTTP_ACCEPT' => 'application/json',
        ],
        content: $body,
    );
    $round = json_encode([
        'device' => RecordId::make()->text,
        'operations' => [$this->add($this->layer_)],
        'cursors' => new stdClass,
    ]);
    expect($send(gzencode($round))->assertOk()->json('outcomes.0.outcome'))->toBe('applied');
    foreach (['no gzip', gzencode('{'), substr(gzencode($round), 0, 40), gzencode(str_repeat('[', 40 << 20))] as $bad) {
        $send($bad)
            ->assertUnprocessable()
            ->assertJsonPath(
                'problems.0.code',
                static fn (string $code): bool => in_array($code, ['sync_packed', 'bad_json'], true),
            );
    }
});
