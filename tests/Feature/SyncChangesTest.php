<?php

declare(strict_types=1);

use App\Designs\DesignStore;
use App\Models\Conflict;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;

/*
 * What phones do to records that are there already: outcomes of sync.md, one by one. Two phones are two devices;
 * what neither may lose is looked for in records, history and disputes.
 */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->desk = $this->person('Desk'));
    $this->ann = $this->crew($this->programme_);
    $this->ben = $this->crew($this->programme_);
    $this->layer_ = $this->layer($this->programme_, [
        'rights' => ['crew' => ['add' => true, 'see' => 'all', 'change' => 'all', 'delete' => 'all']],
    ]);
    $this->phones = ['ann' => RecordId::make()->text, 'ben' => RecordId::make()->text];
    $this->record = ($first = $this->add($this->layer_, [
        'values' => ['code' => 'A', 'species' => 'CC', 'clutch' => 90],
    ]))['record'];
    $this->sync($this->ann, [$first], [], $this->phones['ann']);
    $this->change = fn (array $values, array $was, array $more = []): array => $this->changeOf(
        $this->layer_,
        $this->record,
        $values,
        $was,
        $more,
    );
    $this->by = fn (string $who, array ...$operations): array => $this->sync(
        $this->{$who},
        $operations,
        [],
        $this->phones[$who],
    )['outcomes'];
    $this->disputes = fn (): mixed => Conflict::query()->where('layer_id', $this->layer_->id);
    $this->row = fn (): object => DB::table($this->layer_->table())
        ->where('id', RecordId::of($this->record)->bytes())
        ->first();
    $this->kinds = fn (): array => DB::table('record_history')
        ->where('layer_id', $this->layer_->id)
        ->where('record_id', RecordId::of($this->record)->bytes())
        ->orderBy('version')
        ->pluck('kind')
        ->all();
    $this->redesign = fn (array $change, array $decisions = []): mixed => DesignStore::saveNext(
        $layer = Layer::query()->findOrFail($this->layer_->id),
        LayerDesign::fromArray(array_replace($layer->design()->toArray(), $change)),
        $layer->design_version,
        null,
        $decisions,
    );
});

it('applies a change: values, version, history, news', function (): void {
    [$answer] = ($this->by)('ann', ($this->change)(['clutch' => 95], ['clutch' => 90]));
    expect($answer)
        ->toMatchArray(['outcome' => 'applied', 'version' => 2])
        ->and(($this->row)())
        ->toMatchObject(['version' => 2, 'f_clutch' => 95, 'f_code' => 'A'])
        ->and(($this->kinds)())
        ->toBe(['add', 'change']);
    $news = $this->sync($this->ben, [], [$this->layer_->id => 1])['news'][$this->layer_->id];
    expect($news['records'][0])
        ->toMatchArray(['version' => 2, 'id' => $this->record])
        ->and($news['records'][0]['values']['clutch'])
        ->toBe(95);
});

it('gives the same answer to the same change again, and makes no second version', function (): void {
    $change = ($this->change)(['clutch' => 95], ['clutch' => 90]);
    $first = ($this->by)('ann', $change, $change);
    expect($first[0])
        ->toBe($first[1])
        ->and(($this->by)('ann', $change)[0])
        ->toBe($first[0])
        ->and(($this->row)()->version)
        ->toBe(2);
});

it('merges changes to different values', function (): void {
    ($this->by)('ann', ($this->change)(['clutch' => 95], ['clutch' => 90]));
    [$answer] = ($this->by)('ben', ($this->change)(['species' => 'CM'], ['species' => 'CC']));
    expect($answer)
        ->toMatchArray(['outcome' => 'merged', 'version' => 3])
        ->and(($this->row)())
        ->toMatchObject(['f_clutch' => 95, 'f_species' => 'CM'])
        ->and(($this->disputes)()->count())
        ->toBe(0);
});

