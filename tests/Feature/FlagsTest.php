<?php

declare(strict_types=1);

use App\Flags\FlagRound;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/*
 * What speaks against records that wait to be looked at: found by itself, said with its reason, gone with what it was
 * found by. Whoever may not accept them hears nothing of it.
 */

beforeEach(function (): void {
    $this->head = $this->person('Head');
    $this->field = $this->programme($this->head);
    $this->crew = $this->crew($this->field);
    $this->other = $this->crew($this->field);
    $this->layer = $this->layer($this->field, ['name_field' => 'code', 'fix' => ['warn_above' => 15]]);
    $this->at = "/api/v1/layers/{$this->layer->id}";
    $this->from = now()->subDays(5)->startOfDay();
    /** Brings a record from a phone: where (degrees east of the middle), when (minutes). */
    $this->bring = function (string $code, float $east, float $minutes, array $more = [], mixed $by = null): string {
        $values = ($more['values'] ?? []) + ['code' => $code, 'species' => 'CC'];
        $add = $this->add($this->layer, [
            ...$more,
            'values' => $values,
            'geometry' => $more['geometry'] ?? ['type' => 'Point', 'coordinates' => [-11.5 + $east, -14.5]],
            'captured_at' => $this->from->clone()->addSeconds((int) ($minutes * 60))->format('Y-m-d\TH:i:s.v\Z'),
        ]);
        expect($this->sync($by ?? $this->crew, [$add])['outcomes'][0]['outcome'])->toBe('applied');

        return $add['record'];
    };
    $this->page = fn (string $query = ''): array => $this->actingAs($this->head)
        ->getJson("$this->at/records$query")->assertOk()->json();
    /** Kinds by the name of the record. */
    $this->flags = function (string $query = ''): array {
        $found = [];
        foreach (($this->page)($query)['records'] as $record) {
            if ($record['flags'] !== []) {
                $found[$record['name']] = array_column($record['flags'], 'kind');
            }
        }
        ksort($found);

        return $found;
    };
    /** An area between two longitudes. */
    $this->area = fn (mixed $areas, string $code, float $west, float $east): mixed => $this->actingAs($this->head)
        ->postJson("/api/v1/layers/$areas->id/records", [
            'values' => ['code' => $code, 'species' => 'CC'],
            'geometry' => ['type' => 'Polygon', 'coordinates' => [[
                [$west, -14.6], [$east, -14.6], [$east, -14.4], [$west, -14.4], [$west, -14.6],
            ]]],
        ])->assertCreated();
    $this->say = fn (array $rules): array => $this->actingAs($this->head)->putJson("$this->at/flags", [
        'rules' => $rules + $this->getJson("$this->at/flags")->json('rules'),
    ])->assertOk()->json();
});

it('finds each reason and says it in words', function (): void {
    ($this->bring)('well', 0, 0);
    ($this->bring)('away', 0.9, 300);
    ($this->bring)('poor', 0.01, 360, ['fix' => ['accuracy' => 24.2, 'at' => null]]);
    ($this->bring)('twin', 0.00003, 480, by: $this->other);
    ($this->bring)('fast', 0.1, 362);
    ($this->bring)('early', 0.2, 900, ['values' => ['laid_on' => now()->addDays(3)->toDateString()]]);
    expect(($this->flags)())->toBe([
        'away' => ['outside'], 'early' => ['future'], 'fast' => ['speed'], 'poor' => ['fix'], 'twin' => ['double'],
    ]);
    $page = ($this->page)('?flag=any');
    $said = array_column(array_map(static fn (array $r): array => [$r['name'], $r['flags'][0]['text']],
        $page['records']), 1, 0);
    expect($page['total'])->toBe(5)
        ->and($page['flagged']['all'])->toBe(5)
        ->and(array_column($page['flagged']['kinds'], 'n', 'kind'))
        ->toEqual(['outside' => 1, 'fix' => 1, 'double' => 1, 'speed' => 1, 'future' => 1])
        ->and($said['poor'])->toBe('Its fix is good to 24.2 m; this layer wants 15 m or better.')
        ->and($said['twin'])->toBe('well was collected 3.2 m from here, 8 hours before.')
        ->and($said['fast'])->toStartWith('9.7 km from poor, which the same person made 2 minutes before')
        ->and($said['early'])->toContain('Laid on is')
        ->and(array_column(($this->page)('?flag=fix')['records'], 'name'))->toBe(['poor']);
    $this->withHeader('Pin-Yard-Language', 'de');
    expect(($this->page)('?flag=fix')['records'][0]['flags'][0]['text'])->toContain('24,2 m genau');
});

