<?php

declare(strict_types=1);

namespace Demo;

use App\Designs\DesignStore;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Sync\SyncRound;
use Carbon\CarbonInterface;
use Illuminate\Support\Carbon;
use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;
use Random\Randomizer;

/** Beach sectors as areas and dawn walks as lines, made from the places where nests can be. */
final class BeachShapes
{
    /** A degree of longitude is so much shorter than one of latitude here. */
    private const SQUEEZE = 0.97;

    /**
     * @param  array<string, array{code: string, name: string, isle: string, points: non-empty-list<array{float,
     *     float}>}>  $beaches
     */
    public static function sectors(Programme $programme, User $by, array $beaches): Layer
    {
        $layer = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Beach sectors',
                'purpose' => 'Who walks where: each stretch of beach that a crew answers for.',
                'geometry' => 'area',
                'name_field' => 'name',
                'fields' => [
                    ['key' => 'name', 'label' => 'Name', 'kind' => 'short_text', 'required' => true],
                    ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'shape' => '@@#', 'required' => true],
                    [
                        'key' => 'light',
                        'label' => 'Light at night',
                        'kind' => 'one_choice',
                        'choices' => [
                            ['code' => 'dark', 'label' => 'Dark', 'colour' => '#2F5D8A'],
                            ['code' => 'some', 'label' => 'Some lamps', 'colour' => '#E0A030'],
                            ['code' => 'bright', 'label' => 'Brightly lit', 'colour' => '#9B2226'],
                        ],
                    ],
                    [
                        'key' => 'hectares',
                        'label' => 'Hectares',
                        'kind' => 'calculated',
                        'unit' => 'ha',
                        'decimals' => 1,
                        'formula' => 'round(area_size() / 10000, 1)',
                    ],
                ],
                'photos' => ['allowed' => false],
                'rights' => ['crew' => ['add' => false, 'see' => 'all', 'change' => 'all', 'delete' => 'none']],
            ]),
            $by,
        );
        $operations = [];
        foreach (array_values($beaches) as $i => $beach) {
            $operations[] = self::operation(
                $layer,
                [
                    'type' => 'Polygon',
                    'coordinates' => [
                        self::strip(
                            self::along($beach['points'], self::middle($beaches, $beach['isle'])),
                            self::middle($beaches, $beach['isle']),
                        ),
                    ],
                ],
                [
                    'name' => $beach['name'],
                    'code' => $beach['code'],
                    'light' => ['dark', 'some', 'dark', 'bright', 'dark'][$i % 5],
                ],
                now()->subDays(80),
            );
        }
        self::take(array_map(static fn (array $operation): array => [$by, $operation], $operations));

        return $layer;
    }

    /**
     * @param  array<string, array{code: string, name: string, isle: string, points: non-empty-list<array{float,
     *     float}>}>  $beaches
     * @param  list<array{User, list<string>}>  $walkers  with the sectors that each walks
     */
    public static function walks(
        Randomizer $dice,
        Programme $programme,
        User $by,
        array $beaches,
        array $walkers,
    ): Layer {
        $layer = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Dawn walks',
                'purpose' => 'Where crews have walked, and how many tracks they met.',
                'geometry' => 'line',
                'name_field' => 'sector',
                'fields' => [
                    ['key' => 'sector', 'label' => 'Beach sector', 'kind' => 'short_text', 'required' => true],
                    [
                        'key' => 'walked_on',
                        'label' => 'Walked on',
                        'kind' => 'date',
                        'default' => 'today',
                        'limits' => ['highest' => 'today'],
                    ],
                    [
                        'key' => 'wind',
                        'label' => 'Wind',
                        'kind' => 'one_choice',
                        'choices' => [
                            ['code' => 'calm', 'label' => 'Calm'],
                            ['code' => 'breeze', 'label' => 'Breeze'],
                            ['code' => 'strong', 'label' => 'Strong'],
                        ],
                    ],
                    [
                        'key' => 'crawls',
                        'label' => 'Fresh tracks',
                        'kind' => 'whole_number',
                        'limits' => ['lowest' => 0, 'highest' => 100],
                    ],
                    [
                        'key' => 'per_km',
                        'label' => 'Tracks per km',
                        'kind' => 'calculated',
                        'decimals' => 1,
                        'formula' => 'round(crawls / (line_length() / 1000), 1)',
                    ],
                ],
                'photos' => ['allowed' => false],
                'rights' => ['crew' => ['add' => true, 'see' => 'all', 'change' => 'own', 'delete' => 'own']],
            ]),
            $by,
        );
        $operations = [];
        foreach ($walkers as [$user, $sectors]) {
            for ($n = 0; $n < 6; $n++) {
                $beach = $beaches[$sectors[$n % count($sectors)]];
                $day = now()
                    ->subDays($n * 5 + $dice->getInt(1, 4))
                    ->setTime(5 + $dice->getInt(0, 1), $dice->getInt(0, 59));
                $operations[] = [
                    $user,
                    self::operation(
                        $layer,
                        [
                            'type' => 'LineString',
                            'coordinates' => array_slice(
                                self::along($beach['points'], self::middle($beaches, $beach['isle'])),
                                0,
                                $dice->getInt(5, 9),
                            ),
                        ],
                        [
                            'sector' => $beach['name'],
                            'walked_on' => $day->toDateString(),
                            'wind' => ['calm', 'breeze', 'strong'][$dice->getInt(0, 2)],
                            'crawls' => $dice->getInt(0, 9),
                        ],
                        $day,
                    ),
                ];
            }
        }
        self::take($operations);

        return $layer;
    }

    /**
     * @param  array<string, mixed>  $geometry
     * @param  array<string, mixed>  $values
     * @return array<string, mixed>
     */
    private static function operation(Layer $layer, array $geometry, array $values, CarbonInterface $at): array
    {
        return [
            'op' => RecordId::make()->text,
            'kind' => 'add',
            'seq' => 0,
            'layer' => $layer->id,
            'design' => 1,
            'record' => RecordId::make()->text,
            'captured_at' => $at->format('Y-m-d\TH:i:s\Z'),
            'geometry' => $geometry,
            'fix' => null,
            'photos' => [],
            'values' => $values,
        ];
    }

    /**
     * Each arrives when its person is back from the beach.
     *
     * @param  list<array{User, array<string, mixed>}>  $operations
     */
    private static function take(array $operations): void
    {
        usort($operations, static fn (array $a, array $b): int => $a[1]['captured_at'] <=> $b[1]['captured_at']);
        foreach ($operations as [$user, $operation]) {
            Carbon::setTestNow(Carbon::parse($operation['captured_at'])->addHours(2));
            [$answer] = SyncRound::for($user, RecordId::make()->text)->take([$operation]);
            if ($answer['outcome'] !== 'applied') {
                throw new \LogicException('The demo is refused by its own design: '.json_encode($answer));
            }
        }
        Carbon::setTestNow();
    }

    /**
     * A strip around the places of a beach: their mean distance from the middle of the isle, direction by direction, a
     * little out and a little in. Directions follow each other, so the outline never crosses itself.
     *
     * @param  list<array{float, float}>  $way
     * @param  array{float, float}  $middle
     * @return list<array{float, float}>
     */
    private static function strip(array $way, array $middle): array
    {
        $pushed = static fn (float $by): array => array_map(static function (array $p) use ($middle, $by): array {
            [$x, $y] = [($p[0] - $middle[0]) * self::SQUEEZE, $p[1] - $middle[1]];
            $share = 1 + $by / hypot($x, $y);

            return [round($middle[0] + ($x * $share) / self::SQUEEZE, 6), round($middle[1] + $y * $share, 6)];
        }, $way);

        return [...$pushed(0.0011), ...array_reverse($pushed(-0.0013))];
    }

    /**
     * A way along the beach, from one end to the other.
     *
     * @param  non-empty-list<array{float, float}>  $points
     * @param  array{float, float}  $middle  of the isle
     * @return list<array{float, float}>
     */
    private static function along(array $points, array $middle): array
    {
        $polar = array_map(
            static fn (array $p): array => [
                atan2($p[1] - $middle[1], ($p[0] - $middle[0]) * self::SQUEEZE),
                hypot($p[1] - $middle[1], ($p[0] - $middle[0]) * self::SQUEEZE),
            ],
            $points,
        );
        // Begin after the widest gap, so that a beach in the west does not go the wrong way around.
        usort($polar, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        [$from, $gap] = [0, $polar[0][0] + 2 * M_PI - $polar[count($polar) - 1][0]];
        for ($i = 1; $i < count($polar); $i++) {
            if ($polar[$i][0] - $polar[$i - 1][0] > $gap) {
                [$from, $gap] = [$i, $polar[$i][0] - $polar[$i - 1][0]];
            }
        }
        $polar = [...array_slice($polar, $from), ...array_slice($polar, 0, $from)];
        $way = [];
        foreach (array_chunk($polar, max(2, intdiv(count($polar), 9))) as $some) {
            [$angle, $far] = $some[intdiv(count($some), 2)];
            $way[] = [
                round($middle[0] + ($far * cos($angle)) / self::SQUEEZE, 6),
                round($middle[1] + $far * sin($angle), 6),
            ];
        }

        return $way;
    }

    /**
     * @param  array<string, array{code: string, isle: string, points: non-empty-list<array{float, float}>}>  $beaches
     * @return array{float, float}
     */
    private static function middle(array $beaches, string $isle): array
    {
        $points = array_merge(
            ...array_values(
                array_map(
                    static fn (array $b): array => $b['points'],
                    array_filter($beaches, static fn (array $b): bool => $b['isle'] === $isle),
                ),
            ),
        );

        $middle = static fn (float ...$along): float => $along === [] ? 0.0 : (min($along) + max($along)) / 2;

        return [$middle(...array_column($points, 0)), $middle(...array_column($points, 1))];
    }
}
