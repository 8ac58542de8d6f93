<?php

declare(strict_types=1);

use App\Models\Audience;
use App\Models\Board;
use App\Models\Map;
use App\Models\Role;
use App\Models\User;
use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\StreamedResponse;

/*
 * A map or a board is shown to its owner alone, to some of the programme, to all of it, or to everyone with the link.
 * To whoever it is not shown no answer of any route tells that it is there; the routes are found from their list.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->crew = $this->crew($this->field);
    $this->maker = $this->member($this->field, Role::Maker);
    $this->other = $this->member($this->field, Role::Maker);
    $this->guest = $this->member($this->field, Role::Guest);
    $this->layer = $this->layer($this->field);
    $this->sync($this->head, [$this->add($this->layer), $this->add($this->layer)]);
    $this->group = function (User ...$people): string {
        $group = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/groups", [
            'name' => 'Partners '.random_int(1, 1_000_000),
        ])->assertCreated()->json('id');
        foreach ($people as $person) {
            DB::table('group_members')->insert([
                'group_id' => $group,
                'member_id' => $this->field->members()->where('user_id', $person->id)->value('id'),
            ]);
        }

        return "group-$group";
    };
    $this->makes = function (User $who, array $shown): array {
        // A question of the programme that a tile answers tells its board.
        $question = $this->actingAs($this->head)
            ->putJson("/api/v1/programmes/{$this->field->id}/questions", [['text' => 'How many?']])->json('0.id');
        $map = $this->actingAs($who)->postJson("/api/v1/programmes/{$this->field->id}/maps", [
            'title' => 'HUSH map', 'layer' => $this->layer->id,
        ] + $shown)->assertCreated()->json();
        $board = $this->postJson("/api/v1/programmes/{$this->field->id}/boards", [
            'title' => 'HUSH board', 'tiles' => [
                ['id' => 'n', 'kind' => 'number', 'title' => 'HUSH tile', 'layer' => $this->layer->id,
                    'width' => 3, 'height' => 2, 'question' => $question],
            ],
        ] + $shown)->assertCreated()->json();

        return [Map::query()->findOrFail($map['id']), Board::query()->findOrFail($board['id'])];
    };
    /** @return array<string, string> the routes that tell somebody of it, with what they say */
    $this->telling = function (?User $who, Map $map, Board $board): array {
        $params = [
            'programme' => $this->field->id, 'map' => $map->id, 'board' => $board->id, 'layer' => $this->layer->id,
            'part' => $map->layers[0]['id'], 'tile' => 'n', 'token' => 'x', 'record' => 'x', 'size' => 'thumb',
        ];
        $told = [];
        $walked = 0;
        foreach (Route::getRoutes()->getRoutes() as $route) {
            /** @var OneRoute $route */
            $missing = array_diff($route->parameterNames(), array_keys($params));
            if (! in_array('GET', $route->methods(), true) || ! str_starts_with($route->uri(), 'api/v1')
                || $missing !== []) {
                continue;
            }
            $walked++;
            $at = '/'.preg_replace_callback(
                '/\{(\w+)\}/',
                static fn (array $m): string => (string) $params[$m[1]],
                $route->uri(),
            );
            $who === null ? $this->app['auth']->forgetGuards() : $this->actingAs($who);
            $answer = $this->getJson("$at?q=HUSH&bin=0&under=x");
            $text = match (true) {
                $answer->baseResponse instanceof StreamedResponse => $answer->streamedContent(),
                $answer->baseResponse instanceof BinaryFileResponse => $answer->getFile()->getContent(),
                default => (string) $answer->content(),
            };
            $isOfIt = preg_match('/\{(map|board)\}/', $route->uri()) === 1;
            if (str_contains($text, 'HUSH') || ($isOfIt && ! in_array($answer->status(), [401, 404], true))) {
                $told[$route->uri()] = "{$answer->status()}: ".substr($text, 0, 80);
            }
        }
        expect($walked)->toBeGreaterThan(60);

        return $told;
    };
});

