<?php

declare(strict_types=1);

use PinYard\Carto\Lab;
use PinYard\Carto\NumberClasses;

/* The same cases hold the phone and the desk: tests/units/classes.test.ts. */

it('puts numbers into the classes that the screens put them into', function (): void {
    $vectors = vectors('looks');
    $classes = NumberClasses::read(['breaks' => $vectors['breaks']]);
    foreach ($vectors['cases'] as $case) {
        expect($classes->codeOf($case['value']))->toBe($case['class']);
    }
    foreach ([NAN, INF, 'x'] as $odd) {
        expect($classes->codeOf($odd))->toBeNull();
    }
});

// Source: the Lab values of sRGB's primaries under D65 by Bruce Lindbloom's calculator (from memory): red is
// 53.24, 80.09, 67.20; what matters here is that the way there and back loses nothing.
it('goes to CIELAB and back without losing a step', function (): void {
    foreach (['#000000', '#FFFFFF', '#FF0000', '#0F5C53', '#E0A030', '#123456', '#8C8672'] as $hex) {
        expect(Lab::ofHex($hex)->hex())->toBe($hex);
    }
    expect(Lab::ofHex('#000000')->towards(Lab::ofHex('#FFFFFF'), 0.5)->hex())->toBe('#777777');
});
