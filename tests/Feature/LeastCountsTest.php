<?php

declare(strict_types=1);

use App\Models\Audience;
use App\Models\Role;
use App\Records\Bits\BuildBits;
use Illuminate\Support\Facades\DB;

/*
 * An audience that is told figures of so many records at least: no single record, no figure of fewer, and nothing that
 * would tell one.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->crew = $this->crew($this->field);
    $this->sick = $this->layer($this->field, [
        'title' => 'Households',
        'fields' => [
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
            ['key' => 'people', 'label' => 'People', 'kind' => 'whole_number'],
            ['key' => 'state', 'label' => 'State', 'kind' => 'one_choice', 'choices' => [
                ['code' => 'a', 'label' => 'Well'], ['code' => 'b', 'label' => 'Ill'],
                ['code' => 'c', 'label' => 'Gone'], ['code' => 'd', 'label' => 'New'],
            ]],
        ],
    ]);
    $this->rule = fn (array $rule, string $audience = 'link'): mixed => $this->actingAs($this->head)->putJson(
        "/api/v1/layers/{$this->sick->id}/seen-by/$audience",
        ['rule' => $rule + ['rows' => 'all', 'place' => 'exact', 'fields' => null, 'photos' => false, 'least' => 5]],
    );
    /** @param  array<string, int>  $by how many of each state */
    $this->fill = function (array $by, ?App\Models\User $who = null): array {
        $adds = [];
        foreach ($by as $state => $n) {
            for ($i = 0; $i < $n; $i++) {
                $adds[] = $this->add($this->sick, [
                    'values' => ['name' => "House $state $i", 'people' => 3, 'state' => $state],
                ]);
            }
        }
        $this->sync($who ?? $this->head, $adds);

        return array_column($adds, 'record');
    };
    $this->board = function (array ...$tiles): array {
        foreach ($tiles as $i => $tile) {
            $tiles[$i] = $tile + [
                'id' => "t$i", 'title' => "T$i", 'width' => 3, 'height' => 2, 'layer' => $this->sick->id,
            ];
        }

        return $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
            'title' => 'B', 'audience' => 'link', 'tiles' => $tiles, 'visitors_pick' => true,
        ])->assertCreated()->json();
    };
    $this->told = fn (array $board, string $query = ''): array => array_column(
        $this->getJson('/api/v1/open'.$this->linkOf($board).$query)->assertOk()->json('tiles'),
        'answer',
    );
    $this->slice = fn (string $state): int => $this->actingAs($this->head)
        ->postJson("/api/v1/layers/{$this->sick->id}/slices", [
            'filter' => ['all' => [['field' => 'state', 'test' => 'is', 'value' => $state]]],
        ])->assertCreated()->json('id');
});

