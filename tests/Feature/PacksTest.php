<?php

declare(strict_types=1);

use App\Import\PlaceTable;
use PinYard\Record\RecordId;

/* Packs: what a phone takes of a programme, its size beforehand, a part of the area, and the places in it. */
beforeEach(function (): void {
    $this->programme_ = $this->programme();
    $this->ann = $this->crew($this->programme_);
    $this->west = [-11.8, -14.9, -11.6, -14.1];
    $this->layer_ = $this->layer($this->programme_);
    $this->at = fn (float $lon, array $change = []): array => $this->add($this->layer_, [
        'geometry' => ['type' => 'Point', 'coordinates' => [$lon, -14.5]],
        ...$change,
    ]);
    $this->news = fn ($user, array $cursors, array $more = []): array => $this->actingAs($user)
        ->postJson('/api/v1/sync', [
            'device' => RecordId::make()->text,
            'operations' => [],
            'cursors' => (object) $cursors,
            ...$more,
        ])
        ->assertOk()
        ->json('news');
});

it('tells beforehand how many records lie in an area', function (): void {
    $ben = $this->crew($this->programme_);
    $this->sync($ben, [($this->at)(-11.7), ($this->at)(-11.65), ($this->at)(-11.2)]);
    $counts = fn (string $area) => $this->actingAs($this->ann)->getJson(
        "/api/v1/programmes/{$this->programme_->id}/packs/counts?area=$area",
    );
    expect($counts('-11.8,-14.9,-11.6,-14.1')->assertOk()->json((string) $this->layer_->id))
        ->toBe(2)
        ->and($counts('-12,-15,-11,-14')->json((string) $this->layer_->id))
        ->toBe(3)
        ->and($counts('170,-15,-170,-14')->json((string) $this->layer_->id))
        ->toBe(0);
    $counts('here')->assertStatus(422);
    $counts('-11.8,-14.9,-11.8,-14.1')->assertStatus(422);
});

it('gives a phone the records of the part that it took, and its own wherever they are', function (): void {
    $ben = $this->crew($this->programme_);
    [$near, $far, $hers] = [($this->at)(-11.7), ($this->at)(-11.2), ($this->at)(-11.1)];
    $this->sync($ben, [$near, $far]);
    $this->sync($this->ann, [$hers]);
    $id = $this->layer_->id;
    $news = ($this->news)($this->ann, [$id => 0], ['areas' => [$id => $this->west]])[$id];
    expect(array_column($news['records'], 'id'))
        ->toEqualCanonicalizing([$near['record'], $hers['record']])
        ->and($news['outside'])
        ->toBe([])
        ->and($news['more'])
        ->toBeFalse();

    // What is moved out of the part leaves the phone, what comes in arrives; hers stays.
    $cursor = $news['cursor'];
    $move = fn (array $of, float $lon): array => $this->add($this->layer_, [
        'kind' => 'move',
        'record' => $of['record'],
        'base' => 1,
        'values' => [],
        'was' => [],
        'geometry' => ['type' => 'Point', 'coordinates' => [$lon, -14.5]],
    ]);
    $manager = $this->programme_->members()->where('role', 'coordinator')->first()->user;
    expect(
        array_column(
            $this->sync($manager, [$move($near, -11.3), $move($far, -11.75), $move($hers, -11.05)])['outcomes'],
            'outcome',
        ),
    )->toBe(['applied', 'applied', 'applied']);
    $later = ($this->news)($this->ann, [$id => $cursor], ['areas' => [$id => $this->west]])[$id];
    expect(array_column($later['records'], 'id'))
        ->toEqualCanonicalizing([$far['record'], $hers['record']])
        ->and($later['outside'])
        ->toBe([$near['record']])
        ->and($later['gone'])
        ->toBe([]);
});

it('names nothing that lies outside while a phone is being filled, page by page', function (): void {
    $ben = $this->crew($this->programme_);
    foreach (range(0, 2) as $_) {
        $this->sync($ben, array_map(fn (int $i): array => ($this->at)($i % 2 === 0 ? -11.7 : -11.2), range(1, 400)));
    }
    $id = $this->layer_->id;
    [$cursor, $told] = [0, []];
    do {
        $news = ($this->news)($this->ann, [$id => $cursor], ['areas' => [$id => $this->west], 'filling' => [$id]])[$id];
        expect($news['outside'])->toBe([])->and($news['cursor'])->toBeGreaterThan($cursor);
        $told = [...$told, ...array_column($news['records'], 'id')];
        $cursor = $news['cursor'];
    } while ($news['more']);
    expect($told)
        ->toHaveCount(600)
        ->and(array_unique($told))
        ->toHaveCount(600)
        ->and($cursor)
        ->toBe($this->layer_->refresh()->change_number);
});

it('takes an area that makes no sense for the whole layer, and never narrows visits', function (mixed $areas): void {
    $ben = $this->crew($this->programme_);
    $this->sync($ben, [($this->at)(-11.2)]);
    $id = $this->layer_->id;
    expect(
        ($this->news)(
            $this->ann,
            [$id => 0],
            ['areas' => $areas === 'this' ? [$id => 'x'] : $areas, 'filling' => 'all'],
        )[$id]['records'],
    )->toHaveCount(1);
})->with([['this'], [null], ['west'], [[0 => [1, 2, 3, 4]]]]);

it('carries the programme\'s own places, and the shared ones of its area', function (): void {
    PlaceTable::keep(
        [
            ['name' => 'Aldine Bay', 'of' => 'Test', 'lon' => -11.4, 'lat' => -14.4],
            ['name' => 'Farness', 'of' => 'Elsewhere', 'lon' => 40.0, 'lat' => 50.0],
        ],
        'packs test',
        null,
    );
    PlaceTable::keep(
        [['name' => 'Old Well', 'of' => 'Wells', 'lon' => 3.0, 'lat' => 4.0]],
        'layer 0',
        $this->programme_,
    );
    $rows = $this->actingAs($this->ann)
        ->getJson("/api/v1/programmes/{$this->programme_->id}/packs/places")
        ->assertOk()
        ->json();
    expect(array_column($rows, 0))
        ->toContain('Old Well', 'Aldine Bay')
        ->not->toContain('Farness')
        ->and($rows[0])
        ->toEqual(['Old Well', 'Wells', 3, 4])
        ->and(
            collect($this->getJson('/api/v1/packs')->json())->firstWhere('programme', $this->programme_->id)['places'],
        )
        ->toBe(count($rows));
    PlaceTable::keep([], 'packs test', null);
});

it('tells how large photos may leave the phone, and takes a programme\'s own word for it', function (): void {
    $desk = $this->programme_->members()->where('role', 'coordinator')->first()->user;
    $set = fn (mixed $edge) => $this->actingAs($desk)->patchJson("/api/v1/programmes/{$this->programme_->id}", [
        'photo_edge' => $edge,
    ]);
    $pack = fn () => collect($this->actingAs($this->ann)->getJson('/api/v1/packs')->json())->firstWhere(
        'programme',
        $this->programme_->id,
    )['photo_edge'];
    expect($pack())->toBe(2560);
    $set(1280)->assertOk()->assertJsonPath('photo_edge', 1280);
    expect($pack())->toBe(1280);
    $set(null)->assertOk();
    expect($pack())->toBeNull();
    foreach ([0, 639, 12_001, 'large', 1.5, []] as $bad) {
        $set($bad)->assertStatus(422);
    }
    expect($pack())->toBeNull();
});
