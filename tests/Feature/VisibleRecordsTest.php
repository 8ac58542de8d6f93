<?php

declare(strict_types=1);

use App\Models\Board;
use App\Models\Map;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/* One reader for records: what leaves is cut to the viewer, and what is kept tells nobody what they may not notice. */

beforeEach(function (): void {
    $this->programme_ = $this->programme($this->head = $this->person('Head'));
    $this->nests = $this->layer($this->programme_, [
        'name_field' => 'code',
        'rights' => [
            'crew' => ['add' => true, 'see' => 'own', 'change' => 'own', 'delete' => 'own'],
            'public' => ['see' => true],
        ],
    ]);
    $this->one = $this->crew($this->programme_);
    $this->two = $this->crew($this->programme_);
    $this->first = $this->add($this->nests, ['values' => ['code' => 'SECRET-1', 'species' => 'CC', 'clutch' => 90]]);
    $this->sync($this->one, [$this->first]);
    $this->tile = fn (string $kind, array $with = []): array => $with + [
        'id' => $kind,
        'kind' => $kind,
        'title' => $kind,
        'layer' => $this->nests->id,
        'slice' => null,
        'by' => ['field' => 'species'],
        'width' => 3,
        'height' => 2,
    ];
    $this->board = function (array $tiles): Board {
        $made = $this->actingAs($this->head)
            ->postJson("/api/v1/programmes/{$this->programme_->id}/boards", [
                'title' => 'B',
                'audience' => 'link',
                'tiles' => $tiles,
            ])
            ->assertCreated()
            ->json();

        return Board::query()->findOrFail($made['id']);
    };
    $this->map = function (array $fields): Map {
        $made = $this->actingAs($this->head)
            ->postJson("/api/v1/programmes/{$this->programme_->id}/maps", [
                'layer' => $this->nests->id,
                'title' => 'M',
                'audience' => 'link',
                'look' => ['kind' => 'category', 'field' => 'species'],
                'card' => ['fields' => $fields, 'photos' => true],
            ])
            ->assertCreated()
            ->json();

        return Map::query()->findOrFail($made['id']);
    };
    $this->open = function (string $address, array $headers = []) {
        app('auth')->forgetGuards();

        return $this->getJson($address, $headers);
    };
});

it('tells behind a board’s link what its tiles were told to show: names only where that was chosen',
    function (): void {
        $shut = ($this->board)([($this->tile)('latest'), ($this->tile)('map')]);
        $body = ($this->open)("/api/v1/open/boards/$shut->link_token")
            ->assertOk()
            ->getContent();
        expect($body)
            ->not->toContain('SECRET-1')
            ->not->toContain($this->first['record'])
            ->not->toContain('"clutch"')
            // As a value: ids and the moment may have these digits.
            ->not->toMatch('/[":, ]90[",}\]]/')
            ->and(json_decode($body)->tiles[0]->answer->records[0]->details)
            ->toBe(['Loggerhead']);
        // Nor is a record called by what is shown beside its name.
        expect(json_decode($body)->tiles[0]->answer->records[0]->name)->toBeNull();
        $drawn = "/api/v1/open/boards/$shut->link_token/tiles/map/layers/l0000000";
        expect(($this->open)("$drawn/features.geojson")->assertOk()->getContent())
            ->toContain('"class":"CC"')
            ->not->toContain('SECRET-1');
        $id = ($this->open)("$drawn/features.geojson")->json('features.0.id');
        expect(($this->open)("$drawn/records/$id")->assertOk()->getContent())->not->toContain('SECRET-1');
        $named = ($this->board)([($this->tile)('latest', ['names' => true]), ($this->tile)('map', ['names' => true])]);
        expect(($this->open)("/api/v1/open/boards/$named->link_token")->json('tiles.0.answer.records.0.name'))
            ->toBe('SECRET-1')
            ->and(
                ($this->open)("/api/v1/open/boards/$named->link_token/tiles/map/layers/l0000000/features.geojson")->json(
                    'features.0.properties.name',
                ),
            )
            ->toBe('SECRET-1');
        // Whoever is in the programme reads their own records by name, whatever is told outside.
        expect(
            $this->actingAs($this->head)
                ->getJson("/api/v1/boards/$shut->id/answers")
                ->json('tiles.0.answer.records.0.name'),
        )->toBe('SECRET-1');
    });

