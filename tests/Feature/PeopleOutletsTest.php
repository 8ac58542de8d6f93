<?php

declare(strict_types=1);

use App\Files\FileArrival;
use App\Models\Attachment;
use App\Models\Audience;
use App\Models\Layer;
use App\Models\Role;
use App\Models\Upload;
use App\Models\User;
use App\Records\Bits\BuildBits;
use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Gate;
use Illuminate\Support\Facades\Route;
use Illuminate\Support\Str;
use PinYard\Audience\Blur;
use PinYard\Geo\Position;
use PinYard\Geo\ZOrder;
use PinYard\Record\RecordId;

/*
 * Whoever belongs to a programme and is shown less than all of a layer: no answer of any route depends on where in its
 * cell a record lies, on fields that are hidden, or on what is in records that are. The routes are found from the list
 * of routes, so that a new one is walked, too. Two states are compared that differ in just that, as if they had always
 * been so: what is written anew by somebody is a version more, and that a record was changed may be known.
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
            ['key' => 'old', 'label' => 'Old', 'kind' => 'calculated', 'formula' => 'today()'],
        ],
    ]);
    $this->sectors = $this->layer($this->field, [
        'title' => 'Sectors', 'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $ring = static fn (float $w): array => [
        [$w, -14.6], [$w + 0.1, -14.6], [$w + 0.1, -14.4], [$w, -14.4], [$w, -14.6],
    ];
    $area = fn (string $name, float $west): array => $this->add($this->sectors, [
        'values' => ['name' => $name],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [$ring($west)]],
        'fix' => null,
    ]);
    $this->nest = fn (array $values, float $lon = -11.512, float $lat = -14.503): array => $this->add($this->nests, [
        'values' => $values, 'geometry' => ['type' => 'Point', 'coordinates' => [$lon, $lat]],
    ]);
    $bytes = $this->jpeg();
    $this->photo = $this->announce($bytes);
    $this->first = ['photos' => [$this->photo]]
        + ($this->nest)(['code' => 'SECRET-1', 'eggs' => 71, 'kind' => 'a']);
    $this->second = ($this->nest)(['code' => 'SECRET-2', 'eggs' => 72, 'kind' => 'b'], -11.3);
    $this->hidden = ($this->nest)(['code' => 'SECRET-3', 'eggs' => 73], -11.4);
    // Another in the cell of the first, for the order in which they come.
    [$west, $south, $east, $north] = Blur::of(500)->cellOf(-11.512, -14.503);
    $beside = ($this->nest)(['code' => 'SECRET-4', 'eggs' => 74, 'kind' => 'b'],
        $west + ($east - $west) * 0.85, $south + ($north - $south) * 0.15);
    $this->sync($this->crew, [$this->first, $this->second, $this->hidden, $beside]);
    $stored = Attachment::query()->findOrFail(RecordId::of($this->photo['id'])->bytes());
    $upload = Upload::query()->create([
        'id' => (string) Str::uuid7(), 'attachment_id' => $stored->id, 'user_id' => $this->crew->id,
        'length' => strlen($bytes), 'expires_at' => now()->addDay(),
    ]);
    @mkdir(storage_path('uploads'), recursive: true);
    file_put_contents($upload->file(), $bytes);
    FileArrival::finish($upload, $stored);
    $this->sync($this->head, [$area('West', -11.6), $area('East', -11.5)]);
    $slice = $this->nests->slices()->create(['name' => 'Of a kind', 'filter' => [
        'all' => [['field' => 'kind', 'test' => 'there']],
    ]]);
    $this->rule = fn (string $place): array => [
        'rows' => 'slice', 'slice' => $slice->id, 'place' => $place, 'metres' => $place === 'cell' ? 500 : null,
        'areas' => $place === 'area' ? $this->sectors->id : null,
        'fields' => ['kind', 'far'], 'photos' => false,
    ];
    $this->say = fn (string $of, array $rule): mixed => $this->actingAs($this->head)
        ->putJson("/api/v1/layers/{$this->nests->id}/seen-by/$of", ['rule' => $rule])->assertOk();
    $card = ['card' => ['fields' => ['code', 'eggs', 'kind', 'far'], 'photos' => true]];
    $map = $this->mapOf($this->nests, $card + [
        'look' => ['kind' => 'category', 'field' => 'kind'],
        'label' => ['parts' => [['field' => 'kind'], ['text' => ' '], ['field' => 'code']]],
    ], Audience::Programme, 'Kinds');
    $part = fn (string $id, array $look, array $more = []): array => [
        'id' => $id, 'layer' => $this->nests->id, 'look' => $look,
    ] + $more + $card;
    $this->actingAs($this->head)->patchJson("/api/v1/maps/$map->id", [
        'beside' => ['part' => $map->layers[0]['id'], 'columns' => ['code', 'eggs', 'kind', 'far', '@collected']],
        'layers' => [
            ...$map->layers,
            $part('lcells', ['kind' => 'density', 'field' => null, 'bits' => 18, 'breaks' => []]),
            $part('lclass', ['kind' => 'classes', 'field' => 'eggs', 'breaks' => [10]]),
            $part('lsums', [
                'kind' => 'single', 'size' => ['field' => 'eggs', 'most' => 9],
                'gather' => ['tell' => 'sum', 'field' => 'eggs'], 'photos' => true,
            ], ['label' => ['parts' => [['formula' => 'far + 0']]]]),
            ['id' => 'lareas', 'layer' => $this->sectors->id, 'label' => ['parts' => [['tally' => true]]], 'look' => [
                'kind' => 'inside', 'breaks' => [1, 2],
                'of' => ['layer' => $this->nests->id, 'measure' => 'count', 'least' => 1],
            ]],
        ],
    ])->assertOk();
    $this->map = $map->refresh();
    $on = ['layer' => $this->nests->id];
    $tiles = [
        ['kind' => 'number'] + $on,
        ['kind' => 'number', 'measure' => ['of' => 'sum', 'field' => 'eggs']] + $on,
        ['kind' => 'breakdown', 'by' => ['field' => 'kind']] + $on,
        ['kind' => 'breakdown', 'by' => ['areas' => $this->sectors->id]] + $on,
        ['kind' => 'table', 'by' => ['field' => 'kind'], 'columns' => [
            ['measure' => ['of' => 'mean', 'field' => 'eggs']],
        ]] + $on,
        ['kind' => 'spread', 'measure' => ['of' => 'mean', 'field' => 'far']] + $on,
        ['kind' => 'latest', 'names' => true, 'photo' => true, 'fields' => ['kind', 'eggs', 'far']] + $on,
        ['kind' => 'photos', 'names' => true] + $on,
        ['kind' => 'map', 'names' => true] + $on,
        ['kind' => 'details', 'names' => true, 'photo' => true] + $on,
        ['kind' => 'picker', 'by' => ['field' => 'kind']] + $on,
        ['kind' => 'map', 'map' => $map->id],
    ];
    foreach ($tiles as $i => $tile) {
        $tiles[$i] = $tile + ['id' => "t$i", 'title' => "T$i", 'width' => 3, 'height' => 2];
    }
    $this->board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B', 'tiles' => $tiles,
    ])->assertCreated()->json('id');
    $this->areas = $this->waits = false;
    /** Nothing is answered otherwise when what is hidden is otherwise. */
    $this->same = function (User $person, array $before): void {
        foreach (($this->told)($person) as $what => $after) {
            $at = strspn($after ^ $before[$what], "\0");
            expect($after === $before[$what] ? '' : substr($before[$what], max(0, $at - 200), 300))
                ->toBe($after === $before[$what] ? '' : substr($after, max(0, $at - 200), 300), $what);
        }
    };
    /** The same as if it had been otherwise from the beginning. */
    $this->change = function (): void {
        [$west, $south, $east, $north] = $this->areas
            // From one end of its sector to the other.
            ? [-11.6, -14.6, -11.5, -14.4]
            : Blur::of(500)->cellOf(-11.512, -14.503);
        $set = function (string $record, float $lon, float $lat, string $code, int $eggs): void {
            $design = $this->nests->design();
            $column = static fn (string $key): string => (string) $design->field($key)?->column();
            DB::table($this->nests->table())->where('id', RecordId::of($record)->bytes())->update([
                'lon' => $lon, 'lat' => $lat, 'z' => ZOrder::of(Position::of($lon, $lat)),
                'accuracy' => 3.5, 'altitude' => 12.5,
                $column('code') => $code, $column('eggs') => $eggs, $column('far') => $lon,
            ]);
        };
        if (! $this->waits) {
            [$lon, $lat] = [$west + ($east - $west) * 0.9, $south + ($north - $south) * 0.1];
            $set($this->first['record'], $lon, $lat, 'SECRET-9', 99);
        }
        $set($this->hidden['record'], -11.49, -14.51, 'SECRET-8', 9_999);
        DB::table('layer_bits')->delete();
        DB::table('told_places_until')->delete();
        DB::table('programmes')->where('id', $this->field->id)->update(['designs' => random_int(1, PHP_INT_MAX)]);
    };
    /** @return list<string> addresses of all routes that are read, with all that can be asked of them here */
    $this->addresses = function (): array {
        $of = [
            '{programme}' => $this->field->id, '{layer}' => $this->nests->id, '{map}' => $this->map->id,
            '{board}' => $this->board, '{part}' => $this->map->layers[0]['id'], '{tile}' => 't11',
            '{attachment}' => $this->photo['id'], '{size}' => 'thumb', '{audience}' => 'guests',
        ];
        $found = [];
        foreach (Route::getRoutes() as $route) {
            assert($route instanceof OneRoute);
            $uri = $route->uri();
            if (! in_array('GET', $route->methods(), true) || ! str_starts_with($uri, 'api/v1/')
                || preg_match('#^api/v1/(open|password|join)/#', $uri) === 1) {
                continue;
            }
            foreach ([$this->first, $this->second, $this->hidden] as $record) {
                $address = '/'.strtr($uri, $of + ['{record}' => $record['record']]);
                // Things that only coordinators make, or that are somebody's own, are none of these records'.
                if (preg_match('/\{(export|import|row|fill|list|asked|alert|slice|group|member)\}/', $address) === 0) {
                    $found[] = $address;
                }
            }
        }
        $layer = "/api/v1/layers/{$this->nests->id}";
        foreach ($this->map->layers as $part) {
            $found[] = "/api/v1/maps/{$this->map->id}/layers/{$part['id']}/features.geojson";
        }

        return array_values(array_unique([
            ...$found,
            "$layer/records?bbox=-11.6,-14.6,-11.2,-14.4",
            "$layer/records.geojson?bbox=-11.513,-14.504,-11.511,-14.502",
            '/api/v1/search?q=SECRET', '/api/v1/search?q=SECRET-1', '/api/v1/search?q=Hawksbill',
            "/api/v1/programmes/{$this->field->id}/packs/counts?area=-11.513,-14.504,-11.511,-14.502",
            "/api/v1/programmes/{$this->field->id}/places?q=SECRET",
            "/api/v1/boards/$this->board/answers?pick=".rawurlencode('{"t2":"a"}'),
            "/api/v1/boards/$this->board/answers?find=".rawurlencode('{"t6":"SECRET"}'),
            "/api/v1/boards/$this->board/tiles/t8/layers/l0000000/features.geojson",
            "/api/v1/maps/{$this->map->id}/table?find=SECRET",
        ]));
    };
    /** @return array<string, string> what is answered, without moments and what the machine says of itself */
    $this->told = function (User $person): array {
        $this->actingAs($person);
        $told = [];
        $keep = static function (string $what, $answer) use (&$told): void {
            $text = (string) ($answer->baseResponse instanceof Symfony\Component\HttpFoundation\StreamedResponse
                ? $answer->streamedContent()
                : $answer->getContent());
            $told[$what] = $answer->getStatusCode().' '.preg_replace(
                ['/"(as_of|server_time|seen_at|sent_at)":"[^"]*"/', '/"designs":\d+/'],
                '',
                $text,
            ).$answer->headers->get('ETag');
        };
        foreach (($this->addresses)() as $address) {
            if (! str_ends_with($address, '/mail-box') && ! str_contains($address, 'me/devices')) {
                $keep($address, $this->get($address, ['Accept' => 'application/json']));
            }
        }
        $layer = "/api/v1/layers/{$this->nests->id}";
        $part = ['areas' => [$this->nests->id => [-11.513, -14.504, -11.511, -14.502]]];
        foreach (['all' => [], 'a part' => $part] as $name => $more) {
            $keep("sync $name", $this->postJson('/api/v1/sync', [
                'device' => '0192f3c4-0000-7000-8000-000000000001', 'operations' => [],
                'cursors' => [$this->nests->id => 0],
            ] + $more));
        }
        foreach (['code', 'eggs', 'kind', 'far'] as $field) {
            $keep("classes of $field", $this->postJson("$layer/classes", [
                'field' => $field, 'method' => 'equal', 'classes' => 2,
            ]));
            $filter = ['all' => [match ($field) {
                'code' => ['field' => 'code', 'test' => 'is', 'value' => 'SECRET-1'],
                'eggs', 'far' => ['field' => $field, 'test' => 'at_least', 'value' => $field === 'eggs' ? 80 : -11.5],
                default => ['field' => 'kind', 'test' => 'is', 'value' => 'a'],
            }]];
            $keep("those by $field", $this->postJson("$layer/slices/try", ['filter' => $filter]));
            $keep("records by $field", $this->getJson(
                "$layer/records?filter=".rawurlencode((string) json_encode($filter)),
            ));
        }
        $keep('place', $this->postJson("$layer/slices/try", ['filter' => ['all' => [[
            'field' => '@place', 'test' => 'within', 'value' => ['lon' => -11.512, 'lat' => -14.503, 'metres' => 50],
        ]]]]));
        foreach (['csv', 'geojson', 'gpx', 'kml', 'xlsx', 'photos'] as $format) {
            $export = $this->postJson("$layer/exports", ['format' => $format]);
            $id = $export->json('id');
            if ($id !== null) {
                $file = $this->get("/api/v1/exports/$id/file");
                $path = $file->baseResponse instanceof Symfony\Component\HttpFoundation\BinaryFileResponse
                    ? $file->baseResponse->getFile()->getPathname()
                    : null;
                expect($file->getStatusCode())->toBe(200, $format);
                // A zip says when it was made.
                $in = ['xlsx' => '#xl/worksheets/sheet1.xml', 'photos' => '#index.csv'][$format] ?? null;
                $told["as $format"] = (string) file_get_contents($in === null ? (string) $path : "zip://$path$in");
            }
        }

        return $told;
    };
});

