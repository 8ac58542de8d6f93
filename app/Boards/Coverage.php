<?php

declare(strict_types=1);

namespace App\Boards;

use App\Layers\StoredRow;
use App\Records\VisibleRecords;
use App\Rights\WorkSeen;
use App\Trails\TrailPoints;
use PinYard\Board\Tiles\CoverageTile;
use PinYard\Device\Walk;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\NearWays;
use PinYard\Geo\Spots;
use PinYard\Geo\Wkb;
use PinYard\Refused;
use stdClass;

/**
 * Which share of areas or lines was walked, by the trails of phones; whoever does not coordinate the programme is told
 * of their own trails alone. It is found at some hundreds of places spread over each.
 */
final class Coverage
{
    private const MOST_RECORDS = 500;

    /** Places that are asked in all, and of one record at the most. */
    private const SPOTS = 120_000;

    private const SPOTS_EACH = 900;

    /**
     * @param  VisibleRecords  $records  with their names, where those are told
     * @return array<string, mixed>
     *
     * @throws Refused where there is too much to go through
     */
    public static function of(BoardSources $sources, VisibleRecords $records, CoverageTile $tile): array
    {
        $programme = $sources->board->programme;
        $to = $programme->today();
        $from = $programme->now()->subDays($tile->days - 1)->toDateString();
        $isArea = $records->layer->design()->geometry === GeometryKind::Area;
        $size = $isArea ? 'area_m2' : 'length_m';
        $rows = $records->rows()->whereNotNull($size)->orderByDesc($size)->limit(self::MOST_RECORDS + 1)->get();
        $more = max(0, $rows->count() - self::MOST_RECORDS);
        $rows = $rows->take(self::MOST_RECORDS);
        $ways = self::ways($sources, $tile, $from, $to);
        $each = max(50, min(self::SPOTS_EACH, intdiv(self::SPOTS, max(1, $rows->count()))));
        $lines = [];
        $walked = $whole = 0.0;
        foreach ($rows as $row) {
            $share = self::share($row, $isArea, $ways, $each);
            $lines[] = [
                'id' => $sources->viewer->idOf($row->id),
                'name' => StoredRow::name($records->design(), $row),
                'share' => round($share, 4),
            ];
            $walked += $share * (float) $row->$size;
            $whole += (float) $row->$size;
        }
        usort($lines, static fn (array $a, array $b): int => $a['share'] <=> $b['share'] ?: strnatcasecmp(
            (string) $a['name'],
            (string) $b['name'],
        ));

        return [
            'share' => $whole > 0 ? round($walked / $whole, 4) : null,
            'rows' => $lines,
            'more' => $more,
            'n' => count($lines),
            'metres' => $tile->metres,
            'from' => $from,
            'to' => $to,
        ];
    }

    private static function share(stdClass $row, bool $isArea, NearWays $ways, int $spots): float
    {
        if ($ways->isEmpty()) {
            return 0.0;
        }
        $parts = $isArea
            ? Wkb::allRings(is_string($row->shape) ? $row->shape : null)
            : Wkb::fromColumn(is_string($row->shape) ? $row->shape : null)->parts ?? [];
        $places = $isArea ? Spots::inArea($parts, $spots) : Spots::alongLines($parts, $spots);
        $near = 0;
        foreach ($places as [$lon, $lat]) {
            $near += $ways->isNear($lon, $lat) ? 1 : 0;
        }

        return $places === [] ? 0.0 : $near / count($places);
    }

    /** @throws Refused */
    private static function ways(BoardSources $sources, CoverageTile $tile, string $from, string $to): NearWays
    {
        $programme = $sources->board->programme;
        $zone = new \DateTimeZone($programme->time_zone);
        $utc = static fn (string $day, int $plus): string => (new \DateTimeImmutable($day, $zone))
            ->modify("+$plus days")->setTimezone(new \DateTimeZone('UTC'))->format('Y-m-d H:i:s.v');
        $all = WorkSeen::tellsAll($sources->viewer, $programme, WorkSeen::TRAILS);
        $own = [$sources->viewer->person->id ?? 0];
        $points = TrailPoints::between($programme, $utc($from, 0), $utc($to, 1), $all ? null : $own);
        $ways = new NearWays($tile->metres);
        foreach ($points as [, $trail]) {
            foreach (Walk::pieces($trail) as $piece) {
                $ways->add(...$piece);
            }
        }

        return $ways;
    }
}
