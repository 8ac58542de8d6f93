<?php

declare(strict_types=1);

use App\Models\Layer;
use App\Records\Bits\BuildBits;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/* What tiles measure, through the whole way from records to answers, against R, NIST and SQL written by hand. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->phone = $this->crew($this->field);
    $this->of = fn (array $fields, array $more = []): Layer => $this->layer($this->field, [
        'title' => 'Sites', 'fields' => $fields, ...$more,
    ]);
    /** @param  list<array<string, mixed>>  $rows  values */
    $this->actingAs($this->head);
    $this->fill = function (Layer $layer, array $rows, array $more = []): void {
        foreach (array_chunk($rows, 400) as $some) {
            $this->sync($this->phone, array_map(
                fn (array $values): array => $this->add($layer, [
                    'values' => array_filter($values, static fn (mixed $v): bool => $v !== null),
                ] + $more),
                $some,
            ));
        }
        $this->actingAs($this->head);
    };
    /** By bits, and beside it asked of the database: both must tell the same. */
    $this->answers = function (array ...$tiles): array {
        $asked = ($this->asked)(...$tiles);
        foreach ($this->field->layers()->pluck('id') as $layer) {
            (new BuildBits($layer, 0))->handle();
        }
        $counted = ($this->asked)(...$tiles);
        DB::table('layer_bits')->delete();
        array_walk_recursive($asked, static fn (mixed & $v): mixed => is_float($v) ? ($v = sprintf('%.5e', $v)) : $v);
        $told = $counted;
        array_walk_recursive($told, static fn (mixed & $v): mixed => is_float($v) ? ($v = sprintf('%.5e', $v)) : $v);
        expect($told)->toBe($asked);

        return $counted;
    };
    $this->asked = function (array ...$tiles): array {
        $full = [];
        foreach ($tiles as $i => $tile) {
            $full[] = $tile + ['id' => "t$i", 'title' => "T$i", 'width' => 3, 'height' => 2];
        }
        $board = $this->postJson("/api/v1/programmes/{$this->field->id}/boards", ['title' => 'B', 'tiles' => $full])
            ->assertCreated()
            ->json('id');

        return array_column(
            $this->getJson("/api/v1/boards/$board/answers")->assertOk()->json('tiles'),
            'answer',
        );
    };
});

const MEASURES = [
    'sum' => ['of' => 'sum', 'field' => 'x'],
    'mean' => ['of' => 'mean', 'field' => 'x'],
    'median' => ['of' => 'median', 'field' => 'x'],
    'q90' => ['of' => 'quantile', 'field' => 'x', 'p' => 0.9],
    'q25' => ['of' => 'quantile', 'field' => 'x', 'p' => 0.25],
    'deviation' => ['of' => 'deviation', 'field' => 'x'],
    'least' => ['of' => 'least', 'field' => 'x'],
    'most' => ['of' => 'most', 'field' => 'x'],
    'distinct' => ['of' => 'distinct', 'field' => 'x'],
];

// Source: R 4.2.2 on its own data sets, tests/vectors/make-boards.R.
it('measures as R does, of all and of each group', function (string $set): void {
    $vector = json_decode((string) file_get_contents(__DIR__.'/../vectors/boards.json'), true)[$set];
    $layer = ($this->of)([
        ['key' => 'x', 'label' => 'X', 'kind' => 'decimal'],
        ['key' => 'g', 'label' => 'G', 'kind' => 'short_text'],
    ]);
    ($this->fill)($layer, array_map(
        static fn (int|float|null $x, string $g): array => ['x' => $x, 'g' => $g],
        $vector['values'],
        $vector['groups'],
    ));
    $tiles = [];
    foreach (MEASURES as $measure) {
        $tiles[] = ['kind' => 'number', 'layer' => $layer->id, 'measure' => $measure];
    }
    $tiles[] = [
        'kind' => 'table',
        'layer' => $layer->id,
        'by' => ['field' => 'g'],
        'columns' => array_map(
            static fn (array $m): array => ['measure' => $m],
            array_slice(array_values(MEASURES), 0, 8),
        ),
    ];
    $answers = ($this->answers)(...$tiles);
    foreach (array_keys(MEASURES) as $i => $name) {
        expect($answers[$i]['value'])->toEqualWithDelta($vector['all'][$name], abs($vector['all'][$name]) * 1e-12)
            ->and($answers[$i]['n'])->toBe($vector['all']['n'])
            ->and($answers[$i]['missing'])->toBe($vector['all']['n'] - $vector['all']['known']);
    }
    $table = end($answers);
    foreach (array_slice(array_keys(MEASURES), 0, 8) as $i => $name) {
        expect($table['totals'][$i])->toEqualWithDelta($vector['all'][$name], abs($vector['all'][$name]) * 1e-12);
    }
    expect(array_column($table['rows'], 'code'))->toEqualCanonicalizing(
        array_map(strval(...), array_keys($vector['by'])),
    );
    foreach ($table['rows'] as $row) {
        foreach (array_slice(array_keys(MEASURES), 0, 8) as $i => $name) {
            $expected = $vector['by'][$row['code']][$name];
            expect($row['cells'][$i])->toEqualWithDelta($expected, abs($expected) * 1e-12);
        }
        expect($row['n'])->toBe($vector['by'][$row['code']]['n']);
    }
})->with(['ozone', 'michelso', 'chicks']);