it('finds numbers far from the others, and files that are missing', function (): void {
    foreach (range(1, 22) as $i) {
        ($this->bring)("n$i", $i / 100, $i * 60, ['values' => ['clutch' => 90 + $i]]);
    }
    expect(($this->flags)())->toBe([]);
    ($this->bring)('odd', 0.3, 3_000, ['values' => ['clutch' => 249]]);
    expect(($this->flags)())->toBe(['odd' => ['outlier']])
        ->and(($this->page)('?flag=outlier')['records'][0]['flags'][0]['text'])
        ->toBe('Clutch is 249; half of the records have between 96 and 107.');
    // What was far is not, where others are as far.
    foreach (range(1, 22) as $i) {
        ($this->bring)("m$i", 0.235 + $i / 100, 3_060 + $i * 60, ['values' => ['clutch' => 200 + $i]]);
    }
    expect(($this->flags)())->toBe([]);

    // A photo that is demanded from now on, and one that is on its way.
    $design = ['photos' => ['allowed' => true, 'least' => 1, 'most' => 3]]
        + $this->actingAs($this->head)->getJson($this->at)->json('design');
    $this->putJson("$this->at/design", ['base' => 1, 'design' => $design])->assertSuccessful();
    ($this->bring)('shown', 0.2, 6_000, ['design' => 2, 'photos' => [$this->announce('x')]]);
    expect(($this->page)('?flag=files')['total'])->toBe(45)
        ->and(($this->page)('?flag=files')['records'][0]['flags'][0]['text'])->toBe('Photos: 0 of at least 1.')
        ->and(($this->flags)())->not->toHaveKey('shown');
});

it('forgets what it was found by: accepted, moved, deleted, brought later', function (): void {
    $first = ($this->bring)('first', 0, 0);
    $twin = ($this->bring)('twin', 0.00002, 60, by: $this->other);
    expect(($this->flags)())->toBe(['twin' => ['double']]);
    // One that lay on a phone for long was there before both.
    $late = ($this->bring)('late', 0.00001, -30, by: $this->other);
    expect(($this->flags)())->toBe(['first' => ['double'], 'twin' => ['double']]);
    $this->deleteJson("$this->at/records/$late")->assertNoContent();
    expect(($this->flags)())->toBe(['twin' => ['double']]);
    $this->patchJson("$this->at/records/$first", [
        'base' => 1, 'geometry' => ['type' => 'Point', 'coordinates' => [-11.4, -14.5]],
    ])->assertOk();
    expect(($this->flags)())->toBe([]);
    $this->patchJson("$this->at/records/$first", [
        'base' => 2, 'geometry' => ['type' => 'Point', 'coordinates' => [-11.5, -14.5]],
    ])->assertOk();
    expect(($this->flags)())->toBe(['twin' => ['double']]);

    // Accepting says that it is right all the same; what it is compared with may be accepted.
    $accept = fn (string $id, int $version): mixed => $this->postJson("$this->at/accepted", [
        'accepted' => true, 'records' => [['id' => $id, 'version' => $version]],
    ])->assertOk();
    $accept($first, 3);
    expect(($this->flags)())->toBe(['twin' => ['double']]);
    $accept($twin, 1);
    expect(($this->flags)())->toBe([])
        ->and(($this->page)()['flagged'])->toBe(['all' => 0, 'kinds' => []])
        ->and(DB::table('record_flags')->where('layer_id', $this->layer->id)->count())->toBe(0);
    $this->postJson("$this->at/accepted", ['accepted' => false, 'records' => [['id' => $twin, 'version' => 1]]]);
    expect(($this->flags)())->toBe(['twin' => ['double']]);
});