it('tells nobody who is shown less than all anything that depends on the rest', function (
    string $who,
    string $place,
    bool $bits,
): void {
    $person = $this->member($this->field, $who === 'crew' ? Role::Crew : Role::Guest);
    $this->areas = $place === 'area';
    ($this->say)('link', ['rows' => 'none']);
    if ($who === 'group') {
        $group = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/groups", [
            'name' => 'Partners',
        ])->json('id');
        $member = $this->field->members()->where('user_id', $person->id)->value('id');
        $this->putJson("/api/v1/groups/$group/people/$member")->assertOk();
        ($this->say)("group-$group", ($this->rule)($place));
    } else {
        ($this->say)($who.'s', ($this->rule)($place));
    }
    if ($bits) {
        (new BuildBits($this->nests->id, 0))->handle();
    }
    $before = ($this->told)($person);
    $all = implode("\n", $before);
    expect($before["/api/v1/layers/{$this->nests->id}/records"])->toContain('"total":3')
        ->and($all)->not->toContain('SECRET-1')->not->toContain('SECRET-3')
        ->and($all)->not->toContain($this->photo['id'])
        ->and(Gate::forUser($person)->denies('view', Attachment::query()->findOrFail(
            RecordId::of($this->photo['id'])->bytes(),
        )))->toBeTrue()
        ->and($all)->not->toContain('-11.512,-14.503')->not->toContain('-11.512000');
    ($this->change)();
    if ($bits) {
        (new BuildBits($this->nests->id, 0))->handle();
    }
    ($this->same)($person, $before);
})->with([
    'a guest, no places' => ['guest', 'none', false],
    'a group, by bits' => ['group', 'cell', true],
    'a crew member' => ['crew', 'cell', false],
    'a guest, by areas' => ['guest', 'area', false],
]);

