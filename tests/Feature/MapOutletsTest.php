<?php

declare(strict_types=1);

use App\Models\Audience;
use Illuminate\Support\Facades\Route;

/*
 * Everything that a map tells, walked as everyone who must not hear all of it: who holds the link of a closed layer's
 * map, a crew member who sees but their own records, one who has left, a stranger. Outlets are found from the list of
 * routes, so a new one without its walk fails.
 */

/** Routes that tell something of a map or of how a layer would be drawn; boards have a walk of their own. */
function mapOutlets(): array
{
    $found = [];
    foreach (Route::getRoutes() as $route) {
        $uri = $route->uri();
        $reads = in_array('GET', $route->methods(), true) || str_ends_with($uri, '/classes');
        if ($reads && preg_match('~maps/|/maps$|/classes$|/together$|^api/v1/packs$~', $uri) === 1) {
            $found[] = $uri;
        }
    }
    sort($found);

    return $found;
}

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->secret = $this->layer($this->field, [
        'title' => 'Dens',
        'rights' => ['crew' => ['add' => true, 'see' => 'own'], 'public' => ['see' => false]],
        'fields' => [
            ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
            ['key' => 'pups', 'label' => 'Pups', 'kind' => 'whole_number'],
            ['key' => 'eyes', 'label' => 'Eyes', 'kind' => 'whole_number'],
        ],
    ]);
    [$this->one, $this->two, $this->left] = [
        $this->crew($this->field), $this->crew($this->field), $this->crew($this->field),
    ];
    $bytes = $this->jpeg();
    $this->photo = $this->announce($bytes);
    $this->hers = $this->add($this->secret, [
        'values' => ['code' => 'SECRET-7319', 'pups' => 73_190, 'eyes' => 73_191],
        'photos' => [$this->photo],
    ]);
    $this->sync($this->two, [$this->hers]);
    $this->sync($this->one, [$this->add($this->secret, ['values' => ['code' => 'MINE', 'pups' => 4, 'eyes' => 8]])]);
    $this->field->members()->where('user_id', $this->left->id)->delete();
    // Areas that anyone may see, coloured by what lies in them.
    $this->sectors = $this->layer($this->field, [
        'title' => 'Sectors',
        'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $ring = [[-12, -15], [-11, -15], [-11, -14], [-12, -14], [-12, -15]];
    $this->around = $this->add($this->sectors, [
        'values' => ['name' => 'All'],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [$ring]],
        'fix' => null,
    ]);
    $this->sync($this->head, [$this->around]);
    $this->of = ['layer' => $this->secret->id, 'measure' => 'mean', 'field' => 'pups', 'least' => 1];
    $this->map = $this->mapOf($this->secret, [
        'look' => [
            'kind' => 'classes',
            'field' => 'pups',
            'breaks' => [10],
            'size' => ['field' => 'eyes', 'most' => 9],
        ],
        'card' => [
            'fields' => ['code', 'pups', 'eyes'],
            'photos' => true,
            'text' => [['parts' => [['text' => 'Of '], ['field' => 'code'], ['field' => 'pups']], 'only' => null]],
        ],
        'label' => ['parts' => [['field' => 'code'], ['text' => ': '], ['field' => 'pups']]],
    ], Audience::Link, 'Open map');
    $this->actingAs($this->head);
    $this->patchJson("/api/v1/maps/{$this->map->id}", [
        'beside' => ['part' => $this->map->layers[0]['id'], 'columns' => ['code', 'pups', '@collected']],
        'layers' => [
            ...$this->map->layers,
            [
                'id' => 'lareas',
                'layer' => $this->sectors->id,
                'look' => ['kind' => 'inside', 'of' => $this->of, 'breaks' => [7_777]],
                'label' => ['parts' => [['tally' => true]]],
            ],
            [
                'id' => 'lcells',
                'layer' => $this->secret->id,
                'look' => ['kind' => 'density', 'field' => 'pups', 'bits' => 20, 'breaks' => []],
            ],
            [
                'id' => 'lsums',
                'layer' => $this->secret->id,
                'look' => [
                    'kind' => 'crossed',
                    'fields' => ['pups', 'eyes'],
                    'breaks' => [[10], [20]],
                    'gather' => ['tell' => 'sum', 'field' => 'pups'],
                    'photos' => true,
                ],
                'label' => ['parts' => [['formula' => 'pups + 0']]],
                'card' => ['fields' => ['code'], 'photos' => true, 'visits' => ['field' => 'pups']],
            ],
            [
                'id' => 'lshades',
                'layer' => $this->secret->id,
                'look' => ['kind' => 'shades', 'field' => 'eyes', 'from' => 0, 'to' => 9],
            ],
        ],
    ])->assertOk();
    $slice = $this->secret->slices()->create(['name' => 'Many pups', 'filter' => ['all' => [
        ['field' => 'pups', 'test' => 'at_least', 'value' => 5],
    ]]]);
    $this->search = $this->patchJson("/api/v1/maps/{$this->map->id}", ['searches' => [
        ['title' => 'Many Dens', 'part' => $this->map->layers[0]['id'], 'slice' => $slice->id],
    ]])->assertOk()->json('searches.0.id');
    $this->addresses = function (bool $link): array {
        $of = fn (string $id): string => $link ? $this->behindLink($this->map, $id) : $id;
        $addresses = [];
        foreach (mapOutlets() as $uri) {
            foreach (
                [
                    [$this->map->layers[0]['id'], $this->secret, $this->hers],
                    ['lareas', $this->sectors, $this->around],
                    ['lcells', $this->secret, $this->hers],
                    ['lsums', $this->secret, $this->hers],
                    ['lshades', $this->secret, $this->hers],
                ] as [$part, $layer, $record]
            ) {
                if (str_ends_with($uri, '/view') || str_ends_with($uri, '/{token}')) {
                    $addresses[] = '/'.strtr($uri, ['{map}' => $this->map->id, '{token}' => $this->map->link_token]).
                        "?search=$this->search";
                }
                $query = str_ends_with($uri, '/table') ? '?sort=pups&pick='.$of($this->hers['record']) : '';
                $addresses[] = '/'.strtr($uri.$query, [
                    '{programme}' => $this->field->id,
                    '{layer}' => $layer->id,
                    '{map}' => $this->map->id,
                    '{token}' => $this->map->link_token,
                    '{part}' => $part,
                    '{record}' => $of($record['record']),
                    '{attachment}' => $of($this->photo['id']),
                    '{size}' => 'thumb',
                ]);
            }
        }

        return array_values(array_unique($addresses));
    };
    /** What a viewer is told by all outlets together. */
    $this->told = function (bool $link): string {
        $told = '';
        foreach (($this->addresses)($link) as $address) {
            $answers = str_ends_with($address, '/classes')
                ? [
                    $this->postJson($address, ['field' => 'pups', 'count' => 3]),
                    $this->postJson($address, ['of' => $this->of, 'count' => 3]),
                ]
                : (str_ends_with($address, '/together')
                    ? [$this->getJson("$address?a=pups&b=eyes")]
                    : [$this->getJson($address)]);
            foreach ($answers as $answer) {
                $told .= $address.' '.$answer->getStatusCode().' '.json_encode($answer->headers->all()).' '.
                    (str_starts_with((string) $answer->headers->get('Content-Type'), 'image/')
                        ? md5((string) $answer->getContent())
                        : ($answer->baseResponse instanceof Symfony\Component\HttpFoundation\StreamedResponse
                        ? 'PICTURE'
                        : $answer->getContent()))."\n";
            }
        }

        return $told;
    };
});

