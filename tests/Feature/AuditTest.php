<?php

declare(strict_types=1);

use App\Models\Member;
use App\Models\Role;
use Illuminate\Database\QueryException;
use Illuminate\Support\Facades\DB;

/* What is done about rights, links, files and sign-ins is noted, read by coordinators, and changed by nobody. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->at = "/api/v1/programmes/{$this->field->id}";
    $this->told = fn (): array => array_map(
        static fn (array $e): array => [$e['who'], $e['kind'], $e['about']],
        $this->actingAs($this->head)->getJson("$this->at/audit")->assertOk()->json('entries'),
    );
});

it('notes who gave which rights', function (): void {
    $guest = $this->member($this->field, Role::Guest);
    $member = Member::query()->where('user_id', $guest->id)->value('id');
    $this->actingAs($this->head);
    $this->postJson("$this->at/people", ['name' => 'Ann', 'email' => 'ann@example.test', 'role' => 'guest'])
        ->assertCreated();
    $this->withoutExceptionHandling();
    $this->patchJson("$this->at/people/$member", ['role' => 'crew', 'crew' => 'Terns'])->assertNoContent();
    $group = $this->postJson("$this->at/groups", ['name' => 'Partners'])->json('id');
    $this->putJson("/api/v1/groups/$group/people/$member")->assertOk();
    // Twice is once.
    $this->putJson("/api/v1/groups/$group/people/$member")->assertOk();
    $layer = $this->layer($this->field);
    $this->putJson("/api/v1/layers/$layer->id/seen-by/group-$group", ['rule' => [
        'rows' => 'all', 'place' => 'cell', 'metres' => 500, 'fields' => ['code'], 'photos' => false,
    ]])->assertOk();
    $this->deleteJson("$this->at/people/$member")->assertNoContent();
    $kinds = array_column(($this->told)(), 1);
    expect($kinds)->toBe(['person_left', 'rule', 'group_joined', 'group_made', 'crew', 'role', 'invited'])
        ->and(($this->told)()[1])->toMatchArray(['Head', 'rule'])
        ->and(($this->told)()[1][2])->toMatchArray([
            'layer' => 'Nests', 'audience' => 'Partners', 'rows' => 'all', 'place' => 'cell', 'metres' => 500,
            'fields' => 1, 'photos' => 'no',
        ])
        ->and(DB::table('mail_box')->where('to', $guest->email)->value('text'))->toContain('Crew');
});

it('notes links that are opened, renewed and closed, and files that are taken out', function (): void {
    $layer = $this->layer($this->field);
    $this->actingAs($this->head);
    $map = $this->postJson("$this->at/maps", ['title' => 'M', 'layer' => $layer->id])->json('id');
    $this->patchJson("/api/v1/maps/$map", ['title' => 'N'])->assertOk();
    $this->patchJson("/api/v1/maps/$map", ['audience' => 'link'])->assertOk();
    $this->patchJson("/api/v1/maps/$map", ['new_link' => true])->assertOk();
    $this->patchJson("/api/v1/maps/$map", ['audience' => 'programme'])->assertOk();
    $this->postJson("/api/v1/layers/$layer->id/exports", ['format' => 'csv'])->assertStatus(202);
    expect(array_column(($this->told)(), 1))->toBe(['export', 'link_closed', 'link_renewed', 'link_opened']);
});

it('tells of sign-ins and of those that failed in the programmes of that person', function (): void {
    $other = $this->person('Elsewhere');
    $sign = fn ($person, string $password): mixed => $this->postJson('/api/v1/session', [
        'email' => $person->email, 'password' => $password,
    ]);
    $sign($this->head, 'wrong-password')->assertUnprocessable();
    $sign($this->head, 'a-long-password')->assertOk();
    $sign($other, 'a-long-password')->assertOk();
    expect(array_map(static fn (array $e): array => [$e[0], $e[1]], ($this->told)()))
        ->toBe([['Head', 'sign_in'], ['Head', 'sign_in_failed']]);
});

it('comes in pages, and can be changed by nobody, not even in the database', function (): void {
    for ($i = 0; $i < 60; $i++) {
        App\Audit\Audit::note($this->field->id, 'group_made', ['group' => "G $i"], $this->head);
    }
    $this->actingAs($this->head);
    $first = $this->getJson("$this->at/audit")->json();
    expect($first['more'])->toBeTrue()->and($first['entries'])->toHaveCount(50);
    $second = $this->getJson("$this->at/audit?before={$first['entries'][49]['id']}")->json();
    expect($second['more'])->toBeFalse()->and($second['entries'])->toHaveCount(10)
        ->and($second['entries'][9]['about']['group'])->toBe('G 0');
    expect(fn () => DB::table('audit')->update(['who' => 'Nobody']))->toThrow(QueryException::class)
        ->and(fn () => DB::table('audit')->delete())->toThrow(QueryException::class);
});
