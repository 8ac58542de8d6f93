<?php

declare(strict_types=1);

use App\Models\Layer;
use App\Recalculation\LayerParts;
use App\Recalculation\NeighbourValues;
use App\Records\Cause;
use App\Records\ChangeOutbox;
use App\Records\RecordListener;
use App\Records\RecordsChanged;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use PinYard\Record\RecordId;

uses(Tests\ImportSteps::class);

/*
 * One writer for records: whoever changes one, a phone with an old cursor gets the new value, and history tells who or
 * what did it.
 */

beforeEach(function (): void {
    Storage::fake('attachments');
    $this->mara = $this->person('Mara');
    $this->programme_ = $this->programme($this->mara);
    $this->areas = $this->layer($this->programme_, [
        'title' => 'Beaches',
        'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $this->nests = $this->layer($this->programme_, [
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            [
                'key' => 'state',
                'label' => 'State',
                'kind' => 'one_choice',
                'choices' => [['code' => 'calm', 'label' => 'Calm'], ['code' => 'dug', 'label' => 'Dug']],
            ],
            ['key' => 'laid', 'label' => 'Laid on', 'kind' => 'date'],
            ['key' => 'twice', 'label' => 'Twice', 'kind' => 'calculated', 'formula' => 'eggs * 2'],
        ],
    ]);
    $this->visits = $this->layer($this->programme_, [
        'title' => 'Visits',
        'visits_of' => 'Nests',
        'fields' => [
            ['key' => 'seen', 'label' => 'Seen', 'kind' => 'whole_number'],
            [
                'key' => 'kind',
                'label' => 'Kind',
                'kind' => 'one_choice',
                'choices' => [['code' => 'a', 'label' => 'A'], ['code' => 'b', 'label' => 'B']],
            ],
        ],
    ]);
    $this->redesign = function (Layer $layer, callable $change, array $decisions = []): void {
        $layer->refresh();
        $document = $change($layer->design()->toArray());
        $this->actingAs($this->mara)
            ->putJson("/api/v1/layers/$layer->id/design", [
                'base' => $layer->design_version,
                'design' => $document,
                'decisions' => $decisions,
            ])
            ->assertOk();
        $layer->setRawAttributes($layer->fresh()->getAttributes(), true);
    };
    ($this->redesign)($this->nests->refresh(), function (array $d): array {
        $d['fields'][] = [
            'key' => 'beach',
            'label' => 'Beach',
            'kind' => 'calculated',
            'formula' => 'area_of("Beaches")',
        ];
        $d['fields'][] = ['key' => 'old', 'label' => 'Days', 'kind' => 'calculated', 'formula' => 'age(laid, "days")'];
        $d['fields'][] = [
            'key' => 'last',
            'label' => 'Last seen',
            'kind' => 'calculated',
            'formula' => 'latest_visit("seen")',
        ];

        return $d;
    });
    $this->nests = $this->nests->fresh();
    $this->operation = $this->add($this->nests, [
        'values' => ['code' => 'N1', 'eggs' => 10, 'state' => 'calm', 'laid' => '2026-11-01'],
    ]);
    $this->sync($this->mara, [$this->operation]);
    $this->record = $this->operation['record'];
    $this->cursor = fn (?Layer $layer = null): int => ($layer ?? $this->nests)->fresh()->change_number;
    // What a phone hears that had heard all before; each record once.
    $this->news = function (int $since, ?Layer $layer = null): array {
        $layer ??= $this->nests;

        return $this->sync($this->mara, [], [$layer->id => $since])['news'][$layer->id]['records'];
    };
    $this->history = fn (?string $record = null): array => $this->actingAs($this->mara)
        ->getJson("/api/v1/layers/{$this->nests->id}/records/".($record ?? $this->record).'/history')
        ->assertOk()
        ->json();
    $this->square = fn (string $name, float $size): array => $this->actingAs($this->mara)
        ->postJson("/api/v1/layers/{$this->areas->id}/records", [
            'values' => ['name' => $name],
            'geometry' => [
                'type' => 'Polygon',
                'coordinates' => [
                    [
                        [-11.5 - $size, -14.5 - $size],
                        [-11.5 + $size, -14.5 - $size],
                        [-11.5 + $size, -14.5 + $size],
                        [-11.5 - $size, -14.5 + $size],
                        [-11.5 - $size, -14.5 - $size],
                    ],
                ],
            ],
        ])
        ->assertCreated()
        ->json();
    $this->visit = fn (array $values): array => $this->add($this->visits, [
        'visited' => $this->record,
        'values' => $values,
    ]);
});

