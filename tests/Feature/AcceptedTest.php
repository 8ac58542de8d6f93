<?php

declare(strict_types=1);

use App\Models\Audience;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/*
 * Records are accepted as they are by whoever coordinates. Whatever crews bring or change waits for that, and an
 * audience may see accepted records alone.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->crew = $this->crew($this->field);
    $this->layer = $this->layer($this->field);
    $this->at = "/api/v1/layers/{$this->layer->id}";
    $this->bring = function (string $code, mixed $by = null, array $more = []): string {
        $add = $this->add($this->layer, ['values' => ['code' => $code, 'species' => 'CC']] + $more);
        expect($this->sync($by ?? $this->crew, [$add])['outcomes'][0]['outcome'])->toBe('applied');

        return $add['record'];
    };
    $this->change = function (string $record, string $code, mixed $by = null, int $base = 1): void {
        $was = ['code' => ($this->record)($record)['values']['code']];
        $answer = $this->sync($by ?? $this->crew, [
            $this->changeOf($this->layer, $record, ['code' => $code], $was, ['base' => $base]),
        ]);
        expect($answer['outcomes'][0]['outcome'])->toBe('applied');
    };
    $this->page = fn (string $query = ''): array => $this->actingAs($this->head)
        ->getJson("$this->at/records$query")->assertOk()->json();
    $this->record = fn (string $record): array => $this->actingAs($this->head)
        ->getJson("$this->at/records/$record")->assertOk()->json();
    $this->say = fn (array $body, int $status = 200): array => $this->actingAs($this->head)
        ->postJson("$this->at/accepted", $body)->assertStatus($status)->json();
    $this->accept = fn (string $record, int $version = 1): array => ($this->say)([
        'accepted' => true, 'records' => [['id' => $record, 'version' => $version]],
    ]);
    $this->toCheck = '?filter='.rawurlencode('{"all":[{"field":"@accepted","test":"is","value":false}]}');
    $this->rule = fn (string $audience, array $rule): mixed => $this->actingAs($this->head)->putJson(
        "$this->at/seen-by/$audience",
        ['rule' => $rule + ['rows' => 'all', 'place' => 'exact', 'fields' => null, 'photos' => true]],
    )->assertOk();
});

it('lets wait what crews bring and change, and not what coordinators do', function (): void {
    $theirs = ($this->bring)('theirs');
    $own = ($this->bring)('own', $this->head);
    expect(($this->record)($theirs)['accepted'])->toBeNull()
        ->and(($this->record)($own)['accepted']['by'])->toBe('Head')
        ->and(($this->page)()['to_check'])->toBe(1)
        ->and(array_column(($this->page)($this->toCheck)['records'], 'id'))->toBe([$theirs]);

    expect(($this->accept)($theirs))->toMatchArray(['done' => 1, 'changed' => 0, 'to_check' => 0])
        ->and(($this->record)($theirs)['accepted']['by'])->toBe('Head');
    // A coordinator's correction of it stays accepted, and so does one that waits wait.
    $this->patchJson("$this->at/records/$theirs", ['base' => 1, 'values' => ['code' => 'better']])->assertOk();
    expect(($this->record)($theirs)['accepted'])->not->toBeNull();
    ($this->change)($theirs, 'again', base: 2);
    expect(($this->record)($theirs)['accepted'])->toBeNull();
    $this->patchJson("$this->at/records/$theirs", ['base' => 3, 'values' => ['code' => 'once more']])->assertOk();
    expect(($this->record)($theirs)['accepted'])->toBeNull();

    // Nothing becomes another by it: the record keeps its version, and history tells of no change.
    ($this->accept)($theirs, 4);
    expect(($this->record)($theirs)['version'])->toBe(4)
        ->and($this->getJson("$this->at/records/$theirs/history")->json('0.version'))->toBe(4);
});

it('lets a record wait again when a crew adds a photo to it', function (): void {
    $record = ($this->bring)('A');
    ($this->accept)($record);
    $photo = $this->announce($this->jpeg());
    $this->actingAs($this->head)->postJson("$this->at/records/$record/files", ['files' => [$photo]])->assertCreated();
    expect(($this->record)($record)['accepted'])->not->toBeNull();
    $this->actingAs($this->crew)->postJson("$this->at/records/$record/files", [
        'files' => [$this->announce($this->jpeg())],
    ])->assertCreated();
    expect(($this->record)($record)['accepted'])->toBeNull();
});

it('accepts what was looked at, and leaves out what became another meanwhile', function (): void {
    $records = array_map(fn (string $c): string => ($this->bring)($c), ['A', 'B', 'C', 'D']);
    $page = ($this->page)($this->toCheck);
    ($this->change)($records[1], 'B2');
    expect(($this->say)(['accepted' => true, 'records' => array_map(
        static fn (string $id): array => ['id' => $id, 'version' => 1],
        array_slice($records, 0, 2),
    )]))->toMatchArray(['done' => 1, 'changed' => 1, 'to_check' => 3]);
    $all = ($this->say)(['accepted' => true, 'as_of' => $page['as_of']]);
    expect($all)->toMatchArray(['done' => 2, 'changed' => 1, 'to_check' => 1]);
    // Twice is once.
    expect(($this->say)(['accepted' => true, 'as_of' => $page['as_of']])['done'])->toBe(0);

    // Lists go on showing them in the order in which they came.
    $codes = fn (): array => array_column(array_column(($this->page)()['records'], 'values'), 'code');
    expect($codes())->toBe(['D', 'C', 'A', 'B2']);

    // Undone are those of that moment alone.
    expect(($this->say)(['accepted' => false, 'at' => $all['at']]))->toMatchArray(['done' => 2, 'to_check' => 3])
        ->and(($this->record)($records[0])['accepted'])->not->toBeNull()
        ->and(($this->say)(['accepted' => false, 'records' => [['id' => $records[0], 'version' => 1]]])['to_check'])
        ->toBe(4);
    expect(DB::table('audit')->where('programme_id', $this->field->id)->orderBy('id')->pluck('kind')->all())
        ->toBe(['accepted', 'accepted', 'unaccepted', 'unaccepted']);
});

it('accepts no more of a list than its slice shows', function (): void {
    $this->actingAs($this->head);
    $slice = $this->postJson("$this->at/slices", [
        'filter' => ['all' => [['field' => 'code', 'test' => 'is', 'value' => 'A']]],
    ])->assertCreated()->json('id');
    $a = ($this->bring)('A');
    ($this->bring)('B');
    $asOf = ($this->page)("?slice=$slice")['as_of'];
    expect(($this->say)(['accepted' => true, 'as_of' => $asOf, 'slice' => $slice]))
        ->toMatchArray(['done' => 1, 'to_check' => 1])
        ->and(($this->record)($a)['accepted'])->not->toBeNull();
});

it('refuses what says nothing, and whoever does not coordinate', function (): void {
    $id = ($this->bring)('A');
    $one = [['id' => $id, 'version' => 1]];
    foreach ([
        [[], 'accept_said'],
        [['accepted' => 'yes', 'records' => $one], 'accept_said'],
        [['accepted' => true], 'accept_records'],
        [['accepted' => true, 'records' => []], 'accept_records'],
        [['accepted' => true, 'records' => array_fill(0, 1_001, $one[0])], 'accept_records'],
        [['accepted' => true, 'records' => [['id' => $id]]], 'op_number'],
        [['accepted' => true, 'records' => [['id' => 'x', 'version' => 1]]], 'id_shape'],
        [['accepted' => true, 'as_of' => null], 'accept_as_of'],
        [['accepted' => true, 'as_of' => 'AAAAAAAAAAAAAAAAAAAAAA'], 'accept_as_of'],
        [['accepted' => true, 'as_of' => ($this->page)()['as_of'], 'slice' => 999_999], 'slice_unknown'],
        [['accepted' => false, 'at' => 'yesterday'], 'accept_at'],
    ] as [$body, $code]) {
        expect(($this->say)($body, 422)['problems'][0]['code'])->toBe($code);
    }
    // One that is not there is no fault; nothing is accepted by it.
    expect(($this->accept)(RecordId::make()->text))->toMatchArray(['done' => 0, 'changed' => 0]);
    $this->actingAs($this->crew)->postJson("$this->at/accepted", ['accepted' => true, 'records' => $one])
        ->assertForbidden();
    expect($this->getJson("$this->at/records")->assertOk()->json())->not->toHaveKeys(['to_check', 'as_of']);
});

it('shows an audience accepted records alone, on whatever way it looks', function (): void {
    $shown = ($this->bring)('SHOWN');
    ($this->accept)($shown);
    ($this->rule)('link', ['accepted' => true]);
    $map = $this->mapOf($this->layer, ['card' => ['fields' => ['code'], 'photos' => true]], Audience::Link);
    $board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B', 'audience' => 'link', 'tiles' => [
            ['id' => 'n', 'kind' => 'number', 'title' => 'N', 'layer' => $this->layer->id],
            ['id' => 'l', 'kind' => 'latest', 'title' => 'L', 'layer' => $this->layer->id, 'names' => true],
        ],
    ])->assertCreated()->json();
    $map->refresh();
    $at = "/api/v1/open/maps/$map->link_token";
    $outlets = [
        $at, "$at/picture.png", "$at/layers/{$map->layers[0]['id']}/features.geojson",
        '/api/v1/open'.$this->linkOf($board),
    ];
    $told = fn (): array => array_map(function (string $address): array {
        auth()->logout();
        $this->app['auth']->forgetGuards();
        $answer = $this->get($address)->assertOk();

        return [
            str_ends_with($address, '.png')
                ? md5((string) $answer->getContent())
                : (string) preg_replace('/"as_of":"[^"]*"/', '', (string) $answer->getContent()),
            $answer->headers->get('ETag'),
        ];
    }, $outlets);
    $before = $told();
    expect(json_encode($before))->toContain('SHOWN');

    // What waits is not there: neither what it says, nor that it is.
    $hidden = ($this->bring)('HIDDEN', more: ['geometry' => ['type' => 'Point', 'coordinates' => [-11.4, -14.4]]]);
    ($this->change)($hidden, 'HIDDEN-2');
    expect($told())->toBe($before);
    ($this->accept)($hidden, 2);
    expect(json_encode($told()))->toContain('SHOWN')->toContain('HIDDEN-2');
    // Changed by a crew it waits again; taken back as well.
    ($this->change)($hidden, 'HIDDEN-3', base: 2);
    expect(json_encode($told()))->not->toContain('HIDDEN');
    ($this->accept)($hidden, 3);
    ($this->say)(['accepted' => false, 'records' => [['id' => $hidden, 'version' => 3]]]);
    expect(json_encode($told()))->not->toContain('HIDDEN');
});

it('shows those of a slice that are accepted', function (): void {
    $this->actingAs($this->head);
    $slice = $this->postJson("$this->at/slices", [
        'filter' => ['any' => [
            ['field' => 'code', 'test' => 'is', 'value' => 'A'], ['field' => 'code', 'test' => 'is', 'value' => 'B'],
        ]],
    ])->assertCreated()->json('id');
    foreach (['A', 'C'] as $code) {
        ($this->accept)(($this->bring)($code));
    }
    ($this->bring)('B');
    ($this->rule)('link', ['rows' => 'slice', 'slice' => $slice, 'accepted' => true]);
    $map = $this->mapOf($this->layer, ['card' => ['fields' => ['code']]], Audience::Link)->refresh();
    $features = $this->getJson("/api/v1/open/maps/$map->link_token/layers/{$map->layers[0]['id']}/features.geojson")
        ->assertOk()->json('features');
    expect($features)->toHaveCount(1);
    expect($this->actingAs($this->head)->putJson("$this->at/seen-by/link", ['rule' => [
        'rows' => 'all', 'accepted' => 'yes', 'place' => 'exact', 'fields' => null, 'photos' => true,
    ]])->assertUnprocessable()->json('problems.0.code'))->toBe('audience_accepted');
});

it('sends phones of others what is accepted, and does not begin again for what was never seen', function (): void {
    $other = $this->crew($this->field);
    ($this->rule)('crews', ['accepted' => true]);
    $own = ($this->bring)('own', $other);
    $theirs = ($this->bring)('theirs');
    $device = RecordId::make()->text;
    $news = function (int $since) use ($other, $device): array {
        return $this->sync($other, [], [$this->layer->id => $since], $device)['news'][$this->layer->id];
    };
    $first = $news(0);
    expect(array_column($first['records'], 'id'))->toBe([$own]);
    ($this->bring)('more');
    $second = $news($first['cursor']);
    expect($second['records'])->toBe([])->and($second)->not->toHaveKey('again');
    ($this->accept)($theirs);
    $third = $news($second['cursor']);
    expect(array_column($third['records'], 'id'))->toBe([$theirs]);
    // Changed by its crew it waits, and goes from the phones of others.
    ($this->change)($theirs, 'theirs 2');
    expect($news($third['cursor'])['again'] ?? false)->toBeTrue();
});

it('tells nothing of a past day that was accepted but as what it became', function (): void {
    ($this->rule)('guests', ['accepted' => true]);
    $guest = $this->member($this->field, App\Models\Role::Guest);
    $this->travelTo('2026-05-01 10:00:00');
    $same = ($this->bring)('SAME', more: ['captured_at' => '2026-05-01T09:00:00Z']);
    $wrong = ($this->bring)('WRONG', more: ['captured_at' => '2026-05-01T09:00:00Z']);
    $this->travelTo('2026-05-10 10:00:00');
    ($this->change)($wrong, 'RIGHT');
    ($this->accept)($same);
    ($this->accept)($wrong, 2);
    $board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B', 'audience' => 'programme', 'tiles' => [
            ['id' => 'l', 'kind' => 'latest', 'title' => 'L', 'layer' => $this->layer->id, 'names' => true],
        ],
    ])->assertCreated()->json();
    $at = "/api/v1/boards/{$board['id']}/answers";
    $told = fn (string $query): string => (string) $this->actingAs($guest)->getJson($at.$query)
        ->assertOk()->getContent();
    expect($told(''))->toContain('SAME')->toContain('RIGHT')
        ->and($told('?on=2026-05-02'))->toContain('SAME')->not->toContain('WRONG')->not->toContain('RIGHT');
});

it('takes what was there before for accepted', function (): void {
    $record = ($this->bring)('A');
    $table = "records_{$this->layer->id}";
    DB::statement("alter table $table drop column accepted_at, drop column accepted_by");
    (require database_path('migrations/2026_12_12_000041_accepted_records.php'))->up();
    expect(($this->record)($record)['accepted'])->toMatchArray(['by' => null]);
});

it('is said by one person at a time, and never of a record that is deleted', function (): void {
    $record = ($this->bring)('A');
    $this->actingAs($this->head)->deleteJson("$this->at/records/$record")->assertNoContent();
    expect(($this->accept)($record, 2))->toMatchArray(['done' => 0, 'changed' => 0]);
    // Who does not coordinate any more when the lock is theirs accepts nothing.
    $second = ($this->bring)('B');
    $this->field->members()->where('user_id', $this->head->id)->update(['role' => 'crew']);
    $this->actingAs($this->head)->postJson("$this->at/accepted", [
        'accepted' => true, 'records' => [['id' => $second, 'version' => 1]],
    ])->assertForbidden();
});
