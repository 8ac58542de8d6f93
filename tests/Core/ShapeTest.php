<?php

declare(strict_types=1);

use PinYard\Geo\Geodesic;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use Random\Engine\Mt19937;
use Random\Randomizer;

/** What a program of Debian's geographiclib-tools says to some lines. */
function geographicLib(string $command, string $lines): string
{
    $process = proc_open($command, [['pipe', 'r'], ['pipe', 'w']], $pipes);
    fwrite($pipes[0], $lines);
    fclose($pipes[0]);
    $said = (string) stream_get_contents($pipes[1]);
    proc_close($process);

    return trim($said);
}

describe('a geodesic', function (): void {
    // Source: GeodSolve of geographiclib-tools (Karney 2013). Near, far, nearly opposite, along meridians and the
    // equator.
    it('is as long as GeodSolve says', function (): void {
        $dice = new Randomizer(new Mt19937(20261125));
        $degrees = static fn (int $most): float => $dice->getInt(-$most * 1_000_000, $most * 1_000_000) / 1e6;
        $pairs = [];
        $lines = '';
        for ($i = 0; $i < 400; $i++) {
            [$lon1, $lat1] = [$degrees(180), $degrees(90)];
            [$lon2, $lat2] = match ($i % 4) {
                0 => [$degrees(180), $degrees(90)],
                1 => [$lon1 + $degrees(1) / 1000, $lat1 * 0.9999],
                2 => [$lon1 > 0 ? $lon1 - 180 + $degrees(1) : $lon1 + 180 + $degrees(1), -$lat1 * 0.999],
                default => [90.0 * $dice->getInt(-2, 2), 45.0 * $dice->getInt(-2, 2)],
            };
            $pairs[] = [$lon1, $lat1, $lon2, $lat2];
            $lines .= sprintf("%.15F %.15F %.15F %.15F\n", $lat1, $lon1, $lat2, $lon2);
        }
        foreach (explode("\n", geographicLib('GeodSolve -i -p 6', $lines)) as $i => $line) {
            expect(Geodesic::metres(...$pairs[$i]))->toEqualWithDelta(
                (float) explode(' ', $line)[2],
                2e-6,
                json_encode($pairs[$i]),
            );
        }
    });

    // Source: ICSM, GDA Technical Manual: Flinders Peak to Buninyong, 54 972.271 m on GRS 80, whose flattening differs
    // from WGS 84's in the eleventh place.
    it('spans Flinders Peak and Buninyong', function (): void {
        expect(
            Geodesic::metres(
                144 + 25 / 60 + 29.52442 / 3600,
                -(37 + 57 / 60 + 3.7203 / 3600),
                143 + 55 / 60 + 35.38393 / 3600,
                -(37 + 39 / 60 + 10.1561 / 3600),
            ),
        )->toEqualWithDelta(54_972.271, 0.001);
    });

    // Source: Planimeter of geographiclib-tools. Small, large, around a pole, over the antimeridian.
    it('encloses what Planimeter says', function (int $i): void {
        $dice = new Randomizer(new Mt19937($i));
        [$lon, $lat, $size, $corners] = [
            $dice->getInt(-179, 179),
            $dice->getInt(-75, 75),
            10 ** $dice->getInt(-3, 1),
            $dice->getInt(3, 14),
        ];
        $ring = [];
        $lines = '';
        for ($k = 0; $k < $corners; $k++) {
            $angle = (2 * M_PI * $k) / $corners;
            $at =
                $i % 6 === 5
                    ? [-180 + (360 * $k) / $corners, 80.0]
                    : [
                        $lon + ($size * cos($angle) * $dice->getInt(60, 100)) / 100,
                        $lat + ($size * sin($angle) * $dice->getInt(60, 100)) / 100,
                    ];
            $at[0] = $at[0] > 180 ? $at[0] - 360 : ($at[0] < -180 ? $at[0] + 360 : $at[0]);
            $ring[] = $at;
            $lines .= sprintf("%.12F %.12F\n", $at[1], $at[0]);
        }
        [, $around, $inside] = preg_split('/\s+/', geographicLib('Planimeter -s -p 6', $lines));
        expect(Geodesic::area($ring))
            ->toEqualWithDelta((float) $inside, max(1.0, abs((float) $inside) * 1e-12))
            ->and(Geodesic::length([...$ring, $ring[0]]))
            ->toEqualWithDelta((float) $around, 1e-4);
    })->with(range(1, 24));
});