it('accepts all that are flagged for one reason, and only those', function (): void {
    ($this->bring)('a', 0.9, 0);
    ($this->bring)('b', 0.9, 800, ['fix' => ['accuracy' => 40.0, 'at' => null]]);
    ($this->bring)('c', 0, 2_000, ['fix' => ['accuracy' => 40.0, 'at' => null]]);
    $asOf = ($this->page)('?flag=outside')['as_of'];
    $all = fn (array $body, int $status = 200): mixed => $this->actingAs($this->head)
        ->postJson("$this->at/accepted", ['accepted' => true, 'as_of' => $asOf] + $body)->assertStatus($status);
    $all(['flag' => 'nonsense'], 422);
    $all(['flag' => 7], 422);
    $all(['flag' => 'fix', 'filter' => ['all' => [['field' => 'code', 'test' => 'is', 'value' => 'none']]]])
        ->assertJson(['done' => 0]);
    $all(['flag' => 'outside'])->assertJson(['done' => 2, 'to_check' => 1]);
    expect(($this->flags)())->toBe(['c' => ['fix']]);
});

it('goes by the rules that a coordinator says, at once', function (): void {
    $this->actingAs($this->head);
    $areas = $this->layer($this->field, ['title' => 'Sectors', 'geometry' => 'area', 'photos' => ['allowed' => false]]);
    ($this->area)($areas, 'S1', -11.6, -11.4);
    ($this->bring)('in', 0, 0, ['fix' => ['accuracy' => 20.0, 'at' => null]]);
    ($this->bring)('out', 0.2, 700);
    expect(($this->flags)())->toBe(['in' => ['fix']]);

    $told = ($this->say)(['areas' => $areas->id, 'fix' => 30]);
    expect($told['areas'])->toBe([['id' => $areas->id, 'title' => 'Sectors']])
        ->and($told['usual']['fix'])->toBe(15)
        ->and($told['flagged']['all'])->toBe(1)
        ->and(($this->flags)())->toBe(['out' => ['outside']])
        ->and(($this->page)()['records'][0]['flags'][0]['text'])->toBe('It lies in none of the areas of Sectors.');
    // With another area it lies inside.
    ($this->area)($areas, 'S2', -11.4, -11.2);
    expect(($this->flags)())->toBe([]);
    // Once the layer of areas is gone, its rule is.
    $areas->delete();
    $this->field->update(['east' => -11.4]);
    expect(($this->flags)())->toBe(['out' => ['outside']])
        ->and($this->getJson("$this->at/flags")->assertOk()->json('rules.areas'))->toBeNull();

    $this->putJson("$this->at/flags", ['rules' => ['fix' => 0]])->assertStatus(422)
        ->assertJsonPath('problems.0.field', '/rules/fix');
    $this->putJson("$this->at/flags", ['rules' => 'all'])->assertStatus(422);
});

it('goes with copies of the layer and of its programme, by the areas of the copy', function (): void {
    $this->actingAs($this->head);
    $areas = $this->layer($this->field, ['title' => 'Sectors', 'geometry' => 'area', 'photos' => ['allowed' => false]]);
    // A layer of areas is one once an area lies in it.
    ($this->area)($areas, 'S1', -11.6, -11.4);
    ($this->say)(['areas' => $areas->id, 'fix' => 33, 'without' => ['laid_on']]);
    $copied = fn (string $kind, int $id): int => $this->actingAs($this->head)->postJson('/api/v1/things', [
        'action' => 'copy', 'things' => [['kind' => $kind, 'id' => $id]], 'with' => null,
    ])->assertOk()->json('0.id');
    $rules = fn (int $layer): array => $this->getJson("/api/v1/layers/$layer/flags")->assertOk()->json('rules');
    expect($rules($copied('layer', $this->layer->id)))
        ->toMatchArray(['areas' => $areas->id, 'fix' => 33, 'without' => ['laid_on']]);
    $layers = collect($this->getJson('/api/v1/programmes/'.$copied('programme', $this->field->id).'/layers')->json())
        ->pluck('id', 'title');
    $of = $rules($layers['Nests']);
    expect($of)->toMatchArray(['fix' => 33, 'without' => ['laid_on']])
        ->and($of['areas'])->toBeIn([null, $layers['Sectors']]);
});

it('tells crews and guests nothing of it', function (): void {
    $far = ($this->bring)('far', 0.9, 0);
    expect(($this->flags)())->toBe(['far' => ['outside']]);
    $this->actingAs($this->crew);
    $page = $this->getJson("$this->at/records")->assertOk()->json();
    expect($page)->not->toHaveKey('flagged')
        ->and($page['records'][0])->not->toHaveKey('flags')
        ->and($this->getJson("$this->at/records/$far")->json())->not->toHaveKey('flags');
    $this->getJson("$this->at/records?flag=any")->assertStatus(422)->assertJsonPath('problems.0.code', 'flag_hidden');
    $this->getJson("$this->at/flags")->assertForbidden();
    $this->putJson("$this->at/flags", ['rules' => []])->assertForbidden();
});

