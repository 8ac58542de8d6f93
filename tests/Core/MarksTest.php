<?php

declare(strict_types=1);

use PinYard\Carto\ColourDifference;
use PinYard\Carto\Look;
use PinYard\Carto\Marks\Shades;
use PinYard\Carto\Scheme;
use PinYard\Carto\Style\StyleLayers;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Neighbours;
use PinYard\Geo\Position;
use PinYard\Geo\ZOrder;

/* By what marks differ besides choices and classes: shades, two numbers, cells; how lines and areas are drawn. */

function markedDesign(string $geometry = 'point'): LayerDesign
{
    return LayerDesign::fromArray([
        'title' => 'Sites',
        'purpose' => '',
        'geometry' => $geometry,
        'fields' => [
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
            [
                'key' => 'kind',
                'label' => 'Kind',
                'kind' => 'one_choice',
                'choices' => [['code' => 'a', 'label' => 'A'], ['code' => 'b', 'label' => 'B']],
            ],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            ['key' => 'share', 'label' => 'Share', 'kind' => 'decimal'],
        ],
    ], Neighbours::none());
}

$vectors = json_decode((string) file_get_contents(__DIR__.'/../vectors/looks.json'), true);

it('gives a record the shade that phones give it', function () use ($vectors): void {
    ['from' => $from, 'to' => $to, 'cases' => $cases] = $vectors['shades'];
    $look = Look::read(['kind' => 'shades', 'field' => 'share', 'from' => $from, 'to' => $to], markedDesign());
    foreach ($cases as [$value, $class]) {
        expect($look->marks->classOf(fn (): mixed => $value))->toBe($class);
    }
    expect($look->marks->classOf(fn (): float => NAN))->toBeNull()
        ->and($look->marks->classOf(fn (): float => INF))->toBeNull()
        ->and($look->toArray()['kind'])->toBe('shades')
        ->and(Look::read($look->toArray(), markedDesign())->toArray())->toBe($look->toArray());
});

it('passes from one shade to the next without a step that is seen', function (Scheme $scheme): void {
    $colours = $scheme->colours(Shades::STEPS);
    for ($i = 1; $i < Shades::STEPS; $i++) {
        // Side by side two colours are told apart from about 2 to 3 (common practice, no source).
        expect(ColourDifference::between($colours[$i - 1], $colours[$i]))->toBeLessThan(3.0);
    }
})->with(Scheme::cases());

it('crosses two numbers as phones do', function () use ($vectors): void {
    ['breaks' => $breaks, 'cases' => $cases] = $vectors['crossed'];
    $look = Look::read(['kind' => 'crossed', 'fields' => ['eggs', 'share'], 'breaks' => $breaks], markedDesign());
    foreach ($cases as [$a, $b, $class]) {
        expect($look->marks->classOf(fn (string $key): mixed => $key === 'eggs' ? $a : $b))->toBe($class);
    }
    $legend = $look->legend(['0-0' => 3, '2-1' => 4, '' => 5]);
    expect(array_column($legend, 'count'))->toBe([3, 0, 0, 0, 0, 4, 5])
        ->and($legend[5]['ranges'])->toEqual([[10, null], [0.5, null]])
        ->and($legend[0]['ranges'])->toEqual([[null, 5], [null, 0.5]])
        ->and($look->fields())->toBe(['eggs', 'share'])
        ->and(Look::read($look->toArray(), markedDesign())->toArray())->toBe($look->toArray());
});

it('counts shades in one line, and what has no number apart', function (): void {
    $look = Look::read(['kind' => 'shades', 'field' => 'eggs', 'from' => 0, 'to' => 10], markedDesign());
    expect(array_column($look->legend(['0' => 2, '63' => 3, '' => 4]), 'count'))->toBe([5, 4])
        ->and(array_column($look->legend([]), 'count'))->toBe([0]);
});

