<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Outing;
use App\Plan\Outings;
use Illuminate\Database\Eloquent\Builder;

/** The outings of these days, with how far they have come. */
final class OutingsOnBoard
{
    private const MOST = 40;

    /** @return array<string, mixed> */
    public static function of(BoardSources $sources): array
    {
        $programme = $sources->board->programme;
        $today = $programme->now();
        $outings = Outing::query()->where('programme_id', $programme->id)->with('crew')
            ->tap(static fn (Builder $q) => Outings::of($q, $programme, $sources->viewer))
            ->where('ends_on', '>=', $today->copy()->subDays(14)->toDateString())
            ->orderBy('starts_on')->limit(self::MOST)->get();
        $told = [];
        foreach (Outings::for($programme, $outings, $sources->viewer, $sources->stand(...)) as $outing) {
            $told[] = array_intersect_key($outing, array_flip(['title', 'crew_name', 'from', 'to', 'progress']));
        }

        return ['outings' => $told];
    }
}
