<?php

declare(strict_types=1);

namespace Demo;

use App\Models\Programme;
use App\Models\User;
use App\Trails\Trails;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;
use Random\Randomizer;

/** The ways that crews walked along their beaches on the mornings of three weeks, as their phones sent them. */
final class DawnTrails
{
    private const MORNINGS = 21;

    private const POINTS = 45;

    /**
     * @param  list<array{User, list<string>}>  $walkers  with their sectors
     * @param  array<string, array{isle: string, points: non-empty-list<array{float, float}>}>  $beaches
     */
    public static function walk(Randomizer $dice, Programme $programme, array $walkers, array $beaches): void
    {
        // When each was last heard is told by what their phones sent of records.
        $heard = DB::table('members')->where('programme_id', $programme->id)->pluck('last_heard_at', 'id');
        foreach ($walkers as $i => [$user, $sectors]) {
            $device = RecordId::make();
            for ($day = self::MORNINGS; $day > 0; $day--) {
                if ($dice->getInt(0, 3) === 0) {
                    continue;
                }
                $beach = $beaches[$sectors[($day + $i) % count($sectors)]] ?? null;
                if ($beach !== null) {
                    $start = now($programme->time_zone)->subDays($day)->setTime(5, $dice->getInt(20, 59));
                    Trails::take(
                        $programme,
                        $user,
                        $device,
                        self::along($dice, $beach['points'], $start->getTimestamp() * 1000),
                        0,
                        null,
                    );
                }
            }
        }
        foreach ($heard as $id => $at) {
            DB::table('members')->where('id', $id)->update(['last_heard_at' => $at, 'last_place_at' => $at]);
        }
    }

    /**
     * @param  non-empty-list<array{float, float}>  $points
     * @return list<array{int, float, float, int}>
     */
    private static function along(Randomizer $dice, array $points, int $at): array
    {
        $points = self::inOrder($points);
        $way = [];
        $last = count($points) - 1;
        for ($i = 0; $i < self::POINTS; $i++) {
            $place = $last * ($i / (self::POINTS - 1));
            $k = min((int) $place, max(0, $last - 1));
            $part = $place - $k;
            $to = $points[min($k + 1, $last)];
            $shake = static fn (): float => $dice->getInt(-40, 40) / 1_000_000;
            $way[] = [
                $at + $i * 90_000,
                $points[$k][0] + ($to[0] - $points[$k][0]) * $part + $shake(),
                $points[$k][1] + ($to[1] - $points[$k][1]) * $part + $shake(),
                6,
            ];
        }

        return $way;
    }

    /**
     * The spots of a beach, which lie in no order, as somebody comes by them.
     *
     * @param  non-empty-list<array{float, float}>  $points
     * @return non-empty-list<array{float, float}>
     */
    private static function inOrder(array $points): array
    {
        $lons = array_column($points, 0);
        $lats = array_column($points, 1);
        $along = max($lons) - min($lons) > max($lats) - min($lats) ? 0 : 1;
        usort($points, static fn (array $a, array $b): int => $a[$along] <=> $b[$along]);
        $some = [];
        foreach ($points as $i => $point) {
            if ($i % 10 === 0) {
                $some[] = $point;
            }
        }

        return $some === [] ? $points : $some;
    }
}