it('gives whoever holds a link ids that tell nothing, the same each time and of no use elsewhere', function (): void {
    [$a, $b] = [($this->map)(['species']), ($this->map)(['species'])];
    $id = fn (Map $map): string => ($this->open)("/api/v1/open/maps/$map->link_token/layers/{$map->layers[0]['id']}/features.geojson")->json(
        'features.0.id',
    );
    $card = fn (Map $map): string => "/api/v1/open/maps/$map->link_token/layers/{$map->layers[0]['id']}/records";
    expect($id($a))->toMatch('/^[A-Za-z0-9_-]{22}$/')->toBe($id($a))->not->toBe($id($b));
    ($this->open)("{$card($a)}/{$id($a)}")
        ->assertOk()
        ->assertJsonPath('id', $id($a));
    ($this->open)("{$card($b)}/{$id($a)}")->assertNotFound();
    // The first six bytes of ours are milliseconds (RFC 9562, section 5.7): records begun in a row must not stay in a
    // row.
    $ids = array_map(fn (int $i): string => Viewer::link($a)->idOf(RecordId::make()->bytes()), range(1, 50));
    $sorted = $ids;
    sort($sorted);
    expect($ids)
        ->not->toBe($sorted)
        ->and(array_unique(array_map(fn (string $i): string => substr($i, 0, 6), $ids)))
        ->toHaveCount(50);
    foreach (['', 'x', str_repeat('A', 22), str_repeat('A', 23), "\0", $this->first['record']] as $bent) {
        ($this->open)(
            "{$card($a)}/".rawurlencode($bent === '' ? ' ' : $bent),
        )->assertNotFound();
    }
});

it('gives the same tag as long as the viewer sees the same, whatever else happens in the layer', function (): void {
    $map = ($this->map)(['species']);
    $board = ($this->board)([($this->tile)('number'), ($this->tile)('breakdown'), ($this->tile)('latest')]);
    $ways = [
        'map by link' => fn (array $h = []) => ($this->open)("/api/v1/open/maps/$map->link_token", $h),
        'board by link' => fn (array $h = []) => ($this->open)("/api/v1/open/boards/$board->link_token", $h),
        'board of one' => fn (array $h = []) => $this->actingAs($this->one)->getJson(
            "/api/v1/boards/$board->id/answers",
            $h,
        ),
        'map of one' => fn (array $h = []) => $this->actingAs($this->one)->getJson("/api/v1/maps/$map->id/view", $h),
    ];
    $tags = fn (): array => array_map(
        fn (callable $ask): string => (string) $ask()->assertOk()->headers->get('ETag'),
        $ways,
    );
    $before = $tags();
    // A value that nothing of these shows.
    $this->actingAs($this->head)
        ->patchJson("/api/v1/layers/{$this->nests->id}/records/{$this->first['record']}", [
            'base' => 1,
            'values' => ['clutch' => 91],
        ])
        ->assertOk();
    expect($tags())->toBe($before);
    foreach ($ways as $name => $ask) {
        $ask(['If-None-Match' => "W/$before[$name]"])->assertStatus(304);
    }
    // A record of somebody else: those who see their own alone are told nothing of it, not even that it came.
    $this->sync($this->two, [$this->add($this->nests)]);
    $after = $tags();
    expect($after['board of one'])
        ->toBe($before['board of one'])
        ->and($after['map of one'])
        ->toBe($before['map of one'])
        ->and($after['board by link'])
        ->not->toBe($before['board by link'])
        ->and($after['map by link'])
        ->not->toBe($before['map by link']);
});

