<?php

declare(strict_types=1);

use PinYard\Audience\Blur;
use PinYard\Audience\CellOutline;
use PinYard\Audience\PlaceInArea;
use PinYard\Audience\TouchedCells;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\PointInArea;
use PinYard\Geo\SelfCrossing;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use PinYard\Geo\ZOrder;
use Random\Engine\Mt19937;
use Random\Randomizer;

/* What is told of a line or an area where its place is blurred: the cells that it touches, and nothing within them. */

beforeEach(function (): void {
    $this->blur = Blur::of(500);
    $this->float = static function (Randomizer $random, float $from, float $to): float {
        return $from + ($to - $from) * ($random->getInt(0, 2 ** 31) / 2 ** 31);
    };
    /** Whether a place lies in one of some quarters. */
    $this->isIn = static function (array $cells, float $lon, float $lat): bool {
        [$x, $y] = ZOrder::steps($lon, $lat);
        foreach ($cells as [$west, $north, $bits]) {
            if ($x >> $bits === $west >> $bits && $y >> $bits === $north >> $bits) {
                return true;
            }
        }

        return false;
    };
    /** All cells on their own, as those that are whole make up larger ones. */
    $this->single = function (array $cells): array {
        $single = [];
        foreach ($cells as [$x, $y, $bits]) {
            $of = min($bits, $this->blur->bitsAt($y));
            for ($atX = $x; $atX < $x + (1 << $bits); $atX += 1 << $of) {
                for ($atY = $y; $atY < $y + (1 << $bits); $atY += 1 << $of) {
                    $single["$atX $atY $of"] = [$atX, $atY, $of];
                }
            }
        }

        return $single;
    };
    $this->ring = function (float $lon, float $lat, float $wide, Randomizer $random, int $corners = 24): array {
        $ring = [];
        for ($i = 0; $i < $corners; $i++) {
            $far = $wide * (0.4 + 0.6 * ($this->float)($random, 0, 1));
            $at = $i / $corners * 2 * M_PI;
            $ring[] = [fmod($lon + $far * cos($at) + 540, 360) - 180, $lat + $far * sin($at) * 0.8];
        }

        return [...$ring, $ring[0]];
    };
});

it('are those that a line passes, and no others', function (float $lon, float $lat): void {
    $random = new Randomizer(new Mt19937(11));
    for ($n = 0; $n < 6; $n++) {
        $line = [];
        for ($i = 0; $i < 9; $i++) {
            $line[] = [
                fmod($lon + 0.004 * $i + ($this->float)($random, 0, 0.01) + 540, 360) - 180,
                $lat + ($this->float)($random, -0.01, 0.01),
            ];
        }
        $cells = TouchedCells::of(Shape::of(GeometryKind::Line, [$line]), $this->blur);
        // By walking along it in steps that are short beside a cell.
        $walked = [];
        for ($i = 1; $i < count($line); $i++) {
            $by = fmod($line[$i][0] - $line[$i - 1][0] + 540, 360) - 180;
            for ($step = 0; $step <= 2_000; $step++) {
                $at = [
                    fmod($line[$i - 1][0] + $by * $step / 2_000 + 540, 360) - 180,
                    $line[$i - 1][1] + ($line[$i][1] - $line[$i - 1][1]) * $step / 2_000,
                ];
                [$x, $y] = ZOrder::steps(...$at);
                $bits = $this->blur->bitsAt($y);
                $x = $x >> $bits << $bits;
                $y = $y >> $bits << $bits;
                $walked["$x $y $bits"] = true;
            }
        }
        $told = ($this->single)($cells);
        // A corner that is cut by less than a step is the only one that may be walked over.
        expect(array_diff_key($walked, $told))->toBe([])
            ->and(count($told) - count($walked))->toBeLessThanOrEqual(2);
    }
})->with(['in the tropics' => [-11.5, -14.5], 'over the antimeridian' => [179.985, 60.2], 'far north' => [20.0, 80.1]]);