it('knows all outlets of maps', function (): void {
    expect(mapOutlets())->toBe([
        'api/v1/layers/{layer}/classes',
        'api/v1/layers/{layer}/together',
        'api/v1/maps/{map}',
        'api/v1/maps/{map}/addable',
        'api/v1/maps/{map}/advice',
        'api/v1/maps/{map}/layers/{part}/features.geojson',
        'api/v1/maps/{map}/layers/{part}/records/{record}',
        'api/v1/maps/{map}/picture.png',
        'api/v1/maps/{map}/reach',
        'api/v1/maps/{map}/table',
        'api/v1/maps/{map}/view',
        'api/v1/maps/{map}/wall',
        'api/v1/open/maps/{token}',
        'api/v1/open/maps/{token}/layers/{part}/features.geojson',
        'api/v1/open/maps/{token}/layers/{part}/records/{record}',
        'api/v1/open/maps/{token}/photos/{attachment}/{size}',
        'api/v1/open/maps/{token}/picture.png',
        'api/v1/open/maps/{token}/table',
        'api/v1/open/maps/{token}/wall',
        'api/v1/packs',
        'api/v1/programmes/{programme}/maps',
    ]);
});

it('tells a coordinator all of it, so that the walk would find it', function (): void {
    $this->actingAs($this->head);
    $told = ($this->told)(false);
    // The mean of both is told by the areas: features, legend, card, classes.
    expect(substr_count($told, '36597'))->toBeGreaterThan(3);
    foreach (['SECRET-7319', '73190', 'Dens', 'Pups', '7777'] as $word) {
        expect($told)->toContain($word);
    }
});

it('tells whoever holds the link nothing of a layer that is closed to the public', function (): void {
    app('auth')->forgetGuards();
    $told = ($this->told)(true);
    expect($told)->not->toContain('SECRET')
        ->not->toContain('7319')
        ->not->toContain('Dens')
        ->not->toContain('Pups')
        ->not->toContain('PICTURE')
        ->not->toContain('36597')
        ->not->toContain('7777')
        // The areas are told, and no records of the other layer.
        ->not->toContain('"total":2')
        ->toContain('have no colours');
});

it('tells a crew member who sees but their own nothing of another’s', function (): void {
    $this->actingAs($this->one);
    $told = ($this->told)(false);
    expect($told)->toContain('MINE')
        ->not->toContain('SECRET')
        ->not->toContain('7319')
        ->not->toContain('36597')
        // Not by a count either: of two records one is theirs.
        ->not->toContain('"total":2')
        ->not->toContain('"count":2')
        ->not->toContain('"pairs":2')
        ->not->toContain('PICTURE');
});

it('tells one who has left, and a stranger, nothing at all', function (string $who): void {
    $this->actingAs($who === 'left' ? $this->left : $this->person());
    $told = ($this->told)(false);
    expect($told)->not->toContain('SECRET')
        ->not->toContain('7319')
        ->not->toContain('MINE')
        ->not->toContain('36597')
        ->not->toContain('Dens')
        ->not->toContain('Pups')
        ->not->toContain('PICTURE');
})->with(['left', 'stranger']);