it('tells a phone that sees its own records alone nothing of how often others change theirs', function (): void {
    $ask = fn (int $since): array => $this
        ->sync($this->one, [], [$this->nests->id => $since])['news'][$this->nests->id];
    $cursor = $ask(0)['cursor'];
    $this->sync($this->two, [$this->add($this->nests), $this->add($this->nests)]);
    $this->actingAs($this->head)
        ->postJson("/api/v1/layers/{$this->nests->id}/records", [
            'values' => ['code' => 'H', 'species' => 'CC'],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11, -14]],
        ])
        ->assertCreated();
    expect($ask($cursor))->toMatchArray(['cursor' => $cursor, 'records' => [], 'gone' => [], 'more' => false]);
    $this->patchJson("/api/v1/layers/{$this->nests->id}/records/{$this->first['record']}", [
        'base' => 1,
        'values' => ['clutch' => 92],
    ])->assertOk();
    $news = $ask($cursor);
    expect($news['records'])->toHaveCount(1)->and($news['cursor'])->toBeGreaterThan($cursor);
});

it(
    'answers an unchanged board after at most three queries beside the session’s, and makes an answer once',
    function (): void {
        $board = ($this->board)([($this->tile)('number'), ($this->tile)('map')]);
        $this->actingAs($this->head);
        $tag = (string) $this->getJson("/api/v1/boards/$board->id/answers")->headers->get('ETag');
        $queries = 0;
        DB::listen(function ($query) use (&$queries): void {
            $queries += str_contains($query->sql, 'sessions') ? 0 : 1;
        });
        $this->getJson("/api/v1/boards/$board->id/answers", ['If-None-Match' => "W/$tag"])->assertStatus(304);
        expect($queries)->toBeLessThanOrEqual(3);
        $queries = 0;
        $this->getJson("/api/v1/boards/$board->id/answers")->assertOk();
        expect($queries)->toBeLessThanOrEqual(3);
        $queries = 0;
        ($this->open)("/api/v1/open/boards/$board->link_token", ['If-None-Match' => 'W/"other", W/"x"'])->assertOk();
        $queries = 0;
        ($this->open)("/api/v1/open/boards/$board->link_token")->assertOk();
        expect($queries)->toBeLessThanOrEqual(3);
    },
);

it('has no column in its relation that was not let through', function (): void {
    $columns = fn (VisibleRecords $r): array => array_keys((array) $r->rows()->first());
    $link = VisibleRecords::of(Viewer::link(($this->map)(['species'])), $this->nests->fresh());
    expect($columns($link->showing(['species'])))
        ->toBe(['id', 'change_number', 'collected_at', 'lon', 'lat', 'z', 'f_species'])
        ->and($columns($link->showing(['species'])->showing(['clutch', 'species'])))
        ->not->toContain('f_clutch')
        ->and($columns($link))
        ->not->toContain('created_by')
        ->not->toContain('version')
        ->and($columns(VisibleRecords::for($this->head, $this->nests->fresh())))
        ->toContain('created_by', 'f_clutch', 'accuracy');
    expect(VisibleRecords::for($this->two, $this->nests->fresh())->count())
        ->toBe(0)
        ->and(VisibleRecords::for($this->person('Outsider'), $this->nests->fresh())->seesNothing())
        ->toBeTrue();
});

it('leafs through records by key: none twice and none left out, whatever comes in meanwhile', function (): void {
    $this->sync(
        $this->head,
        array_map(
            fn (int $i): array => $this->add($this->nests, ['values' => ['code' => "P$i", 'species' => 'CC']]),
            range(1, 230),
        ),
    );
    $door = "/api/v1/layers/{$this->nests->id}/records";
    $first = $this->actingAs($this->head)->getJson($door)->assertOk()->json();
    expect($first['records'])->toHaveCount(100)->and($first['next'])->toMatch('/^[\w-]{22}$/');
    $this->sync($this->head, [$this->add($this->nests, ['values' => ['code' => 'LATE', 'species' => 'CC']])]);
    $seen = array_column($first['records'], 'id');
    $next = $first['next'];
    while ($next !== null) {
        $page = $this->getJson("$door?after=$next")->assertOk()->json();
        array_push($seen, ...array_column($page['records'], 'id'));
        $next = $page['next'];
    }
    expect($seen)->toHaveCount(231)->and(array_unique($seen))->toHaveCount(231);
    foreach (['x', str_repeat('A', 22), '%00'] as $bent) {
        expect($this->getJson("$door?after=$bent")->getStatusCode())->toBeIn([404, 422]);
    }
});
