<?php

declare(strict_types=1);

use App\Trails\TrailDays;
use App\Trails\Trails;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/* How far and how long people were out, from the points of their phones to tiles. */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->field->update(['time_zone' => 'Pacific/Auckland']);
    [$this->one, $this->two] = [$this->crew($this->field), $this->crew($this->field)];
    $this->nests = $this->layer($this->field);
    $this->travelTo('2026-03-20T12:00:00Z');
    /** Points a minute apart, each so many degrees further east. */
    $this->walk = function ($person, string $from, int $points, array $more = []): array {
        $more += ['step' => 0.0005, 'lat' => 0.0, 'lon' => 10.0, 'device' => RecordId::make(), 'accuracy' => 5];
        $at = strtotime($from) * 1000;
        $list = [];
        for ($i = 0; $i < $points; $i++) {
            $list[] = [$at + $i * 60_000, $more['lon'] + $i * $more['step'], $more['lat'], $more['accuracy']];
        }
        Trails::take($this->field, $person, $more['device'], $list, 0, null);

        return $list;
    };
    $this->day = fn ($person, string $day): ?stdClass => DB::table('trail_days')
        ->where('user_id', $person->id)
        ->where('day', $day)
        ->first();
    $this->tile = function (array $tile): array {
        $board = $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", [
            'title' => 'B', 'audience' => 'link',
            'tiles' => [
                $tile + ['id' => 't', 'title' => 'T', 'width' => 3, 'height' => 2, 'layer' => $this->nests->id],
            ],
        ])->assertCreated()->json();
        $this->board = $board;

        return $this->getJson("/api/v1/boards/{$board['id']}/answers")->assertOk()->json('tiles.0');
    };
});

// Source: Karney 2013 by Debian's geographiclib-tools: GeodSolve -i -E for 0 10 0 10.005 gives 556.597 m on WGS 84.
it('measures a way by its geodesics, and the time that it took', function (): void {
    ($this->walk)($this->one, '2026-03-10T01:00:00Z', 11);
    expect(($this->day)($this->one, '2026-03-10'))
        ->metres->toEqualWithDelta(556.597, 0.01)
        ->seconds->toEqualWithDelta(600, 0.001);
    $said = [];
    $solve = proc_open(['GeodSolve', '-i', '-p', '6'], [['pipe', 'r'], ['pipe', 'w']], $said);
    fwrite($said[0], "0 10 0 10.005\n");
    fclose($said[0]);
    [, , $metres] = explode(' ', trim((string) stream_get_contents($said[1])));
    proc_close($solve);
    expect(($this->day)($this->one, '2026-03-10')->metres)->toEqualWithDelta((float) $metres, 0.001);
});

it('does not walk through gaps, nor through points that nobody believes', function (): void {
    $device = RecordId::make();
    ($this->walk)($this->one, '2026-03-10T01:00:00Z', 3, ['device' => $device]);
    // Sixteen minutes later, and far away at once.
    ($this->walk)($this->one, '2026-03-10T01:18:01Z', 3, ['device' => $device]);
    ($this->walk)($this->one, '2026-03-10T01:21:01Z', 3, ['device' => $device, 'lon' => 11.0]);
    ($this->walk)($this->one, '2026-03-10T01:24:01Z', 3, ['device' => $device, 'lon' => 11.001, 'accuracy' => 900]);
    $step = 556.597 / 10;
    expect(($this->day)($this->one, '2026-03-10'))
        ->metres->toEqualWithDelta(6 * $step, 0.01)
        ->seconds->toEqualWithDelta(360, 0.01);
});

it('walks over the antimeridian the short way', function (): void {
    ($this->walk)($this->one, '2026-03-10T01:00:00Z', 1, ['lon' => 179.9998, 'device' => $d = RecordId::make()]);
    ($this->walk)($this->one, '2026-03-10T01:01:00Z', 1, ['lon' => -179.9997, 'device' => $d]);
    expect(($this->day)($this->one, '2026-03-10')->metres)->toEqualWithDelta(556.597 / 10, 0.01);
});

it('counts one of two phones in one pocket', function (): void {
    ($this->walk)($this->one, '2026-03-10T01:00:00Z', 11);
    ($this->walk)($this->one, '2026-03-10T01:00:30Z', 8);
    // And a third that was carried on alone.
    ($this->walk)($this->one, '2026-03-10T02:00:00Z', 3);
    expect(($this->day)($this->one, '2026-03-10'))
        ->metres->toEqualWithDelta(556.597 * 1.2, 0.05)
        ->seconds->toEqualWithDelta(720, 0.01);
});

