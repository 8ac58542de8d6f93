<?php

declare(strict_types=1);

use App\Models\Audience;
use App\Models\Map;

/* Small pictures of maps: what they show is read back from their pixels. */

beforeEach(function (): void {
    $this->head = $this->person();
    $this->field = $this->programme($this->head);
    $this->nests = $this->layer($this->field);
    $this->put = function (array ...$places): void {
        $this->sync($this->head, array_map(
            fn (array $place): array => $this->add($this->nests, [
                'values' => ['code' => 'X', 'species' => 'CC'],
                'geometry' => ['type' => 'Point', 'coordinates' => $place],
            ]),
            $places,
        ));
        $this->actingAs($this->head);
    };
    $this->red = ['look' => ['kind' => 'single', 'peg' => ['head' => 'disc', 'colour' => '#FF0000']]];
    $this->actingAs($this->head);
    $this->of = function (Map $map): GdImage {
        $answer = $this->get("/api/v1/maps/$map->id/picture.png")
            ->assertOk()
            ->assertHeader('Content-Type', 'image/png');

        return imagecreatefromstring((string) $answer->getContent());
    };
    /** Pixels that are red, as [x, y]. */
    $this->reds = function (GdImage $image): array {
        $found = [];
        for ($x = 0; $x < imagesx($image); $x++) {
            for ($y = 0; $y < imagesy($image); $y++) {
                $colour = imagecolorat($image, $x, $y);
                if (($colour >> 16 & 255) > 230 && ($colour >> 8 & 255) < 40 && ($colour & 255) < 40) {
                    $found[] = [$x, $y];
                }
            }
        }

        return $found;
    };
});

it('shows records where they lie in what is seen when the map opens', function (): void {
    ($this->put)([-11.65, -14.2]);
    $map = $this->mapOf($this->nests, $this->red);
    $map->update(['extent' => [-11.7, -14.25, -11.6, -14.15]]);
    $image = ($this->of)($map);
    $reds = ($this->reds)($image);
    expect([imagesx($image), imagesy($image)])->toBe([480, 270])
        ->and(count($reds))->toBeGreaterThan(20)
        ->and(array_sum(array_column($reds, 0)) / count($reds))->toEqualWithDelta(240, 2)
        ->and(array_sum(array_column($reds, 1)) / count($reds))->toEqualWithDelta(135, 2);
    // Elsewhere it is not seen.
    $map->update(['extent' => [20, 40, 21, 41]]);
    expect(($this->reds)(($this->of)($map)))->toBe([]);
});

it('leaves out what is drawn only from nearer or farther than the map opens', function (): void {
    ($this->put)([-11.65, -14.2]);
    $reds = function (array $zoom): array {
        $map = $this->mapOf($this->nests, $this->red + ['zoom' => $zoom]);
        // A tenth of a degree on some 900 pixels is about zoom 12.6.
        $map->update(['extent' => [-11.7, -14.25, -11.6, -14.15]]);

        return ($this->reds)(($this->of)($map));
    };
    expect($reds([13, 22]))->toBe([])
        ->and($reds([0, 12]))->toBe([])
        ->and($reds([12, 13]))->not->toBe([])
        ->and($reds([0, 22]))->not->toBe([]);
});

it('knows no edge at the antimeridian', function (): void {
    ($this->put)([179.99, -16.5], [-179.99, -16.5]);
    $map = $this->mapOf($this->nests, $this->red);
    $map->update(['extent' => [179.95, -16.52, -179.95, -16.48]]);
    $columns = array_unique(array_column(($this->reds)(($this->of)($map)), 0));
    // One on either side of the middle.
    expect(min($columns))->toBeLessThan(240)->and(max($columns))->toBeGreaterThan(240);
});

