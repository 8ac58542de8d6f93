<?php

declare(strict_types=1);

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->phone = $this->crew($this->field);
    $this->nests = $this->layer($this->field);
    $this->actingAs($this->head);
    $make = fn (string $kind, string $title, string $audience): array => $this->postJson(
        "/api/v1/programmes/{$this->field->id}/{$kind}s",
        ['layer' => $this->nests->id, 'title' => $title, 'audience' => $audience],
    )
        ->assertCreated()
        ->json();
    $this->open = $make('map', 'For all', 'link');
    $this->closed = $make('map', 'For us', 'programme');
    $this->board = $make('board', 'Numbers', 'link');
    $this->gate = "/api/v1/programmes/{$this->field->id}/gate";
    $this->hang = fn (array $rest = []): array => $this->patchJson($this->gate, [
        'hung' => [
            ['kind' => 'map', 'id' => $this->closed['id']],
            ['kind' => 'map', 'id' => $this->open['id']],
            ['kind' => 'board', 'id' => $this->board['id']],
        ],
        'open' => true,
        ...$rest,
    ])
        ->assertOk()
        ->json();
    $this->visit = function (string $address): Illuminate\Testing\TestResponse {
        app('auth')->forgetGuards();

        return $this->getJson('/api/v1/open/gates/'.basename($address));
    };
});

it('is proposed with what is open to anyone, and leads nowhere until it is opened', function (): void {
    $proposed = $this->getJson($this->gate)->assertOk()->json();
    expect($proposed)
        ->toMatchArray(['title' => $this->field->name, 'open' => false, 'address' => null])
        ->and(array_column($proposed['front']['things'], 'title'))
        ->toBe(['For all', 'Numbers']);
    $saved = $this->patchJson($this->gate, ['title' => 'Come in'])
        ->assertOk()
        ->json();
    ($this->visit)($saved['address'])->assertNotFound();
});

it('shows what is open with its address, and of the rest a title behind a lock', function (): void {
    $gate = ($this->hang)(['title' => 'Come in', 'about' => 'Turtles.', 'colour' => '#ffee00']);
    $front = ($this->visit)($gate['address'])->assertOk()->json();
    expect($front)
        ->toMatchArray(['title' => 'Come in', 'about' => 'Turtles.', 'colour' => '#FFEE00', 'text' => '#000000'])
        ->and(array_column($front['things'], 'title'))
        ->toBe(['For us', 'For all', 'Numbers'])
        ->and($front['things'][0])
        ->toBe(['kind' => 'map', 'title' => 'For us', 'open' => false, 'address' => null, 'pegs' => []])
        ->and($front['things'][1])
        ->toMatchArray(['open' => true, 'address' => $this->open['address']]);
    // What is closed later is behind the lock at once; the link of the gate stays.
    $this->actingAs($this->head)
        ->patchJson("/api/v1/maps/{$this->open['id']}", ['audience' => 'programme'])
        ->assertOk();
    expect(($this->visit)($gate['address'])->json('things.1'))->toMatchArray(['open' => false, 'address' => null]);
    $this->actingAs($this->head)
        ->patchJson($this->gate, ['open' => false])
        ->assertOk()
        ->assertJsonPath('address', $gate['address']);
    ($this->visit)($gate['address'])->assertNotFound();
});

it('loses what goes to the bin, and has it again when it comes back', function (): void {
    $gate = ($this->hang)();
    $bin = fn (string $do) => $this->actingAs($this->head)
        ->postJson('/api/v1/things', [
            'things' => [['kind' => 'map', 'id' => $this->open['id']]],
            'action' => $do,
            'with' => null,
        ])
        ->assertOk();
    $bin('bin');
    expect(array_column(($this->visit)($gate['address'])->json('things'), 'title'))->toBe(['For us', 'Numbers']);
    $bin('restore');
    expect(array_column(($this->visit)($gate['address'])->json('things'), 'title'))->toBe([
        'For us',
        'For all',
        'Numbers',
    ]);
    // A layer takes its maps along.
    $this->actingAs($this->head)
        ->postJson('/api/v1/things', [
            'things' => [['kind' => 'layer', 'id' => $this->nests->id]],
            'action' => 'bin',
            'with' => null,
        ])
        ->assertOk();
    expect(array_column(($this->visit)($gate['address'])->assertOk()->json('things'), 'title'))->toBe(['Numbers']);
    $this->field->delete();
    ($this->visit)($gate['address'])->assertNotFound();
});

