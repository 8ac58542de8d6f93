<?php

declare(strict_types=1);

use PinYard\Design\FieldRules;
use PinYard\Formula\Formula;
use PinYard\Formula\Functions;
use PinYard\Formula\Type;

/** What each function gives, and what it refuses: over the fields of tests/vectors/formulas.json. */
$read = static fn (string $text): Formula => Formula::read($text, FieldRules::scope(formulaDesign()));

it('gives the type that it says', function (string $formula, Type $type) use ($read): void {
    expect($read($formula)->type)->toBe($type);
})->with([
    ['round(weight)', Type::Number],
    ['round(weight, 2)', Type::Number],
    ['round_up(1)', Type::Number],
    ['round_down(1)', Type::Number],
    ['absolute(1)', Type::Number],
    ['root(1)', Type::Number],
    ['number(note)', Type::Number],
    ['least(1, 2)', Type::Number],
    ['least(laid_on, today())', Type::Date],
    ['most(begun, "07:00")', Type::Time],
    ['most(seen_at, now())', Type::Instant],
    ['join(",", note, species)', Type::Text],
    ['text(1)', Type::Text],
    ['text(laid_on, "DD")', Type::Text],
    ['text(seen_at, "hh")', Type::Text],
    ['length(note)', Type::Number],
    ['part(note, 1, 2)', Type::Text],
    ['upper(note)', Type::Text],
    ['lower(species)', Type::Text],
    ['label(species)', Type::Text],
    ['label(threats)', Type::Text],
    ['has(threats, "tide")', Type::YesNo],
    ['count(threats)', Type::Number],
    ['choose(opened, 1, 2)', Type::Number],
    ['choose(opened, species, "x")', Type::Text],
    ['choose(opened, null, laid_on)', Type::Date],
    ['first_given(blank, 1)', Type::Number],
    ['missing(note)', Type::YesNo],
    ['given(threats)', Type::YesNo],
    ['between(laid_on, today(), "days")', Type::Number],
    ['age(seen_at, "hours")', Type::Number],
    ['add(laid_on, 1, "month")', Type::Date],
    ['add(seen_at, 1, "hours")', Type::Instant],
    ['today()', Type::Date],
    ['now()', Type::Instant],
    ['date(1, 2, 3)', Type::Date],
    ['at(laid_on, begun)', Type::Instant],
    ['date_of(seen_at)', Type::Date],
    ['time_of(seen_at)', Type::Time],
    ['year(laid_on)', Type::Number],
    ['year(seen_at)', Type::Number],
    ['weekday(laid_on)', Type::Number],
    ['hour(begun)', Type::Number],
    ['hour(seen_at)', Type::Number],
    ['longitude()', Type::Number],
    ['distance_to(1, 2)', Type::Number],
    ['null', Type::Missing],
    ['species', Type::Choice],
]);

it('refuses what its parts are not', function (string $formula, string $code) use ($read): void {
    expect(refusals(fn () => $read($formula)))->toBe([$code]);
})->with([
    ['round_up(note)', 'formula_type'],
    ['root(laid_on)', 'formula_type'],
    ['number(1)', 'formula_type'],
    ['least(1)', 'formula_arguments'],
    ['least(note, "b")', 'formula_order'],
    ['most(1, laid_on)', 'formula_mixed'],
    ['join(1, note)', 'formula_type'],
    ['join(",")', 'formula_arguments'],
    ['length(clutch)', 'formula_type'],
    ['part(note, "1", 2)', 'formula_type'],
    ['upper(opened)', 'formula_type'],
    ['label(note)', 'formula_type'],
    ['has(species, "CC")', 'formula_type'],
    ['count(note)', 'formula_type'],
    ['choose(1, 2, 3)', 'formula_type'],
    ['first_given(1, note)', 'formula_mixed'],
    ['between(laid_on, seen_at, "days")', 'formula_type'],
    ['age(begun, "hours")', 'formula_type'],
    ['add(begun, 1, "hours")', 'formula_type'],
    ['add(laid_on, 1, "hours")', 'formula_unit'],
    ['add(laid_on, "1", "days")', 'formula_type'],
    ['today(1)', 'formula_arguments'],
    ['date(2026, 5)', 'formula_arguments'],
    ['at(seen_at, begun)', 'formula_type'],
    ['date_of(laid_on)', 'formula_type'],
    ['year(note)', 'formula_type'],
    ['hour(laid_on)', 'formula_type'],
    ['distance_to(1)', 'formula_arguments'],
    ['not clutch', 'formula_type'],
    ['opened and 1', 'formula_type'],
    ['-note', 'formula_type'],
    ['threats ~ "x"', 'formula_type'],
    ['opened > false', 'formula_order'],
    ['species > "CC"', 'formula_order'],
    ['clutch in ["1"]', 'formula_type'],
    ['opened in [true]', 'formula_in'],
]);

it('is offered only where it can be written, with its words', function () use ($read): void {
    $texts = json_decode((string) file_get_contents(__DIR__.'/../../resources/texts/en.json'), true);
    foreach (Functions::names() as $name) {
        expect($texts)
            ->toHaveKeys(["function.$name", "function.$name.hint"])
            ->and(Functions::forms($name, false))
            ->not->toBe([], $name);
    }
    expect(Functions::nearest('lenght', ...Functions::names()))
        ->toBe('length')
        ->and(Functions::nearest('zzzzzz', ...Functions::names()))
        ->toBeNull()
        ->and($read('age(laid_on, "days")')->changes)
        ->toBeTrue()
        ->and($read('clutch + hatched')->changes)
        ->toBeFalse()
        ->and($read('clutch + hatched * clutch')->fields)
        ->toBe(['clutch', 'hatched']);
});
