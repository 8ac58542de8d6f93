<?php

declare(strict_types=1);

use PinYard\Carto\Look;
use PinYard\Carto\Style\StyleLayers;
use PinYard\Carto\Tally;
use PinYard\Carto\TallyState;
use PinYard\Design\LayerDesign;
use PinYard\Geo\AreaCells;
use PinYard\Geo\Position;
use PinYard\Geo\ZOrder;

function tallyDesigns(): array
{
    $design = static fn (string $title, string $geometry, array $fields): LayerDesign => LayerDesign::fromArray([
        'title' => $title,
        'purpose' => '',
        'geometry' => $geometry,
        'fields' => $fields,
    ]);

    return [
        $design('Sectors', 'area', [['key' => 'people', 'label' => 'People', 'kind' => 'whole_number']]),
        $design('Nests', 'point', [
            ['key' => 'eggs', 'label' => 'Eggs', 'kind' => 'decimal', 'decimals' => 1],
            ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text'],
        ]),
    ];
}

it('says of each area what a plain reading says (tests/vectors/make-tallies.php)', function (): void {
    [$areas, $nests] = tallyDesigns();
    $vectors = json_decode((string) file_get_contents(__DIR__.'/../vectors/tallies.json'), true);
    usort($vectors['records'], static fn (array $a, array $b): int => ZOrder::of(Position::of($a['lon'], $a['lat'])) <=>
        ZOrder::of(Position::of($b['lon'], $b['lat'])));
    foreach ($vectors['cases'] as ['of' => $of, 'told' => $told]) {
        $tally = Tally::read(
            ['layer' => 2, 'share' => $of['measure'] === 'share' ? 5 : null] + $of,
            $areas,
            static fn (int $n): ?LayerDesign => $n === 2 ? $nests : null,
        );
        $cells = new AreaCells(array_column($vectors['areas'], 'rings'));
        $states = array_map(static fn (): TallyState => new TallyState, $vectors['areas']);
        foreach ($vectors['records'] as $r) {
            $z = ZOrder::of(Position::of($r['lon'], $r['lat']));
            foreach ($cells->allAt($z, $r['lon'], $r['lat']) as $area) {
                $states[$area]->add($of['field'] === null ? null : $r[$of['field']], $r['kind'] === 'CM');
            }
        }
        foreach ($vectors['areas'] as $i => $area) {
            $by = $of['by'] === null ? null : $area['people'];
            $said = $tally->isFew($states[$i]) ? 'few' : $tally->valueOf($states[$i], $by);
            $wanted = $told[$area['id']];
            is_string($wanted) || $wanted === null
                ? expect($said)->toBe($wanted)
                : expect($said)->toEqualWithDelta($wanted, 2e-6);
        }
    }
});

it('rates by square kilometres, and says nothing where there is nothing to divide by', function (): void {
    [$areas, $nests] = tallyDesigns();
    $tally = Tally::read(
        ['layer' => 2, 'measure' => 'rate'],
        $areas,
        static fn (int $n): LayerDesign => $nests,
    );
    $state = new TallyState;
    $state->add(null);
    $state->add(null);
    expect($tally->valueOf($state, 500_000.0))->toBe(4.0)
        ->and($tally->valueOf($state, 0.0))->toBeNull()
        ->and($tally->valueOf($state, null))->toBeNull()
        ->and($tally->valueOf(TallyState::fromArray($state->toArray()), 2e6))->toBe(1.0);
    // A sum that is no number any more.
    $state->add(INF);
    $sum = Tally::read(
        ['layer' => 2, 'measure' => 'sum', 'field' => 'eggs'],
        $areas,
        static fn (int $n): LayerDesign => $nests,
    );
    expect($sum->valueOf($state))->toBeNull();
});

it('is read again as it was written, and forgets what its measure has no use for', function (): void {
    [$areas, $nests] = tallyDesigns();
    $read = static fn (array $of): array => Tally::read(
        ['layer' => 2] + $of,
        $areas,
        static fn (int $n): LayerDesign => $nests,
    )->toArray();
    $once = $read(['measure' => 'rate', 'field' => 'eggs', 'by' => 'people', 'times' => 1_000, 'least' => 5]);
    expect($read($once))->toBe($once)
        ->and($read(['measure' => 'count', 'field' => 'eggs', 'by' => 'people', 'times' => 100, 'least' => 5]))->toBe([
            'layer' => 2,
            'slice' => null,
            'measure' => 'count',
            'field' => null,
            'share' => null,
            'by' => null,
            'times' => 1,
            'least' => 0,
        ]);
});

it('fills classes, hatches what is too little, and barely fills what is missing', function (): void {
    [$areas, $nests] = tallyDesigns();
    $look = Look::read(
        [
            'kind' => 'inside',
            'of' => ['layer' => 2, 'measure' => 'mean', 'field' => 'eggs', 'least' => 3],
            'breaks' => [10, 20],
        ],
        $areas,
        static fn (int $n): LayerDesign => $nests,
    );
    $style = array_column(StyleLayers::of($look, 'on-x'), null, 'id');
    expect($style['on-x-area']['paint']['fill-opacity'])->toBeGreaterThan(0.7)
        ->and($style['on-x-area-few']['paint']['fill-pattern'])->toBe('hatch-8C8672')
        ->and($style['on-x-area-none']['paint']['fill-opacity'])->toBeLessThan(0.2)
        ->and($style['on-x-outline']['paint']['line-color'])->toBe('#1D2B2E')
        ->and(array_column($look->legend(['1' => 4, 'few' => 2, '' => 1]), 'count'))->toBe([0, 4, 0, 2, 1])
        ->and(Look::read($look->toArray(), $areas, static fn (): LayerDesign => $nests)->toArray())
        ->toBe($look->toArray())
        // Without the layer that it counts there is no such look.
        ->and(fn () => Look::read($look->toArray(), $areas))->toThrow(PinYard\Refused::class);
});
