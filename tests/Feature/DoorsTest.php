<?php

declare(strict_types=1);

use App\Files\Pictures;
use App\Http\JsonText;
use App\Models\Attachment;
use App\Models\Audience;
use App\Models\Conflict;
use App\Models\Export;
use App\Models\Fill;
use App\Models\Import;
use App\Models\Outing;
use App\Plan\Outings;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use PinYard\Carto\OwnMark;
use PinYard\Record\RecordId;

uses(Tests\ImportSteps::class);

/* Doors that were open, each as it was found; docs/security.md names them one by one. */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->desk = $this->person('Desk'));
    $this->layer_ = $this->layer($this->programme_);
    $this->actingAs($this->desk);
});

it('finds nothing by a number that is none', function (string $number): void {
    foreach (['programmes', 'layers', 'maps', 'imports'] as $things) {
        $id = $things === 'programmes' ? $this->programme_->id : $this->layer_->id;
        $this->getJson("/api/v1/$things/".strtr($number, ['N' => (string) $id]))->assertNotFound();
    }
})->with(['Nx', 'N.0', '0N', 'N%20', '%20N', '-N', 'Ne0', '+N', '99999999999999999999', '0']);

it('has no fault for a layer in the bin, and gives nothing of it out', function (): void {
    $visits = $this->layer($this->programme_, [
        'title' => 'Visits',
        'visits_of' => 'Nests',
        'photos' => ['allowed' => false],
        'fields' => [['key' => 'seen', 'label' => 'Seen', 'kind' => 'short_text']],
    ]);
    $operation = $this->add($this->layer_, [
        'values' => ['code' => 'BINNED', 'species' => 'CC'],
        'photos' => [($photo = $this->announce($this->jpeg()))],
    ]);
    $this->sync($this->desk, [
        $operation,
        ($visit = $this->add($visits, [
            'kind' => 'visit',
            'visited' => $operation['record'],
            'values' => ['seen' => 'yes'],
        ])),
    ]);
    $map = $this->mapOf($this->layer_, ['card' => ['fields' => ['code'], 'photos' => true]], Audience::Link);
    $board = $this->programme_
        ->boards()
        ->make(['title' => 'B', 'tiles' => App\Boards\BoardDraft::tiles($this->programme_, $this->person())]);
    $board->openTo(Audience::Link);
    $record = RecordId::of($operation['record'])->bytes();
    $ids = [
        '{programme}' => $this->programme_->id,
        '{layer}' => $this->layer_->id,
        '{record}' => $operation['record'],
        '{attachment}' => $photo['id'],
        '{size}' => 'thumb',
        '{part}' => $map->layers[0]['id'],
        '{map}' => $map->id,
        '{board}' => $board->id,
        '{fill}' => Fill::query()->create([
            'layer_id' => $this->layer_->id,
            'field' => 'clutch',
            'formula' => '1',
            'state' => 'done',
        ])->id,
        '{export}' => Export::query()->create([
            'layer_id' => $this->layer_->id,
            'user_id' => $this->desk->id,
            'state' => 'done',
            'name' => 'a.csv',
            'settings' => ['format' => 'csv'],
        ])->id,
        '{import}' => Import::query()->create([
            'programme_id' => $this->programme_->id,
            'user_id' => $this->desk->id,
            'state' => 'done',
            'layer_id' => $this->layer_->id,
            'prefix' => random_bytes(10),
            'files' => [],
            'settings' => ['title' => 'T', 'mode' => 'append', 'layer' => $this->layer_->id],
            'counts' => [],
        ])->id,
        '{file}' => 0,
        '{row}' => 2,
        '{dispute}' => Conflict::query()->create([
            'layer_id' => $this->layer_->id,
            'record_id' => $record,
            'op' => RecordId::make()->bytes(),
            'user_id' => $this->desk->id,
            'kind' => 'held',
            'operation' => $operation + ['device' => RecordId::make()->text],
            'captured_at' => now(),
            'received_at' => now(),
        ])->id,
        '{asked}' => App\Models\RecordQuestion::query()->create([
            'layer_id' => $this->layer_->id,
            'record_id' => $record,
            'to_user' => $this->desk->id,
            'text' => 'T',
            'asked_at' => now(),
        ])->id,
        '{outing}' => Outings::save($this->programme_, null, [
            'title' => 'O',
            'from' => '2026-11-01',
            'to' => '2026-11-02',
            'layers' => [$this->layer_->id],
        ])->id,
        '{list}' => $this->choiceList($this->programme_)->id,
        '{shelf}' => 1,
        '{member}' => 1,
        '{upload}' => (string) Str::uuid7(),
        '{mark}' => 'x',
        '{device}' => 'a',
        '{token}' => $map->link_token,
    ];
    $this->layer_->delete();
    foreach (allRoutes() as $name) {
        [$method, $uri] = explode(' ', $name, 2);
        if (in_array($name, ['DELETE api/v1/session', 'DELETE api/v1/programmes/{programme}/people/{member}'], true)) {
            continue;
        }
        foreach (str_contains($uri, '{layer}') ? [$this->layer_->id, $visits->id] : [0] as $layer) {
            DB::beginTransaction();
            $answer = $this->json(
                $method,
                '/'.
                    strtr(
                        $uri,
                        [
                            '{layer}' => $layer,
                            '{token}' => str_contains($uri, 'boards') ? $board->link_token : $map->link_token,
                        ] + $ids,
                    ),
            );
            DB::rollBack();
            expect($answer->getStatusCode())->toBeLessThan(
                500,
                "$name: ".mb_substr((string) $answer->getContent(), 0, 200),
            );
            if (str_contains($uri, 'open/')) {
                expect((string) $answer->getContent())->not->toContain('BINNED');
            }
        }
    }
});

