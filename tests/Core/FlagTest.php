<?php

declare(strict_types=1);

use PinYard\Design\LayerDesign;
use PinYard\Flag\Fences;
use PinYard\Flag\Flag;
use PinYard\Flag\FlagFacts;
use PinYard\Flag\FlagRules;
use PinYard\Flag\Nearby;
use PinYard\Flag\RecordFlags;
use PinYard\Geo\Box;
use PinYard\Geo\Position;
use PinYard\Refused;
use PinYard\Stats\Spread;

/* What speaks against a record. */

beforeEach(function (): void {
    $this->design = LayerDesign::fromArray([
        'title' => 'Nests', 'purpose' => '', 'geometry' => 'point',
        'fields' => [
            ['key' => 'clutch', 'label' => 'Clutch', 'kind' => 'whole_number'],
            ['key' => 'laid_on', 'label' => 'Laid on', 'kind' => 'date'],
            ['key' => 'seen_at', 'label' => 'Seen at', 'kind' => 'date_time'],
            ['key' => 'next_on', 'label' => 'Next on', 'kind' => 'date', 'limits' => ['lowest' => 'today']],
        ],
        'photos' => ['allowed' => true, 'least' => 1, 'most' => 3],
        'slots' => [['key' => 'tag', 'label' => 'Tag', 'kind' => 'photo', 'least' => 1, 'most' => 1]],
        'fix' => ['warn_above' => 15],
    ]);
    $this->usual = FlagRules::usual($this->design)->toArray();
    $this->facts = fn (array $is = []): FlagFacts => new FlagFacts(...$is + [
        'place' => Position::of(-11.5, -14.5),
        'inArea' => null,
        'accuracy' => 5.0,
        'collected' => new DateTimeImmutable('2026-06-06 06:00:00Z'),
        'received' => new DateTimeImmutable('2026-06-06 23:30:00Z'),
        'values' => [],
        'files' => ['' => 1, 'tag' => 1],
    ]);
    $this->found = function (array $is = [], array $rules = [], array $fences = [], string $zone = 'UTC'): array {
        $flags = (new RecordFlags(
            FlagRules::read($rules + $this->usual, $this->design, [7]),
            $this->design,
            Box::of(-12, -15, -11, -14),
            new DateTimeZone($zone),
            $fences,
        ))->of(($this->facts)($is));

        return array_map(static fn (Flag $f): string => $f->kind->value.($f->about === '' ? '' : " $f->about"), $flags);
    };
});

it('finds nothing where all is well, and nothing that was switched off', function (): void {
    expect(($this->found)())->toBe([])
        ->and(($this->found)(
            ['place' => Position::of(0, 0), 'accuracy' => 90.0, 'files' => [], 'values' => ['laid_on' => '2030-01-01']],
            ['outside' => false, 'fix' => null, 'files' => false, 'future' => false],
        ))->toBe([]);
});

it('knows what lies outside, of the area of interest and of areas that it should lie in', function (): void {
    expect(($this->found)(['place' => Position::of(-10.9, -14.5)]))->toBe(['outside'])
        ->and(($this->found)(['place' => null]))->toBe([])
        ->and(($this->found)(['inArea' => false], ['areas' => 7]))->toBe(['outside'])
        ->and(($this->found)(['inArea' => true], ['areas' => 7]))->toBe([]);
});

it('measures fixes, doubles and steps by the limits of the layer, those themselves included', function (): void {
    $near = static fn (float $metres, float $hours): array => ['near' => new Nearby('x', $metres, $hours * 3_600)];
    $step = static fn (float $km, float $minutes, float $slack = 0): array => [
        'before' => new Nearby('x', $km * 1_000, $minutes * 60, $slack),
    ];
    expect(($this->found)(['accuracy' => 15.0]))->toBe([])
        ->and(($this->found)(['accuracy' => 15.1]))->toBe(['fix'])
        ->and(($this->found)(['accuracy' => null]))->toBe([])
        ->and(($this->found)($near(10, 12)))->toBe(['double'])
        ->and(($this->found)($near(10.1, 1)))->toBe([])
        ->and(($this->found)($near(1, 12.1)))->toBe([])
        ->and(($this->found)($near(1, 1), ['double' => null]))->toBe([])
        // 4.1 km in 3 minutes are 82 km/h.
        ->and(($this->found)($step(4.1, 3)))->toBe([])
        ->and(($this->found)($step(4.1, 3), ['speed' => 50]))->toBe(['speed'])
        // Both fixes may be wrong, and a receiver that wakes up jumps a little.
        ->and(($this->found)($step(4.1, 3, 2_000), ['speed' => 50]))->toBe([])
        ->and(($this->found)($step(0.2, 0), ['speed' => 5]))->toBe([])
        ->and(($this->found)($step(0.3, 0), ['speed' => 5]))->toBe(['speed'])
        ->and(($this->found)($step(9_000, 6 * 60 + 1)))->toBe([]);
});