// Source: NIST Statistical Reference Datasets, univariate summary statistics, NumAcc1 to NumAcc4: certified mean and
// deviation; the data are given by their rule (a first value, then two in turn).
it('holds mean and deviation where numbers are large and lie close together', function (
    array $values,
    float $mean,
    float $deviation,
    float $digits,
): void {
    $layer = ($this->of)([['key' => 'x', 'label' => 'X', 'kind' => 'decimal']]);
    ($this->fill)($layer, array_map(static fn (float $x): array => ['x' => $x], $values));
    foreach ([[$this->asked, $digits], [$this->answers, 1e-14]] as [$answers, $off]) {
        [$m, $d] = $answers(
            ['kind' => 'number', 'layer' => $layer->id, 'measure' => MEASURES['mean']],
            ['kind' => 'number', 'layer' => $layer->id, 'measure' => MEASURES['deviation']],
        );
        // Sums of bits are exact.
        expect($m['value'])->toEqualWithDelta($mean, $mean * 1e-14)
            ->and($d['value'])->toEqualWithDelta($deviation, $deviation * $off);
    }
})->with([
    'NumAcc1' => [[10000001.0, 10000003.0, 10000002.0], 10000002.0, 1.0, 1e-14],
    'NumAcc2' => [[1.2, ...array_merge(...array_fill(0, 500, [1.1, 1.3]))], 1.2, 0.1, 1e-12],
    'NumAcc3' => [[1000000.2, ...array_merge(...array_fill(0, 500, [1000000.1, 1000000.3]))], 1000000.2, 0.1, 1e-8],
    'NumAcc4' => [[10000000.2, ...array_merge(...array_fill(0, 500, [10000000.1, 10000000.3]))], 10000000.2, 0.1, 1e-7],
]);

