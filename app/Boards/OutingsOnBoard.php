<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Outing;
use App\Models\Programme;
use App\Plan\Outings;
use App\Rights\Viewer;

/** The outings of these days, with how far they have come. */
final class OutingsOnBoard
{
    private const MOST = 40;

    /** @return array<string, mixed> */
    public static function of(Programme $programme, Viewer $viewer): array
    {
        $today = now($programme->time_zone);
        $outings = Outing::query()->where('programme_id', $programme->id)->with('crew')
            ->where('ends_on', '>=', $today->copy()->subDays(14)->toDateString())
            ->orderBy('starts_on')->limit(self::MOST)->get();
        $told = [];
        foreach (Outings::for($programme, $outings, $viewer) as $outing) {
            $told[] = array_intersect_key($outing, array_flip(['title', 'crew_name', 'from', 'to', 'progress']));
        }

        return ['outings' => $told];
    }
}
