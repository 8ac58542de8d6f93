<?php

declare(strict_types=1);

use App\Models\User;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Illuminate\Support\Str;

describe('signing in', function (): void {
    it('takes the right password, refuses others alike, and is throttled', function (): void {
        $user = $this->person();
        $try = fn (string $email, string $password) => $this->postJson('/api/v1/session', [
            'email' => $email,
            'password' => $password,
        ]);
        $unknown = $try('nobody-'.Str::random(8).'@example.test', 'x')->assertStatus(422);
        $wrong = $try($user->email, 'wrong')->assertStatus(422);
        expect($wrong->json('problems'))->toBe($unknown->json('problems'));
        $try(strtoupper($user->email), 'a-long-password')->assertOk()->assertJsonPath('email', $user->email);
        for ($i = 0; $i < 12; $i++) {
            $last = $try($user->email, 'wrong');
        }
        $last->assertStatus(429)->assertHeader('Retry-After');
        expect(User::query()->find($user->id)->password)->not->toContain('a-long-password');
    });

    it('joins by an invitation once, with a password of one\'s own', function (): void {
        $head = $this->person();
        $programme = $this->programme($head);
        $address = $this->actingAs($head)
            ->postJson("/api/v1/programmes/{$programme->id}/people", [
                'name' => 'Ann',
                'email' => ($email = Str::random(9).'@Example.test'),
                'role' => 'crew',
                'crew' => 'Dunlin',
            ])
            ->assertCreated()
            ->json('address');
        app('auth')->forgetGuards();
        $join = "/api/v1$address";
        $this->getJson($join)->assertJsonPath('programme', $programme->name);
        $this->postJson($join, ['password' => 'short'])->assertStatus(422);
        $this->postJson($join, ['password' => 'a-good-long-one'])->assertCreated();
        $member = $programme->memberFor(User::query()->where('email', strtolower($email))->firstOrFail());
        expect($member->role->value)->toBe('crew')->and($member->crew->name)->toBe('Dunlin');
        $this->postJson($join, ['password' => 'a-good-long-one'])->assertNotFound();
        expect(DB::table('invitations')->where('token_hash', basename($address))->exists())->toBeFalse();
    });

    it('does not give an account away to whoever holds an invitation for it', function (): void {
        $programme = $this->programme($head = $this->person());
        $victim = $this->person();
        $address = $this->actingAs($head)
            ->postJson("/api/v1/programmes/{$programme->id}/people", [
                'name' => 'X',
                'email' => $victim->email,
                'role' => 'crew',
            ])
            ->json('address');
        $this->postJson("/api/v1$address", ['password' => 'not-the-password'])->assertStatus(422);
        $this->postJson("/api/v1$address", ['password' => 'a-long-password'])->assertCreated();
    });
});

describe('a programme', function (): void {
    it('is refused with a sentence where something is off', function (array $change, string $field): void {
        $body = array_replace(['name' => 'N', 'time_zone' => 'Europe/Lisbon', 'area' => [-12, -15, -11, -14]], $change);
        $problems = $this->actingAs($this->person())
            ->postJson('/api/v1/programmes', $body)
            ->assertStatus(422)
            ->json('problems');
        expect($problems[0]['field'])->toBe($field)->and($problems[0]['message'])->not->toBeEmpty();
    })->with([
        [['name' => ''], 'name'],
        [['time_zone' => 'Mars/Olympus'], 'time_zone'],
        [['area' => [1, 2, 3]], 'area'],
        [['area' => [0, 10, 1, 5]], 'area'],
        [['area' => [-200, 0, 0, 1]], 'area'],
        [['area' => 'all'], 'area'],
    ]);
});

