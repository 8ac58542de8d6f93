<?php

declare(strict_types=1);

namespace Demo;

use App\Models\Audience;
use App\Models\Board;
use App\Models\Layer;
use App\Models\Programme;
use PinYard\Filter\Filter;

/** The boards of the demo: one that anyone with its link reads, and one for those who work at it. */
final class DawnBoard
{
    /** @return Board the one that hangs at the gate */
    public static function make(Programme $programme, Layer $nests, int $due, int $map): Board
    {
        $of = static fn (string $id, string $kind, string $title, array $at, array $more = []): array => [
            'id' => $id,
            'kind' => $kind,
            'title' => $title,
            'x' => $at[0],
            'y' => $at[1],
            'width' => $at[2],
            'height' => $at[3],
            'layer' => $nests->id,
        ] + $more;
        $board = $programme->boards()->make([
            'title' => 'Dawn board',
            'visitors_pick' => true,
            'tiles' => [
                $of('all', 'number', 'Nests this season', [0, 0, 3, 3], [
                    'compare' => ['by' => 'laid_on', 'days' => 30, 'against' => 'before'],
                ]),
                $of('due', 'number', 'Due to open', [3, 0, 3, 3], ['slice' => $due]),
                $of('map', 'map', 'Where the nests are', [6, 0, 6, 6]),
                $of('status', 'breakdown', 'How the nests are doing', [0, 3, 3, 4], ['by' => ['field' => 'status']]),
                $of('species', 'breakdown', 'Which species came', [3, 3, 3, 4], ['by' => ['field' => 'species']]),
                $of('weeks', 'trend', 'Nests laid each week', [6, 6, 6, 5], [
                    'by' => ['field' => 'laid_on', 'step' => 'week'],
                    'lines' => ['field' => 'species'],
                ]),
                $of('latest', 'latest', 'Latest from the beaches', [0, 7, 6, 6], ['names' => true]),
                $of('threats', 'breakdown', 'What threatens them', [6, 11, 6, 4], [
                    'by' => ['field' => 'threats'],
                    'order' => 'most',
                ]),
            ],
        ]);
        $board->openTo(Audience::Link);
        self::season($programme, $nests, $due, $map);
        self::nestByNest($programme, $nests);

        return $board;
    }

    /** A page of several parts: who is in the office looks at one nest after the other, and puts down visits. */
    private static function nestByNest(Programme $programme, Layer $nests): void
    {
        $part = static fn (string $id, string $kind, string $title, array $at, array $more = []): array => [
            'id' => $id, 'kind' => $kind, 'title' => $title,
            'x' => $at[0], 'y' => $at[1], 'width' => $at[2], 'height' => $at[3],
        ] + $more + ['layer' => $nests->id];
        $programme->boards()->make(['title' => 'Nest by nest', 'tiles' => [
            $part('list', 'latest', 'Nests', [0, 0, 4, 10], [
                'order' => 'name', 'photo' => true, 'fields' => ['status', 'species'], 'count' => 50,
            ]),
            $part('map', 'map', 'Where it is', [4, 0, 8, 4]),
            $part('details', 'details', 'The nest', [4, 4, 4, 6], ['photo' => true]),
            ...$nests->visitsLayer === null ? [] : [
                $part('form', 'form', 'A visit', [8, 4, 4, 6], ['layer' => $nests->visitsLayer->id]),
            ],
        ]])->openTo(Audience::Programme);
    }