it('hears of a change at the desk and of one from a phone', function (): void {
    $since = ($this->cursor)();
    $this->actingAs($this->mara)
        ->patchJson("/api/v1/layers/{$this->nests->id}/records/$this->record", [
            'base' => 1,
            'values' => ['eggs' => 11],
        ])
        ->assertOk();
    expect(($this->news)($since)[0]['values'])->toMatchArray(['eggs' => 11, 'twice' => 22]);
    $since = ($this->cursor)();
    $this->sync($this->mara, [
        $this->changeOf($this->nests, $this->record, ['eggs' => 12], ['eggs' => 11], ['base' => 2]),
    ]);
    expect(($this->news)($since)[0]['values'])
        ->toMatchArray(['eggs' => 12, 'twice' => 24])
        ->and(array_column(($this->history)(), 'author'))
        ->toBe(['Mara', 'Mara', 'Mara']);
});

it('hears of calculated values that follow a visit, and history says that a visit did it', function (): void {
    $since = ($this->cursor)();
    $this->sync($this->mara, [($this->visit)(['seen' => 5])]);
    $this->sync($this->mara, [($this->visit)(['seen' => 7])]);
    $news = ($this->news)($since);
    expect($news)->toHaveCount(1)->and($news[0]['values']['last'])->toEqual(7)->and($news[0]['version'])->toBe(1);
    $worked = ($this->history)()[0]['workings'];
    expect(array_column($worked, 'cause'))
        ->toBe(['visits', 'visits'])
        ->and($worked[0])
        ->toMatchArray(['by' => 'Mara', 'all' => false, 'fields' => ['last'], 'was' => ['last' => null]])
        ->and($worked[1]['was'])
        ->toEqual(['last' => 5]);
});

it('hears of areas that were drawn, changed and deleted, each record once', function (): void {
    $other = $this->add($this->nests, [
        'values' => ['code' => 'far'],
        'geometry' => ['type' => 'Point', 'coordinates' => [-11.9, -14.1]],
    ]);
    $this->sync($this->mara, [$other]);
    $since = ($this->cursor)();
    $area = ($this->square)('Gull', 0.1);
    $news = ($this->news)($since);
    // The other one lies in none, before and after: nothing to hear of it.
    expect(array_column($news, 'id'))
        ->toBe([$this->record])
        ->and($news[0]['values']['beach'])
        ->toBe('Gull');
    $since = ($this->cursor)();
    $this->patchJson("/api/v1/layers/{$this->areas->id}/records/{$area['id']}", [
        'base' => 1,
        'values' => ['name' => 'Gull Bay'],
    ])->assertOk();
    expect(($this->news)($since)[0]['values']['beach'])->toBe('Gull Bay');
    $worked = ($this->history)()[0]['workings'];
    expect(array_column($worked, 'cause'))
        ->toBe(['areas', 'areas'])
        ->and($worked[0])
        ->toMatchArray(['all' => true, 'by' => 'Mara', 'fields' => ['beach']]);
});

it('hears in the morning of what changed with the day, and of nothing else', function (): void {
    $still = $this->add($this->nests, ['values' => ['code' => 'no date']]);
    $this->sync($this->mara, [$still]);
    $since = ($this->cursor)();
    $this->travelTo(now('Atlantic/St_Helena')->addDays(3)->startOfDay()->addMinutes(1));
    Artisan::call('formulas:refresh');
    expect(array_column(($this->news)($since), 'id'))
        ->toBe([$this->record])
        ->and(($this->history)()[0]['workings'][0])
        ->toMatchArray(['cause' => 'day', 'all' => true, 'by' => null, 'fields' => ['old']]);
    $since = ($this->cursor)();
    Artisan::call('formulas:refresh');
    expect(($this->cursor)())->toBe($since);
});

it('hears of a fill and of what is calculated from it', function (): void {
    $since = ($this->cursor)();
    $fill = $this->actingAs($this->mara)
        ->postJson("/api/v1/layers/{$this->nests->id}/fills", ['field' => 'eggs', 'formula' => 'eggs + 1'])
        ->assertCreated()
        ->json();
    $news = ($this->news)($since);
    expect(end($news)['values'])->toMatchArray(['eggs' => 11, 'twice' => 22]);
    $history = ($this->history)();
    expect($history[0])
        ->toMatchArray(['version' => 2, 'author' => 'Mara', 'changed' => ['eggs']])
        ->and($history[0]['workings'][0])
        ->toMatchArray(['cause' => 'formulas', 'fields' => ['twice']]);
    $since = ($this->cursor)();
    $this->deleteJson("/api/v1/layers/{$this->nests->id}/fills/{$fill['id']}")->assertOk();
    $news = ($this->news)($since);
    expect(end($news)['values'])->toMatchArray(['eggs' => 10, 'twice' => 20]);
});