describe('a layer', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person();
        $this->field = $this->programme($this->head);
        $this->actingAs($this->head);
        $this->post_layer = fn (array $document) => $this->postJson(
            "/api/v1/programmes/{$this->field->id}/layers",
            $document + ['geometry' => 'point'],
        );
    });

    it('gets one real column for each field, and the Z-order number from the first day', function (): void {
        $id = ($this->post_layer)([
            'title' => 'T',
            'fields' => [
                ['key' => 'select', 'label' => 'Select', 'kind' => 'short_text'],
                ['key' => 'order', 'label' => 'Order', 'kind' => 'whole_number'],
                [
                    'key' => 'group',
                    'label' => 'Group',
                    'kind' => 'one_choice',
                    'choices' => [['code' => 'a', 'label' => 'A']],
                ],
                ['key' => 'when', 'label' => 'When', 'kind' => 'date'],
            ],
        ])
            ->assertCreated()
            ->json('id');
        $types = array_column(Schema::getColumns("records_$id"), 'type_name', 'name');
        expect($types)
            ->toMatchArray([
                'f_select' => 'varchar',
                'f_order' => 'bigint',
                'f_group' => 'varchar',
                'f_when' => 'date',
                'z' => 'bigint',
                'id' => 'binary',
            ])
            ->and(array_column(Schema::getIndexes("records_$id"), 'columns', 'name')['z_order'][0])
            ->toBe('z');
    });

    it('can have 200 fields of any kind', function (string $kind): void {
        $fields = array_map(
            fn (int $i): array => ['key' => "f$i", 'label' => "F $i", 'kind' => $kind] +
                ($kind === 'one_choice' ? ['choices' => [['code' => 'a', 'label' => 'A']]] : []),
            range(1, 200),
        );
        $id = ($this->post_layer)(['title' => 'Wide', 'fields' => $fields])
            ->assertCreated()
            ->json('id');
        $layer = App\Models\Layer::query()->findOrFail($id);
        $value = [
            'short_text' => str_repeat('ü', 40),
            'whole_number' => 9_007_199_254_740_991,
            'one_choice' => 'a',
            'date' => '2026-05-01',
        ][$kind];
        $values = array_fill_keys(array_column($fields, 'key'), $value);
        expect($this->sync($this->head, [$this->add($layer, ['values' => $values])])['outcomes'][0]['outcome'])->toBe(
            'applied',
        );
    })->with(['short_text', 'whole_number', 'one_choice', 'date']);

    it('says everything that is wrong with a design at once', function (): void {
        $problems = ($this->post_layer)([
            'title' => '',
            'fields' => [
                ['key' => '1', 'label' => 'A', 'kind' => 'date'],
                ['key' => 'b', 'label' => 'B', 'kind' => 'whole_number', 'limits' => ['lowest' => 9, 'highest' => 1]],
            ],
        ])
            ->assertStatus(422)
            ->json('problems');
        expect(array_column($problems, 'message', 'field'))->toBe([
            '/title' => 'This must not be empty.',
            '/fields/0/key' => 'A key begins with a small letter and has small letters, digits and _ only, 40 at '
                .'the most.',
            '/fields/1/limits' => 'The lowest (9) is above the highest (1). Swap them?',
        ]);
        expect(
            $this->postJson('/api/v1/designs/check', ['title' => 'T', 'geometry' => 'point'])
                ->assertOk()
                ->json('value_schema.additionalProperties'),
        )->toBeFalse();
    });

    it('is changed from the version that was seen; the second to save hears of the first', function (): void {
        $layer = $this->layer($this->field);
        $next =
            [
                'fields' => [
                    ...$layer->design()->toArray()['fields'],
                    ['key' => 'extra', 'label' => 'Extra', 'kind' => 'short_text'],
                ],
            ] + $layer->design()->toArray();
        $save = fn () => $this->putJson("/api/v1/layers/{$layer->id}/design", ['base' => 1, 'design' => $next]);
        $save()->assertOk()->assertJsonPath('design_version', 2);
        $save()->assertStatus(409)->assertJsonPath('problems.0.code', 'design_stale');
        expect(Schema::hasColumn("records_{$layer->id}", 'f_extra'))->toBeTrue();
    });

    it('never drops what was collected: a field that leaves keeps its values and gets them back', function (): void {
        $layer = $this->layer($this->field);
        $this->sync($this->head, [
            ($operation = $this->add($layer, ['values' => ['code' => 'A', 'species' => 'CC', 'clutch' => 88]])),
        ]);
        $full = $layer->design()->toArray();
        $less =
            ['fields' => array_values(array_filter($full['fields'], fn (array $f): bool => $f['key'] !== 'clutch'))] +
            $full;
        $this->putJson("/api/v1/layers/{$layer->id}/design", ['base' => 1, 'design' => $less])->assertOk();
        $value = fn () => $this->getJson("/api/v1/layers/{$layer->id}/records/{$operation['record']}")->json('values');
        expect($value())->not->toHaveKey('clutch');
        $this->putJson("/api/v1/layers/{$layer->id}/design", ['base' => 2, 'design' => $full])->assertOk();
        expect($value()['clutch'])->toBe(88);
    });

    it('keeps choices that records carry, and says how many', function (): void {
        $layer = $this->layer($this->field);
        $this->sync($this->head, [$this->add($layer), $this->add($layer)]);
        $design = $layer->design()->toArray();
        $design['fields'][2]['choices'] = [['code' => 'CM', 'label' => 'Green']];
        $this->putJson("/api/v1/layers/{$layer->id}/design", ['base' => 1, 'design' => $design])
            ->assertStatus(422)
            ->assertJsonPath(
                'problems.0.message',
                '2 records carry “Loggerhead”. Retire the choice, or say which takes its place.',
            );
        $design['fields'][2]['choices'][] = ['code' => 'CC', 'label' => 'Loggerhead', 'retired' => true];
        $this->putJson("/api/v1/layers/{$layer->id}/design", ['base' => 1, 'design' => $design])->assertOk();
    });
});

it('never answers with a page or a trace', function (string $method, string $address, mixed $body): void {
    $response = $this->actingAs($this->person())->call(
        $method,
        $address,
        server: ['CONTENT_TYPE' => 'application/json'],
        content: $body,
    );
    expect($response->status())
        ->toBeLessThan(500)
        ->and($response->headers->get('Content-Type'))
        ->toStartWith('application/problem+json')
        ->and($response->getContent())
        ->not->toContain('.php')
        ->not->toContain('Exception');
})->with([
    ['GET', '/api/v1/nowhere', ''],
    ['GET', '/api/v1/layers/abc', ''],
    ['POST', '/api/v1/sync', '{"operations": ['],
    ['POST', '/api/v1/programmes', 'null'],
    ['GET', '/api/v1/attachments/%00/thumb', ''],
    ['GET', '/api/v1/open/maps/..%2f..%2fetc', ''],
    ['POST', '/api/v1/designs/check', '[]'],
    ['DELETE', '/api/v1/programmes', ''],
]);
