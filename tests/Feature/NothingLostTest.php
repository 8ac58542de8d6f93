<?php

declare(strict_types=1);

use App\Models\Conflict;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/*
 * What people do on phones and at the desk is not lost and not silently overwritten, whatever order it arrives in,
 * whoever is
 * signed in, whatever a clock shows. Each case was seen.
 */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->desk = $this->person('Desk'));
    $this->ann = $this->crew($this->programme_);
    $this->ben = $this->crew($this->programme_);
    $this->layer_ = $this->layer($this->programme_, [
        'altitude' => ['unit' => 'm', 'required' => false],
        'fix' => ['keep' => ['satellites', 'type', 'time']],
        'rights' => ['crew' => ['add' => true, 'see' => 'all', 'change' => 'all', 'delete' => 'all']],
    ]);
    $this->phones = ['ann' => RecordId::make()->text, 'ben' => RecordId::make()->text];
    $this->record = ($first = $this->add($this->layer_, [
        'altitude' => 10.0,
        'values' => ['code' => 'A', 'species' => 'CC', 'clutch' => 90],
    ]))['record'];
    $this->sync($this->ann, [$first], [], $this->phones['ann']);
    $this->change = fn (array $values, array $was, array $more = []): array => $this->changeOf(
        $this->layer_,
        $this->record,
        $values,
        $was,
        $more,
    );
    $this->by = fn (string $who, array ...$operations): array => $this->sync(
        $this->{$who},
        $operations,
        [],
        $this->phones[$who],
    )['outcomes'];
    $this->row = fn (?Layer $layer = null, ?string $record = null): object => DB::table(
        ($layer ?? $this->layer_)->table(),
    )
        ->where('id', RecordId::of($record ?? $this->record)->bytes())
        ->first();
});

describe('the altitude', function (): void {
    it('takes part in the merge like a value', function (): void {
        $high = fn (?float $to, ?float $was, array $more = []): array => ($this->change)(
            [],
            [],
            ['altitude' => $to, 'was_altitude' => $was, ...$more],
        );
        expect(($this->by)('ann', $high(12.0, 10.0))[0]['outcome'])->toBe('applied');
        // Somebody else changed it from the same: theirs stands, this one is kept beside it.
        expect(($this->by)('ben', $high(15.0, 10.0))[0])
            ->toMatchArray(['outcome' => 'clash', 'clashes' => ['@altitude']])
            ->and(($this->row)()->altitude)
            ->toBe(12.0);
        $dispute = Conflict::query()->where('layer_id', $this->layer_->id)->sole();
        expect($dispute->clashes)->toEqual([
            ['key' => '@altitude', 'was' => 10, 'theirs' => 12, 'mine' => 15, 'stands' => 'theirs'],
        ]);
        // Both to the same is none; another value beside it merges.
        expect(($this->by)('ben', $high(12.0, 10.0))[0]['outcome'])->toBe('merged');
        expect(($this->by)('ben', ($this->change)(['clutch' => 95], ['clutch' => 90]))[0]['outcome'])
            ->toBe('merged')
            ->and(($this->row)())
            ->toMatchObject(['altitude' => 12.0, 'f_clutch' => 95]);
        $this->actingAs($this->desk)
            ->postJson("/api/v1/disputes/$dispute->id", ['choose' => ['@altitude' => 'mine']])
            ->assertOk();
        expect(($this->row)()->altitude)->toBe(15.0);
    });

    it('is not overwritten by a phone that does not say what it replaced', function (): void {
        ($this->by)('ann', ($this->change)([], [], ['altitude' => 12.0]));
        expect(($this->by)('ben', ($this->change)([], [], ['altitude' => 15.0]))[0]['outcome'])
            ->toBe('clash')
            ->and(($this->row)()->altitude)
            ->toBe(12.0);
    });

    it('is not overwritten at the desk either, nor is the place', function (): void {
        $to = fn (float $lon): array => ['type' => 'Point', 'coordinates' => [$lon, -14.5]];
        $url = "/api/v1/layers/{$this->layer_->id}/records/$this->record";
        ($this->by)(
            'ann',
            ($this->change)(
                [],
                [],
                ['altitude' => 12.0, 'was_altitude' => 10.0, 'geometry' => $to(-11.4), 'was_geometry' => $to(-11.5)],
            ),
        );
        $this->actingAs($this->desk)
            ->patchJson($url, ['base' => 1, 'altitude' => 15])
            ->assertUnprocessable()
            ->assertJsonPath('problems.0.field', 'altitude');
        $this->patchJson($url, ['base' => 1, 'geometry' => $to(-11.3)])
            ->assertUnprocessable()
            ->assertJsonPath('problems.0.field', 'geometry');
        $this->patchJson($url, ['base' => 2, 'altitude' => 15, 'geometry' => $to(-11.3)])->assertOk();
        expect(($this->row)())->toMatchObject(['altitude' => 15.0, 'lon' => -11.3]);
    });
});

