<?php

declare(strict_types=1);

use App\Models\Outing;
use App\Records\Bits\BuildBits;
use Illuminate\Support\Facades\DB;
use PinYard\Board\TileKinds;

/*
 * Every kind of tile, walked as everyone who must not hear all of it: whoever holds the link of a board over a closed
 * layer, a crew member who sees but their own records, one who has left; what tiles do to each other; what becomes of
 * them when something goes.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    [$this->one, $this->two, $this->left] = [
        $this->crew($this->field), $this->crew($this->field), $this->crew($this->field),
    ];
    $fields = [
        ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
        ['key' => 'pups', 'label' => 'Pups', 'kind' => 'whole_number'],
        ['key' => 'kind', 'label' => 'Kind', 'kind' => 'one_choice', 'choices' => [
            ['code' => 'K1', 'label' => 'FoxKind'], ['code' => 'K2', 'label' => 'OwlKind'],
        ]],
        ['key' => 'seen', 'label' => 'Seen', 'kind' => 'date'],
    ];
    $this->closed = $this->layer($this->field, [
        'title' => 'Dens',
        'rights' => ['crew' => ['add' => true, 'see' => 'own'], 'public' => ['see' => false]],
        'fields' => $fields,
    ]);
    $this->open = $this->layer($this->field, [
        'title' => 'Tracks',
        'rights' => ['crew' => ['add' => true, 'see' => 'all'], 'public' => ['see' => true]],
        'fields' => $fields,
    ]);
    $this->beaches = $this->layer($this->field, ['title' => 'Beaches', 'geometry' => 'area', 'fields' => []]);
    $bytes = $this->jpeg();
    $photo = $this->announce($bytes);
    $this->hers = $this->add($this->closed, [
        'values' => ['code' => 'SECRET-7319', 'pups' => 73_190, 'kind' => 'K1', 'seen' => '2026-02-03'],
        'photos' => [$photo],
    ]);
    $this->sync($this->two, [$this->hers]);
    $this->sync($this->one, [
        $this->add(
            $this->closed,
            ['values' => ['code' => 'MINE', 'pups' => 4, 'kind' => 'K2', 'seen' => '2026-02-04']],
        ),
        $this->add($this->open, ['values' => ['code' => 'T-1', 'pups' => 5, 'kind' => 'K1', 'seen' => '2026-02-03']]),
        $this->add($this->open, ['values' => ['code' => 'T-2', 'pups' => 7, 'kind' => 'K2', 'seen' => '2026-02-10']]),
    ]);
    $this->actingAs($this->head);
    $map = $this->mapOf($this->closed, ['card' => ['fields' => ['code'], 'photos' => true]]);
    Outing::query()->forceCreate([
        'programme_id' => $this->field->id, 'title' => 'OUTING-5', 'note' => '', 'starts_on' => now()->subDay(),
        'ends_on' => now()->addDay(), 'layers' => [$this->closed->id], 'target' => 'records', 'count' => 9,
        'checklist' => [],
    ]);
    $mean = ['of' => 'mean', 'field' => 'pups'];
    /** One of each kind, over a layer. */
    $this->each = fn (int $layer): array => array_map(
        static fn (array $tile, int $i): array => $tile + [
            'id' => "t$i", 'title' => "T$i", 'width' => 3, 'height' => 2,
        ],
        $tiles = [
            ['kind' => 'number', 'layer' => $layer, 'measure' => ['of' => 'sum', 'field' => 'pups'],
                'compare' => ['by' => 'seen', 'since' => '2026-01-01', 'against' => 'year']],
            ['kind' => 'target', 'layer' => $layer, 'target' => 100],
            ['kind' => 'breakdown', 'layer' => $layer, 'by' => ['field' => 'kind']],
            ['kind' => 'trend', 'layer' => $layer, 'by' => ['field' => 'seen', 'step' => 'day']],
            ['kind' => 'spread', 'layer' => $layer, 'measure' => $mean],
            ['kind' => 'pairs', 'layer' => $layer, 'measure' => $mean, 'up' => ['of' => 'count'],
                'by' => ['field' => 'code']],
            ['kind' => 'table', 'layer' => $layer, 'by' => ['field' => 'code'], 'columns' => [['measure' => $mean]]],
            ['kind' => 'latest', 'layer' => $layer, 'names' => true, 'fields' => ['pups', 'kind']],
            ['kind' => 'map', 'layer' => $layer, 'names' => true],
            ['kind' => 'crews'],
            ['kind' => 'outings'],
            ['kind' => 'photos', 'layer' => $layer, 'names' => true],
            ['kind' => 'text', 'text' => 'Pups: {1}',
                'values' => [['layer' => $layer, 'measure' => ['of' => 'sum', 'field' => 'pups']]]],
            ['kind' => 'link', 'address' => 'https://example.test/x'],
            ['kind' => 'picker', 'layer' => $layer, 'by' => ['field' => 'code']],
            ['kind' => 'map', 'map' => $map->id],
            ['kind' => 'breakdown', 'layer' => $layer, 'by' => ['field' => '@person']],
            ['kind' => 'number', 'layer' => $layer, 'measure' => ['of' => 'distinct', 'field' => '@person']],
            ['kind' => 'text', 'text' => '{1}',
                'values' => [['layer' => $layer, 'measure' => ['of' => 'distinct', 'field' => '@person']]]],
            ['kind' => 'table', 'layer' => $layer, 'by' => ['field' => 'kind'],
                'columns' => [['measure' => ['of' => 'walked']]]],
            ['kind' => 'pairs', 'layer' => $layer, 'by' => ['field' => 'kind'],
                'up' => ['of' => 'distinct', 'field' => '@person']],
            ['kind' => 'latest', 'layer' => $layer, 'names' => true, 'photo' => true, 'order' => 'name'],
            ['kind' => 'details', 'layer' => $layer, 'names' => true, 'photo' => true],
            ['kind' => 'form', 'layer' => $layer],
            ['kind' => 'coverage', 'layer' => $layer === 1 ? 1 : $this->beaches->id],
        ],
        array_keys($tiles),
    );
    /** Layers are asked, or counted by bits as large ones are. */
    $this->bits = false;
    $this->board = function (array $tiles, array $more = []): array {
        foreach ($this->bits ? $this->field->layers()->pluck('id') : [] as $layer) {
            (new BuildBits($layer, 0))->handle();
        }

        return $this->actingAs($this->head)
            ->postJson("/api/v1/programmes/{$this->field->id}/boards", [
                'title' => 'B', 'audience' => 'link', 'tiles' => $tiles,
            ] + $more)
            ->assertCreated()
            ->json();
    };
    $this->ask = fn (array $board, array $pick = [], array $find = []): array => $this
        ->getJson("/api/v1/boards/{$board['id']}/answers?".http_build_query(array_filter([
            'pick' => $pick === [] ? null : json_encode($pick),
            'find' => $find === [] ? null : json_encode($find),
        ])))
        ->assertOk()
        ->json();
});

