<?php

declare(strict_types=1);

use App\Layers\FilterSql;
use App\Layers\LayerRows;
use Illuminate\Support\Carbon;
use PinYard\Board\Condition;
use PinYard\Board\Filter;
use Random\Engine\Mt19937;
use Random\Randomizer;

/*
 * The SQL of a filter is held against a plain reading of the same filter over the same records in PHP:
 * a second opinion that shares nothing with the first but the filter tree.
 */

/** What a filter means, written out for one record: `values` by field, `collected_at` in UTC. */
function means(Filter $filter, array $record, DateTimeZone $zone): bool
{
    $results = array_map(
        fn (Condition|Filter $part): bool => $part instanceof Filter
            ? means($part, $record, $zone)
            : meansOne($part, $record, $zone),
        $filter->parts,
    );
    if ($results === []) {
        return true;
    }

    return $filter->any ? in_array(true, $results, true) : ! in_array(false, $results, true);
}

function meansOne(Condition $condition, array $record, DateTimeZone $zone): bool
{
    if ($condition->field === 'collected_at') {
        $value = (new DateTimeImmutable($record['captured_at']))->setTimezone($zone)->format('Y-m-d');
    } else {
        $value = $record['values'][$condition->field] ?? null;
    }
    if ($value === null) {
        return false;
    }
    $today = new DateTimeImmutable(now()->toIso8601String());
    $firstDay = is_int($condition->value)
        ? $today
            ->setTimezone($zone)
            ->modify('-'.($condition->value - 1).' days')
            ->format('Y-m-d')
        : '';

    return match ($condition->test) {
        'is' => is_string($value) && is_string($condition->value)
            ? mb_strtolower($value) === mb_strtolower($condition->value)
            : $value === $condition->value,
        'one_of' => in_array($value, (array) $condition->value, true),
        'at_least' => $value >= $condition->value,
        'at_most' => $value <= $condition->value,
        'since' => $value >= $condition->value,
        'until' => $value <= $condition->value,
        'last_days' => $value >= $firstDay && $value <= $today->setTimezone($zone)->format('Y-m-d'),
    };
}

function randomCondition(Randomizer $dice): array
{
    $pick = fn (array $of) => $of[$dice->getInt(0, count($of) - 1)];
    $day = fn (): string => (new DateTimeImmutable('2026-05-01'))
        ->modify('+'.$dice->getInt(0, 40).' days')
        ->format('Y-m-d');
    [$field, $test] = $pick([
        ['code', 'is'],
        ['clutch', 'is'],
        ['clutch', 'at_least'],
        ['clutch', 'at_most'],
        ['species', 'is'],
        ['species', 'one_of'],
        ['laid_on', 'is'],
        ['laid_on', 'since'],
        ['laid_on', 'until'],
        ['laid_on', 'last_days'],
        ['collected_at', 'since'],
        ['collected_at', 'until'],
        ['collected_at', 'last_days'],
    ]);
    $value = match (true) {
        $test === 'last_days' => $dice->getInt(1, 30),
        $field === 'code' => 'N-'.$dice->getInt(1, 9),
        $field === 'clutch' => $dice->getInt(1, 20),
        $test === 'one_of' => $pick([['CC'], ['CM'], ['CC', 'CM']]),
        $field === 'species' => $pick(['CC', 'CM']),
        default => $day(),
    };

    return ['field' => $field, 'test' => $test, 'value' => $value];
}

function randomFilter(Randomizer $dice, int $depth = 0): array
{
    $parts = [];
    for ($i = $dice->getInt(0, 3); $i > 0; $i--) {
        $parts[] = $depth < 3 && $dice->getInt(1, 4) === 1 ? randomFilter($dice, $depth + 1) : randomCondition($dice);
    }

    return [$dice->getInt(0, 1) === 1 ? 'any' : 'all' => $parts];
}

it('finds by SQL just what the filter means, for hundreds of filters in several time zones', function (): void {
    $seed = 20261124;
    $dice = new Randomizer(new Mt19937($seed));
    $programme = $this->programme($head = $this->person());
    $layer = $this->layer($programme);
    $records = [];
    for ($i = 0; $i < 150; $i++) {
        $instant = (new DateTimeImmutable('2026-05-01T00:00:00Z'))->modify(
            '+'.$dice->getInt(0, 40 * 86_400).' seconds',
        );
        $records[] = $this->add($layer, [
            'captured_at' => $instant->format('Y-m-d\TH:i:s\Z'),
            'values' => array_filter([
                'code' => 'N-'.$dice->getInt(1, 9),
                'species' => $dice->getInt(0, 1) === 1 ? 'CC' : 'CM',
                'clutch' => $dice->getInt(0, 3) === 0 ? null : $dice->getInt(1, 20),
                'laid_on' => $dice->getInt(0, 3) === 0 ? null : $instant->format('Y-m-d'),
            ]),
        ]);
    }
    $this->sync($head, $records);
    Carbon::setTestNow('2026-06-05T13:30:00Z');
    $design = $layer->design();
    // Source: IANA tz data: Kiritimati is 14 hours ahead of UTC, Pago Pago 11 behind, Kathmandu 5:45 ahead.
    $zones = array_map(fn (string $z): DateTimeZone => new DateTimeZone($z), [
        'UTC',
        'Pacific/Kiritimati',
        'Pacific/Pago_Pago',
        'Asia/Kathmandu',
    ]);
    for ($n = 0; $n < 400; $n++) {
        $filter = Filter::read($document = randomFilter($dice), $design);
        $zone = $zones[$n % 4];
        $found = (new FilterSql($design, $zone))->apply(LayerRows::live($layer), $filter)->count();
        $expected = count(array_filter($records, fn (array $r): bool => means($filter, $r, $zone)));
        expect($found)->toBe($expected, "seed $seed, filter $n in {$zone->getName()}: ".json_encode($document));
    }
    Carbon::setTestNow();
});

it('binds every value: what looks like SQL is only text', function (string $text): void {
    $programme = $this->programme($head = $this->person());
    $layer = $this->layer($programme, ['fields' => [['key' => 'code', 'label' => 'Code', 'kind' => 'short_text']]]);
    $this->sync($head, [
        $this->add($layer, ['values' => ['code' => $text]]),
        $this->add($layer, ['values' => ['code' => 'harmless']]),
    ]);
    $filter = urlencode((string) json_encode(['all' => [['field' => 'code', 'test' => 'is', 'value' => $text]]]));
    $answer = $this->actingAs($head)
        ->getJson("/api/v1/layers/{$layer->id}/records?filter=$filter")
        ->assertOk();
    expect($answer->json('total'))->toBe(1)->and($answer->json('records.0.values.code'))->toBe($text);
})->with(["' or 1=1 --", '"; drop table users; --', '\\', '%', '_______', "\u{0000}", '🐢', 'null', '?', ':id']);
