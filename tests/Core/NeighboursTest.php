<?php

declare(strict_types=1);

use PinYard\Design\LayerDesign;
use PinYard\Formula\Formula;
use PinYard\Formula\Neighbours;
use PinYard\Formula\Scope;
use PinYard\Formula\Surroundings;
use PinYard\Formula\Type;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;

/** Formulas about the ground that a record lies on, about visits to it and about areas around it. */
function neighbours(): Neighbours
{
    $visits = LayerDesign::fromArray([
        'title' => 'Visits',
        'geometry' => 'point',
        'fields' => [
            [
                'key' => 'state',
                'label' => 'State',
                'kind' => 'one_choice',
                'choices' => [['code' => 'calm', 'label' => 'Calm'], ['code' => 'dug', 'label' => 'Dug']],
            ],
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
            ['key' => 'on', 'label' => 'On', 'kind' => 'date'],
            [
                'key' => 'signs',
                'label' => 'Signs',
                'kind' => 'several_choices',
                'choices' => [['code' => 'a', 'label' => 'A']],
            ],
        ],
    ]);
    $areas = LayerDesign::fromArray([
        'title' => 'Beaches',
        'geometry' => 'area',
        'fields' => [
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
            ['key' => 'guards', 'label' => 'Guards', 'kind' => 'whole_number'],
        ],
    ]);

    return Neighbours::of($visits)->among([$areas]);
}

it('gives what the ground, the visits and the areas say', function (string $formula, mixed $expected): void {
    $areas = static fn (string $title, float $lon, float $lat): array => $title === 'Beaches' && $lon < 0
        ? ['name' => 'Gull', 'guards' => 3]
        : [];
    $in = new Surroundings(
        [],
        new DateTimeImmutable('2026-11-25T06:00:00Z'),
        new DateTimeZone('UTC'),
        [],
        -11.6,
        -14.2,
        1234.5,
        98_765.25,
        12.5,
        3,
        ['state' => 'dug', 'eggs' => 4, 'on' => '2026-11-20'],
        $areas,
    );
    expect(Formula::read($formula, new Scope([], [], neighbours()))->value($in))->toBe($expected);
})->with([
    ['line_length()', 1234.5],
    ['round(line_length() / 1000, 1)', 1.2],
    ['area_size() / 10000', 9.876525],
    ['altitude() * 2', 25.0],
    ['visits()', 3.0],
    ['visits() > 2 ? "often" : "seldom"', 'often'],
    ['latest_visit("eggs") + 1', 5.0],
    ['latest_visit("state")', 'dug'],
    ['latest_visit("state") == "dug"', true],
    ['between(latest_visit("on"), today(), "days")', 5.0],
    ['area_of("Beaches")', 'Gull'],
    ['area_of("Beaches", "name")', 'Gull'],
    ['area_of("Beaches", "guards") * 2', 6.0],
    ['join(", ", area_of("Beaches"), latest_visit("state"))', 'Gull, dug'],
]);

// Missing in, missing out.
it('is missing where nothing is known', function (string $formula, mixed $expected): void {
    $in = new Surroundings([], new DateTimeImmutable('2026-11-25T06:00:00Z'), new DateTimeZone('UTC'));
    expect(Formula::read($formula, new Scope([], [], neighbours()))->value($in))->toBe($expected);
})->with([
    ['line_length()', null],
    ['area_size() + 1', null],
    ['altitude()', null],
    ['visits()', 0.0],
    ['latest_visit("eggs")', null],
    ['missing(latest_visit("state"))', true],
    ['area_of("Beaches")', null],
    ['first_given(area_of("Beaches"), "nowhere")', 'nowhere'],
]);

