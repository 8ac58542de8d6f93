<?php

declare(strict_types=1);

use PinYard\Alert\AlertPlan;
use PinYard\Alert\Rest;
use PinYard\Alert\Watched;
use PinYard\Board\BoardContext;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

$context = static fn (): BoardContext => new BoardContext([7 => LayerDesign::fromArray([
    'title' => 'Nests',
    'geometry' => 'point',
    'fields' => [
        ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
        ['key' => 'laid', 'label' => 'Laid', 'kind' => 'date'],
    ],
])], [3 => 7]);

it('tells a case once, and one that begins again once more', function (): void {
    $at = static fn (Watched $w, array $now): Watched => $w->after($now);
    $first = $at(new Watched(['a']), ['a', 'b']);
    expect($first->waiting)->toBe(['b'])
        // Not told yet: it waits on, and one that has ended meanwhile does not.
        ->and($at($first, ['a', 'b', 'c'])->waiting)->toBe(['b', 'c'])
        ->and($at($first, ['a'])->waiting)->toBe([])
        ->and($at($first->told(), ['a', 'b'])->waiting)->toBe([])
        ->and($at($at($first->told(), ['a']), ['a', 'b'])->waiting)->toBe(['b']);
    // Ids that look like numbers are still words.
    expect((new Watched([]))->after(['12', '007'])->waiting)->toBe(['12', '007']);
});

it('keeps still at night, over midnight, by the clock of the programme', function (): void {
    $rest = Rest::read(['minutes' => 0, 'from' => '21:00', 'until' => '06:00']);
    $still = static fn (string $utc, string $zone): bool => $rest->keepsStill(
        new DateTimeImmutable($utc),
        null,
        new DateTimeZone($zone),
    );
    expect($still('2026-07-01T20:59:00Z', 'UTC'))->toBeFalse()
        ->and($still('2026-07-01T21:00:00Z', 'UTC'))->toBeTrue()
        ->and($still('2026-07-02T05:59:59Z', 'UTC'))->toBeTrue()
        ->and($still('2026-07-02T06:00:00Z', 'UTC'))->toBeFalse()
        // Half past nine in the evening in Auckland, half past nine in the morning in UTC.
        ->and($still('2026-07-01T09:30:00Z', 'Pacific/Auckland'))->toBeTrue()
        // The hour that there is not when clocks go forward, and the one that is there twice.
        ->and($still('2026-03-29T00:59:00Z', 'Europe/London'))->toBeTrue()
        ->and($still('2026-10-25T05:59:00Z', 'Europe/London'))->toBeTrue()
        ->and($still('2026-10-25T06:00:00Z', 'Europe/London'))->toBeFalse();
    $day = Rest::read(['from' => '12:00', 'until' => '13:00']);
    expect($day->keepsStill(new DateTimeImmutable('2026-07-01T12:30:00Z'), null, new DateTimeZone('UTC')))->toBeTrue()
        ->and($day->keepsStill(new DateTimeImmutable('2026-07-01T13:00:00Z'), null, new DateTimeZone('UTC')))
        ->toBeFalse();
});

it('rests after it has spoken', function (): void {
    $rest = Rest::read(['minutes' => 60]);
    $told = new DateTimeImmutable('2026-07-01T12:00:00Z');
    $still = static fn (string $utc): bool => $rest->keepsStill(
        new DateTimeImmutable($utc),
        $told,
        new DateTimeZone('UTC'),
    );
    expect($still('2026-07-01T12:59:59Z'))->toBeTrue()->and($still('2026-07-01T13:00:00Z'))->toBeFalse();
});

it('refuses what makes no alert, and says where', function (array $change, string $field, string $code) use (
    $context,
): void {
    $in = array_replace([
        'name' => 'A',
        'rule' => ['kind' => 'slice', 'layer' => 7, 'slice' => 3],
        'to' => ['coordinators' => true, 'crews' => [1]],
    ], $change);
    try {
        AlertPlan::read($in, $context(), [1, 2]);
        $problems = [];
    } catch (Refused $e) {
        $problems = array_map(static fn ($p): array => [$p->field, $p->code], $e->problems);
    }
    expect($problems)->toContain([$field, $code]);
})->with([
    [['name' => '  '], 'name', 'empty'],
    [['name' => str_repeat('ä', 121)], 'name', 'too_long'],
    [['to' => ['coordinators' => false, 'crews' => []]], 'to', 'alert_nobody'],
    [['to' => ['crews' => [9]]], 'to/crews', 'outing_crew'],
    [['rule' => null], 'rule/kind', 'alert_kind'],
    [['rule' => ['kind' => 'slice', 'layer' => 8, 'slice' => 3]], 'rule/layer', 'layer_unknown'],
    [['rule' => ['kind' => 'slice', 'layer' => 7]], 'rule/slice', 'alert_slice'],
    [['rule' => ['kind' => 'slice', 'layer' => 7, 'slice' => 4]], 'rule/slice', 'slice_unknown'],
    [['rule' => ['kind' => 'measure', 'layer' => 7]], 'rule/value', 'alert_value'],
    [['rule' => ['kind' => 'measure', 'layer' => 7, 'value' => INF]], 'rule/value', 'alert_value'],
    [['rule' => ['kind' => 'measure', 'layer' => 7, 'value' => 1, 'passes' => 'beside']], 'rule/passes', 'tile_word'],
    [
        ['rule' => ['kind' => 'measure', 'layer' => 7, 'value' => 1, 'measure' => ['of' => 'most', 'field' => 'laid']]],
        'rule/measure',
        'alert_measure',
    ],
    [['rule' => ['kind' => 'silence', 'hours' => 0]], 'rule/hours', 'tile_number'],
    [['rule' => ['kind' => 'silence', 'hours' => 1000]], 'rule/hours', 'tile_number'],
    [['rule' => ['kind' => 'silence', 'crew' => 9]], 'rule/crew', 'outing_crew'],
    [['rest' => ['minutes' => -1]], 'rest/minutes', 'alert_rest'],
    [['rest' => ['from' => '24:00', 'until' => '06:00']], 'rest/from', 'alert_time'],
    [['rest' => ['from' => '21:00']], 'rest/until', 'alert_times'],
]);