it('keeps the first of two values that clash, and the other beside it', function (): void {
    ($this->by)('ann', ($this->change)(['clutch' => 95], ['clutch' => 90]));
    [$answer] = ($this->by)(
        'ben',
        ($this->change)(['clutch' => 97, 'species' => 'CM'], ['clutch' => 90, 'species' => 'CC']),
    );
    expect($answer)
        ->toMatchArray(['outcome' => 'clash', 'clashes' => ['clutch']])
        ->and(($this->row)())
        ->toMatchObject(['version' => 3, 'f_clutch' => 95, 'f_species' => 'CM']);
    $dispute = ($this->disputes)()->sole();
    expect($dispute->kind)
        ->toBe('clash')
        ->and($dispute->user_id)
        ->toBe($this->ben->id)
        ->and($dispute->clashes)
        ->toEqual([['key' => 'clutch', 'was' => 90, 'theirs' => 95, 'mine' => 97, 'stands' => 'theirs']])
        ->and($dispute->operation['values'])
        ->toBe(['clutch' => 97, 'species' => 'CM']);
});

it('makes no clash of the same value from both sides, nor of one\'s own changes in a row', function (): void {
    ($this->by)(
        'ann',
        ($this->change)(['clutch' => 95], ['clutch' => 90]),
        ($this->change)(['clutch' => 96], ['clutch' => 95]),
    );
    // The phone did not know of its own second version yet: still its own.
    expect(($this->by)('ann', ($this->change)(['clutch' => 97], ['clutch' => 96]))[0]['outcome'])
        ->toBe('applied')
        ->and(($this->by)('ben', ($this->change)(['clutch' => 97], ['clutch' => 90]))[0]['outcome'])
        ->toBe('merged')
        ->and(($this->row)())
        ->toMatchObject(['version' => 4, 'f_clutch' => 97]);
});

it('tells what stands to the phone whose change brought nothing', function (): void {
    ($this->by)('ann', ($this->change)(['clutch' => 95], ['clutch' => 90]));
    $before = Layer::query()->find($this->layer_->id)->change_number;
    $round = $this->sync(
        $this->ben,
        [($this->change)(['clutch' => 97], ['clutch' => 90])],
        [$this->layer_->id => $before],
        $this->phones['ben'],
    );
    expect($round['news'][$this->layer_->id]['records'][0]['values']['clutch'])->toBe(95);
});

it('moves a record, and clashes over two moves', function (): void {
    $to = static fn (float $lon): array => ['type' => 'Point', 'coordinates' => [$lon, -14.5]];
    expect(
        ($this->by)(
            'ann',
            ($this->change)(
                [],
                [],
                [
                    'kind' => 'move',
                    'geometry' => $to(-11.4),
                    'was_geometry' => $to(-11.5),
                    'fix' => ['accuracy' => 2.5],
                ],
            ),
        )[0]['outcome'],
    )
        ->toBe('applied')
        ->and(($this->row)())
        ->toMatchObject(['lon' => -11.4, 'accuracy' => 2.5, 'version' => 2]);
    [$answer] = ($this->by)(
        'ben',
        ($this->change)([], [], ['kind' => 'move', 'geometry' => $to(-11.3), 'was_geometry' => $to(-11.5)]),
    );
    expect($answer['clashes'])
        ->toBe(['@place'])
        ->and(($this->row)()->lon)
        ->toBe(-11.4)
        ->and(($this->disputes)()->sole()->clashes[0])
        ->toMatchArray(['theirs' => $to(-11.4), 'mine' => $to(-11.3)]);
    // Without the place that it replaced, a move over somebody else's is a clash too; over nobody's it is not.
    expect(($this->by)('ben', ($this->change)([], [], ['kind' => 'move', 'geometry' => $to(-11.2)]))[0]['outcome'])
        ->toBe('clash')
        ->and(
            ($this->by)('ann', ($this->change)([], [], ['kind' => 'move', 'geometry' => $to(-11.1), 'base' => 2]))[0][
                'outcome'
            ],
        )
        ->toBe('applied');
});

