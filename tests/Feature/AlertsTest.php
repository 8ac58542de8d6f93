<?php

declare(strict_types=1);

use App\Alerts\AlertRounds;
use Illuminate\Support\Facades\DB;

/* What alerts tell, to whom, how often: from a round of a phone to the desk, the mail box and the other phones. */

beforeEach(function (): void {
    $this->travelTo('2026-07-01T10:00:00Z');
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->crewOf = function (string $name): array {
        $user = $this->crew($this->field);
        $crew = $this->field->crews()->create(['name' => $name]);
        $this->field->members()->where('user_id', $user->id)->update(['crew_id' => $crew->id]);

        return [$user, $crew->id];
    };
    [$this->ann, $this->north] = ($this->crewOf)('North');
    [$this->ben, $this->south] = ($this->crewOf)('South');
    $this->nests = $this->layer($this->field);
    $this->large = $this->nests->slices()->create([
        'name' => 'Large clutches',
        'filter' => ['all' => [['field' => 'clutch', 'test' => 'at_least', 'value' => 100]]],
    ]);
    $this->nest = fn (string $code, int $clutch, $by = null): array => $this->sync($by ?? $this->ann, [
        $this->add($this->nests, ['values' => ['code' => $code, 'species' => 'CC', 'clutch' => $clutch]]),
    ]);
    $this->alert = function (array $rule, array $more = []) {
        return $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/alerts", $more + [
            'name' => 'Look at these', 'rule' => $rule, 'to' => ['coordinators' => true],
        ]);
    };
    $this->inSlice = ['kind' => 'slice', 'layer' => $this->nests->id, 'slice' => $this->large->id];
    /** Other tests leave theirs. */
    $this->mails = fn () => DB::table('mail_box')->whereIn('to', [$this->head->email, $this->ann->email]);
    $this->due = fn (): int => DB::table('notices')->where('programme_id', $this->field->id)
        ->where('mail', 'due')->count();
    $this->heard = fn ($person): array => array_column(
        $this->actingAs($person)->getJson('/api/v1/notices')->assertOk()->json('notices'),
        'text',
    );
});

it('tells of a record that comes into a slice, once', function (): void {
    ($this->nest)('N-0', 120);
    ($this->alert)($this->inSlice, ['by_mail' => true])->assertCreated();
    AlertRounds::run();
    // What was so already is not told.
    expect(($this->heard)($this->head))->toBe([]);
    ($this->nest)('N-1', 90);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toBe([]);
    ($this->nest)('N-2', 130);
    ($this->nest)('N-3', 140);
    AlertRounds::run();
    AlertRounds::run();
    expect(($this->heard)($this->head))->toBe(['Look at these: 2 new records'])
        ->and(($this->mails)()->count())->toBe(1);
    $mail = ($this->mails)()->first();
    expect($mail->to)->toBe($this->head->email)
        ->and($mail->subject)->toBe($this->field->name.': Look at these')
        ->and($mail->text)->toContain('N-3, N-2', "/check?layer={$this->nests->id}&slice={$this->large->id}");
    $notice = $this->getJson('/api/v1/notices')->json('notices.0');
    expect($notice)->read->toBeFalse()->records->toHaveCount(2);
    $this->postJson('/api/v1/notices/read', ['ids' => [$notice['id'], 99999, 'x']])
        ->assertOk()->assertJsonPath('unread', 0);
});

it('tells again of a record that has left the slice and comes back', function (): void {
    ($this->alert)($this->inSlice)->assertCreated();
    $add = $this->add($this->nests, ['values' => ['code' => 'N-1', 'species' => 'CC', 'clutch' => 120]]);
    $this->sync($this->ann, [$add]);
    AlertRounds::run();
    $this->sync($this->ann, [$this->changeOf($this->nests, $add['record'], ['clutch' => 20], ['clutch' => 120])]);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(1);
    $this->sync($this->ann, [$this->changeOf($this->nests, $add['record'], ['clutch' => 150], ['clutch' => 20])]);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(2);
});

it('rests after it has spoken and at night, and tells then what is still so', function (): void {
    ($this->alert)($this->inSlice, ['rest' => ['minutes' => 60, 'from' => '21:00', 'until' => '06:00']])
        ->assertCreated();
    ($this->nest)('N-1', 120);
    AlertRounds::run();
    ($this->nest)('N-2', 120);
    $this->travel(30)->minutes();
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(1);
    $this->travel(31)->minutes();
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(2);
    // St Helena keeps UTC.
    $this->travelTo('2026-07-01T22:00:00Z');
    $gone = $this->add($this->nests, ['values' => ['code' => 'N-3', 'species' => 'CC', 'clutch' => 120]]);
    $this->sync($this->ann, [$gone]);
    ($this->nest)('N-4', 120);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(2);
    $this->sync($this->ann, [$this->changeOf($this->nests, $gone['record'], ['clutch' => 20], ['clutch' => 120])]);
    $this->travelTo('2026-07-02T06:00:00Z');
    AlertRounds::run();
    expect(($this->heard)($this->head)[0])->toBe('Look at these: one new record');
});