it('are those in which some of an area lies', function (float $lon, float $lat): void {
    $random = new Randomizer(new Mt19937(12));
    for ($n = 0; $n < 6; $n++) {
        $ring = ($this->ring)($lon, $lat, 0.05, $random);
        $hole = array_reverse(array_map(static fn (array $at): array => [
            fmod($lon + (fmod($at[0] - $lon + 540, 360) - 180) * 0.4 + 540, 360) - 180, $lat + ($at[1] - $lat) * 0.4,
        ], $ring));
        $cells = TouchedCells::of(Shape::of(GeometryKind::Area, [$ring, $hole]), $this->blur);
        $outside = 0;
        for ($i = 0; $i < 2_000; $i++) {
            $at = [
                fmod($lon + ($this->float)($random, -0.06, 0.06) + 540, 360) - 180,
                $lat + ($this->float)($random, -0.05, 0.05),
            ];
            if (PointInArea::of([$ring, $hole], ...$at)) {
                expect(($this->isIn)($cells, ...$at))->toBeTrue();
            } elseif (! ($this->isIn)($cells, ...$at)) {
                $outside++;
            }
        }
        // The hole is larger than cells, and so is what is around.
        expect($outside)->toBeGreaterThan(500);
        foreach ($cells as [$x, $y, $bits]) {
            [$west, $south, $east, $north] = ZOrder::bounds($x, $y, $bits);
            // No cell without any of it: a corner of the area in the cell, a place in the cell in the area, or an edge
            // that goes through.
            $touches = false;
            foreach ([$ring, $hole] as $one) {
                for ($i = 1; $i < count($one) && ! $touches; $i++) {
                    $by = fmod($one[$i][0] - $one[$i - 1][0] + 540, 360) - 180;
                    for ($step = 0; $step <= 300 && ! $touches; $step++) {
                        $l = fmod($one[$i - 1][0] + $by * $step / 300 + 540, 360) - 180;
                        $p = $one[$i - 1][1] + ($one[$i][1] - $one[$i - 1][1]) * $step / 300;
                        $touches = $l >= $west - 1e-4 && $l <= $east + 1e-4
                            && $p >= $south - 1e-4 && $p <= $north + 1e-4;
                    }
                }
            }
            $middle = [($west + $east) / 2, ($south + $north) / 2];
            expect($touches || PointInArea::of([$ring, $hole], ...$middle))->toBeTrue();
        }
    }
})->with([
    'in the tropics' => [-11.5, -14.5], 'over the antimeridian' => [-179.99, 45.0], 'far south' => [0.01, -70.0],
]);

it('are the same list wherever in the same cells an area ends', function (): void {
    // A square over five by five cells, its sides moved within the outer ones.
    [$x, $y] = ZOrder::steps(-11.5, -14.5);
    $bits = $this->blur->bitsAt($y);
    [$x, $y] = [$x >> $bits << $bits, $y >> $bits << $bits];
    [$west, , , $north] = ZOrder::bounds($x, $y, $bits);
    [, $south, $east] = ZOrder::bounds($x + (4 << $bits), $y + (4 << $bits), $bits);
    $cell = ($east - $west) / 5;
    $square = static fn (float $in): Shape => Shape::of(GeometryKind::Area, [[
        [$west + $in, $south + $in], [$east - $in, $south + $in], [$east - $in, $north - $in],
        [$west + $in, $north - $in], [$west + $in, $south + $in],
    ]]);
    $told = TouchedCells::of($square($cell * 0.05), $this->blur);
    expect(TouchedCells::of($square($cell * 0.9), $this->blur))->toBe($told)
        ->and(($this->single)($told))->toHaveCount(25)
        ->and(CellOutline::of($told))->toHaveCount(1)
        ->and(CellOutline::of($told)[0])->toHaveCount(1)
        // One square, whatever it was made of.
        ->and(CellOutline::of($told)[0][0])->toHaveCount(5);
});

it('are the same list with and without a hole that leaves some of each cell', function (): void {
    $around = static fn (float $lon, float $lat, float $of): array => [
        [$lon - $of, $lat - $of], [$lon + $of, $lat - $of], [$lon + $of, $lat + $of], [$lon - $of, $lat + $of],
        [$lon - $of, $lat - $of],
    ];
    $whole = [$around(-11.5, -14.5, 0.04)];
    $told = TouchedCells::of(Shape::of(GeometryKind::Area, $whole), $this->blur);
    $holed = Shape::of(GeometryKind::Area, [...$whole, array_reverse($around(-11.5021, -14.5013, 0.0004))]);
    expect(TouchedCells::of($holed, $this->blur))->toBe($told)
        ->and(max(array_column($told, 2)))->toBeGreaterThan(min(array_column($told, 2)) + 1);
});

it('is one cell for what is smaller than a cell, though it lies over a corner of four', function (): void {
    [$west, $south] = $this->blur->cellOf(-11.5, -14.5);
    $around = static fn (float $of): Shape => Shape::of(GeometryKind::Area, [[
        [$west - $of, $south - $of * 0.9], [$west + $of * 1.1, $south - $of], [$west + $of, $south + $of * 1.1],
        [$west - $of, $south + $of], [$west - $of, $south - $of * 0.9],
    ]]);
    $told = TouchedCells::of($around(0.0001), $this->blur);
    $place = $around(0.0001)->place;
    expect($told)->toHaveCount(1)
        ->and(($this->isIn)($told, $place->lon, $place->lat))->toBeTrue()
        ->and(count(($this->single)(TouchedCells::of($around(0.006), $this->blur))))->toBeGreaterThan(3)
        ->and(TouchedCells::of(Shape::point($place), $this->blur))->toBe($told);
});

