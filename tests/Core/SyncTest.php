<?php

declare(strict_types=1);

use PinYard\Design\LayerDesign;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Sync\Allowed;
use PinYard\Sync\BatchDecider;
use PinYard\Sync\LayerRules;
use PinYard\Sync\Operation;
use PinYard\Sync\Outcome;

function operation(array $change = []): array
{
    return array_replace(
        [
            'op' => RecordId::make()->text,
            'kind' => 'add',
            'seq' => 1,
            'layer' => 7,
            'design' => 1,
            'record' => RecordId::make()->text,
            'captured_at' => '2026-05-01T06:30:00.125Z',
            'values' => ['code' => 'A', 'count' => 1, 'species' => 'CC', 'seen' => '2026-05-01'],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.6, -14.2]],
            'fix' => ['accuracy' => 3.5, 'at' => '2026-05-01T06:29:58Z'],
            'photos' => [],
        ],
        $change,
    );
}

function photo(array $change = []): array
{
    return array_replace(
        [
            'id' => RecordId::make()->text,
            'name' => 'nest.jpg',
            'type' => 'image/jpeg',
            'bytes' => 12_000,
            'sha256' => str_repeat('ab', 32),
        ],
        $change,
    );
}

/** @return list<string> codes of refusal; empty when applied */
function decided(
    array $change,
    bool $mayAdd = true,
    array $taken = [],
    array $photos = ['allowed' => true, 'most' => 2],
): array {
    $design = LayerDesign::fromArray(['photos' => $photos] + vectors('values')['design']);
    $decider = new BatchDecider([7 => new LayerRules([1 => $design], 1, new Allowed($mayAdd, true, 'own'))], $taken);
    $decision = $decider->decide(Operation::read(operation($change), RecordId::make()->text));
    expect($decision->outcome)->toBe($decision->problems === [] ? Outcome::Applied : Outcome::Refused);

    return array_map(fn (Problem $p): string => $p->code, $decision->problems);
}

describe('an operation', function (): void {
    it('is refused by its shape before anything is asked', function (array $change, string $code): void {
        expect(refusals(fn () => Operation::read(operation($change), RecordId::make()->text)))->toBe([$code]);
    })->with([
        [['op' => 'x'], 'id_shape'],
        [['record' => null], 'id_shape'],
        [['kind' => 'explode'], 'op_kind'],
        [['seq' => -1], 'op_number'],
        [['layer' => '7'], 'op_number'],
        [['values' => [1, 2]], 'op_values'],
        [['values' => 'x'], 'op_values'],
        [['photos' => 'x'], 'must_be_list'],
        [['captured_at' => 'yesterday'], 'op_instant'],
        [['captured_at' => '2026-05-01 06:30'], 'op_instant'],
        [['captured_at' => '2026-05-01T06:30:00'], 'op_instant'],
    ]);

    // Source: RFC 3339, section 5.6 (offsets) and 5.8 (the example of 1996, which is 00:39:57 UTC of the next day).
    it('reads its instant with the offset', function (): void {
        $op = Operation::read(operation(['captured_at' => '1996-12-19T16:39:57-08:00']), RecordId::make()->text);
        expect($op->capturedAt->format('c'))->toBe('1996-12-20T00:39:57+00:00');
    });

    it('needs a device that has an id', function (): void {
        expect(refusals(fn () => Operation::read(operation(), 'phone')))->toBe(['id_shape']);
    });
});

describe('a decision', function (): void {
    it('applies what is right', function (): void {
        expect(decided([]))->toBe([])->and(decided(['photos' => [photo(), photo()]]))->toBe([]);
    });

    it('refuses with every reason at once', function (): void {
        $values = ['code' => 'A', 'clutch' => 900, 'species' => 'XX', 'seen' => '2026-05-01'];
        expect(decided(['values' => $values, 'geometry' => ['type' => 'Point', 'coordinates' => [0, 100]]]))->toBe([
            'above_highest',
            'required',
            'choice_unknown',
            'position_outside_world',
        ]);
    });

    it('refuses what the person may not do, and layers that are not theirs', function (): void {
        expect(decided([], mayAdd: false))
            ->toBe(['add_not_allowed'])
            ->and(decided(['layer' => 8]))
            ->toBe(['layer_unknown'])
            ->and(decided(['design' => 9]))
            ->toBe(['design_unknown']);
    });

    it('refuses an id that is taken, also twice within a batch', function (): void {
        $record = RecordId::make()->text;
        expect(decided(['record' => $record], taken: [$record]))->toBe(['record_exists']);
        $design = LayerDesign::fromArray(vectors('values')['design']);
        $decider = new BatchDecider([7 => new LayerRules([1 => $design], 1, new Allowed(true, true, 'own'))], []);
        $twice = fn () => $decider->decide(Operation::read(operation(['record' => $record]), RecordId::make()->text));
        expect($twice()->outcome)
            ->toBe(Outcome::Applied)
            ->and($twice()->problems[0]->code)
            ->toBe('record_exists');
    });

    it('refuses photos that are none, too large, too many or not wanted', function (): void {
        expect(decided(['photos' => [photo(['type' => 'text/html'])]]))
            ->toBe(['photo_type'])
            ->and(decided(['photos' => [photo(['bytes' => 40 * 1_048_576])]]))
            ->toBe(['photo_too_large'])
            ->and(decided(['photos' => [photo(['bytes' => 0])]]))
            ->toBe(['photo_empty'])
            ->and(decided(['photos' => [photo(['sha256' => 'zz'])]]))
            ->toBe(['photo_sha'])
            ->and(decided(['photos' => [photo(), photo(), photo()]]))
            ->toBe(['photos_count'])
            ->and(decided(['photos' => []], photos: ['allowed' => true, 'least' => 1]))
            ->toBe(['photos_count'])
            ->and(decided(['photos' => [photo()]], photos: ['allowed' => false]))
            ->toBe(['photos_not_allowed']);
    });
});
