<?php

declare(strict_types=1);

use PinYard\Merge\DocumentMerge;

$tile = static fn (string $id, string $title = 'T', int $width = 3): array => [
    'id' => $id,
    'title' => $title,
    'width' => $width,
];

it('merges what two have changed of one document', function (
    mixed $was,
    mixed $theirs,
    mixed $mine,
    mixed $merged,
    array $clashes = [],
): void {
    $merge = DocumentMerge::of($was, $theirs, $mine, 'doc');
    expect($merge->merged)->toEqual($merged)->and(array_column($merge->clashes, 'path'))->toBe($clashes);
})->with([
    'nobody' => ['a', 'a', 'a', 'a'],
    'I' => ['a', 'a', 'b', 'b'],
    'they' => ['a', 'b', 'a', 'b'],
    'both the same' => ['a', 'b', 'b', 'b'],
    'both something else' => ['a', 'b', 'c', 'b', ['doc']],
    'two keys of a map' => [
        ['x' => 1, 'y' => 1], ['x' => 2, 'y' => 1], ['x' => 1, 'y' => 2], ['x' => 2, 'y' => 2],
    ],
    'the same key of a map' => [['x' => 1], ['x' => 2], ['x' => 3], ['x' => 2], ['doc/x']],
    'keys in another order' => [['x' => 1, 'y' => 2], ['y' => 2, 'x' => 1], ['x' => 1, 'y' => 3], ['x' => 1, 'y' => 3]],
    'two things of a list' => [
        [$tile('a'), $tile('b')], [$tile('a', 'A'), $tile('b')], [$tile('a'), $tile('b', 'T', 6)],
        [$tile('a', 'A'), $tile('b', 'T', 6)],
    ],
    'two parts of one thing' => [[$tile('a')], [$tile('a', 'A')], [$tile('a', 'T', 6)], [$tile('a', 'A', 6)]],
    'one part of one thing' => [
        [$tile('a')], [$tile('a', 'A')], [$tile('a', 'B')], [$tile('a', 'A')], ['doc/id-a/title'],
    ],
    'both added' => [[$tile('a')], [$tile('a'), $tile('b')], [$tile('a'), $tile('c')],
        [$tile('a'), $tile('b'), $tile('c')]],
    'taken away by me' => [[$tile('a'), $tile('b')], [$tile('a'), $tile('b')], [$tile('b')], [$tile('b')]],
    'taken away by them, others changed by me' => [
        [$tile('a'), $tile('b')], [$tile('b')], [$tile('a'), $tile('b', 'B')], [$tile('b', 'B')],
    ],
    'taken away by me, changed by them: it stays' => [
        [$tile('a'), $tile('b')], [$tile('a', 'A'), $tile('b')], [$tile('b')], [$tile('a', 'A'), $tile('b')],
    ],
    'taken away by them, changed by me: it stays' => [
        [$tile('a'), $tile('b')], [$tile('b')], [$tile('a', 'A'), $tile('b')], [$tile('b'), $tile('a', 'A')],
    ],
    'put in another order by me, added to by them' => [
        [$tile('a'), $tile('b')], [$tile('a'), $tile('b'), $tile('c')], [$tile('b'), $tile('a')],
        [$tile('b'), $tile('a'), $tile('c')],
    ],
    'put in another order by them, changed by me' => [
        [$tile('a'), $tile('b')], [$tile('b'), $tile('a')], [$tile('a', 'A'), $tile('b')],
        [$tile('b'), $tile('a', 'A')],
    ],
    'a map and a board of one number' => [
        [['kind' => 'map', 'id' => 1]], [['kind' => 'map', 'id' => 1], ['kind' => 'board', 'id' => 1]], [],
        [['kind' => 'board', 'id' => 1]],
    ],
    'a list of plain values' => [['a'], ['a', 'b'], ['a', 'c'], ['a', 'b'], ['doc']],
    'none before' => [null, null, [$tile('a')], [$tile('a')]],
    'whole numbers and decimals' => [[1, 2.0], [1.0, 2], [1, 3], [1, 3]],
]);

// A property, over random lists: what only one has changed is never lost, whoever comes first.
it('loses nothing that only one has changed', function (): void {
    $dice = new Random\Randomizer(new Random\Engine\Mt19937(5));
    for ($round = 0; $round < 500; $round++) {
        $was = array_map(fn (int $i): array => ['id' => "t$i", 'title' => 'was', 'width' => 1], range(1, 6));
        $change = function (string $who) use ($was, $dice): array {
            $list = [];
            foreach ($was as $one) {
                $roll = $dice->getInt(1, 10);
                if ($roll === 1) {
                    continue;
                }
                $list[] = $roll < 4 ? ['title' => $who] + $one : ($roll < 6 ? ['width' => 9] + $one : $one);
            }
            $list = $dice->getInt(1, 4) === 1 ? $dice->shuffleArray($list) : $list;

            return [...$list, ['id' => "new-$who", 'title' => $who, 'width' => 1]];
        };
        [$theirs, $mine] = [$change('they'), $change('I')];
        foreach ([[$theirs, $mine], [$mine, $theirs]] as [$first, $second]) {
            $merged = array_column(DocumentMerge::of($was, $first, $second)->merged, null, 'id');
            expect($merged)->toHaveKeys(['new-they', 'new-I']);
            foreach ([[$first, $second], [$second, $first]] as [$one, $other]) {
                $other = array_column($other, null, 'id');
                foreach ($one as $thing) {
                    $before = array_column($was, null, 'id')[$thing['id']] ?? null;
                    foreach (['title', 'width'] as $key) {
                        $onlyHere = $before !== null && $thing[$key] !== $before[$key]
                            && ($other[$thing['id']][$key] ?? $before[$key]) === $before[$key];
                        if ($onlyHere) {
                            expect($merged[$thing['id']][$key])->toBe($thing[$key]);
                        }
                    }
                }
            }
        }
    }
});
