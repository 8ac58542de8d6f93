<?php

declare(strict_types=1);

use App\Files\FileArrival;
use App\Models\Attachment;
use App\Models\Audience;
use App\Models\Map;
use App\Models\Upload;
use Illuminate\Support\Str;
use PinYard\Record\RecordId;
use Symfony\Component\Process\Process;

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->phone = $this->crew($this->field);
    $this->nests = $this->layer($this->field);
    $this->values = fn (string $code, string $species, ?int $clutch = null): array => $this->add($this->nests, [
        'values' => array_filter(['code' => $code, 'species' => $species, 'clutch' => $clutch]),
    ]);
    $this->run = function (string ...$command): string {
        $process = new Process($command);
        $process->mustRun();

        return $process->getOutput();
    };
});

// Source: RFC 7946, read by GDAL's GeoJSON driver (ogrinfo, Debian gdal-bin) as a second opinion.
it('writes GeoJSON that GDAL reads with the same points and values', function (): void {
    $sent = array_map(
        fn (int $i): array => array_replace(($this->values)("N-$i", $i % 3 ? 'CC' : 'CM'), [
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.9 + $i / 200, -14.1 - $i / 300]],
        ]),
        range(1, 60),
    );
    $this->sync($this->phone, $sent);
    $file = tempnam(sys_get_temp_dir(), 'geo').'.geojson';
    file_put_contents(
        $file,
        $this->actingAs($this->head)
            ->get("/api/v1/layers/{$this->nests->id}/records.geojson")
            ->assertHeader('Content-Type', 'application/geo+json')
            ->getContent(),
    );
    $info = ($this->run)('ogrinfo', '-ro', '-al', '-so', $file);
    expect($info)
        ->toContain('Geometry: Point', 'Feature Count: 60', 'WGS 84', 'class: String')
        ->toMatch('/Extent: \(-11\.895000, -14\.300000\) - \(-11\.600000, -14\.103333\)/');
    expect(($this->run)('ogrinfo', '-ro', '-al', '-so', '-where', "class='CM'", $file))->toContain('Feature Count: 20');
    unlink($file);
});

it('finds through a box what lies in it, as a plain look at every place does', function (): void {
    $sent = array_map(
        fn (int $i): array => array_replace($this->add($this->nests), [
            'geometry' => [
                'type' => 'Point',
                'coordinates' => [-12 + (($i * 37) % 100) / 100, -15 + (($i * 61) % 100) / 100],
            ],
        ]),
        range(1, 100),
    );
    $this->sync($this->phone, $sent);
    foreach (
        [[-11.8, -14.7, -11.3, -14.2], [-11.501, -14.501, -11.499, -14.4], [0, 0, 1, 1], [-180, -90, 180, 90]] as $box
    ) {
        $inside = array_filter(
            $sent,
            fn (array $o): bool => ($p = $o['geometry']['coordinates']) &&
                $p[0] >= $box[0] &&
                $p[0] <= $box[2] &&
                $p[1] >= $box[1] &&
                $p[1] <= $box[3],
        );
        $this->actingAs($this->head)
            ->getJson("/api/v1/layers/{$this->nests->id}/records?bbox=".implode(',', $box))
            ->assertJsonPath('total', count($inside));
    }
    $this->getJson("/api/v1/layers/{$this->nests->id}/records?bbox=1,2,3")->assertStatus(422);
});