it('takes no id of another programme in a body', function (): void {
    $theirs = $this->programme($stranger = $this->person());
    $secret = $this->layer($theirs, [
        'title' => 'Secret',
        'fields' => [['key' => 'hidden_key', 'label' => 'Hidden label', 'kind' => 'short_text']],
    ]);
    $slice = $secret->slices()->create(['name' => 'Secret slice', 'filter' => ['all' => []]]);
    $map = $this->mapOf($secret, [], Audience::Programme, 'Secret map');
    $import = Import::query()->create([
        'programme_id' => $theirs->id,
        'user_id' => $stranger->id,
        'state' => 'done',
        'files' => [],
        'settings' => ['title' => 'Secret title', 'layer' => $secret->id],
        'counts' => [],
    ]);
    $crew = $theirs->crews()->create(['name' => 'Secret crew']);
    $list = $this->choiceList($theirs);
    $mine = Import::query()->create([
        'programme_id' => $this->programme_->id,
        'user_id' => $this->desk->id,
        'state' => 'review',
        'files' => [['name' => 'a.csv', 'bytes' => 1]],
        'source' => ['kind' => 'csv', 'path' => 'x'],
        'reading' => ['rows' => 0, 'columns' => []],
        'settings' => ['title' => 'T'],
        'counts' => [],
    ]);
    $own = $this->postJson("/api/v1/programmes/{$this->programme_->id}/boards", ['title' => 'B'])->json('id');
    $p = "/api/v1/programmes/{$this->programme_->id}";
    $tile = [
        'id' => 'a',
        'kind' => 'number',
        'title' => 'T',
        'layer' => $secret->id,
        'slice' => null,
        'field' => null,
        'width' => 3,
        'height' => 2,
    ];
    $asked = [
        ['POST', "$p/maps", ['layer' => $secret->id, 'title' => 'M']],
        ['POST', "$p/boards", ['title' => 'B', 'tiles' => [$tile]]],
        ['PATCH', "/api/v1/boards/$own", ['tiles' => [['layer' => $this->layer_->id, 'slice' => $slice->id] + $tile]]],
        ['PATCH', "$p/gate", ['hung' => [['kind' => 'map', 'id' => $map->id]]]],
        [
            'POST',
            "$p/outings",
            ['title' => 'O', 'from' => '2026-11-01', 'to' => '2026-11-02', 'layers' => [$secret->id]],
        ],
        [
            'POST',
            "$p/outings",
            [
                'title' => 'O',
                'from' => '2026-11-01',
                'to' => '2026-11-02',
                'layers' => [$this->layer_->id],
                'crew' => $crew->id,
            ],
        ],
        ['PUT', "$p/questions", [['text' => 'Q', 'fields' => [['layer' => $secret->id, 'key' => 'hidden_key']]]]],
        ['POST', "$p/places", ['layer' => $secret->id]],
        [
            'PUT',
            "/api/v1/imports/{$mine->id}/settings",
            [
                'title' => 'T',
                'mode' => 'append',
                'layer' => $secret->id,
                'columns' => [],
                'location' => ['way' => 'none', 'columns' => []],
            ],
        ],
        ['POST', "/api/v1/imports/{$mine->id}/into/{$secret->id}", []],
        ['POST', "/api/v1/layers/{$this->layer_->id}/exports", ['format' => 'csv', 'slice' => $slice->id]],
        [
            'POST',
            "/api/v1/layers/{$this->layer_->id}/fills/preview",
            ['field' => 'clutch', 'formula' => '1', 'slice' => $slice->id],
        ],
        [
            'POST',
            '/api/v1/things',
            [
                'things' => [['kind' => 'layer', 'id' => $secret->id], ['kind' => 'map', 'id' => $map->id]],
                'do' => 'bin',
            ],
        ],
        [
            'POST',
            "/api/v1/designs/check?layer={$secret->id}",
            [
                'title' => 'T',
                'geometry' => 'point',
                'fields' => [
                    ['key' => 'a', 'label' => 'A', 'kind' => 'calculated', 'formula' => 'latest_visit("hidden_key")'],
                ],
            ],
        ],
        [
            'POST',
            "$p/layers",
            [
                'title' => 'V',
                'geometry' => 'point',
                'visits_of' => 'Secret',
                'fields' => [['key' => 'a', 'label' => 'A', 'kind' => 'short_text']],
            ],
        ],
    ];
    foreach ($asked as [$method, $address, $body]) {
        $answer = $this->json($method, $address, $body);
        expect($answer->getStatusCode())
            ->toBeIn([403, 404, 422], "$method $address: ".$answer->getContent())
            ->and((string) $answer->getContent())
            ->not->toContain('Hidden label')
            ->not->toMatch('/Secret (slice|map|crew|title)/');
    }
    // Like an import of somebody else's: nothing of its settings comes along.
    expect(
        (string) $this->postJson("$p/imports", [
            'files' => [['name' => 'a.csv', 'bytes' => 5]],
            'like' => $import->id,
            'layer' => $secret->id,
        ])->getContent(),
    )->not->toContain('Secret');
    expect($secret->refresh()->trashed())
        ->toBeFalse()
        ->and(Outing::query()->where('programme_id', $this->programme_->id)->count())
        ->toBe(0);
    // A list of another programme in a design is no list of this one.
    $design = $this->layer_->design()->toArray();
    $design['fields'][2]['list'] = $list->id;
    $answer = $this->putJson("/api/v1/layers/{$this->layer_->id}/design", ['base' => 1, 'design' => $design]);
    expect(
        $answer->getStatusCode() === 422 || $this->getJson("/api/v1/lists/{$list->id}")->getStatusCode() === 404,
    )->toBeTrue();
});

