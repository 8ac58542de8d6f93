<?php

declare(strict_types=1);

use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Import\Gazetteer;
use PinYard\Import\ImportSettings;
use PinYard\Import\Locator;
use PinYard\Import\Projection;
use PinYard\Import\RowPlace;

/** A gazetteer of three places, which counts how often it is asked. */
final class ThreePlaces implements Gazetteer
{
    public int $asked = 0;

    public function candidates(string $text): array
    {
        $this->asked++;

        return [
            ['name' => 'Heron Hut', 'of' => 'North Isle', 'lon' => -11.2, 'lat' => -14.2],
            ['name' => 'Gull Rock', 'of' => 'North Isle', 'lon' => -11.3, 'lat' => -14.3],
            ['name' => 'Gull Rock', 'of' => 'South Isle', 'lon' => -11.4, 'lat' => -14.4],
        ];
    }
}

/** A system whose metres are a hundredth of a degree each; beyond 100,000 it ends. */
final class Hundredths implements Projection
{
    public int $calls = 0;

    public function degrees(array $pairs, string $system): array
    {
        $this->calls++;

        return array_map(
            static fn (array $p): ?array => abs($p[0]) > 100_000 ? null : [$p[0] / 100, $p[1] / 100],
            $pairs,
        );
    }
}

beforeEach(function (): void {
    $this->places = new ThreePlaces;
    $this->projection = new Hundredths;
    $this->locator = function (array $location, GeometryKind $kind = GeometryKind::Point): Locator {
        $settings = ImportSettings::of([
            'title' => 'T',
            'columns' => [
                ['take' => true, 'label' => 'a'],
                ['take' => true, 'label' => 'b'],
                ['take' => true, 'label' => 'c'],
            ],
            'location' => $location,
        ]);

        return new Locator($settings, $kind, Box::of(-12, -15, -11, -14), $this->places, $this->projection);
    };
    $this->one = fn (
        array $location,
        array $cells,
        ?string $wkt = null,
        GeometryKind $kind = GeometryKind::Point,
    ): RowPlace => ($this->locator)($location, $kind)->locate([[$cells, $wkt]])[0];
});

/** @return array{string|null, float|null, float|null} what was said, and where */
function told(RowPlace $located): array
{
    $place = $located->place instanceof Shape ? $located->place->place : $located->place;

    return [$located->problem->code ?? $located->how, $place?->lon, $place?->lat];
}

it('finds a pair of columns', function (string $x, string $y, array $expected): void {
    expect(told(($this->one)(['way' => 'pair', 'columns' => [0, 1], 'system' => 'EPSG:4326'], [$x, $y])))->toBe(
        $expected,
    );
})->with([
    'in degrees' => ['-11.5', '-14.5', [null, -11.5, -14.5]],
    'with decimal commas' => ['-11,5', '-14,5', [null, -11.5, -14.5]],
    'in minutes with letters' => ["11°30'W", "14°30'S", [null, -11.5, -14.5]],
    'with blanks around' => [' -11.5 ', "\t-14.5", [null, -11.5, -14.5]],
    'swapped' => ['-14.5', '-11.5', ['swapped', -11.5, -14.5]],
    'without a sign' => ['11.5', '-14.5', ['sign', -11.5, -14.5]],
    'just outside, which is a matter for Check' => ['-12.2', '-14.5', [null, -12.2, -14.5]],
    'far outside' => ['30', '40', ['outside', 30.0, 40.0]],
    'half missing' => ['', '-14.5', ['intake_no_place', null, null]],
    'words' => ['here', '-14.5', ['intake_coordinate', null, null]],
    'the halves exchanged by their letters' => ["14°30'S", "11°30'W", ['intake_coordinate', null, null]],
    'nought and nought' => ['0', '0.0', ['intake_zero', null, null]],
    'beyond the world' => ['500', '700', ['position_outside_world', null, null]],
]);

it('mends nothing if it is told not to', function (): void {
    $plain = ['way' => 'pair', 'columns' => [0, 1], 'system' => 'EPSG:4326', 'mend' => false];
    expect(told(($this->one)($plain, ['-14.5', '-11.5'])))->toBe(['outside', -14.5, -11.5]);
});

it('asks the projection once for many rows, and tells which lie outside its world', function (): void {
    $located = ($this->locator)(['way' => 'pair', 'columns' => [0, 1], 'system' => 'EPSG:27700'])->locate([
        [['-1150', '-1450'], null],
        [['', '5'], null],
        [['999999', '1'], null],
        [['-1,150', '-1,450'], null],
    ]);
    expect(array_map(told(...), $located))
        ->toBe([
            [null, -11.5, -14.5],
            ['intake_no_place', null, null],
            ['intake_outside_system', null, null],
            [null, -11.5, -14.5],
        ])
        ->and($this->projection->calls)
        ->toBe(1);
});