it('parts days by the programme’s clock, whenever and in whatever order points arrive', function (): void {
    // Auckland is 13 hours ahead until 5 April 2026 (IANA tz data): 11:00 UTC is midnight there.
    $all = [];
    for ($i = 0; $i < 40; $i++) {
        $all[] = [strtotime('2026-03-10T10:40:00Z') * 1000 + $i * 60_000, 10 + $i * 0.0005, 0.0, 5];
    }
    $device = RecordId::make();
    mt_srand(4);
    shuffle($all);
    foreach (array_chunk($all, 7) as $some) {
        Trails::take($this->field, $this->one, $device, $some, 0, null);
        // Once more: a phone that did not hear the answer sends again.
        Trails::take($this->field, $this->one, $device, $some, 0, null);
    }
    $step = 556.597 / 10;
    // The step that ends at midnight is of the new day.
    expect(($this->day)($this->one, '2026-03-10')->metres)->toEqualWithDelta(19 * $step, 0.05)
        ->and(($this->day)($this->one, '2026-03-11')->metres)->toEqualWithDelta(20 * $step, 0.05);
    $kept = DB::table('trail_days')->orderBy('day')->get()->toArray();
    TrailDays::refresh($this->field);
    expect(DB::table('trail_days')->orderBy('day')->get()->toArray())->toEqual($kept);
});

it('tells kilometres and hours, and nests by them, by crew and week', function (): void {
    $north = $this->field->crews()->create(['name' => 'Nord']);
    $this->field->members()->where('user_id', $this->one->id)->update(['crew_id' => $north->id]);
    ($this->walk)($this->one, '2026-03-10T01:00:00Z', 21);
    ($this->walk)($this->one, '2026-03-17T01:00:00Z', 11);
    ($this->walk)($this->two, '2026-03-17T01:00:00Z', 11);
    $this->sync($this->one, [$this->add($this->nests), $this->add($this->nests), $this->add($this->nests)]);
    $km = 556.597 / 1000;
    $all = ($this->tile)(['kind' => 'number', 'measure' => ['of' => 'walked']])['answer'];
    expect($all)->toMatchArray(['unit' => 'km', 'n' => 3])->and($all['value'])->toEqualWithDelta(4 * $km, 1e-4);
    expect(($this->tile)(['kind' => 'number', 'measure' => ['of' => 'hours']])['answer']['value'])
        ->toEqualWithDelta(40 / 60, 1e-9);
    $rate = ($this->tile)([
        'kind' => 'breakdown', 'by' => ['field' => '@crew'],
        'measure' => ['of' => 'ratio', 'top' => ['of' => 'count'], 'bottom' => ['of' => 'walked']],
    ])['answer'];
    expect(array_column($rate['rows'], 'value', 'label')['Nord'])->toEqualWithDelta(3 / (3 * $km), 1e-4);
    $weeks = ($this->tile)([
        'kind' => 'trend', 'by' => ['field' => 'collected_at', 'step' => 'week'], 'measure' => ['of' => 'walked'],
    ])['answer'];
    expect($weeks['steps'])->toBe(['2026-03-09', '2026-03-16'])
        ->and($weeks['lines'][0]['values'][0])->toEqualWithDelta(2 * $km, 1e-4);
    expect(
        ($this->tile)(['kind' => 'breakdown', 'by' => ['field' => 'species'], 'measure' => ['of' => 'walked']])['kind'],
    )
        ->toBe('broken');
    // A crew that is picked cuts both, the count above and the ways below.
    $this->actingAs($this->head);
    $board = $this->postJson("/api/v1/programmes/{$this->field->id}/boards", ['title' => 'P', 'tiles' => [
        ['kind' => 'breakdown', 'id' => 'c', 'title' => 'C', 'layer' => $this->nests->id, 'by' => ['field' => '@crew']],
        ['kind' => 'number', 'id' => 'n', 'title' => 'N', 'layer' => $this->nests->id, 'measure' => ['of' => 'walked']],
    ]])->assertCreated()->json('id');
    $picked = $this->getJson(
        "/api/v1/boards/$board/answers?pick=".rawurlencode("{\"c\":\"$north->id\"}"),
    )->json('tiles.1');
    expect($picked['answer']['value'])->toEqualWithDelta(3 * $km, 1e-4)->and($picked['follows'])->toBeTrue();
    // The compared span cuts effort as it cuts records.
    $last = ($this->tile)([
        'kind' => 'number', 'measure' => ['of' => 'walked'],
        'compare' => ['by' => 'collected_at', 'days' => 7, 'against' => 'before'],
    ])['answer'];
    expect($last['value'])->toEqualWithDelta(2 * $km, 1e-4)
        ->and($last['earlier']['value'])->toEqualWithDelta(2 * $km, 1e-4);
});