it('walks every kind of tile there is', function (): void {
    expect(array_unique(array_column(($this->each)(1), 'kind')))
        ->toEqualCanonicalizing(array_map(static fn (string $c): string => $c::kind(), TileKinds::ALL));
});

it('tells nothing of closed records, of people or of outings to whoever holds the link', function (bool $bits): void {
    $this->bits = $bits;
    $board = ($this->board)(($this->each)($this->closed->id), ['visitors_pick' => true]);
    app('auth')->forgetGuards();
    foreach (['', '?pick='.rawurlencode('{"t2":"K1"}'), '?find='.rawurlencode('{"t7":"SECRET"}')] as $asked) {
        $told = $this->getJson("/api/v1/open{$this->linkOf($board)}$asked")->assertOk();
        expect($told->getContent())
            ->not->toContain('SECRET-7319')
            ->not->toContain('73190')
            ->not->toContain('FoxKind')
            ->not->toContain('OUTING-5')
            ->not->toContain('Crew')
            ->not->toContain($this->hers['record']);
        foreach ($told->json('tiles') as $tile) {
            expect($tile['kind'])->toBeIn(['broken', 'link', 'map']);
        }
        expect($told->json('tiles.15.answer.view.layers'))->toBe([]);
    }
    $this->getJson("/api/v1/open{$this->linkOf($board)}/tiles/t8/layers/l0000000/features.geojson")->assertNotFound();
    $this->getJson("/api/v1/open{$this->linkOf($board)}/tiles/t11/photos/x/view")->assertNotFound();
})->with(['asked' => false, 'by bits' => true]);

