<?php

declare(strict_types=1);

use App\Models\FormerMember;
use App\Models\RecordQuestion;
use PinYard\Record\RecordId;

/*
 * Asking back: a question of the desk about a record goes to the phone of whoever made it, and the answer comes with a
 * sync round.
 */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->desk = $this->person('Desk'));
    $this->ann = $this->crew($this->programme_);
    $this->layer_ = $this->layer($this->programme_);
    $this->op = $this->add($this->layer_);
    $this->sync($this->ann, [$this->op]);
    $this->address = "/api/v1/layers/{$this->layer_->id}/records/{$this->op['record']}/asked";
    $this->ask = fn (mixed $text = 'Which side of the '
        .'path?') => $this->actingAs($this->desk)->postJson($this->address, [
            'text' => $text,
        ]);
    $this->round = fn ($user, array $more = []): array => $this->actingAs($user)
        ->postJson('/api/v1/sync', [
            'device' => RecordId::make()->text,
            'operations' => [],
            'cursors' => (object) [],
            ...$more,
        ])
        ->assertOk()
        ->json();
    $this->stage = fn (string $key): int => $this->actingAs($this->desk)
        ->getJson("/api/v1/programmes/{$this->programme_->id}")
        ->json("stages.check.$key");
});

it('brings a question to whoever made the record, and the answer back, once', function (): void {
    $id = ($this->ask)()->assertCreated()->json('id');
    expect(($this->stage)('asked'))->toBe(1)->and(($this->stage)('answers'))->toBe(0);
    $told = ($this->round)($this->ann)['asked'];
    expect($told)
        ->toHaveCount(1)
        ->and($told[0])
        ->toMatchArray([
            'id' => $id,
            'layer' => $this->layer_->id,
            'record' => $this->op['record'],
            'name' => $this->op['values']['code'],
            'text' => 'Which side of the path?',
            'by' => 'Desk',
        ]);
    expect(($this->round)($this->crew($this->programme_))['asked'])->toBe([]);

    $answer = [
        'answers' => [
            ['ask' => $id, 'text' => '  The seaward side. ', 'at' => now()->subHour()->format('Y-m-d\TH:i:s.v\Z')],
        ],
    ];
    $round = ($this->round)($this->ann, $answer);
    expect($round['answered'])
        ->toBe([$id])
        ->and($round['asked'])
        ->toBe([]);
    // Sent again, because its answer was lost, and changed by another phone meanwhile: the first stands.
    expect(
        ($this->round)($this->ann, [
            'answers' => [['ask' => $id, 'text' => 'The other side', 'at' => now()->format('Y-m-d\TH:i:s\Z')]],
        ])['answered'],
    )->toBe([$id]);
    $row = $this->actingAs($this->desk)->getJson($this->address)->json('0');
    expect($row['answer'])
        ->toBe('The seaward side.')
        ->and(abs(strtotime($row['answered_at']) - now()->subHour()->timestamp))
        ->toBeLessThan(5)
        ->and(($this->stage)('answers'))
        ->toBe(1)
        ->and(($this->stage)('asked'))
        ->toBe(0);
    $this->deleteJson("/api/v1/asked/$id")->assertOk();
    expect(($this->stage)('answers'))
        ->toBe(0)
        ->and($this->getJson("/api/v1/programmes/{$this->programme_->id}/asked")->json())
        ->toBe([])
        ->and($this->getJson($this->address)->json('0.closed_at'))
        ->not->toBeNull();
});

it('refuses a question that asks nothing, is too long, or that nobody can answer', function (): void {
    foreach (['', '   ', null, 5, ['x'], str_repeat('ä', 501)] as $bad) {
        ($this->ask)($bad)->assertStatus(422)->assertJsonPath('problems.0.code', 'ask_text');
    }
    $this->programme_->members()->where('user_id', $this->ann->id)->delete();
    FormerMember::query()->create([
        'programme_id' => $this->programme_->id,
        'user_id' => $this->ann->id,
        'role' => 'crew',
        'left_at' => now(),
    ]);
    ($this->ask)()->assertStatus(422)->assertJsonPath('problems.0.code', 'ask_nobody');
    $this->address = "/api/v1/layers/{$this->layer_->id}/records/".RecordId::make()->text.'/asked';
    ($this->ask)()->assertNotFound();
    expect(RecordQuestion::query()->where('layer_id', $this->layer_->id)->count())->toBe(0);
});

it('lets nobody answer for another, and nothing that makes no sense', function (): void {
    $id = ($this->ask)()->json('id');
    $ben = $this->crew($this->programme_);
    ($this->round)($ben, ['answers' => [['ask' => $id, 'text' => 'Not mine', 'at' => null]]]);
    foreach (
        [
            'x',
            [null],
            [[]],
            [['ask' => "$id", 'text' => 'no']],
            [['ask' => $id]],
            [['ask' => $id, 'text' => ' ']],
            [['ask' => $id, 'text' => ['a']]],
            [['ask' => -1, 'text' => 'x']],
        ] as $bad
    ) {
        ($this->round)($this->ann, ['answers' => $bad]);
    }
    expect(RecordQuestion::query()->findOrFail($id)->answer)->toBeNull();
    // A clock that is wrong, and letters that are none, do no harm.
    ($this->round)($this->ann, [
        'answers' => [['ask' => $id, 'text' => str_repeat('ж', 1_400), 'at' => '2099-01-01T00:00:00Z']],
    ]);
    $asked = RecordQuestion::query()->findOrFail($id);
    expect(mb_strlen((string) $asked->answer))->toBe(1_000)->and($asked->answered_at?->isFuture())->toBeFalse();
});

it('tells a phone no more of what was closed, or of a layer that it may not see any more', function (): void {
    $id = ($this->ask)()->json('id');
    $this->actingAs($this->desk)
        ->deleteJson("/api/v1/asked/$id")
        ->assertOk();
    expect(($this->round)($this->ann)['asked'])->toBe([]);
    ($this->ask)()->assertCreated();
    $this->layer_->throwAway($this->desk);
    expect(($this->round)($this->ann)['asked'])->toBe([]);
    $this->layer_->restore();
    expect(($this->round)($this->ann)['asked'])->toHaveCount(1);
    $this->programme_->members()->where('user_id', $this->ann->id)->delete();
    expect(($this->round)($this->ann)['asked'])->toBe([]);
});
