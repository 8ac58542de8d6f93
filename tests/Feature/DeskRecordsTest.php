<?php

declare(strict_types=1);

use PinYard\Record\RecordId;

describe('a record at the desk', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person('Head');
        $this->field = $this->programme($this->head);
        $this->walker = $this->crew($this->field);
        $this->nests = $this->layer($this->field, [
            'fields' => [
                ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'required' => true],
                [
                    'key' => 'clutch',
                    'label' => 'Clutch',
                    'kind' => 'whole_number',
                    'limits' => ['lowest' => 40, 'highest' => 180, 'outside' => 'ask'],
                ],
                ['key' => 'hatched', 'label' => 'Hatched', 'kind' => 'whole_number'],
                [
                    'key' => 'share',
                    'label' => 'Share',
                    'kind' => 'calculated',
                    'formula' => 'round(100 * hatched / clutch, 1)',
                ],
                ['key' => 'seen', 'label' => 'Seen', 'kind' => 'date_time'],
                [
                    'key' => 'threats',
                    'label' => 'Threats',
                    'kind' => 'several_choices',
                    'choices' => [['code' => 'dogs', 'label' => 'Dogs'], ['code' => 'tide', 'label' => 'Tide']],
                ],
            ],
        ]);
        $this->place = ['type' => 'Point', 'coordinates' => [-11.5, -14.5]];
        $this->actingAs($this->head);
        $this->new = fn (array $values = ['code' => 'A']): array => $this->postJson(
            "/api/v1/layers/{$this->nests->id}/records",
            ['values' => $values, 'geometry' => $this->place],
        )
            ->assertCreated()
            ->json();
        $this->put = fn (array $record, array $change) => $this->patchJson(
            "/api/v1/layers/{$this->nests->id}/records/{$record['id']}",
            ['base' => $record['version']] + $change,
        );
        $this->history = fn (array $record): array => $this->getJson(
            "/api/v1/layers/{$this->nests->id}/records/{$record['id']}/history",
        )
            ->assertOk()
            ->json();
    });

    it('is entered without a fix, with all kinds of values, calculated ones worked out', function (): void {
        $record = ($this->new)([
            'code' => 'A',
            'clutch' => 100,
            'hatched' => 83,
            'seen' => '2026-05-01T08:30:00+02:00',
            'threats' => ['dogs', 'tide'],
        ]);
        expect($record['values'])
            ->toBe([
                'code' => 'A',
                'clutch' => 100,
                'hatched' => 83,
                'share' => 83,
                'seen' => '2026-05-01T06:30:00Z',
                'threats' => ['dogs', 'tide'],
            ])
            ->and($record['accuracy'])
            ->toBeNull()
            ->and($record['author'])
            ->toBe('Head');
    });

    it('is refused as a phone\'s would be, naming the field', function (): void {
        $problems = $this->postJson("/api/v1/layers/{$this->nests->id}/records", [
            'values' => ['hatched' => 'many', 'threats' => ['cats'], 'seen' => 'noon'],
            'geometry' => ['type' => 'Point', 'coordinates' => [200, 0]],
        ])
            ->assertStatus(422)
            ->json('problems');
        expect(array_column($problems, 'code', 'field'))->toBe([
            'code' => 'required',
            'hatched' => 'not_whole',
            'seen' => 'not_date_time',
            'threats' => 'choice_unknown',
            'geometry' => 'position_outside_world',
        ]);
    });

    it('changes what was changed, keeps every version, and tells the phones', function (): void {
        $record = ($this->new)(['code' => 'A', 'clutch' => 100]);
        $cursor = $this->nests->refresh()->change_number;
        ($this->put)($record, [
            'values' => ['hatched' => 50],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.6, -14.5]],
        ])
            ->assertOk()
            ->assertJsonPath('version', 2)
            ->assertJsonPath('values.share', 50)
            ->assertJsonPath('values.clutch', 100)
            ->assertJsonPath('lon', -11.6);
        $versions = ($this->history)($record);
        expect(array_column($versions, 'kind'))
            ->toBe(['change', 'add'])
            ->and($versions[0]['changed'])
            ->toBe(['hatched', 'share'])
            ->and($versions[0]['moved'])
            ->toBeTrue()
            ->and($versions[1]['values']['hatched'])
            ->toBeNull();
        $news = $this->sync($this->walker, [], [$this->nests->id => $cursor])['news'][$this->nests->id];
        expect($news['records'][0]['id'])->toBe($record['id'])->and($news['records'][0]['version'])->toBe(2);
    });

    it(
        'merges what two people changed from the same version, and stops where both changed one value',
        function (): void {
            $record = ($this->new)(['code' => 'A', 'clutch' => 100]);
            ($this->put)($record, ['values' => ['code' => 'B']])->assertOk();
            ($this->put)($record, ['values' => ['hatched' => 70, 'share' => 70]])
                ->assertOk()
                ->assertJsonPath('values.code', 'B')
                ->assertJsonPath('values.hatched', 70);
            ($this->put)($record, ['values' => ['clutch' => 140, 'share' => 50]])
                ->assertOk()
                ->assertJsonPath('values.share', 50);
            ($this->put)($record, ['values' => ['code' => 'C']])
                ->assertStatus(422)
                ->assertJsonPath(
                    'problems.0.message',
                    'Code was changed to B meanwhile. Load the record again and decide.',
                );
            ($this->put)($record, ['values' => ['code' => 'B']])->assertOk();
        },
    );

    it('is judged whole when a part is changed', function (): void {
        $record = ($this->new)();
        ($this->put)($record, ['values' => ['code' => '']])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'required');
        ($this->put)($record, ['values' => ['nothing' => 1]])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'field_unknown');
        $this->patchJson("/api/v1/layers/{$this->nests->id}/records/{$record['id']}", ['values' => []])->assertStatus(
            422,
        );
        $this->patchJson("/api/v1/layers/{$this->nests->id}/records/".RecordId::make()->text, [
            'base' => 1,
            'values' => [],
        ])->assertNotFound();
        $this->patchJson("/api/v1/layers/{$this->nests->id}/records/nonsense", [
            'base' => 1,
            'values' => [],
        ])->assertStatus(422);
    });

    it('is deleted with a trace, leaves the phones, and comes back', function (): void {
        $record = ($this->new)();
        $cursor = $this->nests->refresh()->change_number;
        $address = "/api/v1/layers/{$this->nests->id}/records/{$record['id']}";
        $this->deleteJson($address)->assertNoContent();
        $this->deleteJson($address)->assertNoContent();
        $this->getJson($address)->assertNotFound();
        expect($this->sync($this->walker, [], [$this->nests->id => $cursor])['news'][$this->nests->id]['gone'])->toBe([
            $record['id'],
        ]);
        $this->actingAs($this->head);
        ($this->put)($record, ['values' => ['code' => 'B']])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'record_deleted');
        $this->postJson("$address/restore")
            ->assertOk()
            ->assertJsonPath('values.code', 'A')
            ->assertJsonPath('version', 3);
        expect(array_column(($this->history)($record), 'kind'))->toBe(['restore', 'delete', 'add']);
    });

    it('takes up an earlier version, values and place', function (): void {
        $record = ($this->new)(['code' => 'A', 'clutch' => 100]);
        ($this->put)($record, [
            'values' => ['code' => 'B', 'clutch' => null],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.9, -14.9]],
        ])->assertOk();
        $this->postJson("/api/v1/layers/{$this->nests->id}/records/{$record['id']}/restore", ['version' => 1])
            ->assertOk()
            ->assertJsonPath('values.code', 'A')
            ->assertJsonPath('values.clutch', 100)
            ->assertJsonPath('lon', -11.5);
        $this->postJson("/api/v1/layers/{$this->nests->id}/records/{$record['id']}/restore", [
            'version' => 9,
        ])->assertStatus(422);
    });

    it('is the crew\'s to change as far as the design says', function (
        string $change,
        string $delete,
        int $own,
        int $others,
        int $deleteOwn,
    ): void {
        $this->nests = $this->layer($this->field, ['rights' => ['crew' => ['change' => $change, 'delete' => $delete]]]);
        $mine = $this->actingAs($this->walker)
            ->postJson("/api/v1/layers/{$this->nests->id}/records", [
                'values' => ['code' => 'M', 'species' => 'CC'],
                'geometry' => $this->place,
            ])
            ->assertCreated()
            ->json();
        $theirs = $this->actingAs($this->head)
            ->postJson("/api/v1/layers/{$this->nests->id}/records", [
                'values' => ['code' => 'T', 'species' => 'CC'],
                'geometry' => $this->place,
            ])
            ->assertCreated()
            ->json();
        $this->actingAs($this->walker);
        ($this->put)($mine, ['values' => ['code' => 'X']])->assertStatus($own);
        ($this->put)($theirs, ['values' => ['code' => 'X']])->assertStatus($others);
        $this->deleteJson("/api/v1/layers/{$this->nests->id}/records/{$mine['id']}")->assertStatus($deleteOwn);
    })->with([['own', 'none', 200, 403, 403], ['all', 'own', 200, 200, 204], ['none', 'all', 403, 403, 204]]);

    it('may not be changed by who may not even see it', function (): void {
        $this->nests = $this->layer($this->field, [
            'rights' => ['crew' => ['see' => 'own', 'change' => 'all', 'delete' => 'all']],
        ]);
        $theirs = $this->postJson("/api/v1/layers/{$this->nests->id}/records", [
            'values' => ['code' => 'T', 'species' => 'CC'],
            'geometry' => $this->place,
        ])->json();
        $this->actingAs($this->walker);
        ($this->put)($theirs, ['values' => ['code' => 'X']])->assertNotFound();
        $this->getJson("/api/v1/layers/{$this->nests->id}/records/{$theirs['id']}/history")->assertNotFound();
        $this->deleteJson("/api/v1/layers/{$this->nests->id}/records/{$theirs['id']}")->assertNotFound();
    });

    it('has its place read from what was typed', function (): void {
        $this->postJson('/api/v1/places/read', ['text' => '14°10\'00"S 11°39\'00"W'])
            ->assertOk()
            ->assertJsonPath('said', 'Read as degrees and minutes: -14.16667, -11.65000');
        $this->postJson('/api/v1/places/read', ['text' => 'by the old pier'])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'place_unreadable');
        $this->postJson('/api/v1/places/read', ['text' => ['x']])->assertStatus(422);
    });

    it('tries a formula on the newest records before it is saved', function (): void {
        ($this->new)(['code' => 'A', 'clutch' => 100, 'hatched' => 50]);
        $try = fn (array $body) => $this->postJson("/api/v1/layers/{$this->nests->id}/formulas/try", $body);
        ($this->new)(['code' => 'B']);
        // Those with a value come first; one without shows that it may be missing.
        expect(array_column($try(['formula' => 'clutch - hatched'])->json('tries'), 'value', 'name'))->toBe([
            'A' => 50,
            'B' => null,
        ]);
        $try(['formula' => 'clutch - hatched'])
            ->assertOk()
            ->assertJsonPath('type', 'number')
            ->assertJsonPath('tries.0.value', 50)
            ->assertJsonPath('tries.0.name', 'A');
        $try(['formula' => 'clutch - code'])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.params.at', 9)
            ->assertJsonPath('problems.0.message', '“code” is a text; - needs numbers.');
        $try(['formula' => 'clutch', 'gives' => 'yes_no'])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'formula_result');
        $draft = $this->nests->design()->toArray();
        $draft['fields'][] = ['key' => 'extra', 'label' => 'Extra', 'kind' => 'decimal'];
        $try(['formula' => 'first_given(extra, clutch)', 'design' => $draft])
            ->assertOk()
            ->assertJsonPath('tries.0.value', 100);
        $this->getJson('/api/v1/formulas/functions')
            ->assertOk()
            ->assertJsonPath('groups.0.functions.0.write', 'round(number, 2)');
    });
});
