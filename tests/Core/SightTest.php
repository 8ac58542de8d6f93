<?php

declare(strict_types=1);

use PinYard\Audience\Rows;
use PinYard\Audience\Rule;
use PinYard\Audience\Sharpness;
use PinYard\Audience\Sight;
use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;
use PinYard\Formula\Neighbours;
use PinYard\Refused;

/* Of several rules that apply to one person only those count that admit the record at hand, and of them the widest. */

beforeEach(function (): void {
    $this->design = LayerDesign::fromArray([
        'title' => 'Nests', 'geometry' => 'point',
        'fields' => [
            ['key' => 'a', 'label' => 'A', 'kind' => 'short_text'],
            ['key' => 'b', 'label' => 'B', 'kind' => 'short_text'],
        ],
    ]);
    $this->by = fn (array $rule, ?Filter $only = null): Sight => Rule::read(
        $rule + ['rows' => 'all', 'place' => 'exact', 'fields' => null, 'photos' => false],
        $this->design,
        [],
        [7, 9],
        true,
    )->sight($only);
    $this->some = Filter::read(['all' => [['field' => 'a', 'test' => 'there']]], $this->design);
});

it('is one rule where all admit the same records, the widest of each part', function (): void {
    $both = Sight::together([
        ($this->by)(['place' => 'cell', 'metres' => 500, 'fields' => ['a']]),
        ($this->by)(['place' => 'cell', 'metres' => 100, 'fields' => ['b'], 'photos' => true]),
        ($this->by)(['place' => 'none', 'fields' => []]),
    ]);
    expect($both->ways)->toBe([])
        ->and($both->place)->toBe(Sharpness::Cell)
        ->and($both->blur?->metres)->toBe(100)
        ->and($both->fields)->toBe(['a', 'b'])
        ->and($both->photos)->toBeTrue();
});

it('finds a cell sharper than an area, and an area sharper than nothing', function (): void {
    $area = ($this->by)(['place' => 'area', 'areas' => 9]);
    $cell = ($this->by)(['place' => 'cell', 'metres' => 5_000]);
    $none = ($this->by)(['place' => 'none']);
    expect(Sight::together([$none, $area, $cell])->place)->toBe(Sharpness::Cell)
        ->and(Sight::together([$none, $area])->areas)->toBe(9)
        ->and(Sight::together([$none, $area])->narrowedTo(['a'])->areas)->toBe(9)
        ->and(Sight::together([$area, ($this->by)(['place' => 'area', 'areas' => 7])])->areas)->toBe(7)
        // Which areas is a part of the way of seeing.
        ->and($area->key())->not->toBe(($this->by)(['place' => 'area', 'areas' => 7])->key())
        ->and($area->placed()->place)->toBe(Sharpness::Exact)
        ->and(Rule::stored((array) json_decode((string) json_encode(
            Rule::read(['rows' => 'all', 'place' => 'area', 'areas' => 9], $this->design, [], [9])->toStored(),
        ), true))->areas)->toBe(9);
});

it('tells with its area what is worked out of that alone', function (): void {
    $sectors = LayerDesign::fromArray(['title' => 'Sectors', 'geometry' => 'area', 'fields' => [
        ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
    ]]);
    $wards = LayerDesign::fromArray(['title' => 'Wards'] + $sectors->toArray());
    $calculated = static fn (string $key, string $formula): array => [
        'key' => $key, 'label' => strtoupper($key), 'kind' => 'calculated', 'formula' => $formula,
    ];
    $design = LayerDesign::fromArray([
        'title' => 'Nests', 'geometry' => 'point',
        'fields' => [
            ['key' => 'a', 'label' => 'A', 'kind' => 'short_text'],
            $calculated('sector', 'area_of("Sectors")'), $calculated('ward', 'area_of("Wards")'),
            $calculated('east', 'longitude()'), $calculated('of', 'join(sector, "!")'),
            $calculated('both', 'join(sector, ward)'), $calculated('far', 'join(sector, text(longitude()))'),
        ],
    ], Neighbours::none()->among([$sectors, $wards]));
    $rule = ($this->by)(['place' => 'area', 'areas' => 7]);
    $read = Rule::read(['rows' => 'all', 'place' => 'area', 'areas' => 7], $design, [], [7]);
    $sight = Sight::by($read, null, 'Sectors');
    expect($sight->fieldsOf($design))->toBe(['a', 'sector', 'of'])
        ->and(Sight::together([$sight, Sight::own()])->ways[0]->fieldsOf($design))->toBe(['a', 'sector', 'of'])
        ->and($rule->fieldsOf($design))->toBe(['a']);
});