it('deletes and restores, and tells the other phones', function (): void {
    expect(($this->by)('ann', ($this->change)([], [], ['kind' => 'delete']))[0])->toMatchArray([
        'outcome' => 'applied',
        'version' => 2,
    ]);
    $news = $this->sync($this->ben, [], [$this->layer_->id => 1])['news'][$this->layer_->id];
    expect($news['gone'])
        ->toBe([$this->record])
        ->and($news['records'])
        ->toBe([]);
    expect(($this->by)('ben', ($this->change)([], [], ['kind' => 'delete', 'base' => 1]))[0]['outcome'])
        ->toBe('applied')
        ->and(($this->by)('ann', ($this->change)([], [], ['kind' => 'restore', 'base' => 2]))[0])
        ->toMatchArray(['outcome' => 'applied', 'version' => 3])
        ->and(($this->row)()->deleted)
        ->toBe(0)
        ->and(($this->kinds)())
        ->toBe(['add', 'delete', 'restore']);
});

it('lets nobody\'s work vanish where one deletes and the other changes', function (): void {
    // A change to a record that was deleted wins it back.
    ($this->by)('ann', ($this->change)([], [], ['kind' => 'delete']));
    expect(($this->by)('ben', ($this->change)(['clutch' => 97], ['clutch' => 90]))[0])
        ->toMatchArray(['outcome' => 'clash', 'clashes' => ['@deleted']])
        ->and(($this->row)())
        ->toMatchObject(['deleted' => 0, 'f_clutch' => 97]);
    // One that others changed is not deleted.
    expect(($this->by)('ann', ($this->change)([], [], ['kind' => 'delete', 'base' => 2]))[0])
        ->toMatchArray(['outcome' => 'clash', 'clashes' => ['@deleted']])
        ->and(($this->row)()->deleted)
        ->toBe(0)
        ->and(
            ($this->disputes)()
                ->orderBy('id')
                ->get()
                ->map(fn (Conflict $d): array => [$d->clashes[0]['mine'], $d->clashes[0]['stands']])
                ->all(),
        )
        ->toBe([[false, 'mine'], [true, 'theirs']]);
});

it('adds, changes and deletes one record within a batch', function (): void {
    $add = $this->add($this->layer_);
    $with = fn (array $more): array => ($this->change)([], [], ['record' => $add['record'], ...$more]);
    $answers = ($this->by)(
        'ben',
        $add,
        $with(['values' => ['clutch' => 4], 'was' => ['clutch' => null]]),
        $with(['kind' => 'move', 'geometry' => ['type' => 'Point', 'coordinates' => [-11.2, -14.2]]]),
        $with(['kind' => 'delete']),
        $with(['kind' => 'restore', 'base' => 4]),
    );
    expect(array_column($answers, 'outcome'))
        ->toBe(array_fill(0, 5, 'applied'))
        ->and(array_column($answers, 'version'))
        ->toBe([1, 2, 3, 4, 5]);
    $row = DB::table($this->layer_->table())
        ->where('id', RecordId::of($add['record'])->bytes())
        ->first();
    expect($row)->toMatchObject(['f_clutch' => 4, 'lon' => -11.2, 'deleted' => 0, 'version' => 5]);
});