it('tells when a measure passes a value, and again after it was back', function (): void {
    ($this->alert)([
        'kind' => 'measure', 'layer' => $this->nests->id, 'passes' => 'above', 'value' => 199.5,
        'measure' => ['of' => 'sum', 'field' => 'clutch'],
    ])->assertCreated();
    ($this->nest)('N-1', 150);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toBe([]);
    $add = $this->add($this->nests, ['values' => ['code' => 'N-2', 'species' => 'CC', 'clutch' => 50]]);
    $this->sync($this->ann, [$add]);
    AlertRounds::run();
    ($this->nest)('N-3', 10);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toBe(['Look at these: 200 now, more than 199.5']);
    $this->sync($this->ann, [$this->changeOf($this->nests, $add['record'], ['clutch' => 1], ['clutch' => 50])]);
    AlertRounds::run();
    ($this->nest)('N-4', 100);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(2);
});

it('says how it stands before it is made', function (): void {
    ($this->nest)('N-1', 150);
    $try = fn (array $rule): string => $this->actingAs($this->head)
        ->postJson("/api/v1/programmes/{$this->field->id}/alerts/try", ['rule' => $rule])->assertOk()->json('stands');
    expect($try($this->inSlice))->toContain('One record is in it now')
        ->and($try(['kind' => 'measure', 'layer' => $this->nests->id, 'passes' => 'below', 'value' => 5]))
        ->toContain('It is 1 now, so it has passed already')
        ->and($try(['kind' => 'silence', 'hours' => 2]))->toContain('None is silent');
});

it('tells of a crew that was not heard, on the days that it is out, until it is heard', function (): void {
    ($this->alert)(['kind' => 'silence', 'hours' => 3, 'on_outings' => true])->assertCreated();
    $cursors = [$this->nests->id => 0];
    $this->sync($this->ann, [], $cursors);
    $this->sync($this->ben, [], $cursors);
    $this->travel(4)->hours();
    AlertRounds::run();
    expect(($this->heard)($this->head))->toBe([]);
    $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/outings", [
        'title' => 'O', 'crew' => $this->north, 'from' => '2026-07-01', 'to' => '2026-07-01',
        'layers' => [$this->nests->id],
    ])->assertCreated();
    $this->travel(1)->minutes();
    AlertRounds::run();
    $this->travel(30)->minutes();
    AlertRounds::run();
    expect(($this->heard)($this->head))->toBe(['Look at these: North not heard for 3 hours']);
    $this->sync($this->ann, [], $cursors);
    $this->travel(1)->minutes();
    AlertRounds::run();
    $this->travel(3)->hours();
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(2);
});

it('tells a crew what it may see, and nothing else', function (): void {
    $own = $this->layer($this->field, ['title' => 'Own', 'rights' => ['crew' => ['see' => 'own']]]);
    $slice = $own->slices()->create(['name' => 'All', 'filter' => ['all' => []]]);
    $made = ($this->alert)(['kind' => 'slice', 'layer' => $own->id, 'slice' => $slice->id], [
        'to' => ['coordinators' => true, 'crews' => [$this->north, $this->south]], 'on_phones' => true,
        'by_mail' => true,
    ])->assertCreated()->json('id');
    $add = fn (string $code): array => $this->add($own, ['values' => ['code' => $code, 'species' => 'CC']]);
    $this->sync($this->ann, [$add('A-1')]);
    $this->sync($this->ann, [$add('A-2')]);
    $this->sync($this->ben, [$add('B-1')]);
    AlertRounds::run();
    $names = fn ($person): array => array_map(
        static fn (array $n): array => array_column($n['records'], 'name'),
        $this->actingAs($person)->getJson('/api/v1/notices')->json('notices'),
    );
    expect($names($this->head))->toBe([['B-1', 'A-2', 'A-1']])
        ->and($names($this->ann))->toBe([['A-2', 'A-1']])
        ->and($names($this->ben))->toBe([['B-1']])
        ->and($names($this->person()))->toBe([]);
    // The phone gets it with its next round, and says when it was read.
    $round = fn ($person, array $more = []): array => $this->actingAs($person)->postJson('/api/v1/sync', $more + [
        'device' => PinYard\Record\RecordId::make()->text, 'operations' => [], 'cursors' => [],
    ])->assertOk()->json();
    $told = $round($this->ann)['notices'];
    expect($told)->toHaveCount(1);
    $after = $round($this->ann, ['read_notices' => [$told[0]['id']]]);
    expect($after['notices'])->toBe([])->and($after['read_notices'])->toBe([$told[0]['id']]);
    // Nobody reads for somebody else.
    $bens = $round($this->ben)['notices'][0]['id'];
    $round($this->ann, ['read_notices' => [$bens]]);
    expect($round($this->ben)['notices'])->toHaveCount(1);
    // Who has left hears nothing any more, and nothing of before.
    $this->field->members()->where('user_id', $this->ben->id)->delete();
    expect($names($this->ben))->toBe([])->and($round($this->ben)['notices'])->toBe([]);
    $this->actingAs($this->ann)->deleteJson("/api/v1/alerts/$made")->assertForbidden();
});

