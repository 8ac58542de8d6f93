<?php

declare(strict_types=1);

use App\Models\Audience;
use App\Models\Layer;
use App\Models\Member;
use App\Models\Role;
use App\Records\VisibleRecords;
use Illuminate\Support\Str;
use PinYard\Audience\Blur;

/*
 * What whoever belongs to a programme is told by the rules of their audiences: by role, crew and group. Of several
 * rules only those count that admit a record, and of them the widest.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->crew = $this->crew($this->field);
    $this->nests = $this->layer($this->field, [
        'title' => 'Nests',
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            ['key' => 'kind', 'label' => 'Kind', 'kind' => 'one_choice', 'choices' => [
                ['code' => 'a', 'label' => 'Green'], ['code' => 'b', 'label' => 'Hawksbill'],
            ]],
            ['key' => 'far', 'label' => 'East', 'kind' => 'calculated', 'formula' => 'longitude()'],
        ],
    ]);
    $this->nest = fn (array $values, float $lon = -11.512, float $lat = -14.503): array => $this->add($this->nests, [
        'values' => $values, 'geometry' => ['type' => 'Point', 'coordinates' => [$lon, $lat]],
    ]);
    $this->say = fn (string $of, ?array $rule): mixed => $this->actingAs($this->head)->putJson(
        "/api/v1/layers/{$this->nests->id}/seen-by/$of",
        ['rule' => $rule === null
            ? null
            : $rule + ['rows' => 'all', 'place' => 'cell', 'metres' => 500, 'fields' => null, 'photos' => false]],
    );
    $this->group = function (array $people, bool $mayChange = false): int {
        $id = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/groups", [
            'name' => 'G '.Str::random(6), 'may_change' => $mayChange,
        ])->assertCreated()->json('id');
        foreach ($people as $person) {
            $this->actingAs($this->head)->putJson("/api/v1/groups/$id/people/".Member::query()
                ->where('programme_id', $this->field->id)->where('user_id', $person->id)->value('id'))->assertOk();
        }

        return $id;
    };
    $this->records = fn ($person): array => collect(
        $this->actingAs($person)->getJson("/api/v1/layers/{$this->nests->id}/records")->json('records') ?? [],
    )->sortBy('values.eggs')->values()->all();
    $this->photo = $this->announce($this->jpeg());
    $this->first = ['photos' => [$this->photo]] + ($this->nest)(['code' => 'ONE', 'eggs' => 1, 'kind' => 'a']);
    $this->second = ($this->nest)(['code' => 'TWO', 'eggs' => 2, 'kind' => 'b'], -11.3);
    $this->sync($this->crew, [$this->first, $this->second]);
    ($this->say)('link', ['rows' => 'none'])->assertOk();
});

it('shows guests what everyone with the link sees, until more is said', function (): void {
    $guest = $this->member($this->field, Role::Guest);
    $this->actingAs($guest)->getJson("/api/v1/layers/{$this->nests->id}")->assertNotFound();
    ($this->say)('link', [])->assertOk();
    expect(($this->records)($guest))->toHaveCount(2)
        ->and(($this->records)($guest)[0]['place'])->toBe('cell');
    ($this->say)('guests', ['rows' => 'none'])->assertOk();
    $this->actingAs($guest)->getJson("/api/v1/layers/{$this->nests->id}")->assertNotFound();
    ($this->say)('guests', null)->assertOk();
    expect(($this->records)($guest))->toHaveCount(2);
});

it('tells of a blurred record its cell, and neither place, hidden field, photo nor history', function (): void {
    $guest = $this->member($this->field, Role::Guest);
    $group = ($this->group)([$guest]);
    ($this->say)("group-$group", ['fields' => ['eggs', 'far']])->assertOk();
    [$record] = ($this->records)($guest);
    [$west, $south, $east, $north] = Blur::of(500)->cellOf(-11.512, -14.503);
    expect($record['place'])->toBe('cell')
        ->and($record['lon'])->toBeGreaterThanOrEqual($west)->toBeLessThanOrEqual($east)
        ->and($record['lat'])->toBeGreaterThanOrEqual($south)->toBeLessThanOrEqual($north)
        ->and($record['lon'])->not->toBe(-11.512)
        ->and($record['accuracy'])->toBeNull()
        ->and($record['altitude'])->toBeNull()
        ->and($record['values'])->toMatchArray(['eggs' => 1, 'code' => null, 'kind' => null, 'far' => null])
        ->and($record['name'])->toBeNull()
        ->and($record['photos'])->toBe([]);
    $of = "/api/v1/layers/{$this->nests->id}";
    $this->getJson("$of/records/{$record['id']}/history")->assertOk()->assertExactJson([]);
    $this->get("/api/v1/attachments/{$this->photo['id']}/thumb")->assertNotFound();
    $this->getJson("$of/records?filter=".urlencode((string) json_encode(
        ['all' => [['field' => 'code', 'test' => 'is', 'value' => 'ONE']]],
    )))->assertUnprocessable()->assertJsonPath('problems.0.code', 'filter_hidden');
    $this->postJson("$of/slices/try", ['filter' => ['all' => [['field' => 'kind', 'test' => 'is', 'value' => 'a']]]])
        ->assertUnprocessable();
    expect($this->getJson($of)->json('seen'))
        ->toBe(['place' => 'cell', 'metres' => 500, 'fields' => ['eggs'], 'photos' => false]);
});

it('takes the widest of the rules that admit a record', function (): void {
    $person = $this->member($this->field, Role::Guest);
    [$all, $some] = [($this->group)([$person]), ($this->group)([$person])];
    $slice = $this->nests->slices()->create(['name' => 'Green', 'filter' => [
        'all' => [['field' => 'kind', 'test' => 'is', 'value' => 'a']],
    ]])->id;
    ($this->say)("group-$all", ['fields' => ['eggs']])->assertOk();
    ($this->say)("group-$some", [
        'rows' => 'slice', 'slice' => $slice, 'place' => 'exact', 'metres' => null, 'fields' => ['code'],
        'photos' => true,
    ])->assertOk();
    [$green, $other] = ($this->records)($person);
    expect($green)->toMatchArray(['lon' => -11.512, 'lat' => -14.503])
        ->and($green)->not->toHaveKey('place')
        ->and($green['values'])->toMatchArray(['eggs' => 1, 'code' => 'ONE', 'kind' => null])
        ->and($green['photos'])->toHaveCount(1)
        ->and($other['place'])->toBe('cell')
        ->and($other['values'])->toMatchArray(['eggs' => 2, 'code' => null, 'kind' => null]);
    $found = fn (float $lon): int => VisibleRecords::for($person, Layer::query()->findOrFail($this->nests->id))
        ->rowsIn(PinYard\Geo\Box::of($lon - 0.00001, -14.50301, $lon + 0.00001, -14.50299))->count();
    expect($found(-11.512))->toBe(1)->and($found(-11.3))->toBe(0);
});

it('lets whoever goes out see their own whole, and of others what the rule says', function (): void {
    $other = $this->crew($this->field);
    $mine = ($this->nest)(['code' => 'MINE', 'eggs' => 9, 'kind' => 'a'], -11.4);
    $this->sync($other, [$mine]);
    ($this->say)('crews', ['fields' => ['eggs']])->assertOk();
    $records = ($this->records)($other);
    expect(array_map(static fn (array $r): array => [$r['values']['code'], $r['place'] ?? 'exact'], $records))
        ->toBe([[null, 'cell'], [null, 'cell'], ['MINE', 'exact']]);
    $this->actingAs($other)->getJson("/api/v1/layers/{$this->nests->id}/records/{$mine['record']}/history")
        ->assertJsonCount(1);
    // And on their phone.
    $news = fn (int $since = 0): array => $this->actingAs($other)->postJson('/api/v1/sync', [
        'device' => RecordDevice::id(), 'operations' => [], 'cursors' => [$this->nests->id => $since],
    ])->assertOk()->json("news.{$this->nests->id}");
    $told = $news();
    expect(collect($told['records'])->sortBy('values.eggs')->pluck('values.code')->all())->toBe([null, null, 'MINE'])
        ->and($told['scope'])->toStartWith('some:');
    ($this->say)('crews', ['rows' => 'none'])->assertOk();
    $after = $news($told['cursor']);
    expect($after['scope'])->not->toBe($told['scope'])->and(($this->records)($other))->toHaveCount(1);
});

it('tells a phone to begin anew when a record leaves the slice that it is shown', function (): void {
    $person = $this->member($this->field, Role::Guest);
    $group = ($this->group)([$person]);
    $slice = $this->nests->slices()->create(['name' => 'Green', 'filter' => [
        'all' => [['field' => 'kind', 'test' => 'is', 'value' => 'a']],
    ]])->id;
    ($this->say)("group-$group", ['rows' => 'slice', 'slice' => $slice, 'place' => 'exact', 'metres' => null]);
    $news = fn (int $since): array => $this->actingAs($person)->postJson('/api/v1/sync', [
        'device' => RecordDevice::id(), 'operations' => [], 'cursors' => [$this->nests->id => $since],
    ])->assertOk()->json("news.{$this->nests->id}");
    $told = $news(0);
    expect($told['records'])->toHaveCount(1)->and($news($told['cursor']))->not->toHaveKey('again');
    $this->actingAs($this->crew)->patchJson(
        "/api/v1/layers/{$this->nests->id}/records/{$this->first['record']}",
        ['base' => 1, 'values' => ['kind' => 'b']],
    )->assertOk();
    expect($news($told['cursor'])['again'])->toBeTrue();
});

it('lets whoever may change all of them, or visit them, see where they are', function (): void {
    $guest = $this->member($this->field, Role::Guest);
    $group = ($this->group)([$guest], true);
    ($this->say)("group-$group", ['fields' => ['eggs']])->assertOk();
    expect(($this->records)($guest)[0]['place'])->toBe('cell');
    $this->layer($this->field, ['title' => 'Visits', 'visits_of' => 'Nests']);
    expect(($this->records)($guest)[0])->not->toHaveKey('place')
        ->and(($this->records)($guest)[0]['values']['code'])->toBeNull();
    $this->actingAs($this->head)->patchJson("/api/v1/groups/$group", ['may_change' => false])->assertOk();
    expect(($this->records)($guest)[0]['place'])->toBe('cell');
});

it('lets guests and makers look, and neither add, change nor delete', function (Role $role): void {
    $person = $this->member($this->field, $role);
    ($this->say)('guests', ['place' => 'exact', 'metres' => null])->assertOk();
    $this->actingAs($person);
    $of = "/api/v1/layers/{$this->nests->id}/records";
    $this->postJson($of, [
        'values' => ['code' => 'X', 'eggs' => 1],
        'geometry' => ['type' => 'Point', 'coordinates' => [-11.5, -14.5]],
    ])->assertUnprocessable()->assertJsonPath('problems.0.code', 'add_not_allowed');
    $this->patchJson("$of/{$this->first['record']}", ['base' => 1, 'values' => ['eggs' => 5]])->assertForbidden();
    $this->deleteJson("$of/{$this->first['record']}")->assertForbidden();
    $this->sync($person, [($this->nest)(['code' => 'BY SYNC'])]);
    expect(($this->records)($this->head))->toHaveCount(2);
})->with([[Role::Guest], [Role::Maker]]);

it('lets who makes maps make and change them, and not open them to everyone', function (): void {
    $maker = $this->member($this->field, Role::Maker);
    $this->actingAs($maker);
    $map = $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'title' => 'M', 'layer' => $this->nests->id,
    ])->assertCreated()->json('id');
    $this->patchJson("/api/v1/maps/$map", ['title' => 'N'])->assertOk();
    $this->patchJson("/api/v1/maps/$map", ['audience' => 'link'])->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'link_coordinators');
    $this->postJson("/api/v1/programmes/{$this->field->id}/boards", ['title' => 'B', 'audience' => 'link'])
        ->assertUnprocessable();
    $this->actingAs($this->head)->patchJson("/api/v1/maps/$map", ['audience' => 'link'])->assertOk();
    // What is open stays so while its maker goes on with it, and its address is not theirs to change.
    $this->actingAs($maker)->patchJson("/api/v1/maps/$map", ['title' => 'O', 'audience' => 'link'])->assertOk();
    $this->patchJson("/api/v1/maps/$map", ['new_link' => true])->assertUnprocessable();
    $this->patchJson("/api/v1/maps/$map", ['audience' => 'programme'])->assertUnprocessable();
});

it('forgets what was said of a group that goes, and copies it to no other programme', function (): void {
    $guest = $this->member($this->field, Role::Guest);
    $group = ($this->group)([$guest]);
    ($this->say)("group-$group", [])->assertOk();
    ($this->say)('link', ['metres' => 2_000])->assertOk();
    $this->actingAs($this->head);
    $copy = $this->postJson('/api/v1/things', [
        'action' => 'copy', 'things' => [['kind' => 'programme', 'id' => $this->field->id]],
    ])->assertOk();
    $rules = array_keys(Layer::query()->where('title', 'Nests')->latest('id')->firstOrFail()->seen_by ?? []);
    expect($rules)->toBe(['link']);
    $this->deleteJson("/api/v1/groups/$group")->assertNoContent();
    expect(array_keys(Layer::query()->findOrFail($this->nests->id)->seen_by ?? []))->toBe(['link'])
        ->and(($this->records)($guest)[0]['place'])->toBe('cell');
    $this->actingAs($this->head)->putJson("/api/v1/layers/{$this->nests->id}/seen-by/group-$group", ['rule' => null])
        ->assertUnprocessable()->assertJsonPath('problems.0.code', 'audience_unknown');
});

it('shows a coordinator what an audience gets, and changes nothing meanwhile', function (): void {
    $guest = $this->member($this->field, Role::Guest);
    $group = ($this->group)([$guest]);
    ($this->say)("group-$group", ['fields' => ['eggs']])->assertOk();
    $map = $this->mapOf($this->nests, ['look' => ['kind' => 'category', 'field' => 'kind']], Audience::Programme);
    $board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B', 'tiles' => [[
            'id' => 't', 'kind' => 'number', 'title' => 'N', 'width' => 3, 'height' => 2, 'layer' => $this->nests->id,
        ]],
    ])->assertCreated()->json('id');
    $of = "/api/v1/layers/{$this->nests->id}";
    $asked = [
        "/api/v1/programmes/{$this->field->id}", "/api/v1/programmes/{$this->field->id}/layers", $of, "$of/records",
        "/api/v1/programmes/{$this->field->id}/people", "/api/v1/maps/$map->id/view",
        "/api/v1/maps/$map->id/layers/{$map->layers[0]['id']}/features.geojson", "/api/v1/boards/$board/answers",
    ];
    $all = function ($person, array $headers) use ($asked): array {
        $told = [];
        foreach ($asked as $address) {
            app('auth')->forgetGuards();
            $answer = $this->actingAs($person)->getJson($address, $headers);
            $told[$address] = [$answer->getStatusCode(), preg_replace('/"as_of":"[^"]*"/', '', $answer->content())];
        }

        return $told;
    };
    $as = ['Pin-Yard-Seen-As' => "{$this->field->id}:group-$group"];
    // The same as who is in that group alone, and is a guest of whom nothing was said.
    ($this->say)('guests', ['rows' => 'none'])->assertOk();
    expect($all($this->head, $as))->toBe($all($guest, []))
        ->and($all($this->head, $as)["/api/v1/programmes/{$this->field->id}/people"][0])->toBe(403);
    $this->actingAs($this->head)->patchJson("/api/v1/maps/$map->id", ['title' => 'X'], $as)->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'seen_as_read_only');
    $this->getJson('/api/v1/me', $as)->assertJsonPath('name', 'Head');
    // Only who coordinates that programme looks so, and only as somebody who is there.
    foreach ([[$this->crew, $as], [$guest, $as], [$this->head, ['Pin-Yard-Seen-As' => 'x']],
        [$this->head, ['Pin-Yard-Seen-As' => "{$this->programme($this->person())->id}:guests"]],
        [$this->head, ['Pin-Yard-Seen-As' => "{$this->field->id}:group-999999"]]] as [$person, $headers]) {
        $this->actingAs($person)->getJson($of, $headers)->assertUnprocessable()
            ->assertJsonPath('problems.0.code', 'seen_as_unknown');
    }
});

final class RecordDevice
{
    public static function id(): string
    {
        return PinYard\Record\RecordId::make()->text;
    }
}
