<?php

declare(strict_types=1);

namespace Demo;

use App\Maps\MapLayers;
use App\Models\Audience;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Plan\Questions;
use App\Publish\GatePage;
use PinYard\Carto\LayerOnMap;
use PinYard\Carto\Look;
use PinYard\Carto\MapTable;
use PinYard\Carto\Marks\NumberField;
use PinYard\Carto\NumberClasses;
use PinYard\Carto\Scheme;
use PinYard\Carto\Viewpoint;
use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;
use PinYard\Stats\Method;

/** What the demo shows of its season: maps, a board, slices, questions, the gate. */
final class NestThings
{
    /**
     * @param  array<string, array{isle: string, points: non-empty-list<array{float, float}>}>  $beaches
     * @param  list<array{Layer, array<string, mixed>}>  $layers  the topmost first, with what is said of them
     */
    private static function map(Programme $programme, string $title, array $beaches, array $layers): Map
    {
        $parts = [];
        foreach ($layers as $i => [$layer, $part]) {
            $parts[] = MapLayers::stored(
                LayerOnMap::read(
                    $part,
                    $layer->id,
                    $layer->design(),
                    "layers/$i",
                    static fn (int $n): ?LayerDesign => $programme->layers()->find($n)?->design(),
                ),
                $layer,
            );
        }
        $map = $programme->maps()->make([
            'title' => $title,
            'layers' => $parts,
            'extent' => $programme->area()->toArray(),
            'viewpoints' => self::viewpoints($beaches),
        ]);
        assert($map instanceof Map);

        return $map;
    }

    /** @return list<array{Layer, array<string, mixed>}> */
    private static function walks(Programme $programme): array
    {
        $walks = $programme->layers()->where('title', 'Dawn walks')->first();

        return $walks instanceof Layer ? [[$walks, ['opacity' => 0.6, 'visible' => false]]] : [];
    }

    /** @return list<array{Layer, array<string, mixed>}> */
    private static function sectors(Programme $programme): array
    {
        $sectors = $programme->layers()->where('title', 'Beach sectors')->first();
        $name = $sectors instanceof Layer ? $sectors->design()->nameField()?->key : null;

        return $sectors instanceof Layer && $name !== null
            ? [
                [
                    $sectors,
                    [
                        'look' => ['kind' => 'single', 'peg' => ['head' => 'bar', 'colour' => '#9C6B2F']],
                        'label' => ['parts' => [['field' => $name]], 'size' => 12, 'zoom' => [12.5, 22]],
                    ],
                ],
            ]
            : [];
    }

    /**
     * Sectors coloured by the nests in them, with a table beside the map.
     *
     * @param  array<string, array{isle: string, points: non-empty-list<array{float, float}>}>  $beaches
     */
    private static function bySector(Programme $programme, Layer $nests, array $beaches): void
    {
        $sectors = $programme->layers()->where('title', 'Beach sectors')->first();
        if (! $sectors instanceof Layer) {
            return;
        }
        $map = self::map($programme, 'Which sectors hatch well?', $beaches, [
            [$nests, ['visible' => false, 'opacity' => 0.9]],
            [
                $sectors,
                [
                    'id' => 'lsectors',
                    'look' => [
                        'kind' => 'inside',
                        'of' => [
                            'layer' => $nests->id,
                            'measure' => 'mean',
                            'field' => 'hatched_share',
                            'least' => 3,
                        ],
                        'method' => 'round',
                        'scheme' => 'ember',
                        'breaks' => [60, 70, 75],
                    ],
                    'label' => [
                        'parts' => [['field' => 'code'], ['text' => ' '], ['tally' => true]],
                        'size' => 12,
                        'zoom' => [12, 22],
                    ],
                ],
            ],
        ]);
        $map->about = 'The mean share of eggs that hatched, of the nests that were dug out in each beach sector.';
        $map->beside = MapTable::read(
            ['columns' => ['name', 'code', '@tally', 'light', 'hectares'], 'sort' => 'name'],
            'lsectors',
            $sectors->design(),
            true,
        )->toArray();
        $map->openTo(Audience::Link);
    }