it('refuses what cannot be drawn, with the reason', function (array $look, string $code, string $geometry): void {
    expect(refusals(fn () => Look::read($look, markedDesign($geometry))))->toBe([$code]);
})->with([
    'no ends' => [['kind' => 'shades', 'field' => 'eggs'], 'look_ends', 'point'],
    'ends the wrong way' => [['kind' => 'shades', 'field' => 'eggs', 'from' => 2, 'to' => 1], 'look_ends', 'point'],
    'ends alike' => [['kind' => 'shades', 'field' => 'eggs', 'from' => 2, 'to' => 2], 'look_ends', 'point'],
    'an end without end' => [['kind' => 'shades', 'field' => 'eggs', 'from' => 0, 'to' => INF], 'look_ends', 'point'],
    'an end that is none' => [['kind' => 'shades', 'field' => 'eggs', 'from' => NAN, 'to' => 1], 'look_ends', 'point'],
    'shades of words' => [['kind' => 'shades', 'field' => 'name', 'from' => 0, 'to' => 1], 'look_field', 'point'],
    'one number twice' => [
        ['kind' => 'crossed', 'fields' => ['eggs', 'eggs'], 'breaks' => [[], []]],
        'look_twice',
        'point',
    ],
    'one number alone' => [['kind' => 'crossed', 'fields' => ['eggs'], 'breaks' => [[], []]], 'look_field', 'point'],
    'too many breaks' => [
        ['kind' => 'crossed', 'fields' => ['eggs', 'share'], 'breaks' => [[1, 2, 3], []]],
        'look_breaks',
        'point',
    ],
    'breaks that fall' => [
        ['kind' => 'crossed', 'fields' => ['eggs', 'share'], 'breaks' => [[2, 1], []]],
        'look_breaks',
        'point',
    ],
    'cells too fine' => [['kind' => 'density', 'bits' => 3, 'breaks' => []], 'look_cells', 'point'],
    'cells of no size' => [['kind' => 'density', 'breaks' => []], 'look_cells', 'point'],
    'a sum of words' => [['kind' => 'density', 'field' => 'name', 'bits' => 12, 'breaks' => []], 'look_field', 'point'],
    'gathered lines' => [['kind' => 'single', 'gather' => ['tell' => 'count']], 'gather_points', 'line'],
    'gathered by nothing' => [['kind' => 'single', 'gather' => []], 'gather_tell', 'point'],
    'a share without classes' => [
        ['kind' => 'single', 'gather' => ['tell' => 'share', 'code' => 'a']],
        'gather_share',
        'point',
    ],
    'a share of no class' => [
        ['kind' => 'category', 'field' => 'kind', 'gather' => ['tell' => 'share', 'code' => 'z']],
        'gather_share',
        'point',
    ],
    'a sum of a choice' => [
        ['kind' => 'single', 'gather' => ['tell' => 'sum', 'field' => 'kind']],
        'look_field',
        'point',
    ],
    'gathered for ever' => [
        ['kind' => 'single', 'gather' => ['tell' => 'count', 'until' => 30]],
        'gather_until',
        'point',
    ],
    'a line as wide as a river' => [['kind' => 'single', 'width' => 90], 'look_width', 'line'],
    'dashes of one’s own' => [
        ['kind' => 'single', 'peg' => ['head' => 'disc', 'colour' => '#112233', 'dash' => '1 2']],
        'peg_dash',
        'line',
    ],
    'a filling that is none' => [
        ['kind' => 'single', 'peg' => ['head' => 'disc', 'colour' => '#112233', 'fill' => 'gold']],
        'peg_fill',
        'area',
    ],
]);

it('gathers no cells, sizes none, and has no widths for points', function (): void {
    $cells = ['kind' => 'density', 'bits' => 14, 'breaks' => [5], 'field' => null];
    $look = Look::read(
        $cells + ['size' => ['field' => 'eggs', 'most' => 3], 'gather' => ['tell' => 'count'], 'photos' => true],
        markedDesign(),
    );
    expect(array_diff_key($look->toArray(), ['method' => 1, 'scheme' => 1, 'classes' => 1, 'other' => 1]))
        ->toEqual($cells)
        ->and(Look::read(['kind' => 'single', 'width' => 3], markedDesign())->width)->toBeNull();
});

it('tells classes apart by dashes and fillings, and says so only where they are alike', function (): void {
    $class = fn (string $code, array $more): array => [
        'code' => $code,
        'head' => 'disc',
        'colour' => '#9B2226',
    ] + $more;
    $look = fn (array $a, array $b): Look => Look::read(
        ['kind' => 'category', 'field' => 'kind', 'classes' => [$class('a', $a), $class('b', $b)]],
        markedDesign('area'),
    );
    expect($look([], [])->alike())->toBe([['a', 'b']])
        ->and($look(['fill' => 'stripes'], [])->alike())->toBe([])
        ->and($look([], ['dash' => 'dotted'])->alike())->toBe([])
        ->and($look(['fill' => 'dots'], ['fill' => 'dots'])->alike())->toBe([['a', 'b']]);
    $styles = StyleLayers::of($look(['fill' => 'stripes'], ['dash' => 'dashed']), 's');
    $ids = array_column($styles, 'id');
    expect($ids)->toBe(['s-area', 's-area-0', 's-outline', 's-outline-dashed', 's-area-heads', 's-dots', 's-pegs'])
        ->and($styles[1]['paint'])->toBe(['fill-pattern' => 'fill-stripes-9B2226'])
        ->and($styles[3]['paint']['line-dasharray'])->toBe([2.5, 1.8]);
});

it('carries the same where only colours differ, and another thing where the features do', function (): void {
    $shades = ['kind' => 'shades', 'field' => 'eggs', 'from' => 0, 'to' => 9];
    $of = fn (array $look): array => Look::read($look, markedDesign())->carries();
    expect($of($shades + ['scheme' => 'tide']))->toBe($of($shades + ['scheme' => 'ember']))
        ->and($of($shades))->not->toBe($of(['to' => 10] + $shades))
        ->and($of($shades))->not->toBe($of($shades + ['gather' => ['tell' => 'sum', 'field' => 'share']]))
        ->and($of($shades + ['gather' => ['tell' => 'count', 'until' => 10]]))
        ->toBe($of($shades + ['gather' => ['tell' => 'count']]))
        ->and($of($shades + ['photos' => true]))->not->toBe($of($shades));
});

it('takes a Z-order number apart as it was put together', function (): void {
    mt_srand(7);
    for ($i = 0; $i < 500; $i++) {
        [$lon, $lat] = [mt_rand(-1800000, 1800000) / 1e4, mt_rand(-850000, 850000) / 1e4];
        expect(ZOrder::stepsOf(ZOrder::of(Position::of($lon, $lat))))->toBe(ZOrder::steps($lon, $lat));
    }
});
