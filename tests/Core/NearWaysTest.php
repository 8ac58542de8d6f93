<?php

declare(strict_types=1);

use PinYard\Geo\NearWays;
use PinYard\Geo\Spots;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** @param  list<array{float, float, float, float}>  $pairs  latitudes and longitudes */
function geodSolve(array $pairs): array
{
    $file = tempnam(sys_get_temp_dir(), 'geod');
    file_put_contents($file, implode("\n", array_map(
        static fn (array $p): string => sprintf('%.9F %.9F %.9F %.9F', ...$p),
        $pairs,
    ))."\n");
    $lines = explode("\n", trim((string) shell_exec('GeodSolve -i -p 6 < '.escapeshellarg($file))));
    unlink($file);

    return array_map(static fn (string $l): float => (float) explode(' ', $l)[2], $lines);
}

// Source: Karney 2013 by Debian's geographiclib-tools: the least of GeodSolve's distances to places along the piece.
it('measures from a place to a piece of a way as GeodSolve does', function (float $lat, float $lon): void {
    $dice = new Randomizer(new Mt19937(5));
    $north = 1 / 111_132;
    $east = $north / cos(deg2rad($lat));
    $most = 0.0;
    for ($n = 0; $n < 12; $n++) {
        $far = static fn (float $metres): float => $dice->getInt(-1000, 1000) / 1000 * $metres;
        $wrap = static fn (float $l): float => $l > 180 ? $l - 360 : ($l < -180 ? $l + 360 : $l);
        [$lon1, $lat1] = [$wrap($lon + $far(700) * $east), $lat + $far(700) * $north];
        $by = [$far(1500) * $east, $far(1500) * $north];
        $pairs = [];
        for ($i = 0; $i <= 2000; $i++) {
            $pairs[] = [$lat, $lon, $lat1 + $by[1] * $i / 2000, $wrap($lon1 + $by[0] * $i / 2000)];
        }
        $ours = NearWays::metres($lon, $lat, $lon1, $lat1, $wrap($lon1 + $by[0]), $lat1 + $by[1]);
        $most = max($most, abs($ours - min(geodSolve($pairs))));
    }
    // Half a metre: less than any trail is known.
    expect($most)->toBeLessThan(0.5);
})->with([[0.0, 10.0], [-14.5, -11.5], [45.0, 7.0], [60.0, 179.999], [80.0, -179.9995]]);

it('finds by its cells what a look at each piece finds', function (float $lat, float $lon, float $near): void {
    $dice = new Randomizer(new Mt19937(11));
    $north = 1 / 111_132;
    $east = $north / cos(deg2rad($lat));
    $far = static fn (float $metres): float => $dice->getInt(-1000, 1000) / 1000 * $metres;
    $ways = new NearWays($near);
    $pieces = [];
    for ($i = 0; $i < 60; $i++) {
        [$lon1, $lat1] = [$lon + $far(9000) * $east, $lat + $far(9000) * $north];
        $pieces[] = $piece = [$lon1, $lat1, $lon1 + $far(2500) * $east, $lat1 + $far(2500) * $north];
        $ways->add(...$piece);
    }
    $found = 0;
    for ($i = 0; $i < 1500; $i++) {
        [$x, $y] = [$lon + $far(10_000) * $east, $lat + $far(10_000) * $north];
        $is = min(array_map(static fn (array $p): float => NearWays::metres($x, $y, ...$p), $pieces)) <= $near;
        expect($ways->isNear($x, $y))->toBe($is, "$x $y");
        $found += $is ? 1 : 0;
    }
    expect($found)->toBeGreaterThan(0);
})->with([[0.0, 10.0, 50.0], [45.0, 7.0, 500.0], [60.0, 179.99, 100.0], [-80.0, -179.99, 300.0], [70.0, 0.0, 5.0]]);

it('spreads places over areas with holes, of several parts, over the antimeridian, and along lines', function (): void {
    $square = static fn (float $w, float $s, float $d): array => [
        [$w, $s], [$w + $d, $s], [$w + $d, $s + $d], [$w, $s + $d], [$w, $s],
    ];
    $spots = Spots::inArea([$square(10, 0, 0.01), $square(10.002, 0.002, 0.005)], 900);
    expect(count($spots))->toBeGreaterThan(450)->toBeLessThan(3600);
    foreach ($spots as [$lon, $lat]) {
        $inHole = $lon > 10.002 && $lon < 10.007 && $lat > 0.002 && $lat < 0.007;
        expect($inHole)->toBeFalse();
    }
    // A part that is far smaller has its share of the places.
    $two = Spots::inArea([$square(10, 0, 0.01), $square(10.02, 0, 0.005)], 900);
    $small = count(array_filter($two, static fn (array $p): bool => $p[0] > 10.015));
    expect($small / count($two))->toEqualWithDelta(0.2, 0.02);
    $over = Spots::inArea([[[179.99, 0], [-179.99, 0], [-179.99, 0.02], [179.99, 0.02], [179.99, 0]]], 400);
    expect(count($over))->toBeGreaterThan(200);
    // Thin, and of nothing at all.
    expect(Spots::inArea([[[10, 0], [10.1, 0.1], [10.1, 0.10001], [10, 0.00001], [10, 0]]], 100))->not->toBe([])
        ->and(Spots::inArea([], 100))->toBe([])
        ->and(Spots::alongLines([[[10, 0], [10, 0]]], 10))->toHaveCount(1)
        ->and(Spots::alongLines([[[10, 0], [10.01, 0]], [[11, 0], [11.01, 0]]], 100))->toHaveCount(100);
});