it('reads places and pairs in one column', function (string $text, array $expected): void {
    expect(told(($this->one)(['way' => 'text', 'columns' => [0]], [$text])))->toBe($expected);
})->with([
    'a pair' => ['-14.5, -11.5', [null, -11.5, -14.5]],
    'a name' => ['Heron Hut', ['matched', -11.2, -14.2]],
    'a name spelt nearly so' => ['heron hutt', ['matched', -11.2, -14.2]],
    'a name that two have' => ['Gull Rock', ['intake_several', null, null]],
    'one of the two' => ['Gull Rock, South Isle', ['matched', -11.4, -14.4]],
    'an unknown one' => ['Cactus Town', ['intake_unknown_place', null, null]],
    'a pair that went wrong' => ['14.5, 200, 7', ['place_unreadable', null, null]],
    'nothing' => ['  ', ['intake_no_place', null, null]],
]);

it('joins the columns of an address', function (): void {
    expect(told(($this->one)(['way' => 'text', 'columns' => [0, 2]], ['Gull Rock', 'x', 'North Isle'])))
        ->toBe(['matched', -11.3, -14.3])
        ->and(told(($this->one)(['way' => 'text', 'columns' => [0, 2]], ['Heron Hut', 'x', ''])))
        ->toBe(['matched', -11.2, -14.2]);
});

it('asks for the same place once', function (): void {
    $rows = array_fill(0, 50, [['Heron Hut'], null]);
    ($this->locator)(['way' => 'text', 'columns' => [0]])->locate($rows);
    expect($this->places->asked)->toBe(1);
});

it('takes names the more freely the lower the likeness', function (float $match, ?string $expected): void {
    expect(($this->one)(['way' => 'text', 'columns' => [0], 'match' => $match], ['Heron Hat Inn'])->how)->toBe(
        $expected,
    );
})->with([[1.0, null], [0.85, null], [0.6, 'matched']]);

it('takes the geometry of the file', function (string $wkt, GeometryKind $kind, ?string $code): void {
    $located = ($this->one)(['way' => 'geometry'], ['a'], $wkt, $kind);
    expect($located->problem?->code)->toBe($code);
    if ($code === null) {
        expect($located->place)->toBeInstanceOf($kind === GeometryKind::Point ? Position::class : Shape::class);
    }
})->with([
    'a point' => ['POINT (-11.5 -14.5)', GeometryKind::Point, null],
    'several points that are one' => ['MULTIPOINT ((-11.5 -14.5))', GeometryKind::Point, null],
    'several points' => ['MULTIPOINT ((-11.5 -14.5), (-11.6 -14.6))', GeometryKind::Point, 'intake_other_shape'],
    'a line' => ['LINESTRING (-11.5 -14.5, -11.6 -14.6)', GeometryKind::Line, null],
    'a line of two parts' => [
        'MULTILINESTRING ((-11.5 -14.5, -11.6 -14.6), (-11.7 -14.5, -11.8 -14.6))',
        GeometryKind::Line,
        null,
    ],
    'a line in a layer of areas' => ['LINESTRING (-11.5 -14.5, -11.6 -14.6)', GeometryKind::Area, 'intake_other_shape'],
    'an area' => ['POLYGON ((-11.5 -14.5, -11.4 -14.5, -11.4 -14.4, -11.5 -14.5))', GeometryKind::Area, null],
    'an area that crosses itself' => ['POLYGON ((0 0, 1 1, 1 0, 0 1, 0 0))', GeometryKind::Area, 'shape_crosses'],
    'an empty one' => ['POLYGON EMPTY', GeometryKind::Area, 'intake_no_place'],
    'none' => ['', GeometryKind::Area, 'intake_no_place'],
    'what is no shape' => ['hello', GeometryKind::Area, 'wkt_kind'],
    'a collection' => ['GEOMETRYCOLLECTION (POINT (1 2))', GeometryKind::Point, 'wkt_kind'],
]);

it('says that a place is not enough for a line or an area', function (): void {
    expect(
        told(
            ($this->one)(
                ['way' => 'pair', 'columns' => [0, 1], 'system' => 'EPSG:4326'],
                ['-11.5', '-14.5'],
                null,
                GeometryKind::Line,
            ),
        ),
    )
        ->toBe(['intake_point_only', null, null])
        ->and(told(($this->one)(['way' => 'text', 'columns' => [0]], ['Heron Hut'], null, GeometryKind::Area)))
        ->toBe(['intake_point_only', null, null])
        ->and(told(($this->one)(['way' => 'none'], ['a'])))
        ->toBe(['intake_no_place', null, null]);
});