it('takes larger cells where there would be very many', function (): void {
    $far = Shape::of(GeometryKind::Line, [[[-60.0, -30.0], [60.0, 50.0]]]);
    $cells = TouchedCells::of($far, Blur::of(10));
    expect(count($cells))->toBeLessThan(4 * TouchedCells::ACROSS)->toBeGreaterThan(TouchedCells::ACROSS / 2);
    foreach ([[-60.0, -30.0], [0.0, 10.0], [60.0, 50.0]] as $at) {
        expect(($this->isIn)($cells, ...$at))->toBeTrue();
    }
});

it('goes to the ends of the Mercator square, and takes what lies beyond into its last cells', function (): void {
    $polar = Shape::of(GeometryKind::Area, [[[-30, 84.9], [30, 84.9], [30, 88], [-30, 88], [-30, 84.9]]]);
    $cells = TouchedCells::of($polar, Blur::of(100_000));
    expect($cells)->not->toBe([]);
    foreach (CellOutline::of($cells) as $polygon) {
        foreach ($polygon[0] as [, $lat]) {
            expect($lat)->toBeLessThan(85.06);
        }
    }
    $ends = Shape::of(GeometryKind::Line, [[[-179.999, 89.9], [179.999, 89.9]]]);
    expect(TouchedCells::of($ends, Blur::of(500_000)))->not->toBe([]);
});

it('has an outline without what is shared, that encloses them and no more', function (): void {
    $random = new Randomizer(new Mt19937(13));
    for ($n = 0; $n < 60; $n++) {
        // Some of eight by eight cells, so that there are holes, holes that meet at corners, and islands in holes.
        $cells = [];
        for ($i = 0; $i < 64; $i++) {
            if ($random->getInt(0, 99) < 30 + $n) {
                $cells[] = [(900 + $i % 8) << 20, (1_100 + intdiv($i, 8)) << 20, 20];
            }
        }
        $outline = CellOutline::of($cells);
        $rings = array_merge([], ...$outline);
        foreach ($rings as $ring) {
            expect($ring[0])->toBe($ring[count($ring) - 1])
                ->and(SelfCrossing::in(array_slice($ring, 0, -1)))->toBeNull()
                // No corner twice: a ring that touches itself is none.
                ->and(count(array_unique(array_map(json_encode(...), $ring))))->toBe(count($ring) - 1);
        }
        for ($i = 0; $i < 64; $i++) {
            $cell = [(900 + $i % 8) << 20, (1_100 + intdiv($i, 8)) << 20, 20];
            [$west, $south, $east, $north] = ZOrder::bounds(...$cell);
            $in = array_filter($outline, static fn (array $polygon): bool => PointInArea::of(
                $polygon,
                ($west + $east) / 2,
                ($south + $north) / 2,
            ));
            expect(count($in))->toBe(in_array($cell, $cells, true) ? 1 : 0);
        }
        if ($cells !== []) {
            $shape = Wkb::fromColumn(Wkb::ofPolygons($outline));
            // Outer rings against the clock and holes with it (RFC 7946): read again nothing is turned.
            expect($shape?->polygons())->toBe($outline);
        }
    }
});

it('draws a place in an area, the same for the same text and spread over it', function (): void {
    $random = new Randomizer(new Mt19937(14));
    foreach ([[-11.5, -14.5], [179.98, 10.0]] as [$lon, $lat]) {
        $ring = ($this->ring)($lon, $lat, 0.05, $random);
        $east = 0;
        for ($i = 0; $i < 400; $i++) {
            $at = PlaceInArea::of([$ring])->drawn("key $i");
            expect($at)->not->toBeNull()->and(PointInArea::of([$ring], $at->lon, $at->lat))->toBeTrue();
            $east += fmod($at->lon - $lon + 540, 360) - 180 > 0 ? 1 : 0;
        }
        expect($east)->toBeGreaterThan(100)->toBeLessThan(300)
            ->and(PlaceInArea::of([$ring])->drawn('key 5'))->toEqual(PlaceInArea::of([$ring])->drawn('key 5'));
    }
    expect(PlaceInArea::of([])->drawn('key'))->toBeNull()
        ->and(PlaceInArea::of([[[1.0, 1.0], [1.0, 2.0], [1.0, 1.0]]])->drawn('key'))->toBeNull();
});
