<?php

declare(strict_types=1);

beforeEach(function (): void {
    $this->mara = $this->person('Mara');
    $this->programme = $this->programme($this->mara);
    $this->nests = $this->layer($this->programme);
    $this->crewOf = function (string $name): App\Models\User {
        $user = $this->crew($this->programme);
        $crew = $this->programme->crews()->firstOrCreate(['name' => $name]);
        $this->programme
            ->members()
            ->where('user_id', $user->id)
            ->update(['crew_id' => $crew->id]);

        return $user;
    };
    [$this->gull, $this->tern] = [($this->crewOf)('Gulls'), ($this->crewOf)('Terns')];
    $this->today = now($this->programme->time_zone)->toDateString();
    $this->outing = fn (array $change = []): array => $this->actingAs($this->mara)
        ->postJson("/api/v1/programmes/{$this->programme->id}/outings", [
            'title' => 'Dawn walk',
            'crew' => $this->programme->crews()->where('name', 'Gulls')->value('id'),
            'from' => $this->today,
            'to' => $this->today,
            'layers' => [$this->nests->id],
            'target' => 'records',
            'count' => 4,
            'checklist' => ['Water'],
            ...$change,
        ])
        ->assertCreated()
        ->json();
    $this->progress = fn (int $id): array => collect(
        $this->actingAs($this->mara)
            ->getJson("/api/v1/programmes/{$this->programme->id}/outings")
            ->json(),
    )->firstWhere('id', $id)['progress'];
});

it('counts what its crew brings in on its days, inside its area', function (): void {
    $outing = ($this->outing)(['area' => [-11.6, -14.6, -11.4, -14.4]]);
    expect($outing['progress'])->toMatchArray([
        'done' => 0,
        'wanted' => 4,
        'due' => 1,
        'state' => 'behind',
        'when' => 'now',
    ]);
    $elsewhere = ['geometry' => ['type' => 'Point', 'coordinates' => [-11.2, -14.2]]];
    $this->sync($this->gull, [
        $this->add($this->nests),
        $this->add($this->nests),
        $this->add($this->nests, $elsewhere),
        $this->add($this->nests, ['captured_at' => now()->subDays(3)->format('Y-m-d\TH:i:s\Z')]),
    ]);
    $this->sync($this->tern, [$this->add($this->nests)]);
    expect(($this->progress)($outing['id'])['done'])->toBe(2);
    $this->putJson("/api/v1/outings/{$outing['id']}", ['area' => null, 'crew' => null, 'count' => 3] + $outing)
        ->assertOk()
        ->assertJsonPath('progress.done', 4)
        ->assertJsonPath('progress.state', 'done');
});

it('counts each record that was visited once', function (): void {
    [$a, $b, $c] = [$this->add($this->nests), $this->add($this->nests), $this->add($this->nests)];
    $this->sync($this->mara, [$a, $b, $c]);
    $visits = $this->layer($this->programme, ['title' => 'Nest visits', 'visits_of' => 'Nests', 'fields' => []]);
    $outing = ($this->outing)(['target' => 'visits', 'count' => null]);
    expect($outing['progress'])->toMatchArray(['done' => 0, 'wanted' => 3]);
    $visit = fn (array $nest, array $change = []): array => $this->add($visits, [
        'values' => [],
        'visited' => $nest['record'],
        ...$change,
    ]);
    $this->sync($this->gull, [
        $visit($a),
        $visit($a),
        $visit($b),
        $visit($c, ['captured_at' => now()->subDays(9)->format('Y-m-d\TH:i:s\Z')]),
    ]);
    expect(($this->progress)($outing['id']))->toMatchArray(['done' => 2, 'wanted' => 3, 'state' => 'behind']);
});

it('is shown to its own crew, on its phone too', function (): void {
    $outing = ($this->outing)();
    ($this->outing)(['title' => 'All', 'crew' => null]);
    $titles = fn ($user): array => array_column(
        $this->actingAs($user)
            ->getJson("/api/v1/programmes/{$this->programme->id}/outings")
            ->assertOk()
            ->json(),
        'title',
    );
    expect($titles($this->gull))
        ->toBe(['Dawn walk', 'All'])
        ->and($titles($this->tern))
        ->toBe(['All']);
    expect(array_column($this->actingAs($this->tern)->getJson('/api/v1/packs')->json('0.outings'), 'title'))
        ->toBe(['All'])
        ->and($this->actingAs($this->gull)->getJson('/api/v1/packs')->json('0.outings.0.checklist'))
        ->toBe(['Water']);
    $this->actingAs($this->mara)
        ->deleteJson("/api/v1/outings/{$outing['id']}")
        ->assertNoContent();
    expect($titles($this->gull))->toBe(['All']);
});

it('is refused with every reason at once', function (): void {
    $this->actingAs($this->mara)
        ->postJson("/api/v1/programmes/{$this->programme->id}/outings", [
            'title' => '',
            'from' => '2026-13-01',
            'to' => 'soon',
            'layers' => [0],
            'target' => 'visits',
        ])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'empty')
        ->assertJsonPath('problems.1.code', 'outing_days');
});
