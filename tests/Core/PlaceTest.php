<?php

declare(strict_types=1);

use PinYard\Geo\CoordinateText;
use PinYard\Geo\Position;
use PinYard\Geo\Utm;
use PinYard\Record\Merge;

describe('a place as people type it', function (): void {
    it('is read', function (string $text, float $lat, float $lon, string $as): void {
        $read = CoordinateText::read($text);
        expect($read->as)
            ->toBe($as)
            ->and(abs($read->position->lat - $lat))
            ->toBeLessThan(1e-6)
            ->and(abs($read->position->lon - $lon))
            ->toBeLessThan(1e-6);
    })->with([
        ['-14.1668, -11.6512', -14.1668, -11.6512, 'decimal'],
        ['-14.1668 -11.6512', -14.1668, -11.6512, 'decimal'],
        ['−14.1668, −11.6512', -14.1668, -11.6512, 'decimal'],
        ['14.1668 S 11.6512 W', -14.1668, -11.6512, 'decimal'],
        ['S14.1668 W11.6512', -14.1668, -11.6512, 'decimal'],
        ['W 11.6512, S 14.1668', -14.1668, -11.6512, 'decimal'],
        ['14,1668 S; 11,6512 W', -14.1668, -11.6512, 'decimal'],
        ['-14,1668, -11,6512', -14.1668, -11.6512, 'decimal'],
        ['144.4249, -37.951', -37.951, 144.4249, 'swapped'],
        ['14°10\'00.48"S 11°39\'04.32"W', -14.1668, -11.6512, 'minutes'],
        ['14° 10′ 0.48″ S, 11° 39′ 4.32″ W', -14.1668, -11.6512, 'minutes'],
        ['14°10.008\'S 11°39.072\'W', -14.1668, -11.6512, 'minutes'],
        ['14 10 0.48 S, 11 39 4.32 W', -14.1668, -11.6512, 'minutes'],
        ['0, 0', 0.0, 0.0, 'decimal'],
    ]);

    // The phone reads the same cases (tests/browser/shared.spec.ts).
    it('is read as the phone reads it', function (string $text, float $lat, float $lon): void {
        $read = CoordinateText::read($text)->position;
        expect(abs($read->lat - $lat))->toBeLessThan(4e-6)->and(abs($read->lon - $lon))->toBeLessThan(4e-6);
    })->with(
        fn (): array => array_map(
            fn (array $c): array => [$c[0], (float) $c[1], (float) $c[2]],
            vectors('places')['read'],
        ),
    );

    it('is refused as the phone refuses it', function (string $text): void {
        expect(refusals(fn () => CoordinateText::read($text)))->not->toBe([]);
    })->with(fn (): array => array_map(fn (string $text): array => [$text], vectors('places')['refused']));

    it('is refused with the way out', function (string $text, string $code): void {
        expect(refusals(fn () => CoordinateText::read($text)))->toBe([$code]);
    })->with([
        ['', 'place_unreadable'],
        ['Halcyon Landing', 'place_unreadable'],
        ['14.1', 'place_unreadable'],
        ['14.1 S 11.6 S', 'place_unreadable'],
        [str_repeat('1', 200), 'place_unreadable'],
        ['14°70\'S 11°39\'W', 'place_minutes'],
        ['95 N, 11 W', 'position_outside_world'],
        ['14.1 S 11.6 O', 'place_letter'],
        ['61N 500000 4649776', 'utm_zone'],
        ['33I 500000 4649776', 'utm_band'],
        ['33N 50000 4649776', 'utm_metres'],
    ]);
});

