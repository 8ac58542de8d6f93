<?php

declare(strict_types=1);

use App\Models\Role;
use App\Models\User;
use Illuminate\Support\Facades\DB;

/*
 * Where crews have been, which are out now and their outings: a coordinator is told of all, a crew of its own, all
 * others nothing, unless the programme says so of their audience. Never by a link who is who.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->guest = $this->member($this->field, Role::Guest);
    $this->layer = $this->layer($this->field);
    foreach (['Plover', 'Noddy'] as $i => $name) {
        $crew = $this->field->crews()->create(['name' => $name]);
        $this->people[$name] = $this->crew($this->field);
        $this->people[$name]->forceFill(['name' => "Hidden $name"])->save();
        $this->field->members()->where('user_id', $this->people[$name]->id)->update([
            'crew_id' => $crew->id, 'last_heard_at' => now(), 'last_lon' => -11.5, 'last_lat' => -14.5,
            'last_place_at' => now(),
        ]);
        DB::table('trail_days')->insert([
            'programme_id' => $this->field->id, 'user_id' => $this->people[$name]->id,
            'day' => now()->subDay()->toDateString(), 'metres' => 1_000 * ($i + 1), 'seconds' => 3_600,
        ]);
        DB::table('outings')->insert([
            'programme_id' => $this->field->id, 'crew_id' => $crew->id, 'title' => "Walk of $name", 'note' => '',
            'starts_on' => now()->toDateString(), 'ends_on' => now()->addDay()->toDateString(),
            'layers' => json_encode([$this->layer->id]), 'target' => 'records', 'count' => 3, 'checklist' => '[]',
            'created_at' => now(), 'updated_at' => now(),
        ]);
    }
    $tile = fn (string $id, array $of): array => $of + ['id' => $id, 'title' => $id, 'width' => 3, 'height' => 2];
    $this->board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'Work', 'audience' => 'link', 'tiles' => [
            $tile('km', ['kind' => 'number', 'layer' => $this->layer->id, 'measure' => ['of' => 'walked']]),
            $tile('out', ['kind' => 'outings']),
            $tile('now', ['kind' => 'crews']),
            $tile('who', ['kind' => 'breakdown', 'layer' => $this->layer->id, 'measure' => ['of' => 'walked'],
                'by' => ['field' => '@person']]),
        ],
    ])->assertCreated()->json();
    $this->say = fn (string $audience, string $what, mixed $told = true): mixed => $this->actingAs($this->head)
        ->putJson("/api/v1/programmes/{$this->field->id}/work-seen/$audience", ['what' => $what, 'told' => $told]);
    /** @return array{0: mixed, 1: list<string>|null, 2: int|null} kilometres, titles of outings, how many people now */
    $this->told = function (?User $who): array {
        $who === null ? $this->app['auth']->forgetGuards() : $this->actingAs($who->fresh());
        $tiles = array_column(
            $this->getJson($who === null
                ? '/api/v1/open'.$this->linkOf($this->board)
                : "/api/v1/boards/{$this->board['id']}/answers")->assertOk()->json('tiles'),
            'answer',
            'id',
        );

        return [
            $tiles['km']['value'] ?? null,
            isset($tiles['out']['outings']) ? array_column($tiles['out']['outings'], 'title') : null,
            isset($tiles['now']['people']) ? count($tiles['now']['people']) : null,
        ];
    };
});

it('tells a coordinator all, a crew its own, and all others nothing', function (): void {
    expect(($this->told)($this->head))->toBe([3, ['Walk of Plover', 'Walk of Noddy'], 2])
        ->and(($this->told)($this->people['Plover']))->toBe([1, ['Walk of Plover'], 1])
        ->and(($this->told)($this->guest))->toBe([0, [], 0])
        ->and(($this->told)(null))->toBe([null, null, null]);
});

it('tells an audience of all where that was said, with the very next question, and takes it back', function (): void {
    foreach (['trails', 'crews', 'outings'] as $what) {
        ($this->say)('guests', $what)->assertNoContent();
        ($this->say)('link', $what)->assertNoContent();
    }
    expect(($this->told)($this->guest))->toBe([3, ['Walk of Plover', 'Walk of Noddy'], 2])
        ->and(($this->told)(null))->toBe([3, ['Walk of Plover', 'Walk of Noddy'], 2])
        // Crews are another audience.
        ->and(($this->told)($this->people['Plover']))->toBe([1, ['Walk of Plover'], 1]);
    // Who is who is told to no link, and no name leaves.
    $this->app['auth']->forgetGuards();
    $open = $this->getJson('/api/v1/open'.$this->linkOf($this->board))->assertOk();
    expect($open->json('tiles.3.kind'))->toBe('broken')
        ->and((string) $open->content())->not->toContain('Hidden')
        ->and((string) $this->actingAs($this->guest->fresh())
            ->getJson("/api/v1/boards/{$this->board['id']}/answers")->content())->not->toContain('Hidden Plover');
    $this->getJson("/api/v1/programmes/{$this->field->id}/outings")->assertOk()->assertJsonCount(2);
    ($this->say)('guests', 'outings', false)->assertNoContent();
    expect(($this->told)($this->guest))->toBe([3, [], 2]);
    $this->actingAs($this->guest->fresh())->getJson("/api/v1/programmes/{$this->field->id}/outings")
        ->assertOk()->assertExactJson([]);
});

it('refuses what it does not know', function (): void {
    ($this->say)('guests', 'wages')->assertUnprocessable()->assertJsonPath('problems.0.code', 'work_unknown');
    ($this->say)('guests', 'trails', 'yes')->assertUnprocessable()->assertJsonPath('problems.0.code', 'must_be_yes_no');
    ($this->say)('group-9999999', 'trails')->assertNotFound();
    expect($this->actingAs($this->head)->getJson("/api/v1/programmes/{$this->field->id}/audiences")->json('work'))
        ->toBe(['trails' => [], 'crews' => [], 'outings' => []]);
});
