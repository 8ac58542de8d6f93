<?php

declare(strict_types=1);

use PinYard\Geo\GeometryKind;
use PinYard\Geo\PointInArea;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use PinYard\Geo\ZOrder;

/*
 * Lines and areas of several parts (RFC 7946, sections 3.1.5 and 3.1.7; well-known binary after OGC 06-103r4, section
 * 8.2).
 */

const TWO_ISLES = [
    'type' => 'MultiPolygon',
    'coordinates' => [
        [
            [[10, 50], [11, 50], [11, 51], [10, 51], [10, 50]],
            [[10.2, 50.2], [10.2, 50.4], [10.4, 50.4], [10.4, 50.2], [10.2, 50.2]],
        ],
        [[[12, 50], [12.2, 50], [12.2, 50.2], [12, 50.2], [12, 50]]],
    ],
];

it('keeps the parts of an area and the holes of each', function (): void {
    $shape = Shape::fromGeoJson(TWO_ISLES, GeometryKind::Area);
    expect($shape->begins)
        ->toBe([0, 2])
        ->and(array_map(count(...), $shape->polygons()))
        ->toBe([2, 1])
        ->and($shape->toGeoJson()['type'])
        ->toBe('MultiPolygon')
        ->and($shape->toGeoJson()['coordinates'])
        ->toHaveCount(2);
});

it('measures all parts together', function (): void {
    $whole = Shape::fromGeoJson(TWO_ISLES, GeometryKind::Area);
    $parts = array_map(
        static fn (array $rings): Shape => Shape::fromGeoJson(
            ['type' => 'Polygon', 'coordinates' => $rings],
            GeometryKind::Area,
        ),
        TWO_ISLES['coordinates'],
    );
    expect($whole->area)
        ->toEqualWithDelta($parts[0]->area + $parts[1]->area, 1e-3)
        ->and($whole->length)
        ->toEqualWithDelta($parts[0]->length + $parts[1]->length, 1e-6);
});

it('stands for the whole with a place in the largest part, not in its hole', function (): void {
    $place = Shape::fromGeoJson(TWO_ISLES, GeometryKind::Area)->place;
    expect(PointInArea::of(TWO_ISLES['coordinates'][0], $place->lon, $place->lat))
        ->toBeTrue()
        ->and($place->lon)
        ->toBeLessThan(11.0);
});

it('turns rings that run the wrong way, in every part', function (): void {
    $wrong = TWO_ISLES;
    $wrong['coordinates'] = array_map(
        static fn (array $rings): array => array_map(array_reverse(...), $rings),
        $wrong['coordinates'],
    );
    $turned = Shape::fromGeoJson($wrong, GeometryKind::Area);
    $right = Shape::fromGeoJson(TWO_ISLES, GeometryKind::Area);
    expect($turned->area)->toEqualWithDelta($right->area, 1e-6)->and($turned->begins)->toBe($right->begins);
});

it('comes back from its column as it went in', function (array $geometry, GeometryKind $kind): void {
    $shape = Shape::fromGeoJson($geometry, $kind);
    $column = Wkb::column($shape);
    $back = Wkb::fromColumn($column);
    expect($back?->toGeoJson())
        ->toEqual($shape->toGeoJson())
        ->and($back?->begins)
        ->toBe($shape->begins)
        ->and(Wkb::geoJson($column, $kind))
        ->toEqual($shape->toGeoJson());
})->with([
    'a point' => [['type' => 'Point', 'coordinates' => [10.5, 50.25]], GeometryKind::Point],
    'a line' => [['type' => 'LineString', 'coordinates' => [[10, 50], [11, 51]]], GeometryKind::Line],
    'a line of two parts' => [
        ['type' => 'MultiLineString', 'coordinates' => [[[10, 50], [11, 51]], [[12, 50], [12.5, 50.5], [13, 50]]]],
        GeometryKind::Line,
    ],
    'an area' => [['type' => 'Polygon', 'coordinates' => TWO_ISLES['coordinates'][0]], GeometryKind::Area],
    'an area of two parts' => [TWO_ISLES, GeometryKind::Area],
]);