it('keeps an address that is closed for a while, and withdraws one for good', function (string $kind): void {
    $path = $kind === 'gate' ? "/api/v1/programmes/{$this->programme_->id}/gate" : null;
    $thing = match ($kind) {
        'map' => $this->postJson("/api/v1/programmes/{$this->programme_->id}/maps", [
            'layer' => $this->layer_->id,
            'title' => 'M',
            'audience' => 'link',
        ])->json(),
        'board' => $this->postJson("/api/v1/programmes/{$this->programme_->id}/boards", [
            'title' => 'B',
            'audience' => 'link',
        ])->json(),
        'gate' => $this->patchJson((string) $path, ['open' => true])->json(),
    };
    $path ??= "/api/v1/{$kind}s/{$thing['id']}";
    $open = fn (?string $address): int => $this->getJson(
        "/api/v1/open/{$kind}s/".basename((string) $address),
    )->getStatusCode();
    [$close, $reopen] =
        $kind === 'gate'
            ? [['open' => false], ['open' => true]]
            : [['audience' => 'programme'], ['audience' => 'link']];
    expect($open($thing['address']))->toBe(200);
    $this->patchJson($path, $close)->assertOk();
    expect($open($thing['address']))->toBe(404);
    expect($this->patchJson($path, $reopen)->json('address'))
        ->toBe($thing['address'])
        ->and($open($thing['address']))
        ->toBe(200);
    $new = $this->patchJson($path, ['new_link' => true])
        ->assertOk()
        ->json('address');
    expect($new)->not->toBe($thing['address'])->and($open($thing['address']))->toBe(404)->and($open($new))->toBe(200);
})->with(['map', 'board', 'gate']);