it('is of the type that the other layer gives it', function (
    string $formula,
    Type $type,
    bool $visited,
    array $areas,
): void {
    $read = Formula::read($formula, new Scope([], [], neighbours()));
    expect($read->type)->toBe($type)->and($read->visited)->toBe($visited)->and($read->areas)->toBe($areas);
})->with([
    ['latest_visit("eggs")', Type::Number, true, []],
    ['latest_visit("state")', Type::Text, true, []],
    ['latest_visit("on")', Type::Date, true, []],
    ['visits() + 1', Type::Number, true, []],
    ['area_of("Beaches")', Type::Text, false, ['Beaches']],
    ['area_of("Beaches", "guards")', Type::Number, false, ['Beaches']],
    ['line_length()', Type::Number, false, []],
]);

it('is refused where the other layer has no such thing', function (string $formula, string $code): void {
    expect(refusals(fn () => Formula::read($formula, new Scope([], [], neighbours()))))->toBe([$code]);
})->with([
    ['latest_visit("egs")', 'formula_visit_near'],
    ['latest_visit("zzzzzzzz")', 'formula_visit'],
    ['latest_visit("signs")', 'formula_visit'],
    ['latest_visit(1)', 'formula_visit'],
    ['latest_visit()', 'formula_arguments'],
    ['visits(1)', 'formula_arguments'],
    ['area_of("Beach")', 'formula_areas'],
    ['area_of("Beaches", "x")', 'formula_area_field'],
    ['area_of(1)', 'formula_areas'],
    ['area_of("Beaches") + 1', 'formula_type'],
    ['latest_visit("state") + 1', 'formula_type'],
]);

it('is refused without neighbours, and missing in a design that was saved when there were some', function (): void {
    expect(refusals(fn () => Formula::read('visits()', new Scope([], [], Neighbours::none()))))
        ->toBe(['formula_no_visits'])
        ->and(refusals(fn () => Formula::read('area_of("Beaches")', new Scope([], [], Neighbours::none()))))
        ->toBe(['formula_no_areas']);
    $lenient = new Scope([], [], Neighbours::none()->lenient());
    $in = new Surroundings([], new DateTimeImmutable, new DateTimeZone('UTC'), visits: 2);
    foreach (
        [
            'latest_visit("eggs") + 1' => null,
            'area_of("Beaches", "guards") * 2' => null,
            'visits()' => 2.0,
            'latest_visit("gone") == "x" ? 1 : 2' => null,
        ] as $formula => $expected
    ) {
        expect(Formula::read($formula, $lenient)->value($in))->toBe($expected, $formula);
    }
});

it('follows a record to another place', function (): void {
    $in = (new Surroundings(['a' => 1], new DateTimeImmutable, new DateTimeZone('UTC'), visits: 2))->at(
        Shape::point(Position::of(1, 2)),
        7.0,
    );
    expect([$in->lon, $in->lat, $in->altitude, $in->visits, $in->values])
        ->toBe([1.0, 2.0, 7.0, 2, ['a' => 1]])
        ->and($in->anew([])->values)
        ->toBe([])
        ->and($in->anew([])->altitude)
        ->toBe(7.0)
        ->and($in->at(null)->lon)
        ->toBeNull();
});

it('knows which calculated fields follow from a field, by way of others too', function (): void {
    $design = LayerDesign::fromArray([
        'title' => 'T',
        'geometry' => 'point',
        'fields' => [
            ['key' => 'a', 'label' => 'A', 'kind' => 'whole_number'],
            ['key' => 'b', 'label' => 'B', 'kind' => 'calculated', 'formula' => 'a * 2'],
            ['key' => 'c', 'label' => 'C', 'kind' => 'calculated', 'formula' => 'b + 1'],
            ['key' => 'd', 'label' => 'D', 'kind' => 'calculated', 'formula' => '1 + 1'],
            ['key' => 'e', 'label' => 'E', 'kind' => 'whole_number', 'show_when' => 'a > 1'],
            ['key' => 'f', 'label' => 'F', 'kind' => 'calculated', 'formula' => 'e'],
        ],
    ]);
    expect($design->rules->readers('a'))
        ->toBe(['b', 'c', 'f'])
        ->and($design->rules->readers('d'))
        ->toBe([])
        ->and($design->rules->readers('e'))
        ->toBe(['f']);
});