it('tells others’ ways to those who coordinate alone, and nothing to a link', function (): void {
    ($this->walk)($this->one, '2026-03-10T01:00:00Z', 11);
    ($this->walk)($this->two, '2026-03-10T01:00:00Z', 21);
    ($this->tile)(['kind' => 'number', 'measure' => ['of' => 'walked']]);
    $told = fn ($person): ?float => $this->actingAs($person)
        ->getJson("/api/v1/boards/{$this->board['id']}/answers")
        ->json('tiles.0.answer.value');
    expect($told($this->head))->toEqualWithDelta(3 * 0.556597, 1e-4)
        ->and($told($this->one))->toEqualWithDelta(0.556597, 1e-4)
        ->and($told($this->two))->toEqualWithDelta(2 * 0.556597, 1e-4);
    app('auth')->forgetGuards();
    expect($this->getJson("/api/v1/open{$this->linkOf($this->board)}")->json('tiles.0.kind'))->toBe('broken');
    // New points, a new answer.
    ($this->walk)($this->one, '2026-03-12T01:00:00Z', 11);
    expect($told($this->head))->toEqualWithDelta(4 * 0.556597, 1e-4);
});

it('tells which share of areas and lines was walked, gaps and days before left out', function (): void {
    $areas = $this->layer($this->field, ['title' => 'Areas', 'geometry' => 'area']);
    $lines = $this->layer($this->field, ['title' => 'Lines', 'geometry' => 'line']);
    // On the equator a hundredth of a degree is 1,113.2 m to the east and 1,105.7 m to the north.
    $square = fn (float $west, string $code): array => $this->add($areas, [
        'values' => ['code' => $code, 'species' => 'CC'],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [[
            [$west, 0], [$west + 0.01, 0], [$west + 0.01, 0.01], [$west, 0.01], [$west, 0],
        ]]],
    ]);
    $line = $this->add($lines, [
        'values' => ['code' => 'L', 'species' => 'CC'],
        'geometry' => ['type' => 'LineString', 'coordinates' => [[10.0, 0.0], [10.02, 0.0]]],
    ]);
    $this->sync($this->head, [$square(10.0, 'walked'), $square(10.2, 'gap'), $square(10.4, 'never'), $line]);
    // Along the southern side of the first; in the second two points twenty minutes apart.
    ($this->walk)($this->one, '2026-03-19T01:00:00Z', 21);
    ($this->walk)($this->two, '2026-03-19T01:00:00Z', 1, ['lon' => 10.2, 'device' => $d = RecordId::make()]);
    ($this->walk)($this->two, '2026-03-19T01:20:00Z', 1, ['lon' => 10.21, 'device' => $d]);
    ($this->walk)($this->two, '2026-02-01T01:00:00Z', 21, ['lon' => 10.4]);
    $told = fn (int $layer, array $more = []): array => ($this->tile)(
        ['kind' => 'coverage', 'layer' => $layer, 'metres' => 100, 'days' => 7] + $more,
    )['answer'];
    $shares = array_column($told($areas->id)['rows'], 'share', 'name');
    expect(array_keys($shares))->toBe(['gap', 'never', 'walked'])
        // A strip of 100 m of 1,105.7.
        ->and($shares['walked'])->toEqualWithDelta(100 / 1105.7, 0.012)
        ->and($shares['gap'])->toEqual(0)->and($shares['never'])->toEqual(0)
        ->and($told($areas->id)['share'])->toEqualWithDelta($shares['walked'] / 3, 0.002)
        // Half of it, and a hundred metres on.
        ->and($told($lines->id)['rows'][0]['share'])->toEqualWithDelta(0.5 + 100 / 2226.4, 0.01);
    // Whoever does not coordinate is told of their own ways; a link of none.
    $id = $this->board['id'];
    $own = fn ($person): mixed => $this->actingAs($person)->getJson("/api/v1/boards/$id/answers")->json(
        'tiles.0.answer.rows.0.share',
    );
    expect($own($this->one))->toBeGreaterThan(0.4)->and($own($this->two))->toEqual(0);
    app('auth')->forgetGuards();
    expect($this->getJson('/api/v1/open'.$this->linkOf($this->board))->json('tiles.0.kind'))->toBe('broken');
});