it('counts of an outing only what one may see', function (): void {
    $own = $this->layer($this->programme_, [
        'title' => 'Own',
        'rights' => ['crew' => ['add' => true, 'see' => 'own', 'change' => 'own', 'delete' => 'own']],
    ]);
    [$one, $two] = [$this->crew($this->programme_), $this->crew($this->programme_)];
    $this->sync($one, [$this->add($own), $this->add($own)]);
    $this->sync($two, [$this->add($own)]);
    $today = now($this->programme_->time_zone)->toDateString();
    Outings::save($this->programme_, null, [
        'title' => 'O',
        'from' => $today,
        'to' => $today,
        'layers' => [$own->id],
        'target' => 'records',
        'count' => 10,
    ]);
    foreach ([[$this->desk, 3], [$one, 2], [$two, 1]] as [$who, $count]) {
        $this->actingAs($who)
            ->getJson("/api/v1/programmes/{$this->programme_->id}/outings")
            ->assertJsonPath('0.progress.done', $count);
        expect(
            collect($this->getJson('/api/v1/packs')->json())->firstWhere('programme', $this->programme_->id)[
                'outings'
            ][0]['progress']['done'],
        )->toBe($count);
    }
});

describe('a mark', function (): void {
    it('loads nothing, however its paint is written', function (string $paint): void {
        $mark = OwnMark::read(
            '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><path d="M0 0L9 9" fill="'.
                $paint.
                '" style="fill:url(http://a.test/x)"/><style>@import url(http://a.test);</style></svg>',
        );
        expect($mark->bytes)
            ->not->toContain('a.test')
            ->not->toContain('a.t')
            ->not->toContain('style')
            ->toContain('<path');
    })->with([
        'url(http://a.test/x)',
        'u\72l(http://a.test/x)',
        '\75rl(//a.test)',
        'image-set(\'http://a.test/x\' 1x)',
        'src(//a.test/x)',
        'url(#ok) url(//a.test)',
        "URL(\t'//a.test')",
        '/*x*/url(//a.test)',
        'var(--a, url(//a.test))',
    ]);

    it('keeps what draws', function (): void {
        $bytes = OwnMark::read(
            '<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 9 9"><defs><linearGradient id="g"><stop '
                .'offset="0" stop-color="rgb(1, 2, 3)"/></linearGradient></defs><path d="M0 0L9 9" '
                    .'transform="translate(1 2) rotate(45)" fill="url(#g)"/></svg>',
        )->bytes;
        expect($bytes)->toContain('url(#g)')->toContain('translate(1 2)')->toContain('rgb(1, 2, 3)');
    });

    it('is read as UTF-8 alone', function (string $svg): void {
        expect(refusals(fn () => OwnMark::read($svg)))->toBe(['mark_unreadable']);
    })->with([
        fn () => mb_convert_encoding(
            '<?xml version="1.0" encoding="UTF-16"?><svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0"/></svg>',
            'UTF-16',
        ),
        '<?xml version="1.0" encoding="UTF-7"?><svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0"/></svg>',
        "<svg xmlns=\"http://www.w3.org/2000/svg\"><path d=\"M0 0\"/></svg>\xFF",
    ]);
});

describe('a body', function (): void {
    it('is measured before it is parsed', function (): void {
        foreach (
            [
                str_repeat('[', 3_000_000),
                '{"a":'.str_repeat('[],', 400_000).'[]}',
                '['.str_repeat('{"a":1},', 300_000).'1]',
                '['.str_repeat('1,', 3_100_000).'1]',
            ] as $text
        ) {
            $began = hrtime(true);
            $before = memory_get_peak_usage();
            try {
                JsonText::read($text);
                $status = 200;
            } catch (Symfony\Component\HttpKernel\Exception\HttpException $e) {
                $status = $e->getStatusCode();
            } catch (PinYard\Refused) {
                $status = 422;
            }
            expect($status)
                ->toBeIn([413, 422])
                ->and((hrtime(true) - $began) / 1e6)
                ->toBeLessThan(500.0)
                ->and(memory_get_peak_usage() - $before)
                ->toBeLessThan(32 << 20);
        }
    });

    it('is not parsed at all of whoever is not signed in, where it is large', function (): void {
        app('auth')->forgetGuards();
        $send = fn (string $address, string $text) => $this->call(
            'POST',
            $address,
            [],
            [],
            [],
            ['CONTENT_TYPE' => 'application/json', 'HTTP_ACCEPT' => 'application/json'],
            $text,
        );
        $send('/api/v1/session', str_repeat(' ', 70_000).'{}')->assertStatus(413);
        $send('/api/v1/sync', str_repeat('[', 1_000_000))->assertUnauthorized();
    });
});