it('does not mail who has left before it was sent', function (): void {
    $id = ($this->alert)($this->inSlice, ['to' => ['crews' => [$this->north]], 'by_mail' => true])
        ->assertCreated()->json('id');
    ($this->nest)('N-1', 120);
    App\Alerts\AlertRun::of($id);
    expect(($this->due)())->toBe(1);
    $this->field->members()->where('user_id', $this->ann->id)->delete();
    AlertRounds::run();
    expect(($this->mails)()->count())->toBe(0)->and(($this->due)())->toBe(0);
});

it('does not mail who wants no mails of alerts, and leaves it at their bell', function (): void {
    $id = ($this->alert)($this->inSlice, ['to' => ['crews' => [$this->north]], 'by_mail' => true])
        ->assertCreated()->json('id');
    $this->ann->forceFill(['unwanted_mails' => ['alerts']])->save();
    ($this->nest)('N-1', 120);
    App\Alerts\AlertRun::of($id);
    AlertRounds::run();
    expect(($this->mails)()->count())->toBe(0)->and(($this->due)())->toBe(0);
    expect($this->actingAs($this->ann->fresh())->getJson('/api/v1/notices')->json('unread'))->toBe(1);
});

it('begins anew after another rule, another slice and a pause', function (): void {
    $id = ($this->alert)($this->inSlice)->assertCreated()->json('id');
    ($this->nest)('N-1', 60);
    AlertRounds::run();
    // Now N-1 is in the slice: nothing came into it.
    $this->large->update(['filter' => ['all' => [['field' => 'clutch', 'test' => 'at_least', 'value' => 50]]]]);
    AlertRounds::run();
    $this->actingAs($this->head)->patchJson("/api/v1/alerts/$id", ['paused' => true])->assertOk();
    ($this->nest)('N-2', 60);
    AlertRounds::run();
    $this->actingAs($this->head)->patchJson("/api/v1/alerts/$id", ['paused' => false])->assertOk();
    AlertRounds::run();
    expect(($this->heard)($this->head))->toBe([]);
    ($this->nest)('N-3', 60);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(1);
    $this->patchJson("/api/v1/alerts/$id", ['paused' => 'no'])->assertUnprocessable();
});

it('says what is in the way of an alert, and goes on when it is gone', function (): void {
    ($this->alert)($this->inSlice)->assertCreated();
    $this->nests->delete();
    AlertRounds::run();
    $list = fn (): array => $this->actingAs($this->head)->getJson("/api/v1/programmes/{$this->field->id}/alerts")
        ->assertOk()->json();
    expect($list()[0]['trouble'])->not->toBeNull();
    $this->nests->restore();
    AlertRounds::run();
    expect($list()[0]['trouble'])->toBeNull();
    ($this->nest)('N-1', 120);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(1);
    // A slice that an alert goes by is not deleted under it.
    $this->actingAs($this->head)->deleteJson("/api/v1/layers/{$this->nests->id}/slices/{$this->large->id}")
        ->assertUnprocessable();
});

it('comes along to a programme that is copied, and tells nothing there', function (): void {
    ($this->alert)($this->inSlice, ['to' => ['coordinators' => true, 'crews' => [$this->south]]])->assertCreated();
    ($this->alert)(['kind' => 'silence', 'crew' => $this->north, 'hours' => 3], ['name' => 'Silent'])->assertCreated();
    $copy = (new App\Programmes\CopyThing($this->head))->of($this->field->refresh());
    [$slice, $silent] = $copy->alerts()->orderBy('name')->get()->all();
    $layer = $copy->layers()->firstOrFail();
    expect($slice->plan['rule'])->toBe([
        'kind' => 'slice', 'layer' => $layer->id, 'slice' => $layer->slices()->firstOrFail()->id,
    ])
        ->and($slice->plan['to'])->toBe([
            'coordinators' => true, 'crews' => [$copy->crews()->where('name', 'South')->value('id')],
        ])
        ->and($silent->plan['rule']['crew'])->toBe($copy->crews()->where('name', 'North')->value('id'));
    ($this->nest)('N-1', 120);
    AlertRounds::run();
    expect(($this->heard)($this->head))->toHaveCount(1);
});
