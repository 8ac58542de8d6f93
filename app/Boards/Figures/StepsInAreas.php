<?php

declare(strict_types=1);

namespace App\Boards\Figures;

use App\Models\Programme;
use App\Trails\TrailPoints;
use PinYard\Device\Walk;
use PinYard\Geo\AreaCells;
use PinYard\Geo\Position;
use PinYard\Geo\ZOrder;
use PinYard\Refused;

/** How far and how long people were out in each area, by the points of their trails. */
final class StepsInAreas
{
    /**
     * @param  list<string>  $days  whose days are counted: number of the person, and day by the programme's clock
     * @param  list<list<list<array{float, float}>>>  $rings  of each area
     * @return array<int, array{float, float, int}> by area that somebody was in: metres, seconds, on how many days of
     *     people
     *
     * @throws Refused where there is too much to go through
     */
    public static function of(Programme $programme, array $days, array $rings): array
    {
        if ($days === [] || $rings === []) {
            return [];
        }
        $dates = array_map(static fn (string $d): string => explode(' ', $d)[1], $days);
        $zone = new \DateTimeZone($programme->time_zone);
        $utc = static fn (string $day, string $by): string => (new \DateTimeImmutable($day, $zone))
            ->modify($by)->setTimezone(new \DateTimeZone('UTC'))->format('Y-m-d H:i:s.v');
        $devices = [];
        // The first step of a day may have begun on the day before.
        foreach (
            TrailPoints::between(
                $programme,
                $utc(min($dates), '-'.Walk::PAUSE.' seconds'),
                $utc(max($dates), '+1 day'),
                array_values(array_unique(array_map(intval(...), $days))),
            ) as $device => [$person, $points]
        ) {
            foreach (Walk::steps($points) as $step) {
                // A step belongs to the day that it ends on, as it does in trail_days.
                $day = (new \DateTimeImmutable('@'.(int) floor($step[1])))->setTimezone($zone)->format('Y-m-d');
                $devices["$person $day"][$device][] = $step;
            }
        }
        $steps = [];
        foreach (array_intersect_key($devices, array_flip($days)) as $day => $of) {
            foreach (Walk::counted(array_values($of)) as [$from, $to, $metres, $lon, $lat]) {
                $steps[] = [ZOrder::of(Position::of($lon, $lat)), $lon, $lat, $metres, $to - $from, $day];
            }
        }
        // One walk over the quarters of the areas needs places in the order of their numbers.
        usort($steps, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        $cells = new AreaCells($rings);
        $walked = $lasted = $out = [];
        foreach ($steps as [$z, $lon, $lat, $metres, $seconds, $day]) {
            foreach ($cells->allAt($z, $lon, $lat) as $area) {
                $walked[$area] = ($walked[$area] ?? 0.0) + $metres;
                $lasted[$area] = ($lasted[$area] ?? 0.0) + $seconds;
                $out[$area][$day] = true;
            }
        }
        $found = [];
        foreach ($walked as $area => $metres) {
            $found[$area] = [$metres, $lasted[$area], count($out[$area])];
        }

        return $found;
    }
}
