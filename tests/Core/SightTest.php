<?php

declare(strict_types=1);

use PinYard\Audience\Rows;
use PinYard\Audience\Rule;
use PinYard\Audience\Sharpness;
use PinYard\Audience\Sight;
use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;

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
