<?php

declare(strict_types=1);

use App\Models\Map;

describe('a map', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person();
        $this->field = $this->programme($this->head);
        $this->nests = $this->layer($this->field);
        $this->actingAs($this->head);
        $this->made = fn (array $more = []): array => $this->postJson(
            "/api/v1/programmes/{$this->field->id}/maps",
            ['layer' => $this->nests->id, 'title' => 'M'] + $more,
        )
            ->assertCreated()
            ->json();
    });

    it(
        'begins with a fitting look, a full card and the programme\'s area, for the programme\'s people only',
        function (): void {
            $map = ($this->made)();
            expect($map['layers'][0]['look']['field'])
                ->toBe('species')
                ->and($map['layers'][0]['card'])
                ->toBe(['fields' => ['code', 'clutch', 'species', 'laid_on'], 'photos' => true])
                ->and($map['extent'])
                ->toEqual([-12, -15, -11, -14])
                ->and($map['audience'])
                ->toBe('programme')
                ->and($map['address'])
                ->toBeNull();
        },
    );

    it('changes part by part and leaves the other parts alone', function (): void {
        $map = ($this->made)();
        $patch = fn (array $change) => $this->patchJson("/api/v1/maps/{$map['id']}", $change);
        $patch(['title' => 'New'])
            ->assertOk()
            ->assertJsonPath('title', 'New')
            ->assertJsonPath('layers', $map['layers']);
        $part = fn (array $change) => $patch(['layers' => [$change + $map['layers'][0]]]);
        $part(['card' => ['fields' => ['clutch'], 'photos' => false]])->assertJsonPath('layers.0.card', [
            'fields' => ['clutch'],
            'photos' => false,
        ]);
        $part(['look' => ['kind' => 'single']])
            ->assertJsonPath('layers.0.look.kind', 'single')
            ->assertJsonPath('layers.0.id', $map['layers'][0]['id'])
            ->assertJsonPath('title', 'New');
        $patch(['extent' => [1, 2, 3, 4]])->assertOk();
        expect(Map::query()->find($map['id'])->extent)->toEqual([1, 2, 3, 4]);
    });

    it('is refused with the reason', function (array $change, string $field): void {
        $map = ($this->made)();
        if (isset($change['part'])) {
            $change = ['layers' => [$change['part'] + $map['layers'][0]]];
        }
        $problems = $this->patchJson("/api/v1/maps/{$map['id']}", $change)
            ->assertStatus(422)
            ->json('problems');
        expect($problems[0]['field'])->toBe($field)->and($problems[0]['message'])->not->toBeEmpty();
    })->with([
        [['title' => ''], 'title'],
        [['title' => str_repeat('x', 121)], 'title'],
        [['audience' => 'everyone'], 'audience'],
        [['part' => ['look' => ['kind' => 'category', 'field' => 'clutch']]], 'layers/0/look/field'],
        [
            ['part' => ['look' => ['kind' => 'single', 'peg' => ['head' => 'disc', 'colour' => 'url(x)']]]],
            'layers/0/look/peg',
        ],
        [['extent' => [0, 9, 1, 2]], 'area'],
        [['extent' => [0, 9, 1]], 'extent'],
    ]);

    it('cannot be made of a layer of another programme', function (): void {
        $other = $this->layer($this->programme());
        $this->postJson("/api/v1/programmes/{$this->field->id}/maps", [
            'layer' => $other->id,
            'title' => 'M',
        ])->assertNotFound();
    });

    it('keeps its address when it is closed and opened again', function (): void {
        $map = ($this->made)(['audience' => 'link']);
        expect($map['address'])->toMatch('~^/m/[A-Za-z0-9]{22}$~');
        $this->patchJson("/api/v1/maps/{$map['id']}", ['audience' => 'programme'])->assertJsonPath(
            'audience',
            'programme',
        );
        $this->patchJson("/api/v1/maps/{$map['id']}", ['audience' => 'link'])->assertJsonPath(
            'address',
            $map['address'],
        );
    });
});

describe('a board', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person();
        $this->field = $this->programme($this->head);
        $this->actingAs($this->head);
        $this->make = fn (array $more = []) => $this->postJson(
            "/api/v1/programmes/{$this->field->id}/boards",
            ['title' => 'B'] + $more,
        );
    });

    it('begins with four tiles of the first layer, or empty where there is none', function (): void {
        expect(($this->make)()->json('tiles'))->toBe([]);
        $this->layer($this->field);
        $tiles = ($this->make)()->assertCreated()->json('tiles');
        expect(array_column($tiles, 'title', 'kind'))->toBe([
            'number' => 'Nests so far',
            'map' => 'Nests on the map',
            'breakdown' => 'By Species',
            'latest' => 'Latest records',
        ]);
    });

    it('names each tile that is off, and saves nothing of it', function (): void {
        $layer = $this->layer($this->field);
        $board = ($this->make)()->json();
        $tile = fn (array $change): array => $change + [
            'id' => 't',
            'kind' => 'number',
            'title' => 'T',
            'layer' => $layer->id,
            'slice' => null,
            'field' => null,
            'width' => 3,
            'height' => 2,
        ];
        $problems = $this->patchJson("/api/v1/boards/{$board['id']}", [
            'title' => 'Other',
            'tiles' => [$tile([]), $tile(['id' => 'u', 'kind' => 'pie']), $tile(['id' => 'v', 'slice' => 99])],
        ])
            ->assertStatus(422)
            ->json('problems');
        expect(array_column($problems, 'code', 'field'))->toBe([
            'tiles/1/kind' => 'tile_kind',
            'tiles/2/slice' => 'slice_unknown',
        ]);
        $this->getJson("/api/v1/boards/{$board['id']}")
            ->assertJsonPath('title', 'B')
            ->assertJsonPath('tiles', $board['tiles']);
    });

    it('cannot read layers of another programme', function (): void {
        $foreign = $this->layer($this->programme());
        $tile = [
            'id' => 't',
            'kind' => 'number',
            'title' => 'T',
            'layer' => $foreign->id,
            'slice' => null,
            'field' => null,
            'width' => 3,
            'height' => 2,
        ];
        ($this->make)(['tiles' => [$tile]])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'layer_unknown');
    });
});