it('brings visited records up to date when visits are filled or moved by many', function (): void {
    $this->sync($this->mara, [($this->visit)(['seen' => 5, 'kind' => 'a'])]);
    $since = ($this->cursor)();
    $this->actingAs($this->mara)
        ->postJson("/api/v1/layers/{$this->visits->id}/fills", ['field' => 'seen', 'formula' => 'seen * 10'])
        ->assertCreated()
        ->assertJsonPath('changed', 1);
    expect(($this->news)($since)[0]['values']['last'])
        ->toEqual(50)
        ->and(collect(($this->history)()[0]['workings'])->last())
        ->toMatchArray(['cause' => 'visits', 'all' => true]);
});

it('hears of choices that a design moved and of values that it turned', function (): void {
    $since = ($this->cursor)();
    ($this->redesign)(
        $this->nests,
        function (array $d): array {
            array_pop($d['fields'][2]['choices']);
            $d['fields'][2]['choices'] = [['code' => 'quiet', 'label' => 'Quiet']];

            return $d;
        },
        ['state' => ['move' => ['calm' => 'quiet', 'dug' => 'quiet']]],
    );
    expect(($this->news)($since)[0]['values']['state'])
        ->toBe('quiet')
        ->and(collect(($this->history)()[0]['workings'])->firstWhere('fields', ['state']))
        ->toMatchArray(['cause' => 'design', 'by' => 'Mara', 'all' => true]);
    $since = ($this->cursor)();
    ($this->redesign)($this->nests, function (array $d): array {
        $d['fields'][1] = ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'decimal'];

        return $d;
    });
    expect(($this->news)($since)[0]['values']['eggs'])->toEqual(10.0);
});

it('hears of rows that were brought in, changed by a list, and taken back', function (): void {
    $since = ($this->cursor)();
    $settings = fn (array $import): array => ['mode' => 'append', 'layer' => $this->nests->id];
    $import = $this->bring(
        $this->mara,
        $this->programme_,
        ['n.csv' => "code,eggs,lat,lon\nN7,4,-14.2,-11.2\nN8,5,-14.2,-11.3\n"],
        ['layer' => $this->nests->id],
    );
    $import = $this->land($this->decide($import, $settings($import)));
    expect($import['state'])
        ->toBe('done')
        ->and(array_column(($this->news)($since), 'name'))
        ->toBe(['N7', 'N8']);
    $row = DB::table($this->nests->table())->where('f_code', 'N7')->first();
    $id = RecordId::fromBytes($row->id)->text;
    expect(($this->history)($id)[0])->toMatchArray(['kind' => 'import', 'author' => 'Mara', 'version' => 1]);
    $since = ($this->cursor)();
    $this->postJson("/api/v1/imports/{$import['id']}/undo")->assertOk();
    $news = $this->sync($this->mara, [], [$this->nests->id => $since])['news'][$this->nests->id];
    expect($news['gone'])->toHaveCount(2)->toContain($id);
    $history = ($this->history)($id);
    expect(array_column($history, 'kind'))
        ->toBe(['delete', 'import'])
        ->and($history[0]['author'])
        ->toBe('Mara');
    // What one range stood for is put down when one of its records comes back.
    $this->postJson("/api/v1/layers/{$this->nests->id}/records/$id/restore", [])->assertOk();
    expect(array_column(($this->history)($id), 'kind'))->toBe(['restore', 'delete', 'import']);
});

it('hears of files that are announced, arrive, leave and come back', function (): void {
    $bytes = $this->jpeg();
    $file = $this->announce($bytes);
    $since = ($this->cursor)();
    $hears = function (string $state) use (&$since): void {
        $news = ($this->news)($since);
        expect(array_column($news[0]['photos'] ?? [], 'state'))->toBe($state === '' ? [] : [$state]);
        $since = ($this->cursor)();
    };
    $this->actingAs($this->mara)
        ->postJson("/api/v1/layers/{$this->nests->id}/records/$this->record/files", ['files' => [$file]])
        ->assertSuccessful();
    $hears('on_way');
    $to = $this->call(
        'POST',
        '/api/v1/uploads',
        server: [
            'HTTP_UPLOAD_LENGTH' => (string) strlen($bytes),
            'HTTP_TUS_RESUMABLE' => '1.0.0',
            'HTTP_UPLOAD_METADATA' => 'attachment '.base64_encode($file['id']),
        ],
    )->headers->get('Location');
    $this->call(
        'PATCH',
        (string) $to,
        server: [
            'HTTP_UPLOAD_OFFSET' => '0',
            'HTTP_TUS_RESUMABLE' => '1.0.0',
            'CONTENT_TYPE' => 'application/offset+octet-stream',
        ],
        content: $bytes,
    )->assertNoContent();
    $hears('stored');
    $this->deleteJson("/api/v1/attachments/{$file['id']}")->assertSuccessful();
    $hears('');
});

