<?php

declare(strict_types=1);

use App\Designs\DesignStore;
use App\Models\Layer;
use PinYard\Design\LayerDesign;

/*
 * What was made for one way of seeing is never given to another: a board behind a link once gave the public the answer
 * that was
 * kept for a coordinator, and the coordinator the public's.
 */
beforeEach(function (): void {
    $this->field = $this->programme($this->head = $this->person('Head'));
    $this->nests = $this->layer($this->field, [
        'rights' => [
            'crew' => ['add' => true, 'see' => 'own', 'change' => 'own', 'delete' => 'own'],
            'public' => ['see' => false],
        ],
    ]);
    $this->one = $this->crew($this->field);
    $this->two = $this->crew($this->field);
    $this->sync($this->one, [$this->add($this->nests, ['values' => ['code' => 'SECRET-1', 'species' => 'CC']])]);
    $this->sync($this->two, [$this->add($this->nests, ['values' => ['code' => 'SECRET-2', 'species' => 'CM']])]);
    $tile = fn (string $id, string $kind): array => [
        'id' => $id,
        'kind' => $kind,
        'title' => $id,
        'layer' => $this->nests->id,
        'slice' => null,
        'by' => ['field' => 'species'],
        'width' => 3,
        'height' => 2,
    ];
    $this->board = $this->actingAs($this->head)
        ->postJson("/api/v1/programmes/{$this->field->id}/boards", [
            'title' => 'B',
            'audience' => 'link',
            'tiles' => [
                $tile('all', 'number'),
                $tile('kinds', 'breakdown'),
                $tile('last', 'latest'),
                $tile('map', 'map'),
            ],
        ])
        ->assertCreated()
        ->json();
    $this->ways = [
        'link' => function (array $headers = []) {
            app('auth')->forgetGuards();

            return $this->getJson('/api/v1/open/boards/'.basename($this->board['address']), $headers);
        },
        'head' => fn (array $headers = []) => $this->actingAs($this->head)->getJson(
            "/api/v1/boards/{$this->board['id']}/answers",
            $headers,
        ),
        'one' => fn (array $headers = []) => $this->actingAs($this->one)->getJson(
            "/api/v1/boards/{$this->board['id']}/answers",
            $headers,
        ),
        'two' => fn (array $headers = []) => $this->actingAs($this->two)->getJson(
            "/api/v1/boards/{$this->board['id']}/answers",
            $headers,
        ),
    ];
});

it('gives each way of seeing a board its own answer, whoever asks first', function (array $order): void {
    $told = [];
    foreach ([...$order, ...$order] as $way) {
        $told[$way][] = $this->ways[$way]()->assertOk()->getContent();
    }
    foreach ($told['link'] as $body) {
        expect($body)
            ->not->toContain('SECRET')
            ->not->toContain('Loggerhead')
            ->not->toContain('-14.5')
            ->toContain('not open to you');
    }
    foreach (
        [
            'head' => [2, true, true],
            'one' => [1, true, false],
            'two' => [1, false, true],
        ] as $way => [$count, $first, $second]
    ) {
        foreach ($told[$way] as $body) {
            expect(json_decode($body)->tiles[0]->answer->value)
                ->toBe($count)
                ->and(str_contains($body, 'SECRET-1'))
                ->toBe($first)
                ->and(str_contains($body, 'SECRET-2'))
                ->toBe($second);
        }
    }
})->with([[['head', 'link', 'one', 'two']], [['link', 'two', 'head', 'one']], [['one', 'link', 'two', 'head']]]);

it('never answers one way of seeing that nothing has changed by the tag of another', function (): void {
    $tags = array_map(fn (callable $ask): string => (string) $ask()->headers->get('ETag'), $this->ways);
    expect(array_unique($tags))->toHaveCount(4);
    foreach ($this->ways as $name => $ask) {
        foreach ($tags as $of => $tag) {
            $ask(['If-None-Match' => $tag])->assertStatus($name === $of ? 304 : 200);
        }
    }
});

it('forgets what it kept when the right to see changes', function (): void {
    $this->ways['link']()->assertOk()->assertJsonPath('tiles.0.kind', 'broken');
    $open = $this->nests->design()->toArray();
    $open['rights']['public'] = ['see' => true];
    DesignStore::saveNext(Layer::query()->findOrFail($this->nests->id), LayerDesign::fromArray($open), 1, null, []);
    $this->ways['link']()->assertOk()->assertJsonPath('tiles.0.answer.value', 2);
    DesignStore::saveNext(
        Layer::query()->findOrFail($this->nests->id),
        LayerDesign::fromArray($this->nests->design()->toArray()),
        2,
        null,
        [],
    );
    expect($this->ways['link']()->assertOk()->assertJsonPath('tiles.0.kind', 'broken')->getContent())->not->toContain(
        'SECRET',
    );
});

it('tells nothing of a closed layer on a map that is open to all', function (): void {
    $map = $this->actingAs($this->head)
        ->postJson("/api/v1/programmes/{$this->field->id}/maps", [
            'layer' => $this->nests->id,
            'title' => 'Open',
            'audience' => 'link',
            'look' => ['kind' => 'category', 'field' => 'species'],
            'card' => ['fields' => ['species'], 'photos' => false],
        ])
        ->assertCreated()
        ->json();
    $desk = $this->actingAs($this->head)
        ->getJson("/api/v1/maps/{$map['id']}/view")
        ->assertOk();
    app('auth')->forgetGuards();
    $open = $this->getJson('/api/v1/open/maps/'.basename($map['address']), [
        'If-None-Match' => $desk->headers->get('ETag') ?? '"x"',
    ])->assertOk();
    expect($open->getContent())
        ->not->toContain('Loggerhead')
        ->not->toContain('Species')
        ->and($open->json('layers'))
        ->toBe([])
        // Not even what the layer is called.
        ->and($open->json('notes'))
        ->toBe(['One layer of this map cannot be shown.'])
        ->and($open->headers->get('ETag'))
        ->not->toBe($desk->headers->get('ETag'));
});