    /**
     * How many nests lie in each cell of a grid, for all; each by itself from near.
     *
     * @param  array<string, array{isle: string, points: non-empty-list<array{float, float}>}>  $beaches
     */
    private static function crowd(Programme $programme, Layer $nests, array $beaches): Map
    {
        $map = self::map($programme, 'Where nests crowd', $beaches, [
            [
                $nests,
                [
                    'title' => 'Each nest',
                    'look' => ['kind' => 'single', 'peg' => ['head' => 'diamond', 'colour' => '#0F5C53']],
                    'card' => ['fields' => ['nest_code', 'species', 'status'], 'photos' => false],
                    'zoom' => [13, 22],
                ],
            ],
            [
                $nests,
                [
                    'look' => [
                        'kind' => 'density',
                        'field' => null,
                        'bits' => 16,
                        'method' => 'hand',
                        'scheme' => 'ember',
                        'breaks' => [3, 6, 9],
                    ],
                    'card' => ['fields' => [], 'photos' => false],
                    'zoom' => [0, 13],
                ],
            ],
        ]);
        $map->about = 'Nests in each square of about a kilometre. Come nearer to see them one by one.';
        $map->openTo(Audience::Link);

        return $map;
    }

    /** The first number that is written down at visits. */
    private static function visited(Layer $nests): ?string
    {
        foreach ($nests->visitsLayer?->design()->fields ?? [] as $field) {
            if (NumberField::is($field)) {
                return $field->key;
            }
        }

        return null;
    }