describe('one small file', function (): void {
    it(
        'with rows numbered to a million millions, or a hundred million columns, is refused soon, and the next '
            .'file is read',
        function (): void {
            $sheet = fn (string $rows): string => $this->zip([
                '[Content_Types].xml' => '<?xml version="1.0"?><Types '
                    .'xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default '
                        .'Extension="xml" ContentType="application/xml"/><Override PartName="/xl/workbook.xml" '
                            .'ContentType="application/vnd.openxmlformats-officedocument.spreadsheetml.sheet.main+xml"/></Types>',
                'xl/workbook.xml' => '<?xml version="1.0"?><workbook '
                    .'xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main" '
                        .'xmlns:r="http://schemas.openxmlformats.org/officeDocument/2006/relationships">'
                            .'<sheets><sheet name="A" sheetId="1" r:id="rId1"/></sheets></workbook>',
                'xl/_rels/workbook.xml.rels' => '<?xml version="1.0"?><Relationships '
                    .'xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="rId1" '
                        .'Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/worksheet" '
                            .'Target="worksheets/sheet1.xml"/></Relationships>',
                'xl/worksheets/sheet1.xml' => '<?xml version="1.0"?><worksheet '
                    ."xmlns=\"http://schemas.openxmlformats.org/spreadsheetml/2006/main\"><sheetData>$rows</sheetData></worksheet>",
            ]);
            $ods = fn (string $cells): string => $this->zip([
                'mimetype' => 'application/vnd.oasis.opendocument.spreadsheet',
                'content.xml' => '<?xml version="1.0"?><office:document-content '
                    .'xmlns:office="urn:oasis:names:tc:opendocument:xmlns:office:1.0" '
                        .'xmlns:table="urn:oasis:names:tc:opendocument:xmlns:table:1.0" '
                            .'xmlns:text="urn:oasis:names:tc:opendocument:xmlns:text:1.0"><office:body>'
                                .'<office:spreadsheet><table:table table:name="A"><table:table-row>'.
                    $cells.
                    '</table:table-row></table:table></office:spreadsheet></office:body></office:document-content>',
            ]);
            $files = [
                'rows.xlsx' => $sheet(
                    '<row r="1"><c r="A1" t="inlineStr"><is><t>a</t></is></c></row><row r="1000000000000"><c '
                        .'r="A1000000000000"><v>1</v></c></row>',
                ),
                'columns.ods' => $ods(
                    '<table:table-cell office:value-type="string" '
                        .'table:number-columns-repeated="100000000"><text:p>x</text:p>'
                            .'</table:table-cell><table:table-cell office:value-type="string">'
                            .'<text:p>y</text:p></table:table-cell>',
                ),
            ];
            foreach ($files as $name => $bytes) {
                expect(strlen($bytes))->toBeLessThan(5_000);
                $began = microtime(true);
                $import = $this->bring($this->desk, $this->programme_, [$name => $bytes]);
                expect($import['state'])
                    ->toBe('failed')
                    ->and($import['problems'][0]['code'])
                    ->toBeIn(['sheet_too_heavy', 'sheet_unreadable'])
                    ->and(microtime(true) - $began)
                    ->toBeLessThan(60.0);
                // As a design sheet as well, which a web request reads.
                $file = Illuminate\Http\UploadedFile::fake()->createWithContent($name, $bytes);
                $this->post(
                    '/api/v1/designs/read',
                    ['file' => $file],
                    ['Accept' => 'application/json'],
                )->assertUnprocessable();
            }
            expect($this->bring($this->desk, $this->programme_, ['a.csv' => "lat,lon\n-14.5,-11.5\n"])['state'])->toBe(
                'review',
            );
        },
    );

    it('that claims a huge picture is drawn in little memory, once, or not at all', function (): void {
        // 10,000 by 10,000 of one colour: some hundred kilobytes, and 400 MB as pixels.
        $path = sys_get_temp_dir().'/huge-'.getmypid().'.png';
        (new Symfony\Component\Process\Process(['vips', 'black', $path, '10000', '10000', '--bands', '3']))->mustRun();
        $bytes = (string) file_get_contents($path);
        expect(strlen($bytes))->toBeLessThan(2_000_000);
        $peak = memory_get_peak_usage();
        expect(getimagesizefromstring((string) Pictures::drawn($path, 320))[0])
            ->toBe(320)
            ->and(memory_get_peak_usage() - $peak)
            ->toBeLessThan(16 << 20);
        unlink($path);
        $photo = new Attachment(['width' => 20_000, 'height' => 20_000]);
        $photo->id = RecordId::make()->bytes();
        $photo->layer_id = $this->layer_->id;
        $photo->record_id = RecordId::make()->bytes();
        expect(Pictures::sized($photo, 'thumb'))->toBeNull();
    });
});