it('sees two on either side of the antimeridian as close as they are', function (): void {
    $this->field->update(['west' => 179, 'east' => -179]);
    $at = static fn (float $lon): array => ['geometry' => ['type' => 'Point', 'coordinates' => [$lon, -14.5]]];
    ($this->bring)('west', 0, 0, $at(179.99998));
    ($this->bring)('east', 0, 5, $at(-179.99998));
    expect(($this->flags)())->toBe(['east' => ['double']]);
});

it('judges anew what waits when what is accepted comes beside it', function (): void {
    ($this->bring)('late', 0, 60);
    expect(($this->flags)())->toBe([]);
    // What a coordinator brings is accepted with it, and may have been there first.
    ($this->bring)('first', 0.00002, 50, by: $this->head);
    expect(($this->flags)())->toBe(['late' => ['double']]);
});

it('judges anew what waits when what stood between two is gone, or back', function (): void {
    ($this->bring)('a', 0, 60);
    $b = ($this->bring)('b', 0.3, 62);
    ($this->bring)('c', 0.301, 63);
    expect(($this->flags)())->toBe(['b' => ['speed']]);
    $this->deleteJson("$this->at/records/$b")->assertNoContent();
    expect(($this->flags)())->toBe(['c' => ['speed']]);
    $this->postJson("$this->at/records/$b/restore", [])->assertOk();
    expect(($this->flags)())->toBe(['b' => ['speed']]);
});

it('comes to the same step by step as all at once, whatever comes in which order', function (int $seed): void {
    mt_srand($seed);
    $ids = $versions = [];
    foreach (range(1, 60) as $i) {
        $some = $ids === [] ? null : $ids[array_rand($ids)];
        switch ($some === null ? 0 : mt_rand(0, 9)) {
            case 6:
                $this->actingAs($this->head)->postJson("$this->at/records/$some/restore", []);
                break;
            case 7:
                $this->actingAs($this->head)->deleteJson("$this->at/records/$some");
                break;
            case 8:
                $this->actingAs($this->head)->postJson("$this->at/accepted", [
                    'accepted' => mt_rand(0, 2) > 0, 'records' => [['id' => $some, 'version' => $versions[$some]]],
                ]);
                break;
            case 9:
                $moved = $this->actingAs($this->head)->patchJson("$this->at/records/$some", [
                    'base' => $versions[$some],
                    'geometry' => ['type' => 'Point', 'coordinates' => [-11.5 + mt_rand(0, 3) * 0.00004, -14.5]],
                ]);
                $versions[$some] = $moved->json('version') ?? $versions[$some];
                break;
            default:
                $east = mt_rand(0, 3) * 0.00004 + (mt_rand(0, 4) === 0 ? 0.5 : 0);
                $id = ($this->bring)("r$i", $east, mt_rand(0, 300), [
                    'values' => ['clutch' => mt_rand(0, 8) === 0 ? 240 : mt_rand(90, 110)],
                    'fix' => ['accuracy' => mt_rand(3, 20), 'at' => null],
                ], [$this->crew, $this->other, $this->head][mt_rand(0, 2)]);
                $ids[] = $id;
                $versions[$id] = 1;
        }
        if ($i % 3 === 0) {
            FlagRound::catchUp(Layer::query()->findOrFail($this->layer->id));
        }
    }
    $kept = static fn (Layer $of): array => array_map(
        static fn (object $f): array => [RecordId::fromBytes($f->record_id)->text, $f->kind, $f->about, $f->said],
        DB::table('record_flags')->where('layer_id', $of->id)->orderBy('record_id')->orderBy('kind')->get()->all(),
    );
    FlagRound::catchUp(Layer::query()->findOrFail($this->layer->id));
    $bySteps = $kept($this->layer);
    // Killed, and begun again from nothing.
    DB::table('layer_flags')->where('layer_id', $this->layer->id)->update(['basis' => '', 'as_of' => 0]);
    FlagRound::run();
    expect($kept($this->layer))->toEqual($bySteps)
        ->and(array_unique(array_column($bySteps, 1)))->toContain('double', 'speed', 'fix');
})->with([3, 20_261_129]);
