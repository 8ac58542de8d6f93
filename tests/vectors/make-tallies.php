<?php

declare(strict_types=1);

/*
 * Writes tallies.json: areas, records, ways to colour the areas by them, and what each area then says, told by a plain
 * reading that shares nothing with the server (PinYard\Carto\Tally, App\Maps) and the phone (field/map/tally.ts): who
 * lies where is told by the angle that the border makes around a place (winding number), on a plane. Both are held
 * against the file. Run by hand: php tests/vectors/make-tallies.php
 */

mt_srand(1913);
$random = static fn (float $from, float $to): float => round($from + (mt_rand() / mt_getrandmax()) * ($to - $from), 5);

/** How often a ring goes around a place. */
function around(array $ring, float $lon, float $lat): bool
{
    $angle = 0.0;
    for ($i = 1; $i < count($ring); $i++) {
        [$ax, $ay] = [$ring[$i - 1][0] - $lon, $ring[$i - 1][1] - $lat];
        [$bx, $by] = [$ring[$i][0] - $lon, $ring[$i][1] - $lat];
        $angle += atan2($ax * $by - $ay * $bx, $ax * $bx + $ay * $by);
    }

    return abs($angle) > M_PI;
}

$star = static function (float $lon, float $lat, float $size, int $corners) use ($random): array {
    $ring = [];
    for ($i = 0; $i < $corners; $i++) {
        $r = $size * $random(0.5, 1);
        $ring[] = [
            round($lon + $r * cos(2 * M_PI * $i / $corners), 5),
            round($lat + $r * sin(2 * M_PI * $i / $corners), 5),
        ];
    }

    return [...$ring, $ring[0]];
};
$areas = [];
// Some over each other, one within another, one with a hole, one far from all.
foreach ([[0, 0, 3, 40], [2, 1, 3, 12], [0, 0, 1, 6], [5, 5, 2, 200], [-4, 3, 2.5, 5], [30, 30, 1, 4]] as $i => $s) {
    $rings = [$star(...$s)];
    if ($i === 3) {
        $rings[] = array_reverse($star(5, 5, 0.8, 8));
    }
    $areas[] = ['id' => "a$i", 'rings' => $rings, 'people' => [120_000, 4_000, 0, null, -5, 9][$i]];
}
$records = [];
for ($i = 0; $i < 400; $i++) {
    $records[] = [
        'lon' => $random(-7, 8),
        'lat' => $random(-4, 8),
        // Missing, zero, below zero, with decimals.
        'eggs' => [null, 0, -3, round($random(0, 200), 1), mt_rand(1, 120)][mt_rand(0, 4)],
        'kind' => ['CC', 'CM', 'EI'][mt_rand(0, 2)],
    ];
}
$cases = [];
foreach ([0, 3, 30] as $least) {
    foreach (['count', 'sum', 'mean', 'least', 'most', 'share', 'rate', 'rate of eggs'] as $measure) {
        $isRate = str_starts_with($measure, 'rate');
        $of = [
            'measure' => $isRate ? 'rate' : $measure,
            'field' => in_array($measure, ['count', 'share', 'rate'], true) ? null : 'eggs',
            'by' => $isRate ? 'people' : null,
            'times' => $isRate ? 100_000 : 1,
            'least' => in_array($measure, ['count', 'sum'], true) ? 0 : $least,
        ];
        $told = [];
        foreach ($areas as $area) {
            $in = array_values(array_filter($records, static function (array $r) use ($area): bool {
                foreach ($area['rings'] as $i => $ring) {
                    if (around($ring, $r['lon'], $r['lat']) !== ($i === 0)) {
                        return false;
                    }
                }

                return true;
            }));
            $known = array_values(array_filter(array_column($in, 'eggs'), static fn ($v): bool => $v !== null));
            $n = count($in);
            $amount = $measure === 'rate' ? $n : ($n === 0 ? 0 : ($known === [] ? null : array_sum($known)));
            $value = match ($measure) {
                'count' => $n,
                'sum' => $amount,
                'mean' => $known === [] ? null : array_sum($known) / count($known),
                'least' => $known === [] ? null : min($known),
                'most' => $known === [] ? null : max($known),
                'share' => $n === 0
                    ? null
                    : 100 * count(array_filter($in, static fn (array $r): bool => $r['kind'] === 'CM')) / $n,
                default => $amount === null || ($area['people'] ?? 0) <= 0 ? null : $amount / $area['people'] * 100_000,
            };
            $basis = in_array($measure, ['mean', 'least', 'most'], true) ? count($known) : $n;
            $few = $of['least'] > $basis && ($basis > 0 || $isRate);
            $told[$area['id']] = $few ? 'few' : ($value === null ? null : round($value, 6));
        }
        $cases[] = ['of' => $of, 'told' => $told];
    }
}
file_put_contents(
    __DIR__.'/tallies.json',
    json_encode(['areas' => $areas, 'records' => $records, 'cases' => $cases], JSON_THROW_ON_ERROR)."\n",
);