it('is no geometry of another kind', function (): void {
    $column = Wkb::column(Shape::fromGeoJson(TWO_ISLES, GeometryKind::Area));
    expect(Wkb::geoJson($column, GeometryKind::Line))
        ->toBeNull()
        ->and(Wkb::geoJson($column, GeometryKind::Point))
        ->toBeNull()
        ->and(Wkb::geoJson(null, GeometryKind::Area))
        ->toBeNull()
        ->and(Wkb::geoJson('short', GeometryKind::Area))
        ->toBeNull()
        ->and(Wkb::fromColumn(str_repeat("\0", 40)))
        ->toBeNull();
});

it('gives all rings for the question what lies inside', function (): void {
    $rings = Wkb::allRings(Wkb::column(Shape::fromGeoJson(TWO_ISLES, GeometryKind::Area)));
    expect($rings)
        ->toHaveCount(3)
        ->and(PointInArea::of($rings, 10.5, 50.5))
        ->toBeTrue()
        ->and(PointInArea::of($rings, 10.3, 50.3))
        ->toBeFalse()
        ->and(PointInArea::of($rings, 12.1, 50.1))
        ->toBeTrue()
        ->and(PointInArea::of($rings, 11.5, 50.1))
        ->toBeFalse()
        ->and(Wkb::allRings(null))
        ->toBe([]);
});

it('measures a line of several parts, and stands in the middle of the longest', function (): void {
    $line = Shape::fromGeoJson(
        ['type' => 'MultiLineString', 'coordinates' => [[[10, 50], [10.1, 50]], [[12, 50], [13, 50]]]],
        GeometryKind::Line,
    );
    expect($line->place->lon)
        ->toEqualWithDelta(12.5, 1e-3)
        ->and($line->length)
        ->toBeGreaterThan(78_000)
        ->and($line->begins)
        ->toBe([0, 1]);
});

it('leaves out parts that enclose nothing, and refuses an area of nothing else', function (): void {
    $sliver = [[[5, 5], [6, 6], [5, 5]]];
    $with = TWO_ISLES;
    $with['coordinates'][] = $sliver;
    expect(Shape::fromGeoJson($with, GeometryKind::Area)->begins)
        ->toBe([0, 2])
        ->and(
            refusals(
                fn () => Shape::fromGeoJson(
                    ['type' => 'MultiPolygon', 'coordinates' => [$sliver, $sliver]],
                    GeometryKind::Area,
                ),
            ),
        )
        ->toBe(['shape_area_small']);
});

it('says what is wrong in one part of several', function (mixed $coordinates, string $code): void {
    expect(
        refusals(
            fn () => Shape::fromGeoJson(['type' => 'MultiPolygon', 'coordinates' => $coordinates], GeometryKind::Area),
        ),
    )->toBe([$code]);
})->with([
    'no list of rings' => [['x'], 'shape_no_list'],
    'an empty part' => [[[]], 'shape_no_list'],
    'a part that crosses itself' => [
        [TWO_ISLES['coordinates'][1], [[[0, 0], [1, 1], [1, 0], [0, 1], [0, 0]]]],
        'shape_crosses',
    ],
    'a corner outside the world' => [[[[[0, 0], [1, 0], [1, 99], [0, 0]]]], 'position_outside_world'],
]);

it('parts the Z-order into quarters whose numbers are those of the places in them', function (): void {
    mt_srand(5);
    for ($i = 0; $i < 300; $i++) {
        $place = Position::of(mt_rand(-180_000, 180_000) / 1_000, mt_rand(-84_000, 84_000) / 1_000);
        $bits = mt_rand(4, 28);
        [$x, $y] = ZOrder::steps($place->lon, $place->lat);
        [$x, $y] = [($x >> $bits) << $bits, ($y >> $bits) << $bits];
        [$west, $south, $east, $north] = ZOrder::bounds($x, $y, $bits);
        $first = ZOrder::ofQuarter($x, $y);
        $number = ZOrder::of($place);
        expect($number)
            ->toBeGreaterThanOrEqual($first)
            ->toBeLessThan($first + (1 << (2 * $bits)))
            ->and($place->lon)
            ->toBeGreaterThanOrEqual($west - 1e-9)
            ->toBeLessThanOrEqual($east + 1e-9)
            ->and($place->lat)
            ->toBeGreaterThanOrEqual($south - 1e-9)
            ->toBeLessThanOrEqual($north + 1e-9);
    }
});