    /** @param  array<string, array{isle: string, points: non-empty-list<array{float, float}>}>  $beaches */
    public static function publish(Programme $programme, Layer $layer, array $beaches): void
    {
        $design = $layer->design();
        $look = static fn (string $field): array => Look::suggest($design, $field)->toArray();
        $map = self::map($programme, 'The season so far', $beaches, [
            [
                $layer,
                [
                    'look' => $look('status'),
                    'card' => [
                        'fields' => ['nest_code', 'status', 'laid_on', 'clutch_size'],
                        'photos' => true,
                        'visits' => ['field' => self::visited($layer)],
                        'text' => [
                            [
                                'parts' => [
                                    ['text' => 'Laid '],
                                    ['field' => 'laid_on', 'as' => 'ago'],
                                    ['text' => ' by a '],
                                    ['field' => 'species'],
                                    ['text' => ' turtle at '],
                                    ['field' => 'sector'],
                                    ['text' => '.'],
                                ],
                            ],
                            [
                                'parts' => [['text' => 'Due to open any day now: please keep away from it.']],
                                'only' => ['field' => 'status', 'test' => 'is', 'value' => 'due'],
                            ],
                            [
                                'parts' => [
                                    ['text' => 'It has been dug out: '],
                                    ['field' => 'hatched_share'],
                                    ['text' => ' of '],
                                    ['field' => 'clutch_size'],
                                    ['text' => ' hatched.'],
                                ],
                                'only' => ['field' => 'hatched_share', 'test' => 'there'],
                            ],
                        ],
                    ],
                    'label' => ['parts' => [['field' => 'nest_code']], 'size' => 12, 'zoom' => [14.5, 22]],
                ],
            ],
            ...self::walks($programme),
            ...self::sectors($programme),
        ]);
        $map->about = 'Every nest that our crews have found this season, and how it is doing.';
        $map->openTo(Audience::Link);
        $species = self::map($programme, 'Which species nests where', $beaches, [
            [
                $layer,
                [
                    'look' => $look('species'),
                    'card' => ['fields' => ['nest_code', 'species', 'sector'], 'photos' => true],
                ],
            ],
        ]);
        $species->openTo(Audience::Programme);
        $clutches = self::map($programme, 'How large the clutches are', $beaches, [
            [
                $layer,
                [
                    'look' => [
                        'kind' => 'shades',
                        'field' => 'clutch_size',
                        'scheme' => 'tide',
                        'from' => 60,
                        'to' => 160,
                    ],
                    'label' => [
                        'parts' => [
                            ['field' => 'nest_code'],
                            ['text' => ', dozens of eggs: '],
                            ['formula' => 'round(clutch_size / 12)'],
                        ],
                        'zoom' => [14.5, 22],
                    ],
                    'card' => ['fields' => ['nest_code', 'species', 'clutch_size'], 'photos' => false],
                ],
            ],
        ]);
        $clutches->openTo(Audience::Programme);
        $hatched = $design->field('hatched_share') ?? throw new \LogicException('nests without their success');
        $success = self::map($programme, 'Do large clutches hatch well?', $beaches, [
            [
                $layer,
                [
                    'look' => Look::byNumbers(
                        $hatched,
                        NumberClasses::of(Method::Round, Scheme::Tide, [60.0, 70.0, 80.0]),
                        $design->geometry,
                    )->toArray() + ['size' => ['field' => 'clutch_size', 'most' => 160, 'pixels' => 18]],
                    'card' => [
                        'fields' => ['nest_code', 'species', 'clutch_size', 'hatched_share'],
                        'photos' => false,
                    ],
                ],
            ],
        ]);
        $success->openTo(Audience::Programme);
        self::bySector($programme, $layer, $beaches);
        $crowd = self::crowd($programme, $layer, $beaches);
        $slice = $layer
            ->slices()
            ->create([
                'name' => 'Status: Due to open',
                'filter' => Filter::read(
                    ['all' => [['field' => 'status', 'test' => 'is', 'value' => 'due']]],
                    $design,
                )->toArray(),
            ]);
        $green = $layer
            ->slices()
            ->create([
                'name' => 'Species: Green',
                'filter' => Filter::read(
                    ['all' => [['field' => 'species', 'test' => 'is', 'value' => 'CM']]],
                    $design,
                )->toArray(),
            ]);
        $map->searches = [
            ['id' => 's0000due', 'title' => 'Due to open', 'part' => $map->layers[0]['id'], 'slice' => $slice->id],
            ['id' => 's000gree', 'title' => 'Green turtles', 'part' => $map->layers[0]['id'], 'slice' => $green->id],
        ];
        $map->save();
        if ($layer->visitsLayer !== null) {
            $layer->slices()->create([
                'name' => 'Not looked at for ten days',
                'filter' => $layer->filter([
                    'all' => [
                        ['field' => 'status', 'test' => 'one_of', 'value' => ['incubating', 'due']],
                        [
                            'none' => [
                                ['of' => 'visit', 'field' => 'collected_at', 'test' => 'last_days', 'value' => 10],
                            ],
                        ],
                    ],
                ])->toArray(),
            ]);
        }
        $board = DawnBoard::make($programme, $layer, $slice->id, $success->id);
        GatePage::save($programme, [
            'title' => 'Nest Patrol',
            'colour' => '#1F4E79',
            'open' => true,
            'about' => 'Every night of the season sea turtles come up the beaches of the Halcyon Cays. Our crews '
                ."are there at dawn: they mark the nests, come back to them, and count what has hatched.\n\nThe "
                    .'maps here follow their work from day to day.',
            'hung' => [
                ['kind' => 'map', 'id' => $map->id],
                ['kind' => 'board', 'id' => $board->id],
                ['kind' => 'map', 'id' => $crowd->id],
                ['kind' => 'map', 'id' => $species->id],
            ],
        ]);
        $field = static fn (string ...$keys): array => array_map(
            static fn (string $key): array => ['layer' => $layer->id, 'key' => $key],
            $keys,
        );
        $on = static fn (string $tile): array => ['board' => $board->id, 'tile' => $tile];
        Questions::save($programme, [
            [
                'text' => 'How many nests, and where?',
                'note' => 'by species and beach sector',
                'fields' => $field('species', 'sector'),
                'tile' => $on('map'),
            ],
            [
                'text' => 'How are the nests doing?',
                'note' => 'from the night they were laid until they open',
                'fields' => $field('status', 'laid_on'),
                'tile' => $on('status'),
            ],
            [
                'text' => 'Which beaches hatch well?',
                'note' => 'mean hatching success, at least 5 opened nests',
                'fields' => $field('hatched_share', 'sector'),
                'tile' => null,
            ],
            [
                'text' => 'Do lights keep them away?',
                'note' => 'crawls without a nest near a lit spot',
                'fields' => [],
                'tile' => null,
            ],
        ]);
    }

    /**
     * Each isle with beaches, a little of the sea around it.
     *
     * @param  array<string, array{isle: string, points: non-empty-list<array{float, float}>}>  $beaches
     * @return list<array{id: string, title: string, extent: array{float, float, float, float}}>
     */
    private static function viewpoints(array $beaches): array
    {
        $isles = [];
        foreach ($beaches as $beach) {
            $isles[$beach['isle']] = [...$isles[$beach['isle']] ?? [], ...$beach['points']];
        }
        $around = static function (array $points, string $isle): array {
            [$lons, $lats] = [array_column($points, 0), array_column($points, 1)];
            assert($lons !== [] && $lats !== []);

            return [
                'title' => $isle,
                'extent' => [min($lons) - 0.01, min($lats) - 0.01, max($lons) + 0.01, max($lats) + 0.01],
            ];
        };

        return array_map(
            static fn (Viewpoint $v): array => $v->toArray(),
            Viewpoint::list(array_map($around, $isles, array_keys($isles))),
        );
    }
}