it('keeps what is somebody\'s own from all others, whatever they ask', function (): void {
    [$map, $board] = ($this->makes)($this->maker, ['audience' => 'me']);
    expect($map->owner_id)->toBe($this->maker->id);
    foreach ([$this->other, $this->head, $this->crew, $this->guest, null] as $who) {
        expect(($this->telling)($who, $map, $board))->toBe([]);
    }
    // Nor can anybody change, throw away, copy, star or hand it on.
    foreach ([$this->other, $this->head] as $who) {
        $this->actingAs($who)->patchJson("/api/v1/maps/$map->id", ['title' => 'Mine'])->assertNotFound();
        $this->actingAs($who)->patchJson("/api/v1/boards/$board->id", ['audience' => 'programme'])->assertNotFound();
        foreach (['bin', 'copy', 'star'] as $action) {
            $this->actingAs($who)->postJson('/api/v1/things', [
                'action' => $action, 'things' => [['kind' => 'board', 'id' => $board->id]],
            ])->assertNotFound();
        }
    }
    // The owner finds both.
    $told = array_keys(($this->telling)($this->maker, $map, $board));
    expect($told)->toContain('api/v1/programmes/{programme}/maps', 'api/v1/programmes/{programme}/boards',
        'api/v1/programmes/{programme}/things', 'api/v1/search', 'api/v1/maps/{map}', 'api/v1/boards/{board}/answers');
    // When the owner is gone, it is the coordinators'.
    $this->field->members()->where('user_id', $this->maker->id)->delete();
    $this->field = $this->field->fresh();
    expect(array_keys(($this->telling)($this->head, $map->fresh(), $board->fresh())))
        ->toContain('api/v1/maps/{map}', 'api/v1/boards/{board}/answers')
        ->and(($this->telling)($this->other, $map->fresh(), $board->fresh()))->toBe([]);
});

it('shows to some what is theirs, and to others not', function (): void {
    $partners = ($this->group)($this->guest);
    [$map, $board] = ($this->makes)($this->maker, ['audience' => 'some', 'shown_to' => [$partners]]);
    foreach ([$this->other, $this->crew, null] as $who) {
        expect(($this->telling)($who, $map, $board))->toBe([]);
    }
    foreach ([$this->maker, $this->guest, $this->head] as $who) {
        expect(array_keys(($this->telling)($who, $map, $board)))
            ->toContain('api/v1/maps/{map}', 'api/v1/boards/{board}', 'api/v1/boards/{board}/answers');
    }
    // A guest looks, and changes nothing.
    $this->actingAs($this->guest)->patchJson("/api/v1/boards/$board->id", ['title' => 'Mine'])->assertForbidden();
    // As a coordinator sees what those get.
    $this->actingAs($this->head)->withHeaders(['Pin-Yard-Seen-As' => "{$this->field->id}:crews"])
        ->getJson("/api/v1/boards/$board->id/answers")->assertNotFound();
    $this->withHeaders(['Pin-Yard-Seen-As' => "{$this->field->id}:$partners"])
        ->getJson("/api/v1/boards/$board->id/answers")->assertOk();
    $this->flushHeaders();
    // Who leaves the group is shown it no more, with the very next question.
    DB::table('group_members')->delete();
    $this->actingAs($this->guest->fresh())->getJson("/api/v1/boards/$board->id/answers")->assertNotFound();
});

it('takes only audiences that there are, and none that would be nobody', function (): void {
    [$map] = ($this->makes)($this->maker, []);
    $save = fn (array $shown): mixed => $this->actingAs($this->maker)->patchJson("/api/v1/maps/$map->id", $shown);
    $save(['audience' => 'some'])->assertUnprocessable()->assertJsonPath('problems.0.code', 'shown_to_nobody');
    foreach (['link', 'everyone', 7, null] as $wrong) {
        $save(['audience' => 'some', 'shown_to' => [$wrong]])
            ->assertUnprocessable()->assertJsonPath('problems.0.code', 'shown_to');
    }
    // A crew that went meanwhile is left out; with no other there is nobody.
    $save(['audience' => 'some', 'shown_to' => ['crew-99999999']])
        ->assertUnprocessable()->assertJsonPath('problems.0.code', 'shown_to_nobody');
    $save(['audience' => 'some', 'shown_to' => ['crew-99999999', 'guests', 'guests']])
        ->assertOk()->assertJsonPath('shown_to', ['guests']);
    $save(['audience' => 'link'])->assertUnprocessable()->assertJsonPath('problems.0.code', 'link_coordinators');
    $save(['audience' => 'programme'])->assertOk()->assertJsonPath('shown_to', []);
    $save(['audience' => 'me'])->assertOk();
    // Of another's it can't be made one's own, or the other would have lost it.
    $save(['audience' => 'programme'])->assertOk();
    $this->actingAs($this->other)->patchJson("/api/v1/maps/$map->id", ['audience' => 'me'])
        ->assertUnprocessable()->assertJsonPath('problems.0.code', 'shown_to_owner');
});

