<?php

declare(strict_types=1);

namespace App\Trails;

use App\Models\Member;
use App\Models\Programme;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use PinYard\Device\TrailPoint;
use PinYard\Device\Walk;
use PinYard\Record\RecordId;

/** Where crews have been and are: takes points in, and gives them out as lines. */
final class Trails
{
    public const MOST_POINTS = 5_000;

    /** Points of one answer; a season of a crew is more than a screen can show. */
    private const MOST_OUT = 100_000;

    /**
     * @param  list<mixed>  $points
     * @return array{taken: int, left_out: int}
     */
    public static function take(
        Programme $programme,
        User $user,
        RecordId $device,
        array $points,
        int $clockOff,
        ?int $battery,
    ): array {
        $rows = [];
        $latest = null;
        $now = now()->toDateTimeImmutable();
        foreach ($points as $raw) {
            $point = TrailPoint::read($raw, $now, $clockOff);
            if ($point !== null) {
                $rows[] = [
                    'programme_id' => $programme->id,
                    'user_id' => $user->id,
                    'at' => $point->at->format('Y-m-d H:i:s.v'),
                    'device' => $device->bytes(),
                    'lon' => $point->place->lon,
                    'lat' => $point->place->lat,
                    'accuracy' => $point->accuracy,
                ];
                $latest = $latest === null || $point->at > $latest->at ? $point : $latest;
            }
        }
        DB::transaction(static function () use ($rows, $latest, $programme, $user, $battery): void {
            foreach (array_chunk($rows, 500) as $some) {
                DB::table('trail_points')->insertOrIgnore($some);
            }
            if ($latest !== null) {
                Member::query()
                    ->where('programme_id', $programme->id)
                    ->where('user_id', $user->id)
                    ->where(
                        static fn ($q) => $q
                            ->whereNull('last_place_at')
                            ->orWhere('last_place_at', '<=', $latest->at->format('Y-m-d H:i:s')),
                    )
                    ->update([
                        'last_lon' => $latest->place->lon,
                        'last_lat' => $latest->place->lat,
                        'last_place_at' => $latest->at->format('Y-m-d H:i:s'),
                        'last_heard_at' => now(),
                        ...$battery === null ? [] : ['battery' => $battery],
                    ]);
            }
            TrailDays::touch($programme, $user->id, array_column($rows, 'at'));
        }, 3);

        return ['taken' => count($rows), 'left_out' => count($points) - count($rows)];
    }

    /**
     * Lines between two moments, one for each stretch without a pause.
     *
     * @return array{type: 'FeatureCollection', features: list<array<string, mixed>>}
     */
    public static function lines(Programme $programme, \DateTimeInterface $from, \DateTimeInterface $to): array
    {
        $names = DB::table('users')
            ->whereIn(
                'id',
                DB::table('trail_points')->where('programme_id', $programme->id)->distinct()->select('user_id'),
            )
            ->pluck('name', 'id');
        $features = [];
        $last = null;
        foreach (
            DB::table('trail_points')
                ->where('programme_id', $programme->id)
                ->whereBetween('at', [$from->format('Y-m-d H:i:s'), $to->format('Y-m-d H:i:s')])
                ->orderBy('user_id')
                ->orderBy('at')
                ->limit(self::MOST_OUT)
                ->cursor() as $point
        ) {
            $at = strtotime("$point->at UTC");
            if (
                $last === null ||
                $last['user'] !== $point->user_id ||
                $at - $last['at'] > Walk::PAUSE ||
                abs($point->lon - $last['lon']) + abs($point->lat - $last['lat']) > Walk::JUMP
            ) {
                $features[] = [
                    'type' => 'Feature',
                    'properties' => [
                        'person' => $point->user_id,
                        'name' => $names[$point->user_id] ?? null,
                        'from' => str_replace(' ', 'T', $point->at).'Z',
                    ],
                    'geometry' => ['type' => 'LineString', 'coordinates' => []],
                ];
            }
            $line = array_key_last($features);
            $features[$line]['geometry']['coordinates'][] = [$point->lon, $point->lat];
            $features[$line]['properties']['to'] = str_replace(' ', 'T', $point->at).'Z';
            $last = ['user' => $point->user_id, 'at' => $at, 'lon' => $point->lon, 'lat' => $point->lat];
        }

        return [
            'type' => 'FeatureCollection',
            'features' => array_values(
                array_filter($features, static fn (array $f): bool => count($f['geometry']['coordinates']) > 1),
            ),
        ];
    }
}