it('answers a board by slices, and answers 304 until something changes', function (): void {
    $this->sync($this->phone, [
        ($this->values)('A', 'CC', 100),
        ($this->values)('B', 'CC', 50),
        ($this->values)('C', 'CM'),
    ]);
    $this->actingAs($this->head);
    $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'filter' => [
            'all' => [
                ['field' => 'species', 'test' => 'is', 'value' => 'CC'],
                ['field' => 'clutch', 'test' => 'at_least', 'value' => 60],
            ],
        ],
    ])
        ->assertCreated()
        ->json();
    expect($slice['name'])->toBe('Species: Loggerhead, Clutch at least 60');
    $tile = fn (string $id, string $kind, ?int $slice = null): array => [
        'id' => $id,
        'kind' => $kind,
        'title' => $id,
        'layer' => $this->nests->id,
        'slice' => $slice,
        'by' => ['field' => 'species'],
        'width' => 3,
        'height' => 2,
    ];
    $board = $this->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B',
        'tiles' => [
            $tile('all', 'number'),
            $tile('some', 'number', $slice['id']),
            $tile('kinds', 'breakdown'),
            $tile('last', 'latest'),
            $tile('map', 'map', $slice['id']),
        ],
    ])
        ->assertCreated()
        ->json();
    $answers = $this->getJson("/api/v1/boards/{$board['id']}/answers")->assertOk();
    $by = array_column($answers->json('tiles'), 'answer', 'id');
    expect($by['all']['value'])
        ->toBe(3)
        ->and($by['some']['value'])
        ->toBe(1)
        ->and(array_column($by['kinds']['rows'], 'value', 'code'))
        ->toBe(['CC' => 2, 'CM' => 1])
        ->and($by['kinds']['total'])
        ->toBe(3)
        ->and(array_column($by['last']['records'], 'name'))
        ->toBe(['C', 'B', 'A'])
        ->and($by['map']['view']['layers'][0]['total'])
        ->toBe(1);
    $part = $by['map']['view']['layers'][0];
    $this->getJson("/api/v1/boards/{$board['id']}/tiles/map/layers/{$part['id']}/features.geojson?v={$part['version']}")
        ->assertOk()
        ->assertJsonCount(1, 'features');

    $tag = $answers->headers->get('ETag');
    $this->getJson("/api/v1/boards/{$board['id']}/answers", ['If-None-Match' => $tag])->assertStatus(304);
    $this->sync($this->phone, [($this->values)('D', 'CM')]);
    $this->actingAs($this->head)
        ->getJson("/api/v1/boards/{$board['id']}/answers", ['If-None-Match' => $tag])
        ->assertOk()
        ->assertJsonPath('tiles.0.answer.value', 4);
});

it('keeps boards and maps standing when the design changes under them', function (): void {
    $this->sync($this->phone, [($this->values)('A', 'CC')]);
    $this->actingAs($this->head);
    $slice = $this->postJson("/api/v1/layers/{$this->nests->id}/slices", [
        'filter' => ['all' => [['field' => 'clutch', 'test' => 'is', 'value' => 5]]],
    ])->json('id');
    $tile = fn (string $id, string $kind, ?int $slice = null): array => [
        'id' => $id,
        'kind' => $kind,
        'title' => $id,
        'layer' => $this->nests->id,
        'slice' => $slice,
        'by' => ['field' => 'species'],
        'width' => 3,
        'height' => 2,
    ];
    $board = $this->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B',
        'tiles' => [$tile('all', 'number'), $tile('kinds', 'breakdown'), $tile('some', 'number', $slice)],
    ])->json('id');
    $map = $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'layer' => $this->nests->id,
        'title' => 'M',
    ])->json('id');
    $design = $this->nests->design()->toArray();
    $design['fields'] = [$design['fields'][0]];
    $this->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $design])->assertOk();
    $tiles = $this->getJson("/api/v1/boards/$board/answers")
        ->assertOk()
        ->json('tiles');
    expect(array_column($tiles, 'kind', 'id'))
        ->toBe(['all' => 'number', 'kinds' => 'broken', 'some' => 'broken'])
        ->and($tiles[0]['answer']['value'])
        ->toBe(1)
        ->and($tiles[2]['answer']['messages'])
        ->toBe(['There is no field “clutch” in this layer.']);
    $this->getJson("/api/v1/maps/$map/view")
        ->assertOk()
        ->assertJsonPath('layers.0.total', 1);
});

it('counts days by the programme\'s clock', function (): void {
    // Source: IANA tz data: Pacific/Auckland is 13 hours ahead of UTC in January (NZDT).
    $this->field->update(['time_zone' => 'Pacific/Auckland']);
    $at = fn (string $instant): array => $this->add($this->nests, ['captured_at' => $instant]);
    $this->sync($this->phone, [
        $at('2026-01-14T10:59:59Z'),
        $at('2026-01-14T11:00:00Z'),
        $at('2026-01-15T10:59:59Z'),
        $at('2026-01-15T11:00:00Z'),
    ]);
    $total = fn (string $test): int => $this->actingAs($this->head)
        ->getJson(
            "/api/v1/layers/{$this->nests->id}/records?filter=".
                urlencode(
                    (string) json_encode([
                        'all' => [['field' => 'collected_at', 'test' => $test, 'value' => '2026-01-15']],
                    ]),
                ),
        )
        ->json('total');
    expect($total('since'))->toBe(3)->and($total('until'))->toBe(3);
});