describe('UTM', function (): void {
    // Source: GeoConvert of geographiclib-tools (Karney 2011), to a tenth of a millimetre.
    it('is what GeoConvert says, both ways', function (): void {
        mt_srand(7);
        $points = [];
        for ($i = 0; $i < 200; $i++) {
            $points[] = [mt_rand(-1_799_000, 1_799_000) / 10_000, mt_rand(-790_000, 790_000) / 10_000];
        }
        // Norway and Svalbard have zones of their own shapes; GeoConvert is asked for the plain ones.
        foreach ($points as $i => [$lon, $lat]) {
            $zone = (int) floor(($lon + 180) / 6) + 1;
            $zones[$zone][] = $i;
        }
        foreach ($zones as $zone => $which) {
            $lines = implode('\n', array_map(fn (int $i): string => "{$points[$i][1]} {$points[$i][0]}", $which));
            $answers = explode("\n", trim((string) shell_exec("printf -- '$lines\\n' | GeoConvert -u -z $zone -p 4")));
            foreach ($which as $k => $i) {
                [, $east, $north] = preg_split('/\s+/', trim($answers[$k]));
                $mine = Utm::fromPosition(Position::of(...$points[$i]));
                expect(abs($mine->easting - (float) $east))
                    ->toBeLessThan(0.001)
                    ->and(abs($mine->northing - (float) $north))
                    ->toBeLessThan(0.001);
                $back = Utm::of($zone, $points[$i][1] >= 0, (float) $east, (float) $north)->position();
                expect(abs($back->lon - $points[$i][0]))
                    ->toBeLessThan(1e-8)
                    ->and(abs($back->lat - $points[$i][1]))
                    ->toBeLessThan(1e-8);
            }
        }
    });

    it('is read with a band letter or a word', function (): void {
        $place = Position::of(-11.6512, -14.1668);
        $utm = Utm::fromPosition($place);
        foreach (
            [
                "{$utm->zone}L {$utm->easting} {$utm->northing}",
                "{$utm->zone} south {$utm->easting} {$utm->northing}",
                "{$utm->zone} L {$utm->easting}m E {$utm->northing}m N",
            ] as $text
        ) {
            $text = preg_replace_callback('/\d+\.\d+/', fn (array $m): string => sprintf('%.3f', (float) $m[0]), $text);
            $read = CoordinateText::read($text);
            expect($read->as)
                ->toBe('utm')
                ->and(abs($read->position->lat - $place->lat))
                ->toBeLessThan(1e-7)
                ->and(abs($read->position->lon - $place->lon))
                ->toBeLessThan(1e-7);
        }
    });
});

describe('a merge', function (): void {
    it('takes what each side changed, value by value', function (
        array $present,
        array $changes,
        array $values,
        array $clashes,
        bool $others,
    ): void {
        $merge = Merge::of(['a' => 1, 'b' => 'x', 'c' => null], $present, $changes);
        expect($merge->values)->toBe($values)->and($merge->clashes)->toBe($clashes)->and($merge->others)->toBe($others);
    })->with([
        'nobody else' => [
            ['a' => 1, 'b' => 'x', 'c' => null],
            ['a' => 2],
            ['a' => 2, 'b' => 'x', 'c' => null],
            [],
            false,
        ],
        'others elsewhere' => [
            ['a' => 1, 'b' => 'y', 'c' => null],
            ['a' => 2],
            ['a' => 2, 'b' => 'y', 'c' => null],
            [],
            true,
        ],
        'both alike' => [
            ['a' => 2, 'b' => 'x', 'c' => null],
            ['a' => 2],
            ['a' => 2, 'b' => 'x', 'c' => null],
            [],
            true,
        ],
        'both, differently' => [
            ['a' => 3, 'b' => 'x', 'c' => null],
            ['a' => 2],
            ['a' => 3, 'b' => 'x', 'c' => null],
            ['a'],
            true,
        ],
        'sent but not changed' => [
            ['a' => 3, 'b' => 'x', 'c' => null],
            ['a' => 1],
            ['a' => 3, 'b' => 'x', 'c' => null],
            [],
            true,
        ],
        'taken away and changed' => [
            ['a' => null, 'b' => 'x', 'c' => null],
            ['a' => 2],
            ['a' => null, 'b' => 'x', 'c' => null],
            ['a'],
            true,
        ],
    ]);
});