it('keeps the details of a fix with the place that stands', function (): void {
    $to = fn (float $lon): array => ['type' => 'Point', 'coordinates' => [$lon, -14.5]];
    $move = fn (float $from, float $lon, ?array $fix): array => ($this->change)(
        [],
        [],
        ['kind' => 'move', 'geometry' => $to($lon), 'was_geometry' => $to($from), 'fix' => $fix],
    );
    ($this->by)(
        'ann',
        $move(-11.5, -11.4, ['accuracy' => 2.5, 'satellites' => 9, 'type' => '3d', 'at' => '2026-05-01T06:00:00Z']),
    );
    expect(($this->row)())->toMatchObject([
        'accuracy' => 2.5,
        'satellites' => 9,
        'fix_type' => '3d',
        'fix_at' => '2026-05-01 06:00:00',
    ]);
    // A move that clashes leaves the place, and what was said of it.
    expect(($this->by)('ben', $move(-11.5, -11.3, ['accuracy' => 80.0, 'satellites' => 3]))[0]['outcome'])
        ->toBe('clash')
        ->and(($this->row)())
        ->toMatchObject(['lon' => -11.4, 'accuracy' => 2.5, 'satellites' => 9]);
    // One that was set on the map has no fix.
    ($this->by)('ann', $move(-11.4, -11.2, null));
    expect(($this->row)())->toMatchObject(['lon' => -11.2, 'accuracy' => null, 'satellites' => null, 'fix_at' => null]);
});

