<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Models\Audience;
use App\Models\Conflict;
use App\Models\Programme;
use App\Models\RecordQuestion;
use App\Models\Role;
use App\Models\User;
use App\Plan\Questions;
use App\Records\VisibleRecords;
use App\Rights\ShownTo;

/** What each of the five stages has to say about a programme, as numbers. */
final class Stages
{
    /** @return array<string, array<string, int>> */
    public static function of(Programme $programme, User $viewer): array
    {
        $layers = $programme->layers()->get();
        $today = now($programme->time_zone)->startOfDay()->utc()->format('Y-m-d H:i:s');
        $crew = $programme->members()->where('role', Role::Crew);
        // What waits for a decision is told to whoever decides.
        $decides = $programme->memberFor($viewer)?->coordinates() === true ? $layers->modelKeys() : [];
        $counts = VisibleRecords::counts($viewer, $layers, $today);

        $shown = [
            ...ShownTo::mapsOf($programme, $viewer)->pluck('audience')->all(),
            ...ShownTo::boardsOf($programme, $viewer)->pluck('audience')->all(),
        ];

        return [
            'plan' => [
                'people' => $programme->members()->count(),
                'questions' => count($states = array_column(Questions::of($programme), 'state')),
                'open' => count(array_keys($states, 'open', true)),
            ],
            'build' => ['layers' => $layers->count()],
            'collect' => [
                'crew' => (clone $crew)->count(),
                'waiting' => (int) (clone $crew)->sum('waiting'),
            ],
            'check' => [
                'disputes' => Conflict::open($decides)->count(),
                'answers' => RecordQuestion::query()
                    ->whereIn('layer_id', $decides)
                    ->whereNotNull('answered_at')
                    ->whereNull('closed_at')
                    ->count(),
                'asked' => RecordQuestion::query()
                    ->whereIn('layer_id', $decides)
                    ->whereNull('answered_at')
                    ->whereNull('closed_at')
                    ->count(),
                'waiting' => $decides === [] ? 0 : array_sum(array_column($counts, 2)),
                'today' => array_sum(array_column($counts, 1)),
                'records' => array_sum(array_column($counts, 0)),
            ],
            'publish' => [
                'live' => count(array_keys($shown, Audience::Link, true)),
                'all' => count($shown),
            ],
        ];
    }
}