it('tells whoever holds the link what is open, and nobody’s name', function (bool $bits): void {
    $this->bits = $bits;
    $board = ($this->board)(($this->each)($this->open->id));
    app('auth')->forgetGuards();
    $told = $this->getJson("/api/v1/open{$this->linkOf($board)}")->assertOk();
    $tiles = array_column($told->json('tiles'), null, 'id');
    expect($tiles['t0']['answer']['value'])->toBe(12)
        ->and(array_column($tiles['t2']['answer']['rows'], 'value', 'label'))->toBe(['FoxKind' => 1, 'OwlKind' => 1])
        ->and(array_column($tiles['t6']['answer']['rows'], 'label'))->toBe(['T-1', 'T-2'])
        ->and($tiles['t12']['answer']['values'][0]['value'])->toBe(12)
        ->and(
            array_column(
                array_intersect_key(
                    $tiles,
                    ['t9' => 1, 't10' => 1, 't16' => 1, 't17' => 1, 't18' => 1, 't19' => 1, 't20' => 1,
                        't24' => 1],
                ),
                'kind',
            ),
        )
        ->toBe(array_fill(0, 8, 'broken'))
        // How a tile is made is not told: it names fields and slices.
        ->and($told->getContent())->not->toContain('"measure":{"of":"sum"');
    // A name in the list and a place on the map cannot be put together by their ids.
    $drawn = $this->getJson("/api/v1/open{$this->linkOf($board)}/tiles/t8/layers/l0000000/features.geojson")
        ->json('features.*.id');
    expect(array_intersect($drawn, array_column($tiles['t7']['answer']['records'], 'id')))->toBe([])
        ->and($drawn)->toHaveCount(2);
    // A coordinator opens just that: crews, and not who is in them.
    $open = ($this->board)(
        [['kind' => 'crews', 'open' => true, 'id' => 'c', 'title' => 'C', 'width' => 3, 'height' => 2]],
    );
    app('auth')->forgetGuards();
    $crews = $this->getJson("/api/v1/open{$this->linkOf($open)}")->json('tiles.0.answer.people');
    expect($crews)->toHaveCount(3)->and(array_unique(array_column($crews, 'name')))->toBe([null]);
})->with(['asked' => false, 'by bits' => true]);

it('tells a crew member who sees their own records of those alone', function (bool $bits): void {
    $this->bits = $bits;
    $board = ($this->board)(($this->each)($this->closed->id));
    $told = $this->actingAs($this->one)->getJson("/api/v1/boards/{$board['id']}/answers")->assertOk();
    $tiles = array_column($told->json('tiles'), null, 'id');
    expect($told->getContent())->not->toContain('SECRET-7319')->not->toContain('73190')
        ->and($tiles['t0']['answer'])->toMatchArray(['value' => 4, 'n' => 1])
        ->and(array_column($tiles['t2']['answer']['rows'], 'value', 'code'))->toBe(['K1' => 0, 'K2' => 1])
        ->and($tiles['t7']['answer']['records'])->toHaveCount(1)
        ->and($tiles['t8']['answer']['view']['layers'][0]['total'])->toBe(1)
        ->and($tiles['t15']['answer']['view']['layers'][0]['total'])->toBe(1)
        ->and($tiles['t11']['answer']['photos'])->toBe([])
        ->and($tiles['t17']['answer']['value'])->toBe(1);
    // Of who is out a crew hears of its own people.
    expect(array_column($tiles['t9']['answer']['people'], 'id'))->toBe([$this->one->id]);
    // Hers are hers, each kept for itself.
    $this->actingAs($this->two);
    expect(($this->ask)($board)['tiles'][0]['answer']['value'])->toBe(73_190);
    $this->actingAs($this->head);
    expect(($this->ask)($board)['tiles'][0]['answer']['value'])->toBe(73_194);
    $this->field->members()->where('user_id', $this->left->id)->delete();
    $this->actingAs($this->left)->getJson("/api/v1/boards/{$board['id']}/answers")->assertNotFound();
})->with(['asked' => false, 'by bits' => true]);

