<?php

declare(strict_types=1);

/*
 * Writes slices.json: records, hundreds of rules, and which records each lets through, told by a plain reading that
 * shares nothing with SQL (App\Layers\FilterSql) and with the phone (field/slices/matches.ts) but the rule itself. Both
 * are held against the file. Run by hand: php tests/vectors/make-slices.php
 */

use PinYard\Design\LayerDesign;
use PinYard\Filter\Condition;
use PinYard\Filter\Filter;
use PinYard\Filter\Joined;
use PinYard\Filter\Test;
use PinYard\Formula\Neighbours;
use PinYard\Geo\Geodesic;
use PinYard\Geo\PointInArea;
use Random\Engine\Mt19937;
use Random\Randomizer;

require __DIR__.'/../../vendor/autoload.php';

const NOW = '2026-06-05T13:30:00Z';

/** What a filter means, written out for one record: `values` by field, `collected_at` in UTC. */
function means(Filter $filter, array $record, DateTimeZone $zone): bool
{
    $results = array_map(
        fn (Condition|Filter $part): bool => $part instanceof Filter
            ? means($part, $record, $zone)
            : meansOne($part, $record, $zone),
        $filter->parts,
    );

    return match ($filter->joined) {
        Joined::All => ! in_array(false, $results, true),
        Joined::Any => in_array(true, $results, true),
        Joined::None => ! in_array(true, $results, true),
    };
}

function meansOne(Condition $condition, array $record, DateTimeZone $zone): bool
{
    $asked = $condition->value;
    if ($condition->subject->key === '@place') {
        [$lon, $lat] = $record['geometry']['coordinates'];

        return $condition->test === Test::InShape
            ? PointInArea::of($asked['coordinates'], $lon, $lat)
            : Geodesic::metres($lon, $lat, $asked['lon'], $asked['lat']) <= $asked['metres'];
    }
    if ($condition->subject->key === 'collected_at') {
        $value = (new DateTimeImmutable($record['captured_at']))->setTimezone($zone)->format('Y-m-d');
    } else {
        $value = $record['values'][$condition->subject->key] ?? null;
    }
    if ($value === null) {
        return in_array($condition->test, [Test::Missing, Test::IsNot, Test::NoneOf, Test::HasNot], true);
    }
    $today = (new DateTimeImmutable(NOW))->setTimezone($zone);
    $day = fn (string $change): string => $today->modify($change)->format('Y-m-d');
    $lower = fn (mixed $of): mixed => is_string($of) ? mb_strtolower($of) : $of;

    return match ($condition->test) {
        Test::Is => $lower($value) === $lower($asked),
        Test::IsNot => $lower($value) !== $lower($asked),
        Test::Contains => str_contains($lower($value), $lower($asked)),
        Test::OneOf => array_intersect(array_map($lower, (array) $value), array_map($lower, $asked)) !== [],
        Test::NoneOf => array_intersect((array) $value, $asked) === [],
        Test::Has => in_array($asked, $value, true),
        Test::HasNot => ! in_array($asked, $value, true),
        Test::AtLeast, Test::Since => $value >= $asked,
        Test::AtMost, Test::Until => $value <= $asked,
        Test::Between => $value >= $asked[0] && $value <= $asked[1],
        Test::LastDays => $value >= $day('-'.($asked - 1).' days') && $value <= $day('now'),
        Test::Today => $value === $day('now'),
        // Weeks begin on Monday (ISO 8601).
        Test::ThisWeek => $today->modify('monday this week')->format('Y-m-d') <= $value &&
            $value <= $today->modify('sunday this week')->format('Y-m-d'),
        Test::Missing => false,
        Test::There => true,
    };
}

function randomCondition(Randomizer $dice): array
{
    $pick = fn (array $of) => $of[$dice->getInt(0, count($of) - 1)];
    $day = fn (): string => (new DateTimeImmutable('2026-05-01'))
        ->modify('+'.$dice->getInt(0, 40).' days')
        ->format('Y-m-d');
    $sorted = function (callable $make): array {
        $pair = [$make(), $make()];
        sort($pair);

        return $pair;
    };
    $tests = [
        'code' => ['is', 'is_not', 'contains', 'one_of', 'missing', 'there'],
        'clutch' => ['is', 'is_not', 'at_least', 'at_most', 'between', 'missing', 'there'],
        'species' => ['is', 'is_not', 'one_of', 'none_of', 'missing', 'there'],
        'signs' => ['has', 'has_not', 'one_of', 'missing', 'there'],
        'laid_on' => ['is', 'since', 'until', 'between', 'last_days', 'today', 'this_week', 'missing', 'there'],
        'collected_at' => ['since', 'until', 'between', 'last_days', 'today', 'this_week'],
        '@place' => ['within', 'in_shape'],
    ];
    $field = $pick(array_keys($tests));
    $test = $pick($tests[$field]);
    // Around the antimeridian, where the records are.
    $place = fn (): array => [179.9 + $dice->getInt(0, 200) / 1_000, 10 + $dice->getInt(0, 100) / 1_000];
    $value = match (true) {
        in_array($test, ['missing', 'there', 'today', 'this_week'], true) => null,
        $test === 'last_days' => $dice->getInt(1, 30),
        $test === 'contains' => $pick(['N', '-1', 'n-3', '%', '_', 'ü']),
        $test === 'within' => [
            'lon' => $pick([179.95, -179.97, 180]),
            'lat' => 10.05,
            'metres' => $dice->getInt(500, 9_000),
        ],
        $test === 'in_shape' => [
            'type' => 'Polygon',
            'coordinates' => [
                [[179.93, 10.02], [-179.95, 10.03], [-179.97, 10.08], [179.96, 10.07], [179.93, 10.02]],
            ],
        ],
        $test === 'between' && $field === 'clutch' => $sorted(fn (): int => $dice->getInt(1, 20)),
        $test === 'between' => $sorted($day),
        $field === 'code' && $test === 'one_of' => ['N-'.$dice->getInt(1, 9), 'n-'.$dice->getInt(1, 9)],
        $field === 'code' => 'N-'.$dice->getInt(1, 9),
        $field === 'clutch' => $dice->getInt(1, 20),
        $field === 'signs' && $test === 'one_of' => $pick([['egg'], ['egg', 'track']]),
        $field === 'signs' => $pick(['egg', 'track', 'dog']),
        in_array($test, ['one_of', 'none_of'], true) => $pick([['CC'], ['CM'], ['CC', 'CM']]),
        $field === 'species' => $pick(['CC', 'CM']),
        default => $day(),
    };

    return ['field' => $field, 'test' => $test, ...$value === null ? [] : ['value' => $value]];
}

