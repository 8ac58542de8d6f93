<?php

declare(strict_types=1);

use App\Backdrops;
use PinYard\Geo\Box;

/* Which of the backdrops that ship a programme's area is drawn on; their boxes are in resources/backdrops.json. */
it('gives an area the backdrops that show something of it, also across the antimeridian', function (
    array $box,
    array $keys,
): void {
    $found = Backdrops::for(Box::of(...$box));
    expect(array_column($found, 'key'))->toBe($keys);
    foreach ($found as $backdrop) {
        expect(is_file(public_path(ltrim($backdrop['address'], '/'))))
            ->toBeTrue()
            ->and($backdrop['bytes'])
            ->toBeGreaterThan(1_000)
            ->and($backdrop['version'])
            ->toMatch('/^[0-9a-f]{8}$/');
    }
})->with([
    'around its islands' => [[-12, -15, -11, -14], ['world', 'cays']],
    'a corner of them' => [[-11.5, -14.1, -11.0, -14.0], ['world', 'cays']],
    'beside them' => [[-11.4, -14.3, -11.0, -14.0], ['world']],
    'across the antimeridian, far away' => [[170, -15, -170, -14], ['world']],
    'across the antimeridian, nearly round the earth' => [[10, -15, -11, -14], ['world', 'cays']],
]);