it('tells how far and how long people were out in each area, and nests by that', function (): void {
    $areas = $this->layer($this->field, ['title' => 'Areas', 'geometry' => 'area']);
    $square = fn (float $west, string $code): array => $this->add($areas, [
        'values' => ['code' => $code, 'species' => 'CC'],
        'geometry' => ['type' => 'Polygon', 'coordinates' => [[
            [$west, -0.01], [$west + 0.01, -0.01], [$west + 0.01, 0.01], [$west, 0.01], [$west, -0.01],
        ]]],
    ]);
    $this->sync($this->head, [
        $square(10.0, 'west'), $square(10.01, 'east'), $square(10.3, 'never'), $square(179.99, 'edge'),
    ]);
    // Twenty steps in the west and four in the east, one more with nobody's area around it, two over the antimeridian.
    ($this->walk)($this->one, '2026-03-10T01:00:00Z', 25);
    ($this->walk)($this->two, '2026-03-11T01:00:00Z', 2, ['lon' => 10.2]);
    ($this->walk)($this->two, '2026-03-12T01:00:00Z', 1, ['lon' => 179.9990, 'device' => $d = RecordId::make()]);
    ($this->walk)($this->two, '2026-03-12T01:01:00Z', 1, ['lon' => 179.9995, 'device' => $d]);
    ($this->walk)($this->two, '2026-03-12T01:02:00Z', 1, ['lon' => -180.0, 'device' => $d]);
    // A second phone in the same pocket, and another person on the same beach.
    ($this->walk)($this->one, '2026-03-10T01:05:30Z', 5, ['lon' => 10.0025]);
    ($this->walk)($this->two, '2026-03-10T01:00:00Z', 3, ['lon' => 10.02 - 0.0015]);
    $this->sync($this->one, array_map(
        fn (float $lon): array => $this->add($this->nests, [
            'geometry' => ['type' => 'Point', 'coordinates' => [$lon, 0.001]],
        ]),
        [10.004, 10.005, 10.006, 10.012],
    ));
    $km = 556.597 / 10_000;
    $by = fn (array $measure, $person = null): array => array_column(($this->tile)([
        'kind' => 'breakdown', 'by' => ['areas' => $areas->id], 'measure' => $measure,
    ])['answer']['rows'], 'value', 'label');
    $walked = $by(['of' => 'walked']);
    expect($walked['west'])->toEqualWithDelta(20 * $km, 1e-4)
        ->and($walked['east'])->toEqualWithDelta(6 * $km, 1e-4)
        ->and($walked['edge'])->toEqualWithDelta(2 * $km, 1e-4)
        ->and(array_sum($walked))->toEqualWithDelta(28 * $km, 1e-3);
    $hours = $by(['of' => 'hours']);
    expect($hours['west'])->toEqualWithDelta(20 / 60, 1e-6)->and($hours['east'])->toEqualWithDelta(6 / 60, 1e-6);
    $rate = $by(['of' => 'ratio', 'top' => ['of' => 'count'], 'bottom' => ['of' => 'walked']]);
    expect($rate['west'])->toEqualWithDelta(3 / (20 * $km), 1e-2)
        ->and($rate['east'])->toEqualWithDelta(1 / (6 * $km), 1e-2);
    // Whoever does not coordinate is told of their own ways; a link of none.
    $told = fn ($person): array => array_column($this->actingAs($person)
        ->getJson("/api/v1/boards/{$this->board['id']}/answers")->json('tiles.0.answer.rows'), 'value', 'label');
    expect($told($this->two)['east'])->toEqualWithDelta(1 / (2 * $km), 1e-2);
    app('auth')->forgetGuards();
    expect($this->getJson('/api/v1/open'.$this->linkOf($this->board))->json('tiles.0.kind'))->toBe('broken');
});

it('has no share of points', function (): void {
    $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/boards", ['title' => 'B', 'tiles' => [
        ['id' => 't', 'kind' => 'coverage', 'title' => 'T', 'width' => 3, 'height' => 2, 'layer' => $this->nests->id],
    ]])->assertUnprocessable()->assertJsonPath('problems.0.code', 'coverage_points');
});
