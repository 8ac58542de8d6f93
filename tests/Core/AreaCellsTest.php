<?php

declare(strict_types=1);

use PinYard\Geo\AreaCells;
use PinYard\Geo\PackedCells;
use PinYard\Geo\PointInArea;
use PinYard\Geo\Position;
use PinYard\Geo\ZOrder;

/** A star with many corners, so that its border runs through many quarters. */
function star(float $lon, float $lat, float $size, int $corners, int $seed): array
{
    mt_srand($seed);
    $ring = [];
    for ($i = 0; $i < $corners; $i++) {
        $r = $size * (0.5 + mt_rand() / mt_getrandmax());
        $ring[] = [$lon + $r * cos((2 * M_PI * $i) / $corners), $lat + $r * sin((2 * M_PI * $i) / $corners)];
    }

    return [...$ring, $ring[0]];
}

it('finds what going through all areas one by one finds', function (
    array $areas,
    float $west,
    float $south,
    float $east,
    float $north,
): void {
    mt_srand(7);
    $places = [];
    for ($i = 0; $i < 4_000; $i++) {
        $lon = $west + (mt_rand() / mt_getrandmax()) * ($east - $west);
        $lat = $south + (mt_rand() / mt_getrandmax()) * ($north - $south);
        $lon = $lon > 180 ? $lon - 360 : $lon;
        $places[] = [ZOrder::of(Position::of($lon, $lat)), $lon, $lat];
    }
    sort($places);
    $cells = new AreaCells($areas);
    [$index, $body] = PackedCells::pack($cells);
    $packed = PackedCells::of($index, static fn (int $at, int $bytes): string => substr($body, $at, $bytes));
    $found = $wanted = $all = $wantedOfAll = [];
    foreach ($places as [$z, $lon, $lat]) {
        $found[] = $cells->at($z, $lon, $lat);
        $in = array_keys(array_filter($areas, static fn (array $rings): bool => PointInArea::of($rings, $lon, $lat)));
        $wanted[] = $in[0] ?? null;
        $these = $packed?->at($z, $lon, $lat) ?? [];
        sort($these);
        $all[] = $these;
        $wantedOfAll[] = $in;
    }
    expect($found)->toBe($wanted)
        ->and(count(array_filter($found, 'is_int')))->toBeGreaterThan(400)
        ->and($all)->toBe($wantedOfAll);
})->with([
    'one area with a hole' => [
        [[star(10, 50, 1, 200, 1), array_reverse(star(10, 50, 0.3, 40, 2))]],
        8.5,
        48.5,
        11.5,
        51.5,
    ],
    'several, some over each other, the first before the others' => [
        [[star(10, 50, 0.5, 100, 3)], [star(10.4, 50.2, 0.8, 300, 4)], [star(9, 49, 0.9, 1_000, 5)]],
        8,
        48,
        12,
        52,
    ],
    'of two parts' => [[[star(10, 50, 0.5, 60, 6), star(11.8, 50, 0.5, 60, 7)]], 9, 49, 13, 51],
    'over the antimeridian' => [
        [
            [
                array_map(
                    static fn (array $p): array => [$p[0] > 180 ? $p[0] - 360 : $p[0], $p[1]],
                    star(180, -17, 1, 150, 8),
                ),
            ],
        ],
        178.5,
        -18.5,
        181.5,
        -15.5,
    ],
    'over the equator and the first meridian' => [[[star(0, 0, 2, 500, 9)]], -3, -3, 3, 3],
]);

it('packs no areas, and reads no index that was cut', function (): void {
    $read = static fn (): string => '';
    [$none] = PackedCells::pack(new AreaCells([]));
    expect(PackedCells::of($none, $read)?->at(ZOrder::of(Position::of(10, 50)), 10, 50))->toBe([]);
    [$index] = PackedCells::pack(new AreaCells([[star(10, 50, 1, 200, 1)]]));
    expect(PackedCells::of($index, $read))->not->toBeNull();
    foreach ([0, 3, 4, 11, 12, 40, intdiv(strlen($index), 2), strlen($index) - 1] as $long) {
        expect(PackedCells::of(substr($index, 0, $long), $read))->toBeNull();
    }
    expect(PackedCells::of("$index ", $read))->toBeNull();
});