it('tells a link counts, sums, means and shares of enough, and holds back the others', function (): void {
    ($this->fill)(['a' => 40, 'b' => 2, 'c' => 9, 'd' => 20]);
    [$ill, $well] = [($this->slice)('b'), ($this->slice)('a')];
    $board = ($this->board)(
        ['kind' => 'number'],
        ['kind' => 'number', 'slice' => $ill],
        ['kind' => 'breakdown', 'by' => ['field' => 'state']],
        ['kind' => 'table', 'by' => ['field' => 'state'], 'columns' => [
            ['measure' => ['of' => 'count']], ['measure' => ['of' => 'mean', 'field' => 'people']],
            ['measure' => ['of' => 'most', 'field' => 'people']],
        ]],
        ['kind' => 'number', 'measure' => ['of' => 'share', 'slice' => $well]],
        ['kind' => 'number', 'measure' => ['of' => 'share', 'slice' => $ill]],
        ['kind' => 'text', 'text' => '{1} and {2}', 'values' => [
            ['layer' => $this->sick->id],
            ['layer' => $this->sick->id, 'slice' => $ill],
        ]],
        ['kind' => 'target', 'target' => 100, 'slice' => $ill],
        ['kind' => 'latest', 'names' => true],
        ['kind' => 'spread', 'measure' => ['of' => 'mean', 'field' => 'people']],
        ['kind' => 'trend', 'by' => ['field' => 'collected_at', 'step' => 'day'], 'running' => true],
        ['kind' => 'number', 'measure' => ['of' => 'median', 'field' => 'people'], 'slice' => $well],
    );
    ($this->rule)([])->assertOk();
    $t = ($this->told)($board);
    expect([$t[0]['value'], $t[0]['least']])->toBe([71, null])
        ->and([$t[1]['value'], $t[1]['n'], $t[1]['least']])->toBe([null, 0, 5])
        // The two that are ill, and the nine that are gone: or the total would tell them.
        ->and(array_map(static fn (array $r): array => [$r['code'], $r['value'], $r['n'], $r['held']], $t[2]['rows']))
        ->toBe([['a', 40, 40, false], ['b', null, 0, true], ['c', null, 0, true], ['d', 20, 20, false]])
        ->and([$t[2]['total'], $t[2]['least']])->toBe([71, 5])
        ->and(array_map(static fn (array $r): array => [$r['cells'], $r['held']], $t[3]['rows']))->toBe([
            [[40, 3, null], [2]],
            [[null, null, null], [0, 1, 2]],
            [[null, null, null], [0, 1, 2]],
            [[20, 3, null], [2]],
        ])
        ->and([$t[3]['totals'], $t[3]['held']])->toBe([[71, 3, null], [2]])
        ->and(round($t[4]['value']))->toBe(56.0)
        ->and([$t[5]['value'], $t[5]['least']])->toBe([null, 5])
        ->and(array_column($t[6]['values'], 'value'))->toBe([71, null])
        ->and($t[7]['messages'][0])->toContain('Fewer than 5')
        ->and($t[8]['closed'])->toBeTrue()
        ->and($t[9]['closed'])->toBeTrue()
        ->and($t[10]['messages'][0])->toContain('running total')
        ->and($t[11]['value'])->toBe(3);
    expect(json_encode($t))->not->toContain('House');
});

it('answers the same to the byte when small groups differ, and shows no single record', function (bool $bits): void {
    $records = ($this->fill)(['a' => 40, 'b' => 2, 'c' => 9, 'd' => 20]);
    $build = fn () => $bits ? (new BuildBits($this->sick->id, 0))->handle() : null;
    $board = ($this->board)(
        ['kind' => 'breakdown', 'by' => ['field' => 'state'], 'order' => 'most'],
        ['kind' => 'table', 'by' => ['field' => 'state'], 'sort' => 0, 'down' => true],
        ['kind' => 'trend', 'by' => ['field' => 'collected_at', 'step' => 'year']],
        ['kind' => 'map'],
        ['kind' => 'picker', 'by' => ['field' => 'state']],
        ['kind' => 'photos'],
        ['kind' => 'pairs', 'by' => ['field' => 'state'], 'x' => ['of' => 'count'], 'y' => ['of' => 'count']],
    );
    $map = $this->mapOf($this->sick, [], Audience::Link, 'Map');
    ($this->rule)([])->assertOk();
    $asked = fn (): array => array_map(
        function (string $at): string {
            $told = $this->getJson($at);

            return $told->headers->get('ETag').preg_replace('/"as_of":"[^"]*"/', '', (string) $told->content());
        },
        [
            '/api/v1/open'.$this->linkOf($board),
            // Nothing narrows what is told of so many at least.
            '/api/v1/open'.$this->linkOf($board).'?pick='.rawurlencode('{"t0":"b"}'),
            "/api/v1/open/maps/$map->link_token",
            "/api/v1/open/maps/$map->link_token/layers/{$map->layers[0]['id']}/features.geojson",
            "/api/v1/open/maps/$map->link_token/table",
        ],
    );
    $build();
    $before = $asked();
    // One that was gone is ill: b has three, c eight, and both stay untold.
    $this->sync($this->head, [$this->changeOf($this->sick, $records[42], ['state' => 'b'], ['state' => 'c'])]);
    expect(DB::table($this->sick->table())->where('f_state', 'b')->count())->toBe(3);
    $build();
    expect($asked())->toBe($before)
        ->and(implode('', $before))->not->toContain('House')
        ->and($before[3])->toContain('not_found');
})->with(['asked' => false, 'by bits' => true]);

