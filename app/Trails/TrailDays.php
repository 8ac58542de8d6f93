<?php

declare(strict_types=1);

namespace App\Trails;

use App\Models\Programme;
use Illuminate\Support\Facades\DB;
use PinYard\Device\Walk;

/**
 * How far and how long each person walked on each day, made from the points of that day alone: when more of them come,
 * in whatever order, the day is made anew. A step belongs to the day that it ends on.
 */
final class TrailDays
{
    /** @param  list<string>  $moments  of points that have come (UTC) */
    public static function touch(Programme $programme, int $person, array $moments): void
    {
        $zone = new \DateTimeZone($programme->time_zone);
        $days = [];
        foreach ($moments as $moment) {
            $at = (new \DateTimeImmutable($moment, new \DateTimeZone('UTC')))->setTimezone($zone);
            $days[$at->format('Y-m-d')] = true;
            // A late point may be what the first step of the next day begins with.
            $days[$at->modify('+'.Walk::PAUSE.' seconds')->format('Y-m-d')] = true;
        }
        foreach (array_keys($days) as $day) {
            self::day($programme, $person, (string) $day, $zone);
        }
    }

    /** All days of a programme: its clocks were set to another zone. */
    public static function refresh(Programme $programme): void
    {
        DB::table('trail_days')->where('programme_id', $programme->id)->delete();
        $people = DB::table('trail_points')->where('programme_id', $programme->id)->distinct()->pluck('user_id');
        foreach ($people as $person) {
            $moments = DB::table('trail_points')
                ->where('programme_id', $programme->id)
                ->where('user_id', $person)
                // A moment of each hour is in every day that there is.
                ->selectRaw('min(at) as at')
                ->groupByRaw("date_format(at, '%Y-%m-%d %H')")
                ->pluck('at')
                ->all();
            self::touch($programme, (int) $person, array_values(array_map(strval(...), $moments)));
        }
    }

    private static function day(Programme $programme, int $person, string $day, \DateTimeZone $zone): void
    {
        $begin = new \DateTimeImmutable($day, $zone);
        $end = $begin->modify('+1 day');
        $utc = static fn (\DateTimeImmutable $at): string => $at
            ->setTimezone(new \DateTimeZone('UTC'))
            ->format('Y-m-d H:i:s.v');
        $devices = [];
        $points = DB::table('trail_points')
            ->where('programme_id', $programme->id)
            ->where('user_id', $person)
            ->where('at', '>=', $utc($begin->modify('-'.Walk::PAUSE.' seconds')))
            ->where('at', '<', $utc($end))
            ->orderBy('at')
            ->get(['at', 'device', 'lon', 'lat', 'accuracy']);
        foreach ($points as $point) {
            $devices[(string) $point->device][] = [
                self::seconds((string) $point->at),
                (float) $point->lon,
                (float) $point->lat,
                $point->accuracy === null ? null : (float) $point->accuracy,
            ];
        }
        $from = (float) $begin->getTimestamp();
        $steps = array_map(
            static fn (array $of): array => array_values(array_filter(
                Walk::steps($of),
                static fn (array $step): bool => $step[1] >= $from,
            )),
            array_values($devices),
        );
        [$metres, $seconds] = Walk::total($steps);
        $which = ['programme_id' => $programme->id, 'user_id' => $person, 'day' => $day];
        if ($seconds > 0) {
            DB::table('trail_days')->upsert(
                [$which + ['metres' => $metres, 'seconds' => $seconds]],
                ['programme_id', 'user_id', 'day'],
                ['metres', 'seconds'],
            );
        }
    }

    private static function seconds(string $at): float
    {
        $moment = new \DateTimeImmutable($at, new \DateTimeZone('UTC'));

        return $moment->getTimestamp() + ((int) $moment->format('v')) / 1000;
    }
}
