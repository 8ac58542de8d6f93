<?php

declare(strict_types=1);

use PinYard\Geo\Box;
use PinYard\Geo\Position;
use PinYard\Geo\ZOrder;
use Random\Engine\Mt19937;
use Random\Randomizer;

describe('a position', function (): void {
    it('is taken within the world and refused outside', function (mixed $lon, mixed $lat, array $codes): void {
        expect(refusals(fn () => Position::of($lon, $lat)))->toBe($codes);
    })->with([
        [0, 0, []],
        [180, 90, []],
        [-180.0, -90.0, []],
        [180.0001, 0, ['position_outside_world']],
        [0, 90.5, ['position_outside_world']],
        [-14.2, -111.6, ['position_outside_world']],
        ['12', 4, ['position_no_numbers']],
        [null, 4, ['position_no_numbers']],
        [NAN, 4, ['position_no_numbers']],
        [INF, 0, ['position_no_numbers']],
    ]);

    // Source: RFC 7946, section 3.1.1 (longitude first) and 3.1.2.
    it('is read from a GeoJSON point, longitude first', function (): void {
        $p = Position::fromGeoJson(['type' => 'Point', 'coordinates' => [-11.6, -14.2, 3.0]]);
        expect([$p->lon, $p->lat])
            ->toBe([-11.6, -14.2])
            ->and(refusals(fn () => Position::fromGeoJson(['type' => 'LineString', 'coordinates' => [[0, 0], [1, 1]]])))
            ->toBe(['position_no_point'])
            ->and(refusals(fn () => Position::fromGeoJson('POINT (1 2)')))
            ->toBe(['position_no_point']);
    });
});

describe('a box', function (): void {
    it('is refused where it is none', function (array $sides, array $codes): void {
        expect(refusals(fn () => Box::of(...$sides)))->toBe($codes);
    })->with([
        [[-1, -1, 1, 1], []],
        [[170, -10, -170, 10], []],
        [[0, 5, 1, 5], ['box_empty']],
        [[0, 5, 1, 4], ['box_empty']],
        [[1, 0, 1, 2], ['box_empty']],
        [[-181, 0, 1, 1], ['box_outside_world']],
        [['a', 0, 1, 1], ['box_no_numbers']],
        [[[], 0, 1, 1], ['box_no_numbers']],
    ]);

    // Source: RFC 7946, section 5.2: west greater than east means that the box crosses the antimeridian.
    it('has two parts where it crosses the antimeridian', function (): void {
        $box = Box::of(170, -10, -170, 10);
        expect(array_map(fn (Box $b): array => $b->toArray(), $box->parts()))
            ->toBe([[170.0, -10.0, 180.0, 10.0], [-180.0, -10.0, -170.0, 10.0]])
            ->and($box->contains(Position::of(175, 0)))
            ->toBeTrue()
            ->and($box->contains(Position::of(-175, 0)))
            ->toBeTrue()
            ->and($box->contains(Position::of(0, 0)))
            ->toBeFalse();
    });
});

describe('the Z-order number', function (): void {
    // Source: Morton 1966; bits of x and y in turn, x lowest. The world's four quarters must come in the order Z.
    it('puts the quarters of the world in the order of a Z', function (): void {
        $quarter = fn (float $lon, float $lat): int => ZOrder::of(Position::of($lon, $lat)) >> 60;
        expect([$quarter(-90, 45), $quarter(90, 45), $quarter(-90, -45), $quarter(90, -45)])->toBe([0, 1, 2, 3]);
    });

    // The second opinion is text: bits written out and zipped, nothing of the number's own code.
    it('is the interleaving of Web Mercator bits', function (float $lon, float $lat): void {
        $bits = ZOrder::BITS;
        $x = (int) floor((($lon + 180) / 360) * 2 ** $bits);
        $y = (int) floor((0.5 - log(tan(M_PI / 4 + deg2rad($lat) / 2)) / (2 * M_PI)) * 2 ** $bits);
        $zipped = '';
        foreach (str_split(str_pad(decbin($y), $bits, '0', STR_PAD_LEFT)) as $i => $bit) {
            $zipped .= $bit.str_pad(decbin($x), $bits, '0', STR_PAD_LEFT)[$i];
        }
        // The two ways of Mercator may differ in the last bit of y.
        expect(ZOrder::of(Position::of($lon, $lat)) >> 4)->toBe(bindec($zipped) >> 4);
    })->with([[-11.6141, -14.2083], [0.1, 0.1], [179.999, 84.9], [-179.5, -84.5], [13.37, 52.52]]);

    it('finds every point of a box in the box\'s ranges', function (): void {
        $dice = new Randomizer(new Mt19937(41));
        $number = fn (float $a, float $b): float => $a + (($b - $a) * $dice->getInt(0, 1_000_000)) / 1_000_000;
        for ($n = 0; $n < 400; $n++) {
            $w = $number(-180, 179);
            $s = $number(-89, 88);
            $box = Box::of($w, $s, min(180, $w + $number(0.001, 20)), min(90, $s + $number(0.001, 20)));
            $ranges = ZOrder::ranges($box);
            expect(count($ranges))->toBeLessThanOrEqual(24);
            foreach (range(1, 20) as $_) {
                $z = ZOrder::of(Position::of($number($box->west, $box->east), $number($box->south, $box->north)));
                expect(array_filter($ranges, fn (array $r): bool => $z >= $r[0] && $z <= $r[1]))->not->toBeEmpty();
            }
        }
    });

    it('keeps ranges in order and apart, also across the antimeridian', function (): void {
        $ranges = ZOrder::ranges(Box::of(179.9, -1, -179.9, 1));
        foreach (array_slice($ranges, 1) as $i => $range) {
            expect($range[0])->toBeGreaterThan($ranges[$i][1] + 1);
        }
        foreach ([[179.95, 0.5], [-179.95, -0.5]] as [$lon, $lat]) {
            $z = ZOrder::of(Position::of($lon, $lat));
            expect(array_filter($ranges, fn (array $r): bool => $z >= $r[0] && $z <= $r[1]))->not->toBeEmpty();
        }
    });
});