describe('a visit and a deletion', function (): void {
    beforeEach(function (): void {
        $this->visits = $this->layer($this->programme_, [
            'title' => 'Visits',
            'visits_of' => $this->layer_->title,
            'photos' => ['allowed' => false],
            'fields' => [['key' => 'seen', 'label' => 'Seen', 'kind' => 'short_text']],
        ]);
        $this->visit = fn (): array => $this->add($this->visits, [
            'kind' => 'visit',
            'visited' => $this->record,
            'values' => ['seen' => 'yes'],
        ]);
        $this->lives = function (): void {
            expect(($this->row)()->deleted)
                ->toBe(0)
                ->and(
                    DB::table($this->visits->table())
                        ->where('parent', RecordId::of($this->record)->bytes())
                        ->where('deleted', 0)
                        ->count(),
                )
                ->toBe(1);
            $dispute = Conflict::query()
                ->whereIn('layer_id', [$this->layer_->id, $this->visits->id])
                ->sole();
            expect($dispute->layer_id)
                ->toBe($this->layer_->id)
                ->and(RecordId::fromBytes($dispute->record_id)->text)
                ->toBe($this->record)
                ->and($dispute->clashes[0]['key'])
                ->toBe('@deleted');
            // Decided for the deletion, it is deleted; its visit stays in its own layer's history.
            $this->actingAs($this->desk)
                ->getJson("/api/v1/programmes/{$this->programme_->id}/disputes")
                ->assertOk()
                ->assertJsonPath('open', 1);
            $this->postJson("/api/v1/disputes/$dispute->id", [
                'choose' => ['@deleted' => $dispute->clashes[0]['stands'] === 'mine' ? 'theirs' : 'mine'],
            ])->assertOk();
            expect(($this->row)()->deleted)->toBe(1);
        };
    });

    it('have the same outcome when the visit arrives first', function (): void {
        $delete = ($this->change)(
            [],
            [],
            ['kind' => 'delete', 'captured_at' => now()->subMinutes(5)->format('Y-m-d\TH:i:s\Z')],
        );
        expect(($this->by)('ben', ($this->visit)())[0]['outcome'])
            ->toBe('applied')
            ->and(($this->by)('ann', $delete)[0]['outcome'])
            ->toBe('clash');
        ($this->lives)();
    });

    it('and when the deletion does', function (): void {
        expect(($this->by)('ann', ($this->change)([], [], ['kind' => 'delete']))[0]['outcome'])
            ->toBe('applied')
            ->and(($this->by)('ben', ($this->visit)())[0]['outcome'])
            ->toBe('clash');
        ($this->lives)();
    });

    it('also when it is deleted at the desk', function (): void {
        $this->actingAs($this->desk)
            ->deleteJson("/api/v1/layers/{$this->layer_->id}/records/$this->record")
            ->assertNoContent();
        expect(($this->by)('ben', ($this->visit)())[0]['outcome'])->toBe('clash');
        ($this->lives)();
    });

    it('are no clash where the deleter knew of the visit, or made it', function (): void {
        ($this->by)('ben', ($this->visit)());
        $known = $this->visits->refresh()->change_number;
        $delete = fn (?int $known): array => ($this->change)(
            [],
            [],
            ['kind' => 'delete', ...$known === null ? [] : ['visits_known' => $known]],
        );
        foreach ([null, 0, $known - 1] as $less) {
            expect(($this->by)('ann', $delete($less))[0]['outcome'])->toBe('clash');
        }
        expect(($this->by)('ann', $delete($known))[0]['outcome'])->toBe('applied');
        ($this->by)('ann', ($this->change)([], [], ['kind' => 'restore', 'base' => 2]));
        ($this->by)('ben', ($this->visit)(), ($this->change)([], [], ['kind' => 'delete', 'base' => 3]));
        expect(($this->row)()->deleted)->toBe(1);
    });

    it('at the desk: a visit that came since the page was drawn is told first', function (): void {
        ($this->by)('ben', ($this->visit)());
        $url = "/api/v1/layers/{$this->layer_->id}/records/$this->record";
        $this->actingAs($this->desk)
            ->deleteJson("$url?visits=0")
            ->assertUnprocessable()
            ->assertJsonPath('problems.0.code', 'visited_since');
        $this->deleteJson("$url?visits=1")->assertNoContent();
    });
});