it('counts, parts and shares as SQL by hand does', function (): void {
    $layer = ($this->of)([
        ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
        ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number'],
        ['key' => 'kind', 'label' => 'Kind', 'kind' => 'one_choice', 'choices' => [
            ['code' => 'a', 'label' => 'Ä'], ['code' => 'b', 'label' => 'B'], ['code' => 'c', 'label' => 'C'],
        ]],
        ['key' => 'by', 'label' => 'Threats', 'kind' => 'several_choices', 'choices' => [
            ['code' => 'x', 'label' => 'X'], ['code' => 'y', 'label' => 'Y'],
        ]],
        ['key' => 'ok', 'label' => 'OK', 'kind' => 'yes_no'],
    ]);
    mt_srand(3);
    $rows = [];
    for ($i = 0; $i < 97; $i++) {
        $rows[] = [
            'code' => "S-$i",
            'eggs' => mt_rand(0, 4) === 0 ? null : mt_rand(0, 9),
            'kind' => [null, 'a', 'b'][mt_rand(0, 2)],
            'by' => [null, ['x'], ['y'], ['x', 'y']][mt_rand(0, 3)],
            'ok' => [null, true, false][mt_rand(0, 2)],
        ];
    }
    ($this->fill)($layer, $rows);
    $few = $this->postJson("/api/v1/layers/$layer->id/slices", [
        'filter' => ['all' => [['field' => 'eggs', 'test' => 'at_most', 'value' => 4]]],
    ])->json('id');
    $t = $layer->table();
    $on = ['layer' => $layer->id];
    [$kinds, $threats, $yes, $share, $ratio, $parts, $top] = ($this->answers)(
        ['kind' => 'breakdown', 'by' => ['field' => 'kind']] + $on,
        ['kind' => 'breakdown', 'by' => ['field' => 'by']] + $on,
        ['kind' => 'breakdown', 'by' => ['field' => 'ok'], 'measure' => ['of' => 'sum', 'field' => 'eggs']] + $on,
        ['kind' => 'number', 'measure' => ['of' => 'share', 'slice' => $few]] + $on,
        ['kind' => 'number', 'measure' => [
            'of' => 'ratio', 'top' => [
                'of' => 'sum',
                'field' => 'eggs',
            ], 'bottom' => ['of' => 'count', 'slice' => $few],
            'times' => 100,
        ]] + $on,
        ['kind' => 'breakdown', 'by' => ['field' => 'kind'], 'second' => ['field' => 'ok']] + $on,
        ['kind' => 'breakdown', 'by' => ['field' => 'code'], 'top' => 5] + $on,
    );
    $by = static fn (array $answer, string $what = 'value'): array => array_column(
        array_map(static fn (array $r): array => [$r['code'] ?? '', $r[$what]], $answer['rows']),
        1,
        0,
    );
    $expected = DB::select("select coalesce(f_kind, '') as k, count(*) as n from $t group by f_kind");
    $counts = array_column($expected, 'n', 'k');
    // What the list names and nobody has is told as nought.
    expect($by($kinds))->toEqualCanonicalizing($counts + ['c' => 0])
        ->and($by($kinds)['c'])->toBe(0)
        ->and($by($kinds)['a'])->toBe($counts['a'])
        ->and(array_sum($by($kinds, 'share')))->toBe(100)
        ->and($kinds['rows'][0]['label'])->toBe('Ä')
        ->and(end($kinds['rows'])['code'])->toBeNull();
    $x = DB::selectOne("select count(*) as n from $t where concat(',', f_by, ',') like '%,x,%'")->n;
    $none = DB::selectOne("select count(*) as n from $t where f_by is null or f_by = ''")->n;
    expect($by($threats)['x'])->toBe($x)
        ->and($by($threats)[''])->toBe($none)
        ->and($threats['overlaps'])->toBeTrue()
        ->and($threats['n'])->toBe(97)
        ->and($by($threats, 'share')['x'])->toBe((int) round($x / 97 * 100));
    expect($by($yes)['1'])->toBe((int) DB::selectOne("select sum(f_eggs) as s from $t where f_ok = 1")->s)
        ->and($yes['missing'])->toBe(DB::selectOne("select count(*) as n from $t where f_eggs is null")->n);
    $small = DB::selectOne("select count(*) as n from $t where f_eggs <= 4")->n;
    expect($share['value'])->toEqualWithDelta($small / 97 * 100, 1e-12)
        ->and($ratio['value'])->toEqualWithDelta(
            (int) DB::selectOne("select sum(f_eggs) as s from $t")->s / $small * 100,
            1e-9,
        );
    foreach ($parts['rows'] as $row) {
        expect(array_sum($row['parts']))->toBe($row['value']);
    }
    expect($top['rows'])->toHaveCount(5)
        ->and($top['others'])->toMatchArray(['groups' => 92, 'value' => 92]);
});

it('says nothing where there is nothing', function (): void {
    $layer = ($this->of)([
        ['key' => 'x', 'label' => 'X', 'kind' => 'decimal', 'unit' => 'm'],
        ['key' => 'on', 'label' => 'On', 'kind' => 'date'],
    ]);
    $on = ['layer' => $layer->id];
    [$n, $sum, $mean, $ratio, $trend, $spread, $first] = ($this->answers)(
        ['kind' => 'number'] + $on,
        ['kind' => 'number', 'measure' => MEASURES['sum']] + $on,
        ['kind' => 'number', 'measure' => MEASURES['mean'], 'unit' => 'km'] + $on,
        [
            'kind' => 'number',
            'measure' => ['of' => 'ratio', 'top' => MEASURES['sum'], 'bottom' => ['of' => 'count']],
        ] + $on,
        ['kind' => 'trend', 'by' => ['field' => 'on', 'step' => 'day']] + $on,
        ['kind' => 'spread', 'measure' => MEASURES['mean']] + $on,
        ['kind' => 'number', 'measure' => ['of' => 'least', 'field' => 'on']] + $on,
    );
    expect([$n['value'], $sum['value'], $mean['value'], $ratio['value'], $first['value']])
        ->toBe([0, 0, null, null, null])
        ->and($trend['steps'])->toBe([])
        ->and($spread['bars'])->toBe([]);
    ($this->fill)($layer, [['x' => 2500.0, 'on' => '2026-03-01'], ['on' => '2025-12-31']]);
    [$km, $first] = ($this->answers)(
        ['kind' => 'number', 'measure' => MEASURES['sum'], 'unit' => 'km', 'decimals' => 1] + $on,
        ['kind' => 'number', 'measure' => ['of' => 'least', 'field' => 'on']] + $on,
    );
    expect($km)->toMatchArray(['value' => 2.5, 'unit' => 'km', 'decimals' => 1, 'n' => 2, 'missing' => 1])
        ->and($first['value'])->toBe('2025-12-31');
});