    /** What the coordinator looks at: success by beach, clutches, crews, outings. */
    private static function season(Programme $programme, Layer $nests, int $due, int $map): void
    {
        $opened = $nests->slices()->create([
            'name' => 'Status: Opened',
            'filter' => Filter::read(
                ['all' => [['field' => 'status', 'test' => 'is', 'value' => 'opened']]],
                $nests->design(),
            )->toArray(),
        ]);
        $of = static fn (string $id, string $kind, string $title, array $at, array $more = []): array => [
            'id' => $id,
            'kind' => $kind,
            'title' => $title,
            'x' => $at[0],
            'y' => $at[1],
            'width' => $at[2],
            'height' => $at[3],
        ] + $more;
        $in = ['layer' => $nests->id];
        $zone = $programme->time_zone;
        $mean = static fn (string $field): array => ['of' => 'mean', 'field' => $field];
        $programme->boards()->make([
            'title' => 'How the season goes',
            'pages' => ['This morning', 'The season'],
            'tiles' => [
                $of('target', 'target', 'Nests found of the season\'s plan', [0, 0, 6, 3], $in + [
                    'target' => 420,
                    'from' => now($zone)->subDays(100)->toDateString(),
                    'to' => now($zone)->addDays(40)->toDateString(),
                    'thresholds' => [['at' => 380, 'text' => 'enough for the report']],
                ]),
                $of('crews', 'crews', 'Crews now', [6, 0, 3, 6]),
                $of('outings', 'outings', 'Outings against plan', [9, 0, 3, 6]),
                $of('due', 'latest', 'Next to be inspected', [0, 3, 3, 9], $in + [
                    'slice' => $due,
                    'fields' => ['status', 'sector'],
                    'count' => 20,
                ]),
                $of('photos', 'photos', 'Latest photos', [3, 3, 3, 3], $in),
                $of('pick', 'picker', 'Beach sector', [3, 6, 3, 2], $in + ['by' => ['field' => 'sector']]),
                $of('where', 'map', 'Where crews and due nests are', [6, 6, 6, 6], $in + ['slice' => $due]),
                $of('said', 'text', 'In a sentence', [0, 12, 3, 4], [
                    'text' => 'So far {1} nests, of which {2} have opened; of their eggs {3} hatched on average.',
                    'values' => [
                        $in + ['measure' => ['of' => 'count']],
                        $in + ['slice' => $opened->id, 'measure' => ['of' => 'count']],
                        $in + ['measure' => $mean('hatched_share'), 'decimals' => 0],
                    ],
                ]),
                $of('walked', 'number', 'Walked in the last week', [3, 8, 3, 4], $in + [
                    'measure' => ['of' => 'walked'],
                    'compare' => ['by' => 'collected_at', 'days' => 7, 'against' => 'before'],
                ]),
                $of('cover', 'coverage', 'How much of the beaches was walked', [3, 12, 4, 4], [
                    'layer' => $programme->layers()->where('title', 'Beach sectors')->value('id'),
                    'metres' => 100,
                    'days' => 3,
                ]),
                $of('pace', 'breakdown', 'Kilometres walked by crew', [7, 12, 5, 4], $in + [
                    'by' => ['field' => '@crew'],
                    'measure' => ['of' => 'walked'],
                    'order' => 'most',
                ]),
                $of('beaches', 'table', 'Which beaches hatch well?', [0, 0, 6, 6], $in + [
                    'page' => 1,
                    'by' => ['field' => 'sector'],
                    'columns' => [
                        ['title' => 'Nests', 'measure' => ['of' => 'count']],
                        ['title' => 'Opened', 'measure' => ['of' => 'count', 'slice' => $opened->id]],
                        ['title' => 'Hatched', 'measure' => $mean('hatched_share'), 'decimals' => 0],
                        ['title' => 'Eggs', 'measure' => ['of' => 'median', 'field' => 'clutch_size']],
                    ],
                    'sort' => 2,
                    'down' => true,
                ]),
                $of('clutch', 'spread', 'How large clutches are', [6, 0, 6, 5], $in + [
                    'page' => 1,
                    'measure' => $mean('clutch_size'),
                ]),
                $of('pairs', 'pairs', 'Do large clutches hatch well?', [6, 5, 6, 5], $in + [
                    'page' => 1,
                    'measure' => $mean('clutch_size'),
                    'up' => $mean('hatched_share'),
                    'by' => ['field' => 'sector'],
                ]),
                $of('kinds', 'breakdown', 'How each species is doing', [0, 6, 6, 5], $in + [
                    'page' => 1,
                    'by' => ['field' => 'species'],
                    'second' => ['field' => 'status'],
                ]),
                $of('map', 'map', 'Where they hatch', [0, 11, 12, 6], ['page' => 1, 'map' => $map]),
            ],
        ])->openTo(Audience::Programme);
    }
}
