<?php

declare(strict_types=1);

namespace Demo;

use App\Models\Programme;
use App\Models\User;
use App\Trails\Trails;
use PinYard\Record\RecordId;
use Random\Randomizer;

/** The ways that crews walked along their beaches on the mornings of the last three weeks, as their phones sent them. */
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
    }

    /**
     * @param  non-empty-list<array{float, float}>  $points
     * @return list<array{int, float, float, int}>
     */
    private static function along(Randomizer $dice, array $points, int $at): array
    {
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
}