it('tells nobody who is shown accepted records of one that waits', function (bool $bits): void {
    $person = $this->member($this->field, Role::Guest);
    $this->waits = true;
    ($this->say)('link', ['rows' => 'none']);
    ($this->say)('guests', [
        'rows' => 'all', 'accepted' => true, 'place' => 'exact', 'fields' => null, 'photos' => true,
    ]);
    $at = "/api/v1/layers/{$this->nests->id}/accepted";
    $this->actingAs($this->head)->postJson($at, [
        'accepted' => true, 'as_of' => $this->getJson(str_replace('accepted', 'records', $at))->json('as_of'),
    ])->assertOk()->assertJsonPath('done', 4);
    $this->postJson($at, [
        'accepted' => false, 'records' => [['id' => $this->hidden['record'], 'version' => 1]],
    ])->assertOk()->assertJsonPath('done', 1);
    if ($bits) {
        (new BuildBits($this->nests->id, 0))->handle();
    }
    $before = ($this->told)($person);
    expect($before["/api/v1/layers/{$this->nests->id}/records"])->toContain('"total":3')
        ->and(implode("\n", $before))->toContain('SECRET-4')->not->toContain('SECRET-3');
    ($this->change)();
    if ($bits) {
        (new BuildBits($this->nests->id, 0))->handle();
    }
    ($this->same)($person, $before);
})->with(['by asking' => [false], 'by bits' => [true]]);