describe('a clock', function (): void {
    beforeEach(function (): void {
        $this->done = function (array $op, ?string $sentAt): string {
            $add = $this->add($this->layer_, $op);
            $this->actingAs($this->ann)
                ->postJson('/api/v1/sync', [
                    'device' => $this->phones['ann'],
                    ...$sentAt === null ? [] : ['sent_at' => $sentAt],
                    'operations' => [$add],
                    'cursors' => (object) [],
                ])
                ->assertOk()
                ->assertJsonPath('outcomes.0.outcome', 'applied');

            return (string) ($this->row)(null, $add['record'])->collected_at;
        };
        $this->ago = fn (int $seconds): string => now()->subSeconds($seconds)->format('Y-m-d\TH:i:s\Z');
        $this->near = fn (string $at, int $secondsAgo) => expect(
            abs(strtotime("$at UTC") - (time() - $secondsAgo)),
        )->toBeLessThan(5);
    });

    it('that is days off and was never known to be is corrected by the time of sending', function (): void {
        $days = 3 * 86_400;
        // Three days ahead: done an hour ago, sent now.
        ($this->near)(($this->done)(['captured_at' => ($this->ago)(3_600 - $days)], ($this->ago)(-$days)), 3_600);
        ($this->near)(($this->done)(['captured_at' => ($this->ago)(3_600 + $days)], ($this->ago)($days)), 3_600);
    });

    it(
        'that jumped after the last round is corrected by the time of sending, not by what was known before',
        function (): void {
            // Known to be right at the last round two hours ago, then set five hours ahead.
            ($this->near)(
                ($this->done)(
                    ['captured_at' => ($this->ago)(3_600 - 18_000), 'heard_at' => ($this->ago)(7_200)],
                    ($this->ago)(-18_000),
                ),
                3_600,
            );
        },
    );

    it('that was put right between the doing and the sending keeps what was known then', function (): void {
        // A day behind, and known to be; put right before sending.
        ($this->near)(
            ($this->done)(
                [
                    'captured_at' => ($this->ago)(3_600 + 86_400),
                    'clock_off' => 86_400,
                    'heard_at' => ($this->ago)(7_200),
                ],
                ($this->ago)(0),
            ),
            3_600,
        );
    });

    it(
        'of which nobody knows by how much it was set puts nothing before the last round, nor into the future',
        function (): void {
            ($this->near)(
                ($this->done)(
                    ['captured_at' => ($this->ago)(-90_000), 'heard_at' => ($this->ago)(7_200)],
                    ($this->ago)(0),
                ),
                0,
            );
            ($this->near)(
                ($this->done)(
                    ['captured_at' => ($this->ago)(900_000), 'heard_at' => ($this->ago)(7_200)],
                    ($this->ago)(0),
                ),
                7_200,
            );
        },
    );

    it('that is right, or of a phone that does not say when it sends, is left alone', function (): void {
        ($this->near)(($this->done)(['captured_at' => ($this->ago)(3_600)], ($this->ago)(20)), 3_600);
        ($this->near)(($this->done)(['captured_at' => ($this->ago)(3_600)], null), 3_600);
        ($this->near)(($this->done)(['captured_at' => ($this->ago)(3_600)], 'yesterday'), 3_600);
    });
});

describe('somebody else in the same browser', function (): void {
    it('sends nothing of whose phone it is', function (): void {
        $round = [
            'device' => $this->phones['ann'],
            'person' => $this->ann->id,
            'operations' => [($add = $this->add($this->layer_))],
            'cursors' => (object) [],
        ];
        $this->actingAs($this->ben)
            ->postJson('/api/v1/sync', $round)
            ->assertStatus(409)
            ->assertJsonPath('code', 'other_person');
        expect(
            DB::table($this->layer_->table())
                ->where('id', RecordId::of($add['record'])->bytes())
                ->exists(),
        )->toBeFalse();
        $this->actingAs($this->ann)
            ->postJson('/api/v1/sync', $round)
            ->assertOk()
            ->assertJsonPath('outcomes.0.outcome', 'applied');
        // Phones with an outbox of an older app do not say whose it is.
        $this->postJson('/api/v1/sync', [...$round, 'person' => null, 'operations' => [$this->add($this->layer_)]])
            ->assertOk()
            ->assertJsonPath('outcomes.0.outcome', 'applied');
    });

    it('gets nothing by requests of that phone, and no file or way goes under their name', function (): void {
        $as = ['Pin-Yard-Person' => (string) $this->ann->id];
        $this->actingAs($this->ben)->withHeaders($as);
        $this->getJson('/api/v1/packs')->assertStatus(409);
        $this->postJson('/api/v1/uploads')->assertStatus(409);
        $this->postJson("/api/v1/programmes/{$this->programme_->id}/trails", [
            'device' => $this->phones['ann'],
            'points' => [],
        ])
            ->assertStatus(409)
            ->assertJsonPath(
                'title',
                'This phone’s work belongs to somebody else than who is signed in here. It waits until its own '
                    .'person signs in.',
            );
        $this->getJson('/api/v1/me')->assertOk()->assertJsonPath('id', $this->ben->id);
        $this->actingAs($this->ann)->getJson('/api/v1/packs')->assertOk();
    });
});

