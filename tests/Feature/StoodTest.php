<?php

declare(strict_types=1);

use App\Models\Fill;
use Illuminate\Support\Facades\DB;
use Random\Engine\Mt19937;
use Random\Randomizer;

uses(Tests\ImportSteps::class);

/*
 * Past days of a board. The main check is a season that is lived through: what the board told when each day ended is
 * noted down as it was told, and asked for again when all days are over.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    // Days begin at ten in the evening UTC, and clocks change in the middle of the season.
    $this->field->update(['time_zone' => 'Australia/Lord_Howe']);
    $this->travelTo('2026-03-30T02:00:00Z');
    $this->nests = $this->layer($this->field);
    $this->visits = $this->layer($this->field, [
        'title' => 'Visits',
        'visits_of' => 'Nests',
        'fields' => [['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'whole_number']],
    ]);
    $document = $this->nests->refresh()->design()->toArray();
    $document['fields'][] = ['key' => 'seen', 'label' => 'Seen', 'kind' => 'calculated', 'formula' => 'visits()'];
    $this->actingAs($this->head)
        ->putJson("/api/v1/layers/{$this->nests->id}/design", ['base' => 1, 'design' => $document])->assertOk();
    $this->nests = $this->nests->fresh();
    $this->late = $this->nests->slices()->create([
        'name' => 'Laid in the last three days',
        'filter' => ['all' => [['field' => 'laid_on', 'test' => 'last_days', 'value' => 3]]],
    ]);
    $tile = fn (string $id, string $kind, array $more): array => $more + [
        'id' => $id, 'kind' => $kind, 'title' => $id, 'width' => 3, 'height' => 2, 'layer' => $this->nests->id,
    ];
    $measure = static fn (string $of, string $field): array => ['of' => $of, 'field' => $field];
    $this->tiles = [
        $tile('count', 'number', []),
        $tile('eggs', 'number', ['measure' => $measure('sum', 'clutch')]),
        $tile('median', 'number', ['measure' => $measure('median', 'clutch')]),
        $tile('seen', 'number', ['measure' => $measure('sum', 'seen')]),
        $tile('visited', 'number', ['measure' => $measure('sum', '@visits')]),
        $tile('late', 'number', ['slice' => $this->late->id]),
        $tile('species', 'breakdown', ['by' => ['field' => 'species']]),
        $tile('days', 'trend', ['by' => ['field' => 'collected_at', 'step' => 'day']]),
        $tile('last', 'latest', ['fields' => ['clutch', 'seen'], 'count' => 20]),
        $tile('visits', 'number', ['layer' => $this->visits->id, 'measure' => $measure('sum', 'eggs')]),
        $tile('map', 'map', ['names' => true]),
    ];
    $this->board = fn (): int => $this->actingAs($this->head)
        ->postJson("/api/v1/programmes/{$this->field->id}/boards", ['title' => 'B', 'tiles' => $this->tiles])
        ->assertCreated()->json('id');
    $this->told = function (int $board, string $query = ''): array {
        $answer = $this->actingAs($this->head)->getJson("/api/v1/boards/$board/answers$query")->assertOk()->json();
        $told = array_combine(array_column($answer['tiles'], 'id'), array_column($answer['tiles'], 'answer'));
        // The tag of features names the way of asking, too.
        unset($told['map']['view']['layers'][0]['version']);

        return [$answer['today'], $told];
    };
});

it('tells of each day of a season what it told on it', function (int $seed): void {
    $dice = new Randomizer(new Mt19937($seed));
    $board = ($this->board)();
    $records = $told = [];
    $fill = null;
    $at = "/api/v1/layers/{$this->nests->id}";
    for ($day = 0; $day < 9; $day++) {
        for ($i = 0; $i < 8; $i++) {
            $this->travel($dice->getInt(1, 60))->minutes();
            $this->actingAs($this->head);
            $record = $records === [] ? null : $dice->pickArrayKeys($records, 1)[0];
            $values = [
                'clutch' => $dice->getInt(1, 200),
                'laid_on' => now()->subDays($dice->getInt(0, 6))->toDateString(),
            ];
            switch ($record === null ? 0 : $dice->getInt(0, 6)) {
                case 0:
                case 1:
                    $add = $this->add($this->nests, [
                        'values' => $values + [
                            'code' => "N-$day-$i",
                            'species' => $dice->getInt(0, 1) === 1 ? 'CC' : 'CM',
                        ],
                        'geometry' => ['type' => 'Point', 'coordinates' => [-11.5 + $i / 100, -14.5]],
                        // Some were collected days before they arrive.
                        'captured_at' => now()->subHours($dice->getInt(0, 60))->format('Y-m-d\TH:i:s.v\Z'),
                    ]);
                    $this->sync($this->head, [$add]);
                    $records[$add['record']] = $add['record'];
                    break;
                case 2:
                case 3:
                    $is = $this->getJson("$at/records/$record")->json('version');
                    $this->patchJson("$at/records/$record", ['base' => $is, 'values' => $values]);
                    break;
                case 4:
                    $this->sync($this->head, [$this->add($this->visits, [
                        'visited' => $record, 'values' => ['eggs' => $dice->getInt(0, 9)],
                    ])]);
                    break;
                case 5:
                    $this->deleteJson("$at/records/$record", ['base' => 99]);
                    break;
                default:
                    $this->postJson("$at/records/$record/restore");
            }
        }
        if ($day === 3) {
            $fill = $this->actingAs($this->head)
                ->postJson("$at/fills", ['field' => 'clutch', 'formula' => 'clutch + 1'])->assertCreated()->json('id');
        }
        if ($day === 6) {
            $this->actingAs($this->head)->deleteJson("$at/fills/$fill")->assertOk();
        }
        [$today, $now] = ($this->told)($board);
        $told[$today] = $now;
        $this->travel(24)->hours();
        $this->travelTo(now('Australia/Lord_Howe')->startOfDay()->addHours($dice->getInt(1, 12))->utc());
    }
    $kinds = DB::table('record_history')->where('layer_id', $this->nests->id)->distinct()->pluck('kind')->all();
    expect($told)->toHaveCount(9)
        ->and($kinds)->toContain('add', 'change', 'delete', 'restore')
        ->and(DB::table('record_workings')->where('layer_id', $this->nests->id)->count())->toBeGreaterThan(0)
        ->and(Fill::query()->where('layer_id', $this->nests->id)->whereNotNull('undone_at')->count())->toBe(1);
    foreach ($told as $day => $then) {
        [$today, $again] = ($this->told)($board, "?on=$day");
        expect($today)->toBe($day);
        foreach ($then as $tile => $answer) {
            expect($again[$tile])->toBe($answer, "$tile on $day");
        }
    }
    // Today is today, with and without its day.
    expect(($this->told)($board, '?on='.$this->field->today())[1])->toEqual(($this->told)($board)[1]);
})->with([1, 2, 3, 4, 5]);

it('tells by what had been collected, where that is asked for', function (): void {
    $board = ($this->board)();
    $nest = fn (string $code, string $at): array => $this->add($this->nests, [
        'values' => ['code' => $code, 'species' => 'CC'], 'captured_at' => $at,
    ]);
    $this->sync($this->head, [$nest('A', '2026-03-30T01:00:00.000Z')]);
    $this->travelTo('2026-04-02T02:00:00Z');
    // Three days in a pocket without signal.
    $this->sync($this->head, [$nest('B', '2026-03-30T01:30:00.000Z')]);
    $count = fn (string $query): array => ($this->told)($board, $query)[1]['count'];
    expect($count('?on=2026-03-30')['value'])->toEqual(1)
        ->and($count('?on=2026-03-30&by=collected')['value'])->toEqual(2)
        ->and($count('?on=2026-03-29&by=collected')['value'])->toEqual(0)
        ->and($count('')['value'])->toEqual(2);
});

it('knows records that were brought in with others, changed since, or taken back with them', function (): void {
    // The database puts its own time to what is brought in.
    $this->travelBack();
    $day = fn (int $days): string => '?on='.now('Australia/Lord_Howe')->addDays($days)->toDateString();
    [$before, $first, $second] = [$day(-1), $day(0), $day(1)];
    $csv = "Code,Clutch,Species,lon,lat\n";
    foreach (range(1, 30) as $i) {
        $csv .= "I-$i,$i,Green,-11.5,-14.5\n";
    }
    $import = $this->bring($this->head, $this->field, ['nests.csv' => $csv]);
    $import = $this->land($this->decide($import));
    $layer = App\Models\Layer::query()->findOrFail($import['layer']);
    $this->tiles = [[
        'id' => 'sum', 'kind' => 'number', 'title' => 'S', 'width' => 3, 'height' => 2, 'layer' => $layer->id,
        'measure' => ['of' => 'sum', 'field' => 'clutch'],
    ]];
    $board = ($this->board)();
    $sum = fn (string $on): mixed => ($this->told)($board, $on)[1]['sum']['value'];
    expect($sum(''))->toEqual(465);
    $this->travel(1)->days();
    $one = $this->getJson("/api/v1/layers/$layer->id/records")->json('records.0');
    $this->patchJson("/api/v1/layers/$layer->id/records/{$one['id']}", [
        'base' => 1, 'values' => ['clutch' => 100 + $one['values']['clutch']],
    ])->assertOk();
    expect($sum(''))->toEqual(565)->and($sum($first))->toEqual(465);
    $this->travel(1)->days();
    $this->postJson("/api/v1/imports/{$import['id']}/undo")->assertOk();
    // The one that was changed since stays.
    expect($sum(''))->toEqual(100 + $one['values']['clutch'])
        ->and($sum($second))->toEqual(565)->and($sum($first))->toEqual(465)->and($sum($before))->toEqual(0);
});

it('shows no more of a past day than its viewer may see today', function (): void {
    $crew = $this->crew($this->field);
    $this->nests = $this->layer($this->field, ['title' => 'Own', 'rights' => ['crew' => ['see' => 'own']]]);
    $this->tiles = [['layer' => $this->nests->id] + $this->tiles[0]];
    $board = ($this->board)();
    $this->sync($this->head, [$this->add($this->nests)]);
    $this->sync($crew, [$this->add($this->nests)]);
    $this->travel(1)->days();
    $this->sync($this->head, [$this->add($this->nests)]);
    $count = fn ($person): mixed => $this->actingAs($person)
        ->getJson("/api/v1/boards/$board/answers?on=2026-03-30")->assertOk()->json('tiles.0.answer.value');
    expect($count($this->head))->toEqual(2)->and($count($crew))->toEqual(1);
    $this->actingAs($this->person())->getJson("/api/v1/boards/$board/answers?on=2026-03-30")->assertNotFound();
    // A link has no past days: the difference between two of them would tell what came.
    $this->actingAs($this->head)->patchJson("/api/v1/boards/$board", ['audience' => 'link'])->assertOk();
    $link = App\Models\Board::query()->findOrFail($board)->link_token;
    expect($this->getJson("/api/v1/open/boards/$link?on=2026-03-30")->assertOk()->json('tiles.0.answer.value'))
        ->toEqual(3);
});

it('draws a map, its table of areas and outings of that day; where crews were is not kept', function (): void {
    $areas = $this->layer($this->field, ['title' => 'Areas', 'geometry' => 'area', 'fields' => []]);
    $this->sync($this->head, [$this->add($areas, ['values' => [], 'geometry' => [
        'type' => 'Polygon',
        'coordinates' => [[[-11.6, -14.6], [-11.4, -14.6], [-11.4, -14.4], [-11.6, -14.4], [-11.6, -14.6]]],
    ]]), $this->add($this->nests)]);
    $this->actingAs($this->head)->postJson("/api/v1/programmes/{$this->field->id}/outings", [
        'title' => 'O', 'from' => '2026-03-29', 'to' => '2026-04-09', 'layers' => [$this->nests->id],
        'target' => 'records', 'count' => 10,
    ])->assertCreated();
    $map = $this->postJson("/api/v1/programmes/{$this->field->id}/maps", ['title' => 'M', 'layers' => [[
        'layer' => $areas->id, 'look' => [
            'kind' => 'inside', 'of' => ['measure' => 'count', 'layer' => $this->nests->id], 'method' => 'hand',
            'breaks' => [2], 'scheme' => 'tide',
        ]]]])->assertCreated()->json('id');
    $tile = static fn (string $id, array $more): array => $more + [
        'id' => $id, 'kind' => $id, 'title' => $id, 'width' => 3, 'height' => 2,
    ];
    $this->tiles = [
        $tile('map', ['map' => $map]), $tile('outings', []), $tile('crews', []),
    ];
    $board = ($this->board)();
    $this->travel(1)->days();
    $this->sync($this->head, [$this->add($this->nests), $this->add($this->nests)]);
    $answer = fn (string $query): array => $this->actingAs($this->head)
        ->getJson("/api/v1/boards/$board/answers$query")->assertOk()->json('tiles');
    $past = $answer('?on=2026-03-30');
    expect($past[1]['answer']['outings'][0]['progress']['done'])->toBe(1)
        ->and($answer('')[1]['answer']['outings'][0]['progress']['done'])->toBe(3)
        ->and($past[2])->toMatchArray(['kind' => 'broken'])
        ->and($past[2]['answer']['messages'])->toBe(['Where crews were on a past day is not kept.']);
    $classes = static fn (array $tiles): array => array_column(
        $tiles[0]['answer']['view']['layers'][0]['legend'],
        'count',
    );
    expect($classes($past))->not->toBe($classes($answer('')));
});

it('refuses days that are none, and those to come', function (string $on, string $code): void {
    $board = ($this->board)();
    $this->actingAs($this->head)->getJson("/api/v1/boards/$board/answers?on=$on")
        ->assertUnprocessable()->assertJsonPath('problems.0.code', $code);
})->with([
    ['yesterday', 'stood_day'],
    ['2026-02-30', 'stood_day'],
    ['2026-04-01', 'stood_ahead'],
    ['9999-12-31', 'stood_ahead'],
    ['0001-01-01', 'stood_day'],
]);