it('lets only the card\'s fields leave a shared map', function (): void {
    $this->sync($this->phone, [($secret = ($this->values)('SECRET-CODE', 'CC', 77))]);
    $this->actingAs($this->head);
    $map = $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
        'layer' => $this->nests->id,
        'title' => 'Open',
        'audience' => 'link',
        'card' => ['fields' => ['species', 'nonsense'], 'photos' => false],
    ])
        ->assertCreated()
        ->json();
    expect($map['layers'][0]['card'])->toBe(['fields' => ['species'], 'photos' => false]);
    app('auth')->forgetGuards();
    $open = '/api/v1/open/maps/'.basename($map['address']);
    $id = $this->behindLink(Map::query()->findOrFail($map['id']), $secret['record']);
    $part = "$open/layers/{$map['layers'][0]['id']}";
    foreach ([$open, "$part/features.geojson", "$part/records/$id"] as $address) {
        expect($this->get($address)->assertOk()->getContent())
            ->not->toContain('SECRET-CODE')
            ->not->toContain('"77"')
            ->not->toContain('Clutch')
            ->not->toContain('Crew');
    }
    // The id that we make tells the moment in which the record was begun.
    $this->getJson("$part/records/{$secret['record']}")->assertNotFound();
    $this->getJson("$part/records/$id")
        ->assertJsonPath('values.0.text', 'Loggerhead')
        ->assertJsonCount(1, 'values');
    $this->getJson("$part/records/".RecordId::make()->text)->assertNotFound();
    $this->getJson("$part/records/nonsense")->assertNotFound();
});

// Source: EXIF 2.32 tags written and read by exiftool (Debian libimage-exiftool-perl).
it('gives the public no place inside a photo, and turns it upright', function (): void {
    $file = tempnam(sys_get_temp_dir(), 'exif').'.jpg';
    file_put_contents($file, $this->jpeg(400, 200));
    ($this->run)(
        'exiftool',
        '-q',
        '-overwrite_original',
        '-GPSLatitude=14.25',
        '-GPSLatitudeRef=S',
        '-GPSLongitude=11.64',
        '-GPSLongitudeRef=W',
        '-Orientation#=6',
        '-Artist=Ines',
        $file,
    );
    $bytes = (string) file_get_contents($file);
    expect(($this->run)('exiftool', '-GPSPosition', $file))->toContain('14 deg 15');
    $photo = $this->announce($bytes);
    $this->sync($this->phone, [($operation = $this->add($this->nests, ['photos' => [$photo]]))]);
    $attachment = Attachment::query()->findOrFail(RecordId::of($photo['id'])->bytes());
    $upload = Upload::query()->create([
        'id' => (string) Str::uuid7(),
        'attachment_id' => $attachment->id,
        'user_id' => $this->phone->id,
        'length' => strlen($bytes),
        'expires_at' => now()->addDay(),
    ]);
    @mkdir(storage_path('uploads'), recursive: true);
    file_put_contents($upload->file(), $bytes);
    FileArrival::finish($upload, $attachment);
    $map = $this->mapOf($this->nests, ['card' => ['fields' => [], 'photos' => true]], Audience::Link);
    app('auth')->forgetGuards();
    foreach (['thumb', 'view'] as $size) {
        $response = $this->get(
            "/api/v1/open/maps/{$map->link_token}/photos/{$this->behindLink($map, $photo['id'])}/$size",
        )
            ->assertOk()
            ->assertHeader('Content-Type', 'image/jpeg');
        file_put_contents($file, $response->streamedContent());
        expect(($this->run)('exiftool', '-G', '-GPS:all', '-EXIF:all', $file))->toBe('');
        [$width, $height] = getimagesize($file);
        expect($height)->toBeGreaterThan($width);
    }
    $this->get(
        "/api/v1/open/maps/{$map->link_token}/photos/{$this->behindLink($map, $photo['id'])}/original",
    )->assertNotFound();
    $this->actingAs($this->head)
        ->get("/api/v1/attachments/{$photo['id']}/original")
        ->assertOk();
    expect(hash('sha256', $this->get("/api/v1/attachments/{$photo['id']}/original")->streamedContent()))->toBe(
        $photo['sha256'],
    );

    // A photo of another layer does not open through this map.
    $other = $this->layer($this->programme());
    $foreign = $this->announce($bytes);
    $this->sync($other->programme->members()->first()->user, [$this->add($other, ['photos' => [$foreign]])]);
    $this->get(
        "/api/v1/open/maps/{$map->link_token}/photos/{$this->behindLink($map, $foreign['id'])}/thumb",
    )->assertNotFound();
    unlink($file);
});