it('shows to no more people by a board, a copy, a pack or a gate', function (): void {
    [$map] = ($this->makes)($this->maker, ['audience' => 'me']);
    $board = $this->actingAs($this->maker)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'Open', 'tiles' => [
            ['id' => 'm', 'kind' => 'map', 'title' => 'Where', 'map' => $map->id, 'width' => 6, 'height' => 4],
        ],
    ])->assertCreated()->json();
    $tile = fn (User $who): array => $this->actingAs($who)->getJson("/api/v1/boards/{$board['id']}/answers")
        ->assertOk()->json('tiles.0');
    expect($tile($this->maker)['kind'])->toBe('map')
        // Another of the same role is not given what was kept for the first.
        ->and($tile($this->other)['kind'])->toBe('broken')
        ->and($tile($this->head)['answer']['closed'])->toBeTrue();
    $this->actingAs($this->head)->patchJson("/api/v1/boards/{$board['id']}", ['audience' => 'link'])->assertOk();
    $link = $this->getJson("/api/v1/boards/{$board['id']}")->json('address');
    $this->app['auth']->forgetGuards();
    expect($this->getJson('/api/v1/open/boards/'.substr($link, 3))->assertOk()->json('tiles.0.kind'))->toBe('broken');

    $gate = $this->actingAs($this->head)->patchJson("/api/v1/programmes/{$this->field->id}/gate", [
        'hung' => [['kind' => 'map', 'id' => $map->id]], 'open' => true,
    ]);
    expect($gate->status())->toBe(422);
    $packs = (string) $this->actingAs($this->crew)->getJson('/api/v1/packs')->assertOk()->content();
    expect($packs)->toContain('"maps":[]')->not->toContain('HUSH');

    // A copy of what is shown to some is its maker's alone.
    [$some] = ($this->makes)($this->head, ['audience' => 'some', 'shown_to' => ['guests']]);
    $copy = $this->actingAs($this->head)->postJson('/api/v1/things', [
        'action' => 'copy', 'things' => [['kind' => 'map', 'id' => $some->id]],
    ])->assertOk()->json('0.id');
    expect(Map::query()->findOrFail($copy)->audience)->toBe(Audience::Me);
});

it('says which layers those whom it is shown to do not see', function (): void {
    [$map, $board] = ($this->makes)($this->head, []);
    $reach = fn (string $thing): array => $this->actingAs($this->head)->getJson("/api/v1/$thing/reach")
        ->assertOk()->json();
    expect($reach("maps/$map->id"))->toBe([]);
    $rule = fn (string $audience, array $rule): mixed => $this->actingAs($this->head)->putJson(
        "/api/v1/layers/{$this->layer->id}/seen-by/$audience",
        ['rule' => $rule + ['place' => 'exact', 'fields' => null, 'photos' => false]],
    )->assertOk();
    $rule('guests', ['rows' => 'none']);
    expect($reach("maps/$map->id"))
        ->toBe([['people' => 1, 'id' => $this->layer->id, 'title' => 'Nests', 'link' => false]]);
    $this->patchJson("/api/v1/maps/$map->id", ['audience' => 'some', 'shown_to' => ['crews']])->assertOk();
    expect($reach("maps/$map->id"))->toBe([]);
    $rule('link', ['rows' => 'none']);
    $this->patchJson("/api/v1/boards/$board->id", ['audience' => 'link'])->assertOk();
    expect($reach("boards/$board->id"))
        ->toBe([['people' => 1, 'id' => $this->layer->id, 'title' => 'Nests', 'link' => true]]);
    // Whoever makes it and is not shown the layer is not told its name.
    $rule('makers', ['rows' => 'none']);
    $this->actingAs($this->maker)->getJson("/api/v1/maps/$map->id/reach")->assertNotFound();
    $this->actingAs($this->maker)->getJson("/api/v1/boards/$board->id/reach")->assertOk()->assertExactJson([]);
    $rule('makers', ['rows' => 'all']);
    // Figures of so many at least are something on a board, and nothing on a map.
    $rule('link', ['rows' => 'all', 'least' => 5]);
    $rule('guests', ['rows' => 'all', 'least' => 5]);
    $this->patchJson("/api/v1/maps/$map->id", ['audience' => 'link'])->assertOk();
    expect($reach("boards/$board->id"))->toBe([])
        ->and($reach("maps/$map->id")[0]['link'])->toBeTrue();
});
