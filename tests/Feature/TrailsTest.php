<?php

declare(strict_types=1);

use Illuminate\Support\Facades\DB;
use PinYard\Device\TrailPoint;
use PinYard\Record\RecordId;

/* Trails: what phones share of their ways, thinned on the phone, taken in as often as it is sent, shown as lines. */
beforeEach(function (): void {
    $this->programme_ = $this->programme($this->desk = $this->person('Desk'));
    $this->ann = $this->crew($this->programme_);
    $this->device = RecordId::make()->text;
    $this->began = now()->subMinutes(30)->getTimestampMs();
    $this->walk = fn (int $points, int $fromMs, float $lon = -11.5, int $everyS = 10): array => array_map(
        fn (int $i): array => [$fromMs + $i * $everyS * 1000, $lon + $i * 0.0002, -14.5, 4.5],
        range(0, $points - 1),
    );
    $this->send = fn (array $points, array $more = []) => $this->actingAs($this->ann)->postJson(
        "/api/v1/programmes/{$this->programme_->id}/trails",
        ['device' => $this->device, 'points' => $points, ...$more],
    );
    $this->lines = fn (string $from = '-1 day', string $to = '+1 hour'): array => $this->actingAs($this->desk)
        ->getJson(
            "/api/v1/programmes/{$this->programme_->id}/trails.geojson?".
                http_build_query([
                    'from' => now()->modify($from)->toIso8601ZuluString(),
                    'to' => now()->modify($to)->toIso8601ZuluString(),
                ]),
        )
        ->assertOk()
        ->json('features');
});

it(
    'takes points once, however often they are sent, and shows them as a line with the walker\'s name',
    function (): void {
        $points = ($this->walk)(50, $this->began);
        expect(($this->send)($points)->assertOk()->json())->toBe(['taken' => 50, 'left_out' => 0]);
        ($this->send)(array_merge($points, ($this->walk)(10, $this->began + 500_000, -11.49)))->assertOk();
        expect(DB::table('trail_points')->where('programme_id', $this->programme_->id)->count())->toBe(60);
        $lines = ($this->lines)();
        expect($lines)
            ->toHaveCount(1)
            ->and($lines[0]['properties']['name'])
            ->toBe('Crew')
            ->and($lines[0]['geometry']['coordinates'])
            ->toHaveCount(60)
            ->and($lines[0]['geometry']['coordinates'][0])
            ->toBe([-11.5, -14.5]);
    },
);

it('begins another line after a pause, a jump, and for another person', function (): void {
    ($this->send)([
        ...($this->walk)(5, $this->began),
        ...($this->walk)(5, $this->began + 1_200_000),
        ...($this->walk)(5, $this->began + 1_260_000, -11.2),
    ]);
    expect(($this->lines)())->toHaveCount(3);
    $ben = $this->crew($this->programme_);
    $this->actingAs($ben)
        ->postJson("/api/v1/programmes/{$this->programme_->id}/trails", [
            'device' => RecordId::make()->text,
            'points' => ($this->walk)(5, $this->began),
        ])
        ->assertOk();
    expect(($this->lines)())->toHaveCount(4)->and(($this->lines)('-1 day', '-2 hours'))->toBe([]);
});

it('knows the last place, the newest however late it comes, and the battery', function (): void {
    ($this->send)(($this->walk)(5, $this->began), ['battery' => 81]);
    ($this->send)(($this->walk)(5, $this->began - 900_000, -11.9), ['battery' => 300]);
    $person = collect(
        $this->actingAs($this->desk)
            ->getJson("/api/v1/programmes/{$this->programme_->id}/people")
            ->json('people'),
    )->firstWhere('name', 'Crew');
    expect($person['place']['lon'])
        ->toEqualWithDelta(-11.4992, 1e-9)
        ->and($person['battery'])
        ->toBe(81)
        ->and($person['last_heard_at'])
        ->not->toBeNull();
});

it('corrects a wrong clock', function (): void {
    ($this->send)(($this->walk)(2, $this->began - 3_600_000), ['clock_off' => 3_600]);
    expect(
        strtotime(DB::table('trail_points')->where('programme_id', $this->programme_->id)->min('at').' UTC'),
    )->toBe(intdiv($this->began, 1000));
});

it('leaves out what is no point, and keeps the rest', function (mixed $bad): void {
    expect(
        ($this->send)([...($this->walk)(2, $this->began), $bad])
            ->assertOk()
            ->json(),
    )->toBe(['taken' => 2, 'left_out' => 1]);
})->with([
    [null],
    [[]],
    ['x'],
    [[1, 2]],
    [['now', -11.5, -14.5]],
    [[1e15, -11.5, -14.5]],
    [[0, -11.5, -14.5]],
    [['a' => 1]],
    [[1_700_000_000_000, 190, -14.5]],
    [[1_700_000_000_000, -11.5, 'south']],
    [[1_700_000_000_000, -11.5, null]],
]);

it('refuses what is no list, too long, or too wide, with the way out', function (): void {
    ($this->send)(['a' => 1])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'must_be_list');
    ($this->send)(array_fill(0, 5_001, [1, 2, 3]))
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'too_many');
    ($this->send)([], ['device' => 'phone'])
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'id_shape');
    $this->actingAs($this->desk)
        ->getJson("/api/v1/programmes/{$this->programme_->id}/trails.geojson?from=2026-01-01&to=2026-12-01")
        ->assertUnprocessable()
        ->assertJsonPath('problems.0.code', 'trail_span');
    $this->actingAs($this->desk)
        ->getJson("/api/v1/programmes/{$this->programme_->id}/trails.geojson?from=x&to=y")
        ->assertUnprocessable();
});

it('reads a point to the millisecond', function (): void {
    $now = new DateTimeImmutable('2026-11-25T10:00:00Z');
    $point = TrailPoint::read([1_764_064_799_007, -11.5, -14.5, 3], $now->modify('-1 year'));
    expect($point?->at->format('Y-m-d\TH:i:s.v'))
        ->toBe('2025-11-25T09:59:59.007')
        ->and($point->accuracy)
        ->toBe(3.0)
        ->and(TrailPoint::read([1_764_064_799_007, -11.5, -14.5, -3], $now->modify('-1 year'))?->accuracy)
        ->toBeNull();
});