it('refuses what is wrong with a change, one by one, with the reason', function (array $more, string $code): void {
    $answers = ($this->by)(
        'ben',
        ($this->change)(['clutch' => 95], ['clutch' => 90], $more),
        ($this->change)(['species' => 'CM'], ['species' => 'CC']),
    );
    expect($answers[0]['outcome'])
        ->toBe('refused')
        ->and($answers[0]['problems'][0]['code'])
        ->toBe($code)
        ->and($answers[0]['problems'][0]['message'])
        ->not->toContain('problem.')
        ->and($answers[1]['outcome'])
        ->toBe('applied');
})->with([
    'a base from the future' => [['base' => 9], 'base_future'],
    'no base' => [['base' => null], 'op_number'],
    'a base of nothing' => [['base' => 0], 'op_number'],
    'a record that is nowhere' => [['record' => '01900000-0000-7000-8000-000000000001'], 'record_unknown'],
    'a value of the wrong kind' => [['values' => ['clutch' => 'many']], 'not_whole'],
    'a value beyond its limit' => [['values' => ['clutch' => 900]], 'above_highest'],
    'a choice that is none' => [['values' => ['species' => 'XX']], 'choice_unknown'],
    'a field that is none' => [['values' => ['wings' => 2]], 'field_unknown'],
    'what must be there is taken away' => [['values' => ['code' => null], 'was' => ['code' => 'A']], 'required'],
    'a text of five megabytes' => [['values' => ['code' => str_repeat('x', 5_000_000)]], 'text_too_long'],
    'a place outside the world' => [
        ['geometry' => ['type' => 'Point', 'coordinates' => [0, 99]]],
        'position_outside_world',
    ],
    'foreign geometry' => [['geometry' => ['type' => 'Circle', 'coordinates' => [0, 9]]], 'position_no_point'],
    'what was, as a list' => [['was' => [1]], 'op_values'],
    'a layer that is nobody\'s' => [['layer' => 999_999], 'layer_unknown'],
    'a design to come' => [['design' => 7], 'design_unknown'],
]);

it('allows what crews may and no more', function (array $rights, string $who, string $kind, string $expected): void {
    ($this->redesign)(['rights' => ['crew' => $rights]]);
    $this->layer_->refresh();
    [$answer] = ($this->by)(
        $who,
        ($this->change)($kind === 'change' ? ['clutch' => 5] : [], $kind === 'change' ? ['clutch' => 90] : [], [
            'kind' => $kind,
            'design' => 2,
        ]),
    );
    expect($answer['outcome'] === 'refused' ? $answer['problems'][0]['code'] : $answer['outcome'])->toBe($expected);
})->with([
    [['change' => 'own', 'delete' => 'none'], 'ann', 'change', 'applied'],
    [['change' => 'own', 'delete' => 'none'], 'ben', 'change', 'change_not_allowed'],
    [['change' => 'none', 'delete' => 'own'], 'ann', 'change', 'change_not_allowed'],
    [['change' => 'none', 'delete' => 'own'], 'ann', 'delete', 'applied'],
    [['change' => 'own', 'delete' => 'own'], 'ben', 'delete', 'change_not_allowed'],
    [['see' => 'own', 'change' => 'all', 'delete' => 'all'], 'ben', 'delete', 'record_unknown'],
]);

it('holds what was allowed when it was done and no longer is', function (): void {
    $before = ($this->change)(['clutch' => 95], ['clutch' => 90]);
    $added = $this->add($this->layer_);
    ($this->redesign)(['rights' => ['crew' => ['add' => false, 'change' => 'none']]]);
    $answers = ($this->by)('ann', $before, $added);
    expect(array_column($answers, 'outcome'))
        ->toBe(['held', 'held'])
        ->and($answers[0]['problems'][0]['code'])
        ->toBe('held_rights')
        ->and(($this->row)()->f_clutch)
        ->toBe(90)
        ->and(($this->disputes)()->where('kind', 'held')->count())
        ->toBe(2)
        ->and(DB::table($this->layer_->table())->count())
        ->toBe(1);
    // By the design of today it is refused.
    expect(($this->by)('ann', [...$this->add($this->layer_), 'design' => 2])[0]['problems'][0]['code'])->toBe(
        'add_not_allowed',
    );
});