it('looks for files in each slot, and for days that had not come by the programme’s calendar', function (): void {
    expect(($this->found)(['files' => ['tag' => 1]]))->toBe(['files'])
        ->and(($this->found)(['files' => ['' => 2]]))->toBe(['files tag'])
        ->and(($this->found)(['values' => ['laid_on' => '2026-06-06']]))->toBe([])
        ->and(($this->found)(['values' => ['laid_on' => '2026-06-07']]))->toBe(['future laid_on'])
        // In Auckland it was the 7th already when it arrived.
        ->and(($this->found)(['values' => ['laid_on' => '2026-06-07']], zone: 'Pacific/Auckland'))->toBe([])
        ->and(($this->found)(['values' => ['seen_at' => '2026-06-06T23:34:59Z']]))->toBe([])
        ->and(($this->found)(['values' => ['seen_at' => '2026-06-06T23:36:00Z']]))->toBe(['future seen_at'])
        // What is planned lies ahead, and so may what a coordinator leaves out.
        ->and(($this->found)(['values' => ['next_on' => '2026-08-01']]))->toBe([])
        ->and(($this->found)(['values' => ['laid_on' => '2026-06-09']], ['without' => ['laid_on']]))->toBe([])
        ->and(($this->found)(['collected' => new DateTimeImmutable('2026-06-07 00:00Z')]))->toBe(['future']);
});

it('fences numbers in as Tukey did', function (): void {
    // NIST/SEMATECH e-Handbook of Statistical Methods, 7.1.6 (public domain, from memory): quartiles 429.75 and 742.25
    // by another rule for quantiles than ours, outer fences -507.75 and 1679.75; 1441 lies within those.
    $handbook = [30, 171, 184, 201, 212, 250, 265, 270, 272, 289, 305, 306, 322, 322, 336, 346, 351, 370, 390, 404, 409,
        411, 436, 437, 439, 441, 444, 448, 451, 453, 470, 480, 482, 487, 494, 495, 499, 503, 514, 521, 522, 527, 548,
        550, 559, 560, 570, 572, 574, 578, 585, 592, 592, 607, 616, 618, 621, 629, 637, 638, 640, 656, 668, 707, 709,
        719, 737, 739, 752, 758, 766, 792, 792, 794, 802, 818, 830, 832, 843, 858, 860, 869, 918, 925, 953, 991, 1000,
        1005, 1068, 1441];
    $fences = Fences::of(Spread::ofValues($handbook));
    expect($fences?->lower)->toEqualWithDelta(429.75, 8)
        ->and($fences?->upper)->toEqualWithDelta(742.25, 8)
        ->and($fences?->low())->toEqualWithDelta(-507.75, 40)
        ->and($fences?->high())->toEqualWithDelta(1679.75, 40)
        ->and($fences?->hold(1441))->toBeTrue()
        ->and($fences?->hold(1800))->toBeFalse()
        // Too few, or half of them alike: nothing is said.
        ->and(Fences::of(Spread::ofValues(range(1, 19))))->toBeNull()
        ->and(Fences::of(Spread::ofValues([...array_fill(0, 30, 0), 500])))->toBeNull()
        ->and(($this->found)(['values' => ['clutch' => 4000]], fences: ['clutch' => $fences]))->toBe(['outlier clutch'])
        ->and(($this->found)(['values' => ['clutch' => null]], fences: ['clutch' => $fences]))->toBe([])
        ->and(($this->found)(['values' => ['clutch' => 4000]], ['outlier' => false], ['clutch' => $fences]))->toBe([]);
});

it('refuses rules that cannot be, and says where', function (array $rules, string $at): void {
    try {
        FlagRules::read($rules + $this->usual, $this->design, [7]);
        $this->fail('accepted');
    } catch (Refused $refused) {
        expect(array_column($refused->problems, 'field'))->toBe([$at]);
    }
})->with([
    [['areas' => 8], '/rules/areas'],
    [['fix' => 0], '/rules/fix'],
    [['fix' => 'far'], '/rules/fix'],
    [['double' => ['metres' => 5_000, 'hours' => 1]], '/rules/double/metres'],
    [['double' => 10], '/rules/double'],
    [['outside' => 'yes'], '/rules/outside'],
    [['speed' => -1], '/rules/speed'],
    [['without' => 'laid_on'], '/rules/without'],
    [['more' => 1], '/rules/more'],
]);

it('reads back what it says', function (): void {
    $rules = ['areas' => 7, 'speed' => null, 'without' => ['laid_on']] + $this->usual;
    expect(FlagRules::read($rules, $this->design, [7])->toArray())->toBe(
        array_replace(array_fill_keys(array_keys($this->usual), null), $rules),
    )
        ->and(FlagRules::read(['without' => ['gone', 'laid_on', 3]] + $this->usual, $this->design, [])->without)
        ->toBe(['laid_on']);
    $lines = LayerDesign::fromArray(['title' => 'Walks', 'purpose' => '', 'geometry' => 'line', 'fields' => []]);
    expect(FlagRules::usual($lines)->double)->toBeNull()
        ->and(FlagRules::usual($lines)->speed)->toBeNull()
        ->and(fn () => FlagRules::read($this->usual, $lines, []))->toThrow(Refused::class);
});