it('tells a crew figures of what they do not see, taking away what they do', function (): void {
    ($this->fill)(['a' => 4, 'c' => 30, 'd' => 40]);
    $theirs = ($this->fill)(['a' => 3], $this->crew);
    $board = ($this->board)(['kind' => 'breakdown', 'by' => ['field' => 'state']], ['kind' => 'latest']);
    ($this->rule)([], 'crews')->assertOk();
    $asked = fn (string $query = ''): array => $this->actingAs($this->crew)
        ->getJson("/api/v1/boards/{$board['id']}/answers$query")->assertOk()->json('tiles');
    $tiles = $asked();
    // Of seven four are others': seven less their own three would tell those.
    expect(array_column($tiles[0]['answer']['rows'], 'value'))->toBe([null, 0, null, 40])
        ->and($tiles[1]['answer']['n'])->toBe(count($theirs));
    ($this->fill)(['a' => 1]);
    expect(array_column($asked()[0]['answer']['rows'], 'value'))->toBe([8, 0, 30, 40]);
    // No past day, which by a difference would tell who came.
    expect($asked('?on='.now()->subDay()->toDateString())[0]['answer']['closed'])->toBeTrue();
});

it('tells of another layer in the same tile all that is open', function (): void {
    ($this->fill)(['a' => 2]);
    $open = $this->layer($this->field, ['title' => 'Wells']);
    $this->sync($this->head, [$this->add($open), $this->add($open)]);
    $board = ($this->board)(['kind' => 'text', 'text' => '{1} and {2}', 'values' => [
        ['layer' => $this->sick->id], ['layer' => $open->id],
    ]]);
    ($this->rule)([])->assertOk();
    expect(array_map(
        static fn (array $v): array => [$v['value'], $v['least']],
        ($this->told)($board)[0]['values'],
    ))->toBe([[null, 5], [2, null]]);
});

it('is narrowed by nothing that is picked, and tells not how few have no value', function (): void {
    $records = ($this->fill)(['a' => 40, 'd' => 20]);
    foreach ([0, 1] as $i) {
        $this->sync($this->head, [
            $this->changeOf($this->sick, $records[$i], ['people' => null], ['people' => 3]),
        ]);
    }
    $board = ($this->board)(
        ['kind' => 'breakdown', 'by' => ['field' => 'state']],
        ['kind' => 'number', 'measure' => ['of' => 'mean', 'field' => 'people']],
    );
    $of = fn (string $query): array => $this->getJson('/api/v1/open'.$this->linkOf($board).$query)->json('tiles.1');
    expect($of('')['answer']['missing'])->toBe(2);
    ($this->rule)([])->assertOk();
    expect([$of('')['answer']['missing'], $of('')['answer']['n']])->toBe([0, 60])
        ->and($of('?pick='.rawurlencode('{"t0":"a"}'))['answer']['n'])->toBe(60)
        ->and($of('?pick='.rawurlencode('{"t0":"a"}'))['follows'])->toBeFalse();
});