it('holds what today\'s design cannot take, and takes what it did not ask for then', function (): void {
    $fields = $this->layer_->design()->toArray()['fields'];
    $wide = $this->add($this->layer_, ['values' => ['code' => 'W', 'species' => 'CC', 'clutch' => 200]]);
    $narrow = $this->add($this->layer_, ['values' => ['code' => 'N', 'species' => 'CC', 'clutch' => 20]]);
    $fields[1]['limits'] = ['lowest' => 1, 'highest' => 150];
    $fields[] = ['key' => 'depth', 'label' => 'Depth', 'kind' => 'whole_number', 'required' => true];
    ($this->redesign)(['fields' => $fields], ['depth' => ['leave' => true]]);
    $change = ($this->change)(['clutch' => 180], ['clutch' => 90]);
    $answers = ($this->by)('ann', $wide, $narrow, $change, ($this->change)(['clutch' => 120], ['clutch' => 90]));
    expect(array_column($answers, 'outcome'))
        ->toBe(['held', 'applied', 'held', 'applied'])
        ->and($answers[0]['problems'][0])
        ->toMatchArray(['code' => 'above_highest', 'field' => 'clutch']);
    // A later change to what is held is held with it, also in another round; a second record with its id is refused.
    $again = ($this->change)(['code' => 'W2'], ['code' => 'W'], ['record' => $wide['record']]);
    expect(($this->by)('ann', $again)[0])
        ->toMatchArray(['outcome' => 'held'])
        ->and(($this->by)('ann', $this->add($this->layer_, ['record' => $wide['record']]))[0]['problems'][0]['code'])
        ->toBe('record_exists')
        // Nobody else hears of it.
        ->and(($this->by)('ben', [...$again, 'op' => RecordId::make()->text])[0]['problems'][0]['code'])
        ->toBe('record_unknown');
});

it('takes files with a change, as many as the layer allows', function (): void {
    $bytes = $this->jpeg();
    $photos = fn (int $n): array => array_map(fn (): array => $this->announce($bytes), range(1, $n));
    expect(($this->by)('ann', ($this->change)([], [], ['photos' => $photos(2)]))[0]['outcome'])
        ->toBe('applied')
        // More than the layer allows at once is refused; more than it allows with what is there is held.
        ->and(($this->by)('ann', ($this->change)([], [], ['photos' => $photos(4)]))[0])
        ->toMatchArray(['outcome' => 'refused'])
        ->and(($this->by)('ann', ($this->change)([], [], ['photos' => $photos(2)]))[0])
        ->toMatchArray(['outcome' => 'held'])
        ->and(
            DB::table('attachments')
                ->where('record_id', RecordId::of($this->record)->bytes())
                ->where('state', 'on_way')
                ->count(),
        )
        ->toBe(4);
    $this->actingAs($this->desk)
        ->postJson('/api/v1/disputes/'.($this->disputes)()->value('id'), ['take' => false])
        ->assertOk();
    expect(
        DB::table('attachments')
            ->where('record_id', RecordId::of($this->record)->bytes())
            ->where('state', 'removed')
            ->count(),
    )->toBe(2);
});

it('corrects a clock that is known to be wrong, and remembers by how much', function (): void {
    $late = $this->add($this->layer_, [
        'captured_at' => '2026-05-01T06:00:00.000Z',
        'clock_off' => 3_600,
        'values' => ['code' => 'L', 'species' => 'CC'],
    ]);
    $near = $this->add($this->layer_, [
        'captured_at' => '2026-05-01T06:00:00.000Z',
        'clock_off' => 4,
        'values' => ['code' => 'M', 'species' => 'CC'],
    ]);
    ($this->by)('ann', $late, $near);
    $at = fn (array $op): array => [
        DB::table($this->layer_->table())
            ->where('id', RecordId::of($op['record'])->bytes())
            ->value('collected_at'),
        DB::table('record_history')
            ->where('record_id', RecordId::of($op['record'])->bytes())
            ->value('clock_off'),
    ];
    expect($at($late))
        ->toBe(['2026-05-01 07:00:00.000', 3_600])
        ->and($at($near))
        ->toBe(['2026-05-01 06:00:00.000', null]);
});