it('tells the details of what is picked in a list, where it may', function (): void {
    $photo = $this->announce($this->jpeg());
    $shot = $this->add($this->open, ['values' => ['code' => 'T-3', 'pups' => 9], 'photos' => [$photo]]);
    $this->sync($this->one, [$shot]);
    $tile = fn (string $id, string $kind, array $more = []): array => $more + [
        'id' => $id, 'kind' => $kind, 'title' => $id, 'layer' => $this->open->id, 'width' => 3, 'height' => 2,
    ];
    $board = ($this->board)([
        $tile('list', 'latest', ['names' => true, 'order' => 'name']),
        $tile('bare', 'details', ['fields' => ['pups']]),
        $tile('full', 'details', ['names' => true]),
        $tile('map', 'map'),
        $tile('form', 'form'),
        $tile('closed', 'details', ['layer' => $this->closed->id]),
    ], ['visitors_pick' => true]);
    $at = static fn (string $base, string $tile, string $record, string $from): string => "/api/v1$base/tiles/$tile/"
        ."layers/l0000000/records/$record?from=$from";
    $labels = static fn (array $card): array => array_column($card['values'], 'label');
    // At the desk: whatever it was picked in.
    $desk = "/boards/{$board['id']}";
    expect($labels($this->getJson($at($desk, 'full', $shot['record'], 'map'))->assertOk()->json()))
        ->toContain('Code', 'Pups')
        ->and($this->getJson($at($desk, 'bare', $shot['record'], 'list'))->json('name'))->toBe('T-3');
    $this->getJson($at($desk, 'closed', $shot['record'], 'list'))->assertNotFound();
    $this->actingAs($this->one)->getJson($at($desk, 'closed', $this->hers['record'], 'list'))->assertNotFound();
    expect(collect(($this->ask)($board)['tiles'])->firstWhere('id', 'form')['answer']['may_add'])->toBeTrue();
    app('auth')->forgetGuards();
    // Behind the link: by the ids of its lists alone, and by no map’s.
    $link = "/open{$this->linkOf($board)}";
    $tiles = array_column($this->getJson("/api/v1$link")->assertOk()->json('tiles'), null, 'id');
    expect(array_column($tiles['list']['answer']['records'], 'name'))->toBe(['T-1', 'T-2', 'T-3'])
        ->and($tiles['form']['answer']['may_add'])->toBeFalse();
    $id = $tiles['list']['answer']['records'][2]['id'];
    expect($this->getJson($at($link, 'bare', $id, 'list'))->assertOk()->assertJsonPath('id', $id)->getContent())
        ->not->toContain('T-3')
        ->and($labels($this->getJson($at($link, 'bare', $id, 'list'))->json()))->toBe(['Pups'])
        ->and($this->getJson($at($link, 'full', $id, 'list'))->json('name'))->toBe('T-3');
    $drawn = $this->getJson("/api/v1$link/tiles/map/layers/l0000000/features.geojson")->json('features.0.id');
    foreach ([[$drawn, 'map'], [$drawn, 'list'], [$id, 'map'], [$id, 'full'], [$id, ''], [$shot['record'], 'list']] as [
        $record, $from,
    ]) {
        $this->getJson($at($link, 'full', $record, $from))->assertNotFound();
    }
    $this->getJson($at($link, 'closed', $id, 'list'))->assertNotFound();
    // Not where visitors do not pick.
    $this->actingAs($this->head)->patchJson("/api/v1/boards/{$board['id']}", ['visitors_pick' => false])->assertOk();
    app('auth')->forgetGuards();
    $this->getJson($at($link, 'full', $id, 'list'))->assertNotFound();
});

it('shows the photos of a list and of details, and no others', function (): void {
    $photo = $this->announce($bytes = $this->jpeg());
    $shot = $this->add($this->open, ['values' => ['code' => 'T-3'], 'photos' => [$photo]]);
    $this->sync($this->one, [$shot]);
    $found = App\Models\Attachment::query()->findOrFail(PinYard\Record\RecordId::of($photo['id'])->bytes());
    $upload = App\Models\Upload::query()->create([
        'id' => (string) Illuminate\Support\Str::uuid7(), 'attachment_id' => $found->id,
        'user_id' => $this->one->id, 'length' => strlen($bytes), 'expires_at' => now()->addDay(),
    ]);
    @mkdir(storage_path('uploads'), recursive: true);
    file_put_contents($upload->file(), $bytes);
    App\Files\FileArrival::finish($upload, $found);
    $tile = fn (string $id, string $kind, bool $photo): array => [
        'id' => $id, 'kind' => $kind, 'title' => $id, 'layer' => $this->open->id, 'width' => 3, 'height' => 2,
        'photo' => $photo,
    ];
    $board = ($this->board)([
        $tile('seen', 'latest', true), $tile('plain', 'latest', false),
        $tile('shown', 'details', true), $tile('bare', 'details', false),
    ], ['visitors_pick' => true]);
    app('auth')->forgetGuards();
    $link = "/api/v1/open{$this->linkOf($board)}";
    $tiles = array_column($this->getJson($link)->json('tiles'), 'answer', 'id');
    $id = collect($tiles['seen']['records'])->pluck('photo')->filter()->first();
    expect($id)->toBeString()->and(array_filter(array_column($tiles['plain']['records'], 'photo')))->toBe([]);
    $this->get("$link/tiles/seen/photos/$id/thumb")->assertOk();
    $this->get("$link/tiles/plain/photos/$id/thumb")->assertNotFound();
    $this->get("$link/tiles/shown/photos/$id/view")->assertOk();
    $this->get("$link/tiles/bare/photos/$id/view")->assertNotFound();
});

