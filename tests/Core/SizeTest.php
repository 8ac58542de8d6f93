<?php

declare(strict_types=1);

use PinYard\Carto\Look;
use PinYard\Carto\SizeBy;
use PinYard\Carto\Style\StyleLayers;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Neighbours;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;
use PinYard\Stats\RankCorrelation;

function sizedDesign(string $geometry = 'point'): LayerDesign
{
    return LayerDesign::fromArray([
        'title' => 'Sites',
        'purpose' => '',
        'geometry' => $geometry,
        'fields' => [
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            ['key' => 'share', 'label' => 'Share', 'kind' => 'decimal'],
        ],
    ], Neighbours::none());
}

it('draws areas of circles, and widths of lines, in the ratio of the numbers', function (): void {
    $size = SizeBy::read(['field' => 'eggs', 'most' => 100], sizedDesign());
    $area = fn (float $value): float => $size->of($value, GeometryKind::Point) ** 2;
    // In sixty steps of the radius.
    expect($area(100))->toBe(1.0)
        ->and($area(25))->toEqualWithDelta(0.25, 0.01)
        ->and($area(50) / $area(25))->toEqualWithDelta(2, 0.08)
        ->and($size->of(50, GeometryKind::Line))->toBe(0.5)
        ->and($size->of(0, GeometryKind::Point))->toBe(0.0)
        ->and($size->of(1e9, GeometryKind::Point))->toBe(1.0)
        ->and($size->of(-1, GeometryKind::Point))->toBeNull()
        ->and($size->of(null, GeometryKind::Point))->toBeNull();
});

it('gives a record the size that phones give it', function (): void {
    $vectors = json_decode((string) file_get_contents(__DIR__.'/../vectors/sizes.json'), true);
    foreach ($vectors['cases'] as [$geometry, $most, $value, $expected]) {
        $size = SizeBy::read(['field' => 'share', 'most' => $most], sizedDesign($geometry));
        expect($size->of($value, GeometryKind::from($geometry)))->toEqual($expected);
    }
});

it('has three sizes to read others by', function (float $most, array $values): void {
    $size = SizeBy::read(['field' => 'share', 'most' => $most], sizedDesign());
    $marks = $size->marks(GeometryKind::Point);
    expect(array_column($marks, 'value'))->toEqualWithDelta($values, $most * 1e-9);
    foreach ($marks as $mark) {
        expect($mark['size'])->toBe($size->of($mark['value'], GeometryKind::Point));
    }
})->with([
    [160.0, [32, 80, 160]],
    [1.0, [0.2, 0.5, 1]],
    [0.0037, [0.00074, 0.0019, 0.0037]],
    [123_456.0, [25_000, 62_000, 123_456]],
]);

it('is refused with the reason', function (array $bad, string $code, string $geometry = 'point'): void {
    try {
        Look::read(['kind' => 'single', 'size' => $bad], sizedDesign($geometry));
        $found = null;
    } catch (Refused $e) {
        $found = $e->problems[0]->code;
    }
    expect($found)->toBe($code);
})->with([
    [['field' => 'name', 'most' => 5], 'size_field'],
    [['field' => 'gone', 'most' => 5], 'size_field'],
    [['most' => 5], 'size_field'],
    [['field' => 'eggs'], 'size_most'],
    [['field' => 'eggs', 'most' => 0], 'size_most'],
    [['field' => 'eggs', 'most' => -3], 'size_most'],
    [['field' => 'eggs', 'most' => NAN], 'size_most'],
    [['field' => 'eggs', 'most' => INF], 'size_most'],
    [['field' => 'eggs', 'most' => '5'], 'size_most'],
    [['field' => 'eggs', 'most' => 5, 'pixels' => 500], 'size_pixels'],
    [['field' => 'eggs', 'most' => 5, 'pixels' => 'big'], 'size_pixels'],
    [['field' => 'eggs', 'most' => 5], 'size_geometry', 'area'],
]);

it('goes with any way of colouring, and says so again', function (array $look): void {
    $read = Look::read($look + ['size' => ['field' => 'eggs', 'most' => 90]], sizedDesign());
    expect($read->toArray()['size'])->toEqual(['field' => 'eggs', 'most' => 90.0, 'pixels' => 44])
        ->and(Look::read($read->toArray(), sizedDesign())->toArray())->toEqual($read->toArray())
        ->and($read->fields())->toContain('eggs');
    $style = StyleLayers::of($read, 's');
    // No pegs: their heads would hide how large they are.
    expect(array_unique(array_column($style, 'type')))->toBe(['circle'])
        ->and(array_column($style, 'id'))->toBe(
            $look['kind'] === 'single' ? ['s-unsized', 's-circles'] : ['s-unsized', 's-unclassed', 's-circles'],
        );
})->with([
    [['kind' => 'single']],
    [['kind' => 'classes', 'field' => 'share', 'breaks' => [1, 2]]],
]);

it('counts colours alone where sizes are drawn, for there are no heads', function (): void {
    $classes = [['head' => 'disc', 'colour' => '#0F5C53'], ['head' => 'bar', 'colour' => '#0F5C53']];
    $look = ['kind' => 'classes', 'field' => 'share', 'breaks' => [1], 'classes' => $classes];
    expect(Look::read($look, sizedDesign())->alike())->toBe([])
        ->and(Look::read($look + ['size' => ['field' => 'eggs', 'most' => 9]], sizedDesign())->alike())
        ->toBe([['0', '1']]);
});

it('finds whether two numbers go together as R does', function (): void {
    $vectors = json_decode((string) file_get_contents(__DIR__.'/../vectors/correlation.json'), true);
    foreach ($vectors['cases'] as $case) {
        $rho = RankCorrelation::of(array_map(floatval(...), $case['a']), array_map(floatval(...), $case['b']));
        expect($rho)->toEqualWithDelta($case['rho'], 1e-12, $case['name']);
    }
});

it('says nothing of too few pairs, or where one of both is always the same', function (): void {
    expect(RankCorrelation::of([], []))->toBeNull()
        ->and(RankCorrelation::of([1.0, 2.0, 3.0], [1.0, 2.0, 3.0]))->toBeNull()
        ->and(RankCorrelation::of([1.0, 1.0, 1.0, 1.0], [1.0, 2.0, 3.0, 4.0]))->toBeNull()
        ->and(RankCorrelation::word(0.05))->toBe('not')
        ->and(RankCorrelation::word(-0.21))->toBe('weakly')
        ->and(RankCorrelation::word(0.45))->toBe('fairly')
        ->and(RankCorrelation::word(-0.9))->toBe('strongly');
});
