<?php

declare(strict_types=1);

use PinYard\Audience\Blur;
use PinYard\Geo\ZOrder;

/** @param  list<array{float, float, float, float}>  $pairs  @return list<float> metres */
function solved(array $pairs): array
{
    $lines = implode("\n", array_map(
        static fn (array $p): string => sprintf('%.12F %.12F %.12F %.12F', $p[1], $p[0], $p[3], $p[2]),
        $pairs,
    ));
    $file = (string) tempnam(sys_get_temp_dir(), 'blur');
    file_put_contents($file, $lines);
    $found = explode("\n", trim((string) shell_exec('GeodSolve -i -p 6 < '.escapeshellarg($file))));
    unlink($file);

    return array_map(static fn (string $line): float => (float) explode(' ', trim($line))[2], $found);
}

// Source: Karney 2013 by Debian's geographiclib-tools (GeodSolve).
it('makes cells whose sides are as long as was asked for, and that could not be parted', function (
    int $metres,
    float $lat,
): void {
    $blur = Blur::of($metres);
    [$west, $south, $east, $north] = $blur->cellOf(10.123456, $lat);
    expect($west)->toBeLessThanOrEqual(10.123456)->and($east)->toBeGreaterThan(10.123456)
        ->and($south)->toBeLessThanOrEqual($lat)->and($north)->toBeGreaterThanOrEqual($lat);
    [$least, $most] = $blur->sizeAt(10.123456, $lat);
    $sides = solved([
        [$west, $north, $east, $north], [$west, $south, $east, $south], [$west, $north, $west, $south],
    ]);
    expect($least)->toEqualWithDelta(min($sides), 1)->and($most)->toEqualWithDelta(max($sides), 1)
        ->and(min($sides))->toBeGreaterThanOrEqual($metres);
    // Of its four children one has a side that is too short.
    [, $y] = ZOrder::steps(10.123456, $lat);
    $bits = $blur->bitsAt($y);
    $row = $y >> $bits << $bits;
    $children = [];
    foreach ([$row, $row + (1 << ($bits - 1))] as $child) {
        [$w, $s, $e, $n] = ZOrder::bounds(0, $child, $bits - 1);
        array_push($children, [$w, $n, $e, $n], [$w, $s, $e, $s], [$w, $n, $w, $s]);
    }
    expect(min(solved($children)))->toBeLessThan($metres);
})->with([10, 100, 500, 25_000])->with([0.0, -14.2, 45.0, 60.0, 80.0, 85.0]);

it('knows at once what parting quarter by quarter gives', function (): void {
    $blur = Blur::of(700);
    $isParted = new ReflectionMethod($blur, 'isParted');
    for ($i = 0; $i < 300; $i++) {
        $y = random_int(0, (1 << ZOrder::BITS) - 1);
        for ($row = 0, $bits = ZOrder::BITS; $isParted->invoke($blur, $row, $bits);) {
            $bits--;
            $row += $y >= $row + (1 << $bits) ? 1 << $bits : 0;
        }
        expect($blur->bitsAt($y))->toBe($bits);
    }
    expect(Blur::known(700, $blur->bands())->cellOf(-179.99, 51.2))->toBe($blur->cellOf(-179.99, 51.2));
});