it('lets tiles follow what is picked in another, over all records', function (bool $bits): void {
    $this->bits = $bits;
    $board = ($this->board)([
        ...($this->each)($this->open->id),
        [
            'kind' => 'number',
            'layer' => $this->closed->id,
            'id' => 'other',
            'title' => 'O',
            'width' => 3,
            'height' => 2,
        ],
    ]);
    $tiles = static fn (array $answers): array => array_column($answers['tiles'], null, 'id');
    $all = ($this->ask)($board);
    $fox = ($this->ask)($board, ['t2' => 'K1']);
    $now = $tiles($fox);
    expect($fox['picked'])->toBe(['t2'])
        ->and($now['t0']['answer']['value'])->toBe(5)
        // The tile that was picked in goes on showing all, so that one can pick another.
        ->and($now['t2']['answer']['n'])->toBe(2)
        ->and($now['t7']['answer']['n'])->toBe(1)
        ->and($now['t8']['answer']['view']['layers'][0]['total'])->toBe(1)
        // Another layer has this choice under the same key and code: it follows.
        ->and($now['other'])->toMatchArray(['follows' => true])
        ->and($now['other']['answer']['value'])->toBe(1);
    $features = "/api/v1/boards/{$board['id']}/tiles/t8/layers/l0000000/features.geojson";
    expect($this->getJson("$features?pick=".rawurlencode('{"t2":"K1"}'))->json('features'))->toHaveCount(1)
        ->and($this->getJson($features)->json('features'))->toHaveCount(2);
    // Days of a field that the other layer names alike are no days of its own.
    $day = $tiles(($this->ask)($board, ['t3' => '2026-02-10..2026-02-10']));
    expect($day['t0']['answer']['value'])->toBe(7)->and($day['other']['follows'])->toBeFalse();
    // Two picks, and one that is there no more.
    $two = ($this->ask)($board, ['t2' => 'K1', 't3' => '2026-02-10..2026-02-10', 'gone' => 'x', 't4' => 'rubbish']);
    expect($two['picked'])->toEqualCanonicalizing(['t2', 't3'])
        ->and($tiles($two)['t0']['answer']['value'])->toBe(0);
    // A bar of the spread, from its lower end up to the upper one.
    expect($tiles(($this->ask)($board, ['t4' => '5..7']))['t7']['answer']['n'])->toBe(1)
        ->and($tiles(($this->ask)($board, [], ['t7' => 'owl']))['t7']['answer']['n'])->toBe(1)
        ->and($tiles(($this->ask)($board, [], ['t7' => '%']))['t7']['answer']['n'])->toBe(0);
    expect($tiles(($this->ask)($board))['t0'])->toEqual($tiles($all)['t0']);
    // A crew is followed by all layers.
    $crew = $this->field->crews()->create(['name' => 'Nord']);
    $this->field->members()->where('user_id', $this->two->id)->update(['crew_id' => $crew->id]);
    $north = $tiles(($this->ask)($board, ['t9' => (string) $crew->id]));
    expect($north['t0']['answer']['n'])->toBe(0)->and($north['other']['answer']['value'])->toBe(1);
    // Rubbish picks nothing.
    foreach (['x', '[]', '{"t2":["K1"]}', '{"t2":"K9"}', str_repeat('[', 400)] as $rubbish) {
        expect(
            $this->getJson(
                "/api/v1/boards/{$board['id']}/answers?pick=".rawurlencode($rubbish),
            )->assertOk()->json('tiles.0.answer.value'),
        )
            ->toBe(12);
    }
})->with(['asked' => false, 'by bits' => true]);