describe('a shape', function (): void {
    $line = static fn (array $places): array => ['type' => 'LineString', 'coordinates' => $places];
    $area = static fn (array ...$rings): array => ['type' => 'Polygon', 'coordinates' => $rings];
    $square = [[0, 0], [1, 0], [1, 1], [0, 1], [0, 0]];

    it('knows what it measures and a place of its own', function () use ($line, $area, $square): void {
        $path = Shape::fromGeoJson($line([[-11.6, -14.2], [-11.6, -14.1], [-11.5, -14.1]]), GeometryKind::Line);
        expect($path->length)
            ->toEqualWithDelta(
                Geodesic::metres(-11.6, -14.2, -11.6, -14.1) + Geodesic::metres(-11.6, -14.1, -11.5, -14.1),
                1e-6,
            )
            ->and($path->area)
            ->toBeNull()
            ->and($path->place->lat)
            ->toEqualWithDelta(-14.1, 0.005);
        $beach = Shape::fromGeoJson($area($square), GeometryKind::Area);
        // Source: Planimeter: one degree by one at the equator, 12 308 778 361.469 m².
        expect($beach->area)
            ->toEqualWithDelta(12_308_778_361.469, 0.01)
            ->and($beach->length)
            ->toEqualWithDelta(443_770.917, 0.001);
    });

    // Source: RFC 7946, section 3.1.6: rings are closed, the outer one against the clock, holes with it.
    it('closes rings and turns those that run the wrong way', function () use ($area): void {
        $shape = Shape::fromGeoJson(
            $area([[0, 0], [0, 1], [1, 1], [1, 0]], [[0.2, 0.2], [0.4, 0.2], [0.4, 0.4], [0.2, 0.4], [0.2, 0.2]]),
            GeometryKind::Area,
        );
        expect($shape->parts[0][0])
            ->toBe($shape->parts[0][4])
            ->and(Geodesic::area($shape->parts[0]))
            ->toBeGreaterThan(0)
            ->and(Geodesic::area($shape->parts[1]))
            ->toBeLessThan(0)
            ->and($shape->area)
            ->toEqualWithDelta(abs(Geodesic::area($shape->parts[0])) - abs(Geodesic::area($shape->parts[1])), 1e-3)
            ->and(Shape::fromGeoJson($shape->toGeoJson(), GeometryKind::Area)->parts)
            ->toBe($shape->parts);
    });

    it('has its place inside, whatever its form', function () use ($area): void {
        // A horseshoe: its middle lies outside of it.
        $shoe = Shape::fromGeoJson(
            $area([[0, 0], [3, 0], [3, 3], [2, 3], [2, 1], [1, 1], [1, 3], [0, 3], [0, 0]]),
            GeometryKind::Area,
        );
        expect($shoe->place->lat)
            ->toBe(1.5)
            ->and($shoe->place->lon)
            ->toBeIn([0.5, 2.5]);
        // Over the antimeridian.
        $isle = Shape::fromGeoJson($area([[179, -1], [-179, -1], [-179, 1], [179, 1], [179, -1]]), GeometryKind::Area);
        expect(abs($isle->place->lon))
            ->toEqualWithDelta(180.0, 1e-9)
            ->and($isle->area)
            ->toEqualWithDelta(2 * 12_308_778_361.469 * 2, 2e7);
    });

    it('is refused with the reason', function (array|string|null $geometry, GeometryKind $kind, string $code): void {
        expect(refusals(fn () => Shape::fromGeoJson($geometry, $kind)))->toBe([$code]);
    })->with([
        [['type' => 'Point', 'coordinates' => [0, 0]], GeometryKind::Line, 'shape_no_line'],
        [null, GeometryKind::Area, 'shape_no_area'],
        ['LINESTRING (0 0, 1 1)', GeometryKind::Line, 'shape_no_line'],
        [$line([[0, 0]]), GeometryKind::Line, 'shape_line_short'],
        [$line([[0, 0], [0, 0], [0, 0]]), GeometryKind::Line, 'shape_line_short'],
        [$line([[0, 0], [0, 91]]), GeometryKind::Line, 'position_outside_world'],
        [$line([[0, 0], ['a', 1]]), GeometryKind::Line, 'position_no_numbers'],
        [['type' => 'LineString', 'coordinates' => ['x' => [0, 0]]], GeometryKind::Line, 'shape_no_list'],
        [$area([[0, 0], [1, 1], [0, 0]]), GeometryKind::Area, 'shape_area_small'],
        [$area([[0, 0], [1, 1], [2, 2], [0, 0]]), GeometryKind::Area, 'shape_area_small'],
        [$area(), GeometryKind::Area, 'shape_area_small'],
        [$area([[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]), GeometryKind::Area, 'shape_crosses'],
        [$area($square, [[-1, -1], [2, -1], [2, 2], [-1, 2], [-1, -1]]), GeometryKind::Area, 'shape_holes'],
        [
            $line(array_map(static fn (int $i): array => [$i / 1000, 0], range(0, Shape::MOST_CORNERS))),
            GeometryKind::Line,
            'shape_corners',
        ],
    ]);

    it('tells where an outline crosses itself', function () use ($area): void {
        try {
            Shape::fromGeoJson($area([[0, 0], [2, 2], [2, 0], [0, 2], [0, 0]]), GeometryKind::Area);
        } catch (PinYard\Refused $e) {
            expect($e->problems[0]->params)->toBe(['lon' => 1.0, 'lat' => 1.0]);
        }
    });

    // Source: OGC 06-103r4, section 8.2.
    it('comes back from its column as it was', function (array $geometry, GeometryKind $kind): void {
        $shape = Shape::fromGeoJson($geometry, $kind);
        expect(Wkb::fromColumn(Wkb::column($shape)))
            ->toEqual($shape)
            ->and(Wkb::geoJson(Wkb::column($shape), $kind))
            ->toEqual($shape->toGeoJson())
            ->and(
                Wkb::geoJson(
                    Wkb::column($shape),
                    $kind === GeometryKind::Line ? GeometryKind::Area : GeometryKind::Line,
                ),
            )
            ->toBeNull();
    })->with([
        [['type' => 'Point', 'coordinates' => [-11.6, -14.2]], GeometryKind::Point],
        [$line([[-11.6, -14.2], [-11.5, -14.1], [-11.4, -14.3]]), GeometryKind::Line],
        [$area($square, [[0.2, 0.2], [0.2, 0.4], [0.4, 0.4], [0.4, 0.2], [0.2, 0.2]]), GeometryKind::Area],
    ]);
    it('is none where a column holds something else', function (?string $bytes): void {
        expect(Wkb::fromColumn($bytes))->toBeNull()->and(Wkb::geoJson($bytes, GeometryKind::Line))->toBeNull();
    })->with([[null], [''], [str_repeat("\0", 40)], [pack('VCV', 0, 1, 7).str_repeat("\0", 30)]]);
});
