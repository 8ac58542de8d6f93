<?php

declare(strict_types=1);

use PinYard\Carto\Viewpoint;
use PinYard\Publish\Colour;
use PinYard\Publish\GateDesign;

describe('viewpoints', function (): void {
    $cove = fn (array $change = []): array => array_replace(
        ['title' => 'Cove', 'extent' => [-12, -15, -11, -14]],
        $change,
    );

    it('keep their ids, and get one where they have none or that of another', function () use ($cove): void {
        $first = Viewpoint::list([$cove(), $cove(['title' => '  Point '])]);
        expect($first[1]->title)
            ->toBe('Point')
            ->and($first[0]->id)
            ->toMatch('/^[a-z0-9]{8}$/')
            ->not->toBe($first[1]->id);
        $again = Viewpoint::list([
            $cove(['id' => $first[0]->id, 'title' => 'Bay']),
            $cove(['id' => $first[0]->id]),
            $cove(['id' => '<script>']),
        ]);
        expect($again[0]->id)
            ->toBe($first[0]->id)
            ->and(array_unique(array_column(array_map(fn (Viewpoint $v): array => $v->toArray(), $again), 'id')))
            ->toHaveCount(3);
    });

    it('may cross the antimeridian', function () use ($cove): void {
        expect(Viewpoint::list([$cove(['extent' => [179.5, -17, -179.5, -16]])])[0]->extent->west)->toBe(179.5);
    });

    it('are refused one by one', function (mixed $in, array $codes): void {
        expect(refusals(fn () => Viewpoint::list($in)))->toBe($codes);
    })->with(
        fn (): array => [
            ['x', ['must_be_list']],
            [['a' => 1], ['must_be_list']],
            [array_fill(0, 51, $cove()), ['viewpoints_many']],
            [
                [$cove(['title' => ' ']), 7, $cove(['extent' => [0, 0, 0, 0]]), $cove(['extent' => 'all'])],
                ['viewpoint_title', 'viewpoint_title', 'viewpoint_extent', 'viewpoint_extent'],
            ],
            [[$cove(['title' => str_repeat('é', 61)])], ['viewpoint_title']],
            [[$cove(['title' => str_repeat('é', 60)])], []],
            [[$cove(['extent' => [-12, -95, -11, NAN]])], ['viewpoint_extent']],
        ],
    );
});

describe('a gate', function (): void {
    it('hangs what its programme has, each thing once and in order', function (): void {
        $gate = GateDesign::read(
            [
                'title' => ' Nests ',
                'colour' => '#a1b2c3',
                'hung' => [
                    ['kind' => 'board', 'id' => 3],
                    ['kind' => 'map', 'id' => 3],
                    ['kind' => 'board', 'id' => 3],
                ],
            ],
            [3],
            [3],
        );
        expect($gate->toArray())->toBe([
            'title' => 'Nests',
            'about' => '',
            'colour' => '#A1B2C3',
            'hung' => [['kind' => 'board', 'id' => 3], ['kind' => 'map', 'id' => 3]],
        ]);
    });

    it('is refused with every reason', function (mixed $in, array $codes): void {
        expect(refusals(fn () => GateDesign::read($in, [1], [2])))->toBe($codes);
    })->with([
        ['x', ['must_be_object']],
        [[], ['gate_title']],
        [
            [
                'title' => str_repeat('a', 81),
                'about' => ['x'],
                'colour' => 'red',
                'hung' => [
                    ['kind' => 'map', 'id' => 2],
                    ['kind' => 'layer', 'id' => 1],
                    'x',
                    ['kind' => 'board', 'id' => '2'],
                ],
            ],
            ['gate_title', 'gate_about', 'colour_form', 'gate_thing', 'gate_thing', 'gate_thing', 'gate_thing'],
        ],
        [['title' => 'T', 'about' => str_repeat('a', 2001)], ['gate_about']],
        [['title' => 'T', 'colour' => "#0F5C53\n"], ['colour_form']],
        [['title' => 'T', 'hung' => 'all'], []],
    ]);

    // Source: WCAG 2.2, definitions of relative luminance and contrast ratio: black on white is 21, a colour on itself
    // 1.
    // #767676 as the lightest grey that reaches 4.5 on white: common practice, no source.
    it('measures contrast', function (string $a, string $b, float $ratio): void {
        expect(round(Colour::contrast($a, $b), 2))->toBe($ratio)->and(round(Colour::contrast($b, $a), 2))->toBe($ratio);
    })->with([
        ['#000000', '#FFFFFF', 21.0],
        ['#0F5C53', '#0F5C53', 1.0],
        ['#767676', '#FFFFFF', 4.54],
        ['#777777', '#FFFFFF', 4.48],
    ]);

    it('writes on any colour so that it can be read', function (): void {
        foreach (range(0, 255, 15) as $r) {
            foreach (range(0, 255, 15) as $g) {
                foreach (range(0, 255, 15) as $b) {
                    $colour = Colour::read(sprintf('#%02X%02X%02X', $r, $g, $b), 'c');
                    if (Colour::contrast($colour->hex, $colour->text()) < 4.5) {
                        throw new RuntimeException($colour->hex);
                    }
                }
            }
        }
        expect(Colour::read('#ffffff', 'c')->text())
            ->toBe('#000000')
            ->and(Colour::read('#1F4E79', 'c')->text())
            ->toBe('#FFFFFF');
    });
});