it('follows an area that was picked on a map', function (): void {
    $ring = static fn (float $west): array => [
        [$west, -14.6], [$west + 0.1, -14.6], [$west + 0.1, -14.4], [$west, -14.4], [$west, -14.6],
    ];
    $area = fn (float $west): array => $this->add($this->beaches, [
        'values' => [], 'geometry' => ['type' => 'Polygon', 'coordinates' => [$ring($west)]],
    ]);
    $this->sync($this->one, [$here = $area(-11.55), $there = $area(-11.9)]);
    $this->actingAs($this->head);
    $shown = $this->mapOf($this->beaches, ['card' => ['fields' => [], 'photos' => false]]);
    $part = $shown->layers[0]['id'];
    $tile = static fn (string $id, array $more): array => $more + [
        'id' => $id, 'title' => $id, 'width' => 3, 'height' => 2,
    ];
    $board = ($this->board)([
        $tile('n', ['kind' => 'number', 'layer' => $this->open->id]),
        $tile('map', ['kind' => 'map', 'map' => $shown->id]),
        $tile('bare', ['kind' => 'map', 'layer' => $this->beaches->id]),
        $tile('points', ['kind' => 'map', 'layer' => $this->open->id]),
    ], ['visitors_pick' => true]);
    $count = fn (array $pick): mixed => ($this->ask)($board, $pick)['tiles'][0]['answer']['value'];
    expect($count([]))->toEqual(2)
        ->and($count(['map' => "$part:{$here['record']}:Ä: b"]))->toEqual(2)
        ->and($count(['map' => "$part:{$there['record']}:"]))->toEqual(0)
        ->and($count(['bare' => "l0000000:{$there['record']}:"]))->toEqual(0);
    // What is no area, or is not there, picks nothing, and the answer says so.
    foreach ([['points' => "l0000000:{$there['record']}:"], ['map' => "l9999999:{$there['record']}:"],
        ['map' => $part], ['map' => "$part:nonsense:x"], ['map' => ':::']] as $pick) {
        expect(($this->ask)($board, $pick)['picked'])->toBe([]);
    }
    app('auth')->forgetGuards();
    $link = "/api/v1/open{$this->linkOf($board)}";
    $known = $this->behindLink(App\Models\Board::query()->findOrFail($board['id']), $there['record']);
    $asked = $this->getJson("$link?pick=".rawurlencode((string) json_encode(['bare' => "l0000000:$known:"])))->json();
    expect($asked['picked'])->toBe(['bare'])->and($asked['tiles'][0]['answer']['value'])->toEqual(0);
    $pick = (string) json_encode(['bare' => "l0000000:{$there['record']}:"]);
    $ours = $this->getJson("$link?pick=".rawurlencode($pick));
    expect($ours->json('picked'))->toBe([]);
});

it('lets visits follow the records that were picked', function (): void {
    $visits = $this->layer($this->field, ['title' => 'Visits', 'visits_of' => 'Tracks', 'fields' => [
        ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
    ]]);
    $ids = array_column($this->getJson("/api/v1/layers/{$this->open->id}/records")->json('records'), 'id', 'name');
    $visit = fn (string $of, int $eggs): array => $this->add($visits, [
        'visited' => $ids[$of], 'values' => ['eggs' => $eggs],
    ]);
    $this->sync($this->head, [$visit('T-1', 3), $visit('T-1', 4), $visit('T-2', 50)]);
    $this->actingAs($this->head);
    $board = ($this->board)([
        ['id' => 'by', 'kind' => 'breakdown', 'title' => 'By', 'width' => 3, 'height' => 2,
            'layer' => $this->open->id, 'by' => ['field' => 'kind']],
        ['id' => 'eggs', 'kind' => 'number', 'title' => 'Eggs', 'width' => 3, 'height' => 2, 'layer' => $visits->id,
            'measure' => ['of' => 'sum', 'field' => 'eggs']],
    ]);
    $eggs = fn (array $pick): array => ($this->ask)($board, $pick)['tiles'][1];
    expect($eggs([])['answer']['value'])->toEqual(57)
        ->and($eggs(['by' => 'K1'])['answer']['value'])->toEqual(7)
        ->and($eggs(['by' => 'K1'])['follows'])->toBeTrue()
        ->and($eggs(['by' => 'K2'])['answer']['value'])->toEqual(50);
});

it('lets visitors pick only where that was opened', function (bool $bits): void {
    $this->bits = $bits;
    $shut = ($this->board)(($this->each)($this->open->id));
    $open = ($this->board)(($this->each)($this->open->id), ['visitors_pick' => true]);
    app('auth')->forgetGuards();
    $ask = fn (array $board): array => $this->getJson(
        "/api/v1/open{$this->linkOf($board)}?pick=".rawurlencode('{"t2":"K1"}'),
    )->json();
    expect([$ask($shut)['may_pick'], $ask($shut)['tiles'][0]['answer']['value']])->toBe([false, 12])
        ->and([$ask($open)['may_pick'], $ask($open)['tiles'][0]['answer']['value']])->toBe([true, 5]);
})->with(['asked' => false, 'by bits' => true]);