describe('a slice', function (): void {
    beforeEach(function (): void {
        $this->head = $this->person();
        $this->nests = $this->layer($this->programme($this->head));
        $this->actingAs($this->head);
        $this->make = fn (array $body) => $this->postJson("/api/v1/layers/{$this->nests->id}/slices", $body);
    });

    it('is never nameless', function (array $filter, string $name): void {
        ($this->make)(['filter' => $filter])
            ->assertCreated()
            ->assertJsonPath('name', $name);
    })->with([
        [['all' => []], 'Everything'],
        [['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CM']]], 'Species: Green'],
        [
            ['any' => [['field' => 'species', 'test' => 'one_of', 'value' => ['CC', 'CM']]]],
            'Species: Loggerhead, Green',
        ],
        [['all' => [['field' => 'clutch', 'test' => 'at_most', 'value' => 40]]], 'Clutch at most 40'],
        [['all' => [['field' => 'laid_on', 'test' => 'last_days', 'value' => 7]]], 'Laid on in the last 7 days'],
        [
            ['all' => [['field' => 'collected_at', 'test' => 'since', 'value' => '2026-05-01']]],
            'Collected since 2026-05-01',
        ],
    ]);

    it('takes a name of one\'s own, and refuses a rule that fits nothing', function (): void {
        ($this->make)(['name' => ' Mine ', 'filter' => ['all' => []]])->assertJsonPath('name', 'Mine');
        ($this->make)([
            'name' => 'X',
            'filter' => ['all' => [['field' => 'species', 'test' => 'at_least', 'value' => 3]]],
        ])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.message',
                'This comparison does not fit “Species”. Fitting are: is, one_of, is_not, none_of, there, missing.');
        ($this->make)(['name' => 'X'])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'filter_shape');
    });
});

describe('a programme', function (): void {
    it('is changed part by part', function (): void {
        $programme = $this->programme($head = $this->person());
        $this->actingAs($head);
        $patch = fn (array $change) => $this->patchJson("/api/v1/programmes/{$programme->id}", $change);
        $patch(['purpose' => 'Why'])
            ->assertOk()
            ->assertJsonPath('purpose', 'Why')
            ->assertJsonPath('name', $programme->name);
        $patch(['purpose' => null])->assertJsonPath('purpose', '');
        $patch(['area' => [-1, -2, 3, 4]])->assertOk();
        expect($programme->refresh()->area()->toArray())->toBe([-1.0, -2.0, 3.0, 4.0]);
        $patch(['area' => [3, 4, -1, -2]])
            ->assertStatus(422)
            ->assertJsonPath('problems.0.code', 'box_empty');
        $patch(['time_zone' => 'GMT+25'])->assertStatus(422);
    });

    it('says in numbers what each stage has', function (): void {
        $programme = $this->programme($head = $this->person());
        $crew = $this->crew($programme);
        $layer = $this->layer($programme);
        $this->actingAs($crew)
            ->postJson('/api/v1/sync', [
                'device' => PinYard\Record\RecordId::make()->text,
                'waiting' => 9,
                'operations' => [$this->add($layer), $this->add($layer)],
                'cursors' => [$layer->id => 0],
            ])
            ->assertOk();
        $stages = $this->actingAs($head)
            ->getJson("/api/v1/programmes/{$programme->id}")
            ->json('stages');
        expect($stages['plan']['people'])
            ->toBe(2)
            ->and($stages['build']['layers'])
            ->toBe(1)
            ->and($stages['collect'])
            ->toBe(['crew' => 1, 'waiting' => 9])
            ->and($stages['check'])
            ->toBe(['disputes' => 0, 'answers' => 0, 'asked' => 0, 'waiting' => 2, 'today' => 2, 'records' => 2])
            ->and($stages['publish'])
            ->toBe(['live' => 0, 'all' => 0]);
        $people = $this->getJson("/api/v1/programmes/{$programme->id}/people")->json('people');
        expect(array_column($people, 'waiting', 'role'))->toBe(['coordinator' => 0, 'crew' => 9]);
    });

    it('gives a phone a pack with all that it needs, and no more', function (): void {
        $programme = $this->programme();
        $crew = $this->crew($programme);
        $layer = $this->layer($programme);
        $this->layer($this->programme());
        $packs = $this->actingAs($crew)->getJson('/api/v1/packs')->assertOk()->json();
        expect($packs)->toHaveCount(1)->and($packs[0]['layers'])->toHaveCount(1);
        $pack = $packs[0]['layers'][0];
        expect($pack)
            ->toHaveKeys(['design', 'value_schema', 'look', 'style', 'rights', 'name_field'])
            ->and($pack['id'])
            ->toBe($layer->id)
            ->and($pack['name_field'])
            ->toBe('code')
            ->and($pack['rights'])
            ->toBe(['add' => true, 'see' => 'all', 'change' => 'own', 'delete' => 'none'])
            ->and(array_column($packs[0]['backdrops'], 'key'))
            ->toBe(['world', 'cays']);
        $programme->update(['west' => 5, 'south' => 50, 'east' => 15, 'north' => 55]);
        expect(array_column($this->getJson('/api/v1/packs')->json('0.backdrops'), 'key'))->toBe(['world']);
    });
});