// Source: IANA tz data. Lord Howe moves its clock by half an hour, St John's stands at half hours, Casablanca changes
// for Ramadan; PHP's DateTimeImmutable is the second opinion on which day a moment is in.
it('puts moments into the days, weeks, months and years of the programme', function (string $zone): void {
    $this->field->update(['time_zone' => $zone]);
    $layer = ($this->of)([['key' => 'at', 'label' => 'At', 'kind' => 'date_time']]);
    mt_srand(5);
    $moments = [];
    for ($i = 0; $i < 120; $i++) {
        $moments[] = gmdate('Y-m-d\TH:i:s\Z', mt_rand(strtotime('2024-12-25 UTC'), strtotime('2026-04-10 UTC')));
    }
    foreach (
        (new DateTimeZone($zone))->getTransitions(strtotime('2025-01-01 UTC'), strtotime('2026-03-31 UTC')) as $change
    ) {
        foreach ([-1, 0, 1, 1800, -1800] as $seconds) {
            $moments[] = gmdate('Y-m-d\TH:i:s\Z', $change['ts'] + $seconds);
        }
    }
    ($this->fill)($layer, array_map(static fn (string $at): array => ['at' => $at], $moments));
    $local = array_map(
        static fn (string $at): DateTimeImmutable => (new DateTimeImmutable($at))->setTimezone(new DateTimeZone($zone)),
        $moments,
    );
    foreach (['day' => 'Y-m-d', 'month' => 'Y-m-01', 'year' => 'Y-01-01', 'week' => 'o-\WW'] as $step => $shape) {
        [$answer] = ($this->answers)([
            'kind' => 'breakdown', 'layer' => $layer->id, 'by' => ['field' => 'at', 'step' => $step], 'top' => 100,
        ]);
        [$trend] = ($this->answers)([
            'kind' => 'trend', 'layer' => $layer->id, 'by' => [
                'field' => 'at',
                'step' => $step === 'day' ? 'week' : $step,
            ],
        ]);
        expect(array_sum($trend['lines'][0]['values']))->toBe(count($moments));
        if ($step === 'day') {
            continue;
        }
        $expected = array_count_values(
            array_map(static fn (DateTimeImmutable $d): string => $d->format($shape), $local),
        );
        $told = [];
        foreach ($answer['rows'] as $row) {
            $told[(new DateTimeImmutable($row['code']))->format($shape)] = $row['value'];
        }
        ksort($expected);
        ksort($told);
        // ISO 8601: weeks begin on Monday and have the number that their Thursday gives them.
        expect($told)->toBe($expected);
    }
})->with(['Australia/Lord_Howe', 'America/St_Johns', 'Africa/Casablanca']);

it('draws days without records, and goes to coarser steps where there are too many', function (): void {
    $layer = ($this->of)([['key' => 'on', 'label' => 'On', 'kind' => 'date']]);
    ($this->fill)($layer, [['on' => '2026-03-28'], ['on' => '2026-03-31'], ['on' => '2026-03-31'], []]);
    $tile = ['kind' => 'trend', 'layer' => $layer->id, 'by' => ['field' => 'on', 'step' => 'day']];
    $this->travelTo('2026-04-01T12:00:00Z');
    [$each, $running] = ($this->answers)($tile, $tile + ['running' => true]);
    expect($each['steps'])->toBe(['2026-03-28', '2026-03-29', '2026-03-30', '2026-03-31', '2026-04-01'])
        ->and($each['lines'][0]['values'])->toBe([1, 0, 0, 2, 0])
        ->and($running['lines'][0]['values'])->toBe([1, 1, 1, 3, 3])
        ->and($each)->toMatchArray(['n' => 4, 'missing' => 1, 'outside' => 0, 'coarser' => false]);
    ($this->fill)($layer, [['on' => '2020-01-05'], ['on' => '9999-12-31']]);
    [$each] = ($this->answers)($tile);
    // A date that somebody mistyped is told, and does not press the line into a corner.
    expect($each)->toMatchArray(['step' => 'week', 'coarser' => true, 'outside' => 1])
        ->and($each['steps'][0])->toBe('2019-12-30');
});