it('asks anew after a crew was heard, and says nothing new where nothing is', function (): void {
    $board = ($this->board)(($this->each)($this->closed->id));
    $first = $this->getJson("/api/v1/boards/{$board['id']}/answers");
    $again = fn () => $this->actingAs($this->head)
        ->getJson("/api/v1/boards/{$board['id']}/answers", ['If-None-Match' => $first->headers->get('ETag')]);
    $again()->assertStatus(304);
    $this->field->members()->where('user_id', $this->one->id)->update(['waiting' => 3]);
    $again()->assertOk();
});

it('stands when what its tiles read goes', function (): void {
    $board = ($this->board)(($this->each)($this->open->id));
    $design = $this->open->design()->toArray();
    $design['fields'] = [$design['fields'][0]];
    $this->putJson("/api/v1/layers/{$this->open->id}/design", ['base' => 1, 'design' => $design])->assertOk();
    $kinds = array_column(($this->ask)($board)['tiles'], 'kind', 'id');
    expect($kinds['t0'])->toBe('broken')->and($kinds['t1'])->toBe('target')->and($kinds['t6'])->toBe('broken');
    $this->postJson(
        '/api/v1/things',
        ['action' => 'bin', 'with' => null, 'things' => [['kind' => 'layer', 'id' => $this->open->id]]],
    )
        ->assertSuccessful();
    expect(array_column(($this->ask)($board)['tiles'], 'kind', 'id')['t1'])->toBe('broken');
});

it('refuses what cannot be told, and says why', function (array $tile, string $code): void {
    $full = $tile + ['id' => 'a', 'title' => 'A', 'width' => 3, 'height' => 2, 'layer' => $this->open->id];
    $this->postJson("/api/v1/programmes/{$this->field->id}/boards", ['title' => 'B', 'tiles' => [$full]])
        ->assertStatus(422)
        ->assertJsonPath('problems.0.code', $code);
})->with([
    [['kind' => 'pie'], 'tile_kind'],
    [['kind' => 'number', 'measure' => ['of' => 'magic']], 'measure_unknown'],
    [['kind' => 'number', 'measure' => ['of' => 'mean', 'field' => 'code']], 'measure_field'],
    [['kind' => 'number', 'measure' => ['of' => 'mean', 'field' => 'gone']], 'field_unknown'],
    [['kind' => 'number', 'measure' => ['of' => 'mean', 'field' => '@length']], 'field_unknown'],
    [['kind' => 'number', 'measure' => ['of' => 'quantile', 'field' => 'pups', 'p' => 3]], 'measure_quantile'],
    [['kind' => 'number', 'measure' => ['of' => 'share']], 'measure_share'],
    [['kind' => 'number', 'measure' => ['of' => 'ratio', 'top' => ['of' => 'ratio']]], 'measure_unknown'],
    [['kind' => 'number', 'measure' => ['of' => 'sum', 'field' => 'pups'], 'unit' => 'km'], 'tile_unit'],
    [['kind' => 'target', 'target' => 0], 'target_zero'],
    [['kind' => 'target', 'target' => 5, 'from' => '2026-05-01'], 'target_days'],
    [['kind' => 'target', 'target' => 5, 'from' => '2026-05-01', 'to' => '2026-04-01'], 'target_order'],
    [['kind' => 'target', 'target' => 5, 'from' => '2026-02-30', 'to' => '2026-04-01'], 'tile_day'],
    [[
        'kind' => 'breakdown',
        'by' => ['field' => 'kind'],
        'shape' => 'donut',
        'measure' => ['of' => 'mean', 'field' => 'pups'],
    ],
        'breakdown_whole'],
    [['kind' => 'breakdown', 'by' => ['field' => 'kind'], 'second' => ['field' => 'code']], 'grouping_second'],
    [['kind' => 'breakdown', 'by' => ['areas' => 999]], 'tally_areas'],
    [['kind' => 'trend', 'by' => ['field' => 'kind']], 'tile_needs_date'],
    [[
        'kind' => 'trend',
        'by' => ['field' => 'seen'],
        'running' => true,
        'measure' => ['of' => 'mean', 'field' => 'pups'],
    ],
        'trend_running'],
    [['kind' => 'spread'], 'tile_needs_number'],
    [['kind' => 'table', 'by' => ['field' => 'kind'], 'columns' => []], 'table_columns'],
    [['kind' => 'latest', 'fields' => ['a', 'b', 'c', 'd', 'e']], 'latest_fields'],
    [['kind' => 'map', 'map' => 999], 'tile_map'],
    [['kind' => 'text', 'text' => '{2}', 'values' => []], 'text_value'],
    [['kind' => 'link', 'address' => 'javascript:alert(1)'], 'link_address'],
    [['kind' => 'link', 'address' => '//evil.test'], 'link_address'],
]);