/* Source of the places: common knowledge of the world, from memory. */
it('shows land where there is land, in a part of the world and in all of it', function (
    float $lon,
    float $lat,
    bool $isLand,
): void {
    $map = $this->mapOf($this->nests, $this->red);
    $colourAt = static fn (GdImage $image, float $x, float $y): string => sprintf(
        '#%06X',
        imagecolorat($image, (int) round($x), (int) round($y)),
    );
    $wanted = $isLand ? '#EDE6D2' : '#CFDDDD';
    $map->update(['extent' => [$lon - 2, $lat - 1, $lon > 178 ? $lon - 358 : $lon + 2, $lat + 1]]);
    expect($colourAt(($this->of)($map), 240, 135))->toBe($wanted);
    // All of it, 480 pixels from -180 to 180.
    $map->update(['extent' => [-180, -20, 180, 20]]);
    $y = 135 - asinh(tan(deg2rad($lat))) / M_PI * 240;
    if ($y > 2 && $y < 268) {
        expect($colourAt(($this->of)($map), ($lon + 180) / 360 * 480, $y))->toBe($wanted);
    }
})->with([
    'the middle of Spain' => [-4.5, 39.5, true],
    'inland of Dakar' => [-14.5, 14.6, true],
    'Mali' => [-3.5, 18.5, true],
    'the Congo' => [23.5, -3.5, true],
    'Kazakhstan' => [67.5, 48.0, true],
    'the middle of Siberia' => [105.0, 62.0, true],
    'Chukotka, beyond 180' => [-175.5, 66.6, true],
    'Brazil' => [-52.5, -10.0, true],
    'the middle of Australia' => [134.0, -24.5, true],
    'inland of Antarctica' => [90.0, -78.0, true],
    'the Ross Sea' => [-170.0, -74.0, false],
    'the middle of the Atlantic' => [-35.0, 25.0, false],
    'the middle of the Pacific' => [-140.0, -25.0, false],
    'beside the antimeridian' => [179.5, 5.0, false],
]);

it('shows nothing of a layer that the viewer may not see, and is another one when a record comes', function (): void {
    $closed = $this->layer($this->field, ['title' => 'Dens', 'rights' => ['public' => ['see' => false]]]);
    $this->sync($this->head, [$this->add($closed, [
        'values' => ['code' => 'D', 'species' => 'CC'],
        'geometry' => ['type' => 'Point', 'coordinates' => [-11.65, -14.2]],
    ])]);
    $this->actingAs($this->head);
    $map = $this->mapOf($closed, $this->red, Audience::Link);
    $map->update(['extent' => [-11.7, -14.25, -11.6, -14.15]]);
    expect(($this->reds)(($this->of)($map)))->not->toBe([]);
    $tag = $this->get("/api/v1/maps/$map->id/picture.png")->headers->get('ETag');
    expect($this->get("/api/v1/maps/$map->id/picture.png", ['If-None-Match' => $tag])->status())->toBe(304);
    $open = fn () => $this->get("/api/v1/open/maps/$map->link_token/picture.png")->assertOk();
    expect(($this->reds)(imagecreatefromstring((string) $open()->getContent())))->toBe([]);
    // Nor by a tag that changes with what is closed.
    $before = $open()->headers->get('ETag');
    $this->sync($this->head, [$this->add($closed, [
        'values' => ['code' => 'E', 'species' => 'CC'],
        'geometry' => ['type' => 'Point', 'coordinates' => [-11.66, -14.21]],
    ])]);
    expect($open()->headers->get('ETag'))->toBe($before);
    $this->actingAs($this->head);
    expect($this->get("/api/v1/maps/$map->id/picture.png")->headers->get('ETag'))->not->toBe($tag);
});

it('draws lines, areas with holes, cells, and a map of nothing', function (
    array $look,
    string $geometry,
    array $coordinates,
): void {
    $layer = $this->layer($this->field, ['title' => 'Shapes', 'geometry' => $geometry]);
    $this->sync($this->head, [$this->add($layer, [
        'values' => ['code' => 'S', 'species' => 'CC'],
        'geometry' => ['type' => ['point' => 'Point', 'line' => 'LineString', 'area' => 'Polygon'][$geometry],
            'coordinates' => $coordinates],
        'fix' => null,
    ])]);
    $this->actingAs($this->head);
    $map = $this->mapOf($layer, ['look' => $look]);
    $map->update(['extent' => [-11.7, -14.25, -11.6, -14.15]]);
    $drawn = (string) $this->get("/api/v1/maps/$map->id/picture.png")->assertOk()->getContent();
    $map->update(['layers' => []]);
    $empty = (string) $this->get("/api/v1/maps/$map->id/picture.png")->assertOk()->getContent();
    expect($drawn)->not->toBe($empty);
})->with([
    'a line' => [['kind' => 'single'], 'line', [[-11.69, -14.2], [-11.61, -14.21]]],
    'an area with a hole' => [['kind' => 'single'], 'area', [
        [[-11.69, -14.24], [-11.61, -14.24], [-11.61, -14.16], [-11.69, -14.16], [-11.69, -14.24]],
        [[-11.66, -14.21], [-11.66, -14.19], [-11.64, -14.19], [-11.64, -14.21], [-11.66, -14.21]],
    ]],
    'a cell' => [['kind' => 'density', 'bits' => 16, 'breaks' => []], 'point', [-11.65, -14.2]],
]);