function randomFilter(Randomizer $dice, int $depth = 0): array
{
    $parts = [];
    for ($i = $dice->getInt(0, 3); $i > 0; $i--) {
        $parts[] = $depth < 3 && $dice->getInt(1, 4) === 1 ? randomFilter($dice, $depth + 1) : randomCondition($dice);
    }

    return [['any', 'all', 'none'][$dice->getInt(0, 2)] => $parts];
}

$dice = new Randomizer(new Mt19937(20261124));
$fields = [
    ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
    ['key' => 'clutch', 'label' => 'Clutch', 'kind' => 'whole_number'],
    [
        'key' => 'species',
        'label' => 'Species',
        'kind' => 'one_choice',
        'choices' => [['code' => 'CC', 'label' => 'Loggerhead'], ['code' => 'CM', 'label' => 'Green']],
    ],
    [
        'key' => 'signs',
        'label' => 'Signs',
        'kind' => 'several_choices',
        'choices' => [
            ['code' => 'egg', 'label' => 'Egg'],
            ['code' => 'track', 'label' => 'Track'],
            ['code' => 'dog', 'label' => 'Dog'],
        ],
    ],
    ['key' => 'laid_on', 'label' => 'Laid on', 'kind' => 'date'],
];
$design = LayerDesign::fromArray([
    'title' => 'Nests',
    'purpose' => '',
    'geometry' => 'point',
    'fields' => $fields,
], Neighbours::none());
$records = [];
for ($i = 0; $i < 120; $i++) {
    $instant = (new DateTimeImmutable('2026-05-01T00:00:00Z'))->modify('+'.$dice->getInt(0, 40 * 86_400).' seconds');
    $records[] = [
        'captured_at' => $instant->format('Y-m-d\TH:i:s\Z'),
        // On both sides of the antimeridian.
        'geometry' => [
            'type' => 'Point',
            'coordinates' => [
                round(fmod(179.9 + $dice->getInt(0, 2_000) / 10_000 + 180, 360) - 180, 7),
                10 + $dice->getInt(0, 1_000) / 10_000,
            ],
        ],
        'values' => array_filter([
            'code' => [null, 'Süd 100%', 'n_3', 'N-3'][$dice->getInt(0, 9)] ?? 'N-'.$dice->getInt(1, 9),
            'species' => [null, 'CM'][$dice->getInt(0, 3)] ?? 'CC',
            'signs' => array_values(array_filter(['egg', 'track', 'dog'], fn (): bool => $dice->getInt(0, 2) === 0)),
            'clutch' => $dice->getInt(0, 3) === 0 ? null : $dice->getInt(1, 20),
            'laid_on' => $dice->getInt(0, 3) === 0 ? null : $instant->format('Y-m-d'),
        ]),
    ];
}
// Source: IANA tz data: Kiritimati is 14 hours ahead of UTC, Pago Pago 11 behind, Kathmandu 5:45 ahead.
$zones = ['UTC', 'Pacific/Kiritimati', 'Pacific/Pago_Pago', 'Asia/Kathmandu'];
$cases = [];
for ($n = 0; $n < 500; $n++) {
    $rule = randomFilter($dice);
    $filter = Filter::read($rule, $design);
    $zone = new DateTimeZone($zones[$n % 4]);
    $cases[] = [
        $zone->getName(),
        $rule,
        array_keys(array_filter($records, fn (array $r): bool => means($filter, $r, $zone))),
    ];
}
$lines = fn (array $of): string => implode(",\n", array_map(
    fn (array $one): string => '    '.json_encode($one, JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES),
    $of,
));
file_put_contents(
    __DIR__.'/slices.json',
    "{\n  \"about\": \"Made by make-slices.php: zone, rule, numbers of the records that it lets through.\",\n".
        '  "now": '.json_encode(NOW).",\n".
        "  \"fields\": [\n{$lines($fields)}\n  ],\n".
        "  \"records\": [\n{$lines($records)}\n  ],\n".
        "  \"cases\": [\n{$lines($cases)}\n  ]\n}\n",
);