it('takes a threshold above the target, and draws up to it', function (): void {
    $board = ($this->board)([[
        'kind' => 'target', 'layer' => $this->open->id, 'id' => 'a', 'title' => 'A', 'width' => 3, 'height' => 2,
        'target' => 1, 'thresholds' => [['at' => 9, 'text' => 'bonus'], ['at' => 2, 'text' => 'enough']],
    ]]);
    expect(($this->ask)($board)['tiles'][0]['answer'])->toMatchArray([
        'value' => 2, 'state' => 'reached', 'passed' => 'enough', 'due' => null,
        'thresholds' => [['at' => 2, 'text' => 'enough'], ['at' => 9, 'text' => 'bonus']],
    ]);
});

it('proposes tiles for each question, and knows the one that answers it', function (): void {
    $this->putJson("/api/v1/programmes/{$this->field->id}/questions", [
        ['id' => 'how', 'text' => 'How many pups of each kind?', 'note' => '', 'tile' => null, 'fields' => [
            ['layer' => $this->open->id, 'key' => 'kind'], ['layer' => $this->open->id, 'key' => 'pups'],
        ]],
        ['id' => 'why', 'text' => 'Why?', 'note' => '', 'tile' => null, 'fields' => []],
    ])->assertOk();
    $told = $this->getJson("/api/v1/programmes/{$this->field->id}/proposals")->assertOk()->json();
    expect($told[0]['proposals'][0])->toMatchArray([
        'kind' => 'breakdown', 'title' => 'How many pups of each kind?', 'question' => 'how',
        'by' => ['field' => 'kind'],
        'measure' => ['of' => 'mean', 'field' => 'pups'],
    ])->and($told[1])->toMatchArray(['state' => 'open', 'proposals' => []]);
    // Each of them is a tile that can be told.
    $tiles = array_map(
        static fn (array $p, int $i): array => $p + ['id' => "p$i"],
        $told[0]['proposals'],
        array_keys($told[0]['proposals']),
    );
    $board = ($this->board)($tiles);
    expect(array_column(($this->ask)($board)['tiles'], 'kind'))->not->toContain('broken');
    $state = $this->getJson("/api/v1/programmes/{$this->field->id}/questions")->json('0.state');
    expect($state)->toBe('answered');
    // Drafted from all questions at once.
    $draft = $this->postJson("/api/v1/programmes/{$this->field->id}/boards", ['title' => 'D'])->json('tiles');
    expect(array_column($draft, 'question'))->toBe(['how']);
});

it('tells ten thousand categories in few words', function (): void {
    $table = $this->open->table();
    DB::statement(
        "insert into $table (id, lon, lat, z, version, change_number, design_version, collected_at, "
            .'received_at, f_code) '
            ."select unhex(concat('018f0000000070008000', lpad(hex(seq), 12, '0'))), -11.5, -14.5, seq, 1, seq + 9, 1, "
            ."now(), now(), concat('C-', seq) from seq_1_to_10000",
    );
    $this->open->update(['change_number' => 10_009]);
    $on = ['layer' => $this->open->id, 'by' => ['field' => 'code'], 'width' => 3, 'height' => 2, 'title' => 'T'];
    $board = ($this->board)([
        $on + ['kind' => 'breakdown', 'id' => 'b'],
        $on + ['kind' => 'table', 'id' => 't', 'columns' => [['measure' => ['of' => 'count']]]],
        $on + ['kind' => 'picker', 'id' => 'p'],
        $on + ['kind' => 'pairs', 'id' => 'q', 'up' => ['of' => 'count']],
    ]);
    $told = $this->getJson("/api/v1/boards/{$board['id']}/answers")->assertOk();
    [$breakdown, $rows, $picker, $pairs] = array_column($told->json('tiles'), 'answer');
    expect($breakdown['rows'])->toHaveCount(12)
        ->and($breakdown['others'])->toMatchArray(['groups' => 9_990, 'value' => 9_990])
        ->and($rows)->toMatchArray(['more' => 9_502, 'totals' => [10_002]])
        ->and($picker['lines'])->toHaveCount(500)
        ->and($pairs['points'])->toHaveCount(200)
        ->and(strlen((string) $told->getContent()))->toBeLessThan(200_000);
});