it('says what is wrong with it, and keeps the one there was', function (): void {
    $foreign = $this->layer($this->programme())
        ->programme->maps()
        ->make(['layers' => [], 'title' => 'X', 'extent' => []]);
    ($this->hang)(['title' => 'Good']);
    $this->patchJson($this->gate, ['title' => '', 'colour' => 'blue', 'hung' => [['kind' => 'map', 'id' => 999_999]]])
        ->assertStatus(422)
        ->assertJsonPath('problems.*.code', ['gate_title', 'colour_form', 'gate_thing'])
        ->assertJsonPath(
            'problems.1.message',
            'A colour is written as # and six of 0 to 9 and A to F, such as #0F5C53; “blue” is not.',
        );
    $this->patchJson($this->gate, ['open' => 'no'])
        ->assertStatus(422)
        ->assertJsonPath('problems.0.code', 'must_be_yes_no');
    $this->getJson($this->gate)
        ->assertJsonPath('title', 'Good')
        ->assertJsonPath('open', true)
        ->assertJsonCount(3, 'hung');
    expect($foreign->exists)->toBeFalse();
});

it('keeps viewpoints with a map, for its audience and for phones', function (): void {
    $map = $this->patchJson("/api/v1/maps/{$this->open['id']}", [
        'viewpoints' => [['title' => 'North cove', 'extent' => [-11.7, -14.2, -11.6, -14.1]]],
    ])
        ->assertOk()
        ->json();
    expect($map['viewpoints'][0]['title'])->toBe('North cove');
    $renamed = $this->patchJson("/api/v1/maps/{$this->open['id']}", [
        'viewpoints' => [
            ['id' => $map['viewpoints'][0]['id'], 'title' => 'Cove', 'extent' => [-11.7, -14.2, -11.6, -14.1]],
        ],
    ])->json();
    expect($renamed['viewpoints'][0])->toBe([
        'id' => $map['viewpoints'][0]['id'],
        'title' => 'Cove',
        'extent' => [-11.7, -14.2, -11.6, -14.1],
    ]);
    $this->patchJson("/api/v1/maps/{$this->open['id']}", ['viewpoints' => [['title' => '', 'extent' => [1, 2, 3, 4]]]])
        ->assertStatus(422)
        ->assertJsonPath('problems.0.message', 'Viewpoint 1 needs a name of 1 to 60 characters.');
    // Another change leaves them.
    $this->patchJson("/api/v1/maps/{$this->open['id']}", ['title' => 'New'])->assertJsonCount(1, 'viewpoints');
    app('auth')->forgetGuards();
    $this->getJson('/api/v1/open/maps/'.basename($this->open['address']))->assertJsonPath(
        'viewpoints.0.title',
        'Cove',
    );
    $maps = $this->actingAs($this->phone)->getJson('/api/v1/packs')->assertOk()->json('0.maps');
    expect(array_column($maps, 'title'))
        ->toBe(['For us', 'New'])
        ->and($maps[1]['viewpoints'][0]['title'])
        ->toBe('Cove')
        ->and($maps[1]['layers'][0]['layer'])
        ->toBe($this->nests->id)
        ->and(array_unique(array_column($maps[1]['layers'][0]['style'], 'source')))
        ->toBe(["on-{$maps[1]['layers'][0]['id']}"]);
});
