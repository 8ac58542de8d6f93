<?php

declare(strict_types=1);

namespace App\Trails;

use App\Models\Programme;
use Illuminate\Support\Facades\DB;
use PinYard\Refused;

/** The points of trails, one device after the other; whoever asks has decided whose may be told. */
final class TrailPoints
{
    private const MOST = 2_000_000;

    /**
     * @param  string  $from  moment (UTC), counted in; `$to` is not
     * @param  list<int>|null  $people  null: all
     * @return \Generator<array{int, list<array{float, float, float, float|null}>}> whose device it is, and its points
     *     in the order of time: seconds since 1970, longitude, latitude, accuracy in metres
     *
     * @throws Refused where there are more than can be gone through
     */
    public static function between(Programme $programme, string $from, string $to, ?array $people): \Generator
    {
        $points = DB::table('trail_points')->where('programme_id', $programme->id)
            ->where('at', '>=', $from)->where('at', '<', $to)
            ->when($people !== null, static fn ($q) => $q->whereIn('user_id', $people));
        if ($points->count() > self::MOST) {
            throw Refused::because('coverage_many', 'days', null, ['most' => self::MOST]);
        }
        $trail = [];
        $of = null;
        foreach (
            $points->orderBy('user_id')->orderBy('device')->orderBy('at')
                ->selectRaw('user_id, device, lon, lat, accuracy, unix_timestamp(at) as at')->cursor() as $point
        ) {
            if ($of !== null && ($of[0] !== $point->user_id || $of[1] !== $point->device)) {
                yield [(int) $of[0], $trail];
                $trail = [];
            }
            $of = [$point->user_id, $point->device];
            $trail[] = [
                (float) $point->at,
                (float) $point->lon,
                (float) $point->lat,
                $point->accuracy === null ? null : (float) $point->accuracy,
            ];
        }
        if ($of !== null) {
            yield [(int) $of[0], $trail];
        }
    }
}
