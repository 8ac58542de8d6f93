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
    $this->map = $this->mapOf($this->secret, [
        'look' => [
            'kind' => 'classes',
            'field' => 'pups',
            'breaks' => [10],
            'size' => ['field' => 'eyes', 'most' => 9],
        ],
        'card' => ['fields' => ['code', 'pups', 'eyes'], 'photos' => true],
        'label' => ['parts' => [['field' => 'code'], ['text' => ': '], ['field' => 'pups']]],
    ], Audience::Link, 'Open map');
    $this->addresses = function (bool $link): array {
        $part = $this->map->layers[0]['id'];
        $of = fn (string $id): string => $link ? $this->behindLink($this->map, $id) : $id;

        return array_map(
            fn (string $uri): string => '/'.strtr($uri, [
                '{programme}' => $this->field->id,
                '{layer}' => $this->secret->id,
                '{map}' => $this->map->id,
                '{token}' => $this->map->link_token,
                '{part}' => $part,
                '{record}' => $of($this->hers['record']),
                '{attachment}' => $of($this->photo['id']),
                '{size}' => 'thumb',
            ]),
            mapOutlets(),
        );
    };
    /** What a viewer is told by all outlets together. */
    $this->told = function (bool $link): string {
        $told = '';
        foreach (($this->addresses)($link) as $address) {
            $answers = str_ends_with($address, '/classes')
                ? [$this->postJson($address, ['field' => 'pups', 'count' => 3])]
                : (str_ends_with($address, '/together')
                    ? [$this->getJson("$address?a=pups&b=eyes")]
                    : [$this->getJson($address)]);
            foreach ($answers as $answer) {
                $told .= $address.' '.$answer->getStatusCode().' '.json_encode($answer->headers->all()).' '.
                    ($answer->baseResponse instanceof Symfony\Component\HttpFoundation\StreamedResponse
                        ? 'PICTURE'
                        : $answer->getContent())."\n";
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
        'api/v1/maps/{map}/view',
        'api/v1/open/maps/{token}',
        'api/v1/open/maps/{token}/layers/{part}/features.geojson',
        'api/v1/open/maps/{token}/layers/{part}/records/{record}',
        'api/v1/open/maps/{token}/photos/{attachment}/{size}',
        'api/v1/packs',
        'api/v1/programmes/{programme}/maps',
    ]);
});

it('tells a coordinator all of it, so that the walk would find it', function (): void {
    $this->actingAs($this->head);
    $told = ($this->told)(false);
    foreach (['SECRET-7319', '73190', 'Dens', 'Pups'] as $word) {
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
        ->not->toContain('"total":');
});

it('tells a crew member who sees but their own nothing of another’s', function (): void {
    $this->actingAs($this->one);
    $told = ($this->told)(false);
    expect($told)->toContain('MINE')
        ->not->toContain('SECRET')
        ->not->toContain('7319')
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
        ->not->toContain('Dens')
        ->not->toContain('Pups')
        ->not->toContain('PICTURE');
})->with(['left', 'stranger']);