it('is refused for makers, who part as they like, and below three', function (): void {
    ($this->rule)([], 'makers')->assertUnprocessable()->assertJsonPath('problems.0.code', 'audience_least_makers');
    foreach ([2, 0, -1, 1_001, '5', 5.5] as $least) {
        ($this->rule)(['least' => $least])->assertUnprocessable()->assertJsonPath('problems.0.code', 'audience_least');
    }
    ($this->rule)(['least' => 3])->assertOk()->assertJsonPath('rules.link.least', 3);
    // A guest who makes boards besides is told nothing in figures.
    ($this->fill)(['a' => 20]);
    $board = ($this->board)(['kind' => 'number']);
    $guest = $this->member($this->field, Role::Guest);
    $answer = fn (): mixed => $this->actingAs($guest)->getJson("/api/v1/boards/{$board['id']}/answers")->json('tiles.0');
    expect($answer()['answer']['value'])->toBe(20);
    ($this->rule)(['rows' => 'none'], 'makers')->assertOk();
    $this->field->members()->where('user_id', $guest->id)->update(['makes' => true]);
    expect($answer()['kind'])->toBe('broken');
});

it('colours areas by figures of enough, and holds back the others and what would tell them', function (): void {
    $sectors = $this->layer($this->field, [
        'title' => 'Sectors', 'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $adds = [];
    foreach (['A' => 12, 'B' => 2, 'C' => 8, 'D' => 30, 'E' => 0] as $name => $n) {
        $west = -11.9 + 0.1 * (ord($name) - 65);
        $east = $west + 0.1;
        $ring = [[$west, -14.6], [$east, -14.6], [$east, -14.4], [$west, -14.4], [$west, -14.6]];
        $adds[] = $this->add($sectors, [
            'values' => ['name' => $name],
            'geometry' => ['type' => 'Polygon', 'coordinates' => [$ring]],
            'fix' => null,
        ]);
        for ($i = 0; $i < $n; $i++) {
            $adds[] = $this->add($this->sick, [
                'values' => ['name' => "House $name $i", 'people' => 4, 'state' => $i < 2 ? 'a' : 'b'],
                'geometry' => ['type' => 'Point', 'coordinates' => [$west + 0.05, -14.5]],
            ]);
        }
    }
    $this->sync($this->head, $adds);
    $slice = ($this->slice)('a');
    $told = function (array $of) use ($sectors): array {
        $map = $this->mapOf($sectors, [], Audience::Link, 'Coloured');
        $this->actingAs($this->head)->patchJson("/api/v1/maps/$map->id", ['layers' => [[
            'look' => ['kind' => 'inside', 'breaks' => [10, 20], 'of' => $of + ['layer' => $this->sick->id]],
            'label' => ['parts' => [['field' => 'name'], ['text' => ' '], ['tally' => true]]],
            'card' => ['fields' => ['name']],
        ] + $map->layers[0]]])->assertOk();
        $at = "/api/v1/open/maps/$map->link_token/layers/{$map->layers[0]['id']}";
        $features = $this->getJson("$at/features.geojson")->assertOk()->json('features');
        $labels = array_column(array_column($features, 'properties'), 'label');
        sort($labels);
        $first = array_values(array_filter(
            $features,
            static fn (array $f): bool => $f['properties']['label'][0] === 'B',
        ));
        $card = $this->getJson("$at/records/{$first[0]['id']}")->assertOk()->content();

        return [$labels, $card, $this->getJson("/api/v1/open/maps/$map->link_token")->json('layers.0.legend')];
    };
    expect($told(['measure' => 'count'])[0])->toBe(['A 12', 'B 2', 'C 8', 'D 30', 'E 0']);
    ($this->rule)([])->assertOk();
    [$labels, $card, $legend] = $told(['measure' => 'count']);
    expect($labels)->toBe(['A 12', 'B –', 'C –', 'D 30', 'E 0'])
        ->and($card)->toContain('fewer than 5')
        ->and(array_column($legend, 'label', 'code')['few'])->toBe('Households: fewer than 5')
        ->and($told(['measure' => 'mean', 'field' => 'people'])[0])->toBe(['A 4', 'B –', 'C –', 'D 4', 'E –'])
        // Two in each of the areas.
        ->and($told(['measure' => 'share', 'share' => $slice])[0])->toBe(['A –', 'B –', 'C –', 'D –', 'E –'])
        ->and($told(['measure' => 'most', 'field' => 'people'])[0])->toBe(['A –', 'B –', 'C –', 'D –', 'E –']);
});