it('compares with the days before and with those of last year', function (): void {
    $layer = ($this->of)([['key' => 'on', 'label' => 'On', 'kind' => 'date']]);
    $this->travelTo('2026-05-20T12:00:00Z');
    ($this->fill)($layer, array_map(static fn (string $on): array => ['on' => $on], [
        '2026-05-20', '2026-05-14', '2026-05-13', '2026-05-07', '2026-05-06', '2025-05-20', '2025-05-01', '2025-05-21',
    ]));
    $on = ['kind' => 'number', 'layer' => $layer->id];
    [$week, $season, $future] = ($this->answers)(
        $on + ['compare' => ['by' => 'on', 'days' => 7, 'against' => 'before']],
        $on + ['compare' => ['by' => 'on', 'since' => '2026-05-01', 'against' => 'year']],
        $on + ['compare' => ['by' => 'on', 'since' => '2027-01-01', 'against' => 'year']],
    );
    expect($week)->toMatchArray(['value' => 2, 'span' => ['2026-05-14', '2026-05-20']])
        ->and($week['earlier'])->toMatchArray(['value' => 2, 'from' => '2026-05-07', 'to' => '2026-05-13'])
        ->and(array_column($week['line'], 1))->toBe([1, 0, 0, 0, 0, 0, 1])
        ->and($season['value'])->toBe(5)
        ->and($season['earlier'])->toMatchArray(['value' => 2, 'from' => '2025-05-01', 'to' => '2025-05-20'])
        ->and($future['value'])->toBe(0);
});

it('measures what lies in areas, and visits and photos of each', function (): void {
    $square = fn (string $name, float $west): array => [
        'values' => ['name' => $name],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [[
            [$west, -14.6], [$west + 0.1, -14.6], [$west + 0.1, -14.4], [$west, -14.4], [$west, -14.6],
        ]]],
    ];
    $beaches = $this->layer($this->field, [
        'title' => 'Beaches', 'geometry' => 'area',
        'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
    ]);
    $layer = ($this->of)([['key' => 'x', 'label' => 'X', 'kind' => 'decimal']]);
    $visits = $this->layer($this->field, [
        'title' => 'Visits', 'visits_of' => 'Sites',
        'fields' => [['key' => 'y', 'label' => 'Y', 'kind' => 'whole_number']],
    ]);
    $layer->refresh();
    $at = fn (float $lon, ?float $x): array => $this->add($layer, [
        'values' => $x === null ? [] : ['x' => $x],
        'geometry' => ['type' => 'Point', 'coordinates' => [$lon, -14.5]],
    ]);
    $sites = [$at(-11.55, 1.0), $at(-11.56, 4.0), $at(-11.57, null), $at(-11.42, 10.0), $at(-11.1, 99.0)];
    $this->sync($this->phone, [
        $this->add($beaches, $square('West', -11.6)),
        $this->add($beaches, $square('Öst', -11.5)),
        $this->add($beaches, $square('Empty', -11.3)),
        ...$sites,
    ]);
    $this->sync($this->phone, [
        $this->add($visits, ['values' => ['y' => 1], 'visited' => $sites[0]['record']]),
        $this->add($visits, ['values' => ['y' => 2], 'visited' => $sites[0]['record']]),
    ]);
    $this->actingAs($this->head);
    $tile = ['kind' => 'breakdown', 'layer' => $layer->id, 'by' => ['areas' => $beaches->id]];
    [$counts, $means, $medians, $visited, $most] = ($this->answers)(
        $tile,
        $tile + ['measure' => MEASURES['mean']],
        $tile + ['measure' => MEASURES['median']],
        ['kind' => 'number', 'layer' => $layer->id, 'measure' => ['of' => 'mean', 'field' => '@visits']],
        ['kind' => 'number', 'layer' => $layer->id, 'measure' => ['of' => 'most', 'field' => '@visits']],
    );
    expect(array_column($counts['rows'], 'value', 'label'))->toBe(['West' => 3, 'Öst' => 1, 'Empty' => 0])
        ->and(array_column($means['rows'], 'value', 'label'))->toBe(['Öst' => 10, 'West' => 2.5, 'Empty' => null])
        ->and($medians['rows'][1]['value'])->toBe(2.5)
        ->and([$visited['value'], $most['value']])->toBe([0.4, 2]);
    // Nobody who may not see them counts them.
    $board = $this->postJson("/api/v1/programmes/{$this->field->id}/boards", [
        'title' => 'B', 'tiles' => [$tile + ['id' => 'a', 'title' => 'A', 'width' => 3, 'height' => 2]],
    ])->json('id');
    $area = $counts['rows'][0]['code'];
    $pick = rawurlencode((string) json_encode(['a' => $area]));
    expect($this->getJson("/api/v1/boards/$board/answers?pick=$pick")->json('picked'))->toBe(['a']);
    expect(RecordId::of($area)->text)->toBe($area);
});