it('gives every row that many statements wrote a number of its own', function (): void {
    $this->sync(
        $this->mara,
        array_map(
            fn (int $i): array => $this->add($this->nests, [
                'values' => ['code' => "M$i", 'eggs' => $i, 'laid' => '2026-11-02'],
            ]),
            range(1, 700),
        ),
    );
    $since = ($this->cursor)();
    ($this->square)('All', 0.4);
    $numbers = DB::table($this->nests->table())->pluck('change_number');
    expect($numbers->unique())
        ->toHaveCount(701)
        ->and($numbers->min())
        ->toBeGreaterThan($since)
        ->and($numbers->max())
        ->toBe(($this->cursor)());
    // Page by page, each record once.
    $heard = [];
    do {
        $news = $this->sync($this->mara, [], [$this->nests->id => $since])['news'][$this->nests->id];
        array_push($heard, ...array_column($news['records'], 'id'));
        $since = $news['cursor'];
    } while ($news['more']);
    expect($heard)->toHaveCount(701)->and(array_unique($heard))->toHaveCount(701);
});

it(
    'overwrites nothing that came while it worked: it takes the numbers of then, and ends where the design became '
        .'another',
    function (): void {
        DB::table($this->nests->table())->update(['f_twice' => 1]);
        $stale = Layer::query()->findOrFail($this->nests->id);
        $parts = new LayerParts($stale, Cause::Formulas, null);
        DB::table('layers')
            ->where('id', $stale->id)
            ->update(['change_number' => DB::raw('change_number + 5')]);
        $parts->update(['f_twice' => 'f_eggs * 2'], ['twice']);
        expect(DB::table($this->nests->table())->value('f_twice'))
            ->toEqual(20)
            ->and(($this->cursor)())
            ->toBe($stale->change_number + 6)
            ->and($parts->overtaken)
            ->toBeFalse();
        ($this->redesign)($this->nests, fn (array $d): array => ['purpose' => 'Ours'] + $d);
        $parts->update(['f_twice' => 'f_eggs * 3'], ['twice']);
        expect(DB::table($this->nests->table())->value('f_twice'))
            ->toEqual(20)
            ->and($parts->overtaken)
            ->toBeTrue();
    },
);

it('tells whoever listens though the process was killed right after the commit', function (): void {
    // As a kill leaves it: the area is committed, and nobody was told.
    app()->bind(
        NeighbourValues::class,
        fn () => new class implements RecordListener
        {
            public function wants(Layer $layer, Cause $cause, bool $isRange): bool
            {
                return $layer->is_area;
            }

            public function hear(RecordsChanged $changed): void
            {
                throw new RuntimeException('killed');
            }
        },
    );
    $area = ($this->square)('Gull', 0.1);
    app()->offsetUnset(NeighbourValues::class);
    $beach = fn (): mixed => DB::table($this->nests->table())->value('f_beach');
    expect($area['version'])->toBe(1)->and($beach())->toBeNull();
    ChangeOutbox::tellLate();
    expect($beach())->toBeNull('nobody takes up what may just be told by another');
    $this->travel(3)->minutes();
    ChangeOutbox::tellLate();
    expect($beach())
        ->toBe('Gull')
        ->and(DB::table('record_changes')->where('layer_id', $this->areas->id)->whereNull('heard_at')->count())
        ->toBe(0);
});

it('says what was before and what is after', function (): void {
    $heard = [];
    app()->bind(NeighbourValues::class, function () use (&$heard) {
        return new class($heard) implements RecordListener
        {
            public function __construct(private array &$heard)
            {
            }

            public function wants(Layer $layer, Cause $cause, bool $isRange): bool
            {
                return true;
            }

            public function hear(RecordsChanged $changed): void
            {
                $this->heard[] = [
                    $changed->cause,
                    $changed->to - $changed->from,
                    $changed->records === null
                        ? null
                        : array_map(
                            fn (string $id): mixed => $changed->before($id)?->values['eggs'] ?? null,
                            array_map(strval(...), array_keys($changed->records)),
                        ),
                    $changed->after()->pluck('f_eggs')->all(),
                ];
            }
        };
    });
    $this->actingAs($this->mara)
        ->patchJson("/api/v1/layers/{$this->nests->id}/records/$this->record", [
            'base' => 1,
            'values' => ['eggs' => 11],
        ])
        ->assertOk();
    $this->sync($this->mara, [$this->add($this->nests, ['values' => ['code' => 'new', 'eggs' => 3]])]);
    expect($heard)->toBe([[Cause::Desk, 1, [10], [11]], [Cause::Sync, 1, [null], [3]]]);
});

it('makes, alters and drops tables outside of transactions alone', function (): void {
    expect(fn () => DB::transaction(fn () => $this->layer($this->programme_, ['title' => 'Inside'])))->toThrow(
        LogicException::class,
    );
});