it('takes a text with half a character in it, and what else is in the round', function (): void {
    $ops = [
        $this->add($this->layer_, ['values' => ['code' => 'HALF', 'species' => 'CC']]),
        $this->add($this->layer_, ['values' => ['code' => 'pair 🐢', 'species' => 'CC']]),
        $this->add($this->layer_),
    ];
    $text = str_replace(
        '"HALF"',
        '"x\ud83d \\\\ud83d"',
        (string) json_encode(['device' => $this->phones['ann'], 'operations' => $ops, 'cursors' => (object) []]),
    );
    foreach (['', 'gzip'] as $packed) {
        $body =
            $packed === ''
                ? $text
                : gzencode(
                    str_replace(
                        [...array_column($ops, 'op'), ...array_column($ops, 'record')],
                        array_map(fn (): string => RecordId::make()->text, range(1, 6)),
                        $text,
                    ),
                );
        $answer = $this->actingAs($this->ann)->call(
            'POST',
            '/api/v1/sync',
            [],
            [],
            [],
            [
                'CONTENT_TYPE' => 'application/json',
                'HTTP_ACCEPT' => 'application/json',
                ...$packed === '' ? [] : ['HTTP_CONTENT_ENCODING' => $packed],
            ],
            $body,
        );
        expect(array_column($answer->assertOk()->json('outcomes'), 'outcome'))->toBe(['applied', 'applied', 'applied']);
    }
    expect(($this->row)(null, $ops[0]['record'])->f_code)
        ->toBe("x\u{FFFD} \\ud83d")
        ->and(($this->row)(null, $ops[1]['record'])->f_code)
        ->toBe('pair 🐢');
});

describe('what is held', function (): void {
    beforeEach(function (): void {
        // The design grew narrower while the phone was out.
        $design = $this->layer_->design()->toArray();
        $design['fields'][1]['limits'] = ['lowest' => 1, 'highest' => 100];
        $this->actingAs($this->desk)
            ->putJson("/api/v1/layers/{$this->layer_->id}/design", ['base' => 1, 'design' => $design])
            ->assertOk();
        $this->photo = $this->announce($this->bytes = $this->jpeg());
        $this->held = $this->add($this->layer_, [
            'design' => 1,
            'values' => ['code' => 'H', 'species' => 'CC', 'clutch' => 200],
            'photos' => [$this->photo],
        ]);
        expect(($this->by)('ann', $this->held)[0]['outcome'])->toBe('held');
        $this->dispute = Conflict::query()->where('layer_id', $this->layer_->id)->sole();
        $this->settle = fn (bool $take) => $this->actingAs($this->desk)->postJson(
            "/api/v1/disputes/{$this->dispute->id}",
            ['take' => $take],
        );
    });

    it('shows its photos to whoever decides, and to nobody else', function (): void {
        $upload = App\Models\Upload::query()->create([
            'id' => (string) Illuminate\Support\Str::uuid7(),
            'attachment_id' => RecordId::of($this->photo['id'])->bytes(),
            'user_id' => $this->ann->id,
            'length' => strlen($this->bytes),
            'expires_at' => now()->addDay(),
        ]);
        @mkdir(dirname($upload->file()), recursive: true);
        file_put_contents($upload->file(), $this->bytes);
        App\Files\FileArrival::finish(
            $upload,
            App\Models\Attachment::query()->findOrFail(RecordId::of($this->photo['id'])->bytes()),
        );
        $this->actingAs($this->desk)
            ->get("/api/v1/attachments/{$this->photo['id']}/thumb")
            ->assertOk();
        $this->actingAs($this->ben)
            ->getJson("/api/v1/attachments/{$this->photo['id']}/thumb")
            ->assertNotFound();
        $this->actingAs($this->person())
            ->getJson("/api/v1/attachments/{$this->photo['id']}/original")
            ->assertNotFound();
    });

    it('and set aside can be taken up again, with its files', function (): void {
        ($this->settle)(false)->assertOk();
        expect(($this->row)(null, $this->held['record'])->deleted)->toBe(1);
        ($this->settle)(false)->assertUnprocessable();
        ($this->settle)(true)->assertOk()->assertJsonPath('settlement.take', true);
        expect(($this->row)(null, $this->held['record']))
            ->toMatchObject(['deleted' => 0, 'f_clutch' => 200])
            ->and(
                DB::table('attachments')
                    ->where('id', RecordId::of($this->photo['id'])->bytes())
                    ->value('state'),
            )
            ->toBe('on_way');
        ($this->settle)(true)->assertUnprocessable();
    });
});