it('takes only areas that there are', function (mixed $areas): void {
    expect(fn () => ($this->by)(['place' => 'area', 'areas' => $areas]))->toThrow(Refused::class);
})->with([null, 8, '9', [[9]], true]);

it('sees their own as they are and others as cells, and says of all what holds for each', function (): void {
    $both = Sight::together([
        ($this->by)(['rows' => 'own']), ($this->by)(['place' => 'cell', 'metres' => 500, 'fields' => ['a']]),
    ]);
    expect($both->rows)->toBe(Rows::All)
        ->and($both->isWhole())->toBeFalse()
        ->and($both->isOnesOwn())->toBeTrue()
        ->and($both->place)->toBe(Sharpness::Cell)
        ->and($both->photos)->toBeFalse()
        ->and(array_map(static fn (Sight $s): array => [$s->rows, $s->place, $s->fields], $both->ways))->toBe([
            [Rows::All, Sharpness::Cell, ['a']], [Rows::Own, Sharpness::Exact, null],
        ]);
});

it('forgets a rule that shows nothing more than one that admits all', function (): void {
    $all = ($this->by)(['photos' => true]);
    expect(Sight::together([$all, ($this->by)(['fields' => ['a']], $this->some), Sight::own()]))->toEqual($all)
        ->and(Sight::together([]))->toEqual(Sight::nothing())
        ->and(Sight::together([Sight::nothing(), Sight::nothing()]))->toEqual(Sight::nothing());
});

it('widens what a slice shows by what is shown of all', function (): void {
    $both = Sight::together([
        ($this->by)(['place' => 'none', 'fields' => ['a'], 'photos' => true]),
        ($this->by)(['place' => 'cell', 'metres' => 500, 'fields' => ['b']], $this->some),
    ]);
    expect($both->chooses())->toBeTrue()
        ->and($both->ways[1]->fields)->toBe(['a', 'b'])
        ->and($both->ways[1]->photos)->toBeTrue()
        ->and($both->narrowedTo(['a'], false)->ways[1]->fields)->toBe(['a'])
        ->and($both->narrowedTo(['a'], false)->ways[1]->photos)->toBeFalse()
        ->and($both->placed()->place)->toBe(Sharpness::Exact)
        ->and($both->whole()->isWhole())->toBeTrue()
        ->and($both->key())->not->toBe(Sight::together([$both->ways[0]])->key());
});

it('is the same in whatever order the rules come', function (): void {
    $rules = [
        ($this->by)(['rows' => 'own']), ($this->by)(['place' => 'cell', 'metres' => 500, 'fields' => ['a']]),
        ($this->by)(['place' => 'none', 'fields' => ['b']]),
        ($this->by)(['place' => 'exact', 'fields' => ['a']], $this->some),
    ];
    $told = static function (Sight $s): array {
        $ways = array_map(static fn (Sight $w): string => $w->key(), $s->ways);
        sort($ways);

        return [$s->rows, $s->place, $s->fields, $s->photos, $ways];
    };
    foreach ([[0, 1, 2, 3], [3, 2, 1, 0], [2, 0, 3, 1], [1, 3, 0, 2]] as $order) {
        expect($told(Sight::together(array_map(static fn (int $i): Sight => $rules[$i], $order))))
            ->toEqual($told(Sight::together($rules)));
    }
});