it('brings calculated values up to date with a change', function (): void {
    $layer = $this->layer($this->programme_, [
        'fields' => [
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            ['key' => 'shells', 'label' => 'Shells', 'kind' => 'whole_number'],
            ['key' => 'share', 'label' => 'Share', 'kind' => 'calculated', 'formula' => 'shells / eggs'],
        ],
    ]);
    $add = $this->add($layer, ['values' => ['eggs' => 100, 'shells' => 50]]);
    ($this->by)('ann', $add, [
        ...($this->change)(['shells' => 80], ['shells' => 50]),
        'layer' => $layer->id,
        'record' => $add['record'],
    ]);
    expect(DB::table($layer->table())->value('f_share'))->toBe(0.8);
});

it(
    'loses no visit: to a record that is held, that was deleted meanwhile, or by somebody who has left',
    function (): void {
        $visits = $this->layer($this->programme_, [
            'title' => 'Visits',
            'visits_of' => $this->layer_->title,
            'photos' => ['allowed' => false],
            'fields' => [['key' => 'seen', 'label' => 'Seen', 'kind' => 'short_text']],
        ]);
        $visit = fn (string $record): array => $this->add($visits, [
            'kind' => 'visit',
            'visited' => $record,
            'values' => ['seen' => 'yes'],
        ]);
        $wide = $this->add($this->layer_, ['values' => ['code' => 'W', 'species' => 'CC', 'clutch' => 200]]);
        $fields = Layer::query()->findOrFail($this->layer_->id)->design()->toArray()['fields'];
        $fields[1]['limits'] = ['lowest' => 1, 'highest' => 150];
        ($this->redesign)(['fields' => $fields]);
        // In one batch with the record that is held, and in the next.
        $answers = [
            ...($this->by)('ann', $wide, $visit($wide['record'])),
            ...($this->by)('ann', $visit($wide['record'])),
        ];
        expect(array_column($answers, 'outcome'))
            ->toBe(['held', 'held', 'held'])
            ->and($answers[1]['problems'][0]['code'])
            ->toBe('held_record');
        $held = Conflict::query()
            ->whereIn('layer_id', [$this->layer_->id, $visits->id])
            ->orderBy('id')
            ->get();
        $settle = fn (Conflict $d) => $this->actingAs($this->desk)->postJson("/api/v1/disputes/{$d->id}", [
            'take' => true,
        ]);
        $settle($held[1])->assertUnprocessable()->assertJsonPath('problems.0.code', 'held_first');
        $settle($held[0])->assertOk();
        $settle($held[1])->assertOk();
        expect(
            DB::table($visits->table())
                ->where('parent', RecordId::of($wide['record'])->bytes())
                ->count(),
        )->toBe(1);
        // Deleted while the visitor was on the way.
        ($this->by)('ann', ($this->change)([], [], ['kind' => 'delete']));
        expect(($this->by)('ben', $visit($this->record))[0])
            ->toMatchArray(['outcome' => 'clash', 'clashes' => ['@deleted']])
            ->and(($this->row)()->deleted)
            ->toBe(0)
            ->and(($this->by)('ben', $visit(RecordId::make()->text))[0]['problems'][0]['code'])
            ->toBe('visit_unknown');
        // Taken out of the programme: what was seen before is held, also at somebody else's record.
        $before = [...$visit($wide['record']), 'captured_at' => now()->subHour()->format('Y-m-d\TH:i:s\Z')];
        $this->actingAs($this->desk)
            ->deleteJson(
                "/api/v1/programmes/{$this->programme_->id}/people/".
                    $this->programme_->members()->where('user_id', $this->ben->id)->value('id'),
            )
            ->assertNoContent();
        expect(($this->by)('ben', $before)[0])
            ->toMatchArray(['outcome' => 'held'])
            ->and(($this->by)('ben', $before)[0]['problems'][0]['code'])
            ->toBe('held_rights');
    },
);
