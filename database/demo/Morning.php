<?php

declare(strict_types=1);

namespace Demo;

use App\Models\Layer;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Records\RecordQuestions;
use App\Sync\SyncRound;
use App\Trails\Trails;
use Illuminate\Support\Facades\DB;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Wkb;
use PinYard\Record\RecordId;
use stdClass;

/** This morning, made up: the ways that crews share, and two things that two of them did differently. */
final class Morning
{
    /** Seconds from one point of a way to the next. */
    private const EVERY = 40;

    private static int $seq = 900_000;

    public static function fill(Programme $programme, Layer $nests, Layer $walks): void
    {
        $walkers = DB::table($walks->table())
            ->where('deleted', 0)
            ->orderByDesc('collected_at')
            ->get(['created_by', 'shape'])
            ->unique('created_by')
            ->take(4)
            ->values();
        foreach ($walkers as $i => $walk) {
            $line = Wkb::geoJson($walk->shape, GeometryKind::Line)['coordinates'] ?? [];
            // The last of them stands where there is no signal yet, so the desk heard of it a while ago.
            $end = now()->subMinutes([2, 6, 11, 47][$i])->getTimestampMs();
            $points = self::spread($line);
            Trails::take(
                $programme,
                User::query()->whereKey($walk->created_by)->firstOrFail(),
                RecordId::make(),
                array_map(
                    static fn (int $n, array $p): array => [
                        $end - (count($points) - 1 - $n) * self::EVERY * 1000,
                        $p[0],
                        $p[1],
                        5,
                    ],
                    array_keys($points),
                    $points,
                ),
                0,
                [81, 64, 47, 22][$i],
            );
        }
        $both = $walkers
            ->pluck('created_by')
            ->take(2)
            ->map(static fn (int $id): User => User::query()->findOrFail($id))
            ->all();
        if (count($both) === 2) {
            self::clash($nests, ...$both);
        }
        self::question($programme, $nests);
    }

    /** The desk wants to know more of a nest; whoever found it has not been near a signal since. */
    private static function question(Programme $programme, Layer $nests): void
    {
        $by = $programme->members()->where('role', Role::Coordinator)->first()?->user;
        $row = DB::table($nests->table())
            ->where('deleted', 0)
            ->where('f_status', 'lost')
            ->whereNotIn(
                'created_by',
                User::query()
                    ->whereIn('email', ['ines@example.test', 'mara@example.test'])
                    ->pluck('id'),
            )
            ->orderByDesc('collected_at')
            ->first();
        if ($by !== null && $row !== null) {
            RecordQuestions::ask($by, $nests, $row, 'Was the whole clutch gone, or only the top layer?');
        }
    }

    private static function clash(Layer $nests, User $first, User $second): void
    {
        $rows = DB::table($nests->table())
            ->where('deleted', 0)
            ->where('f_status', 'incubating')
            ->whereNotNull('f_clutch_size')
            ->orderBy('id')
            ->limit(2)
            ->get(['id', 'version', 'f_clutch_size', 'f_threats', 'lon', 'lat']);
        $at = static fn (int $minutes): string => now()->subMinutes($minutes)->format('Y-m-d\TH:i:s.v\Z');
        $change = static fn (stdClass $row, int $minutes, array $more): array => [
            'op' => RecordId::make()->text,
            'kind' => 'change',
            'seq' => ++self::$seq,
            'layer' => $nests->id,
            'design' => $nests->refresh()->design_version,
            'record' => RecordId::fromBytes($row->id)->text,
            'base' => $row->version,
            'captured_at' => $at($minutes),
            ...$more,
        ];
        if ($rows->count() < 2) {
            return;
        }
        [$a, $b] = $rows->all();
        $eggs = (int) $a->f_clutch_size;
        SyncRound::for($first, RecordId::make()->text)->take([
            $change($a, 130, [
                'values' => ['clutch_size' => $eggs - 4, 'status' => 'due'],
                'was' => ['clutch_size' => $eggs, 'status' => 'incubating'],
            ]),
            $change($b, 124, [
                'kind' => 'move',
                'geometry' => ['type' => 'Point', 'coordinates' => [$b->lon + 0.0002, $b->lat]],
                'was_geometry' => ['type' => 'Point', 'coordinates' => [$b->lon, $b->lat]],
            ]),
        ]);
        SyncRound::for($second, RecordId::make()->text)->take([
            $change($a, 96, [
                'values' => ['clutch_size' => $eggs + 3, 'threats' => ['crabs', 'light']],
                'was' => [
                    'clutch_size' => $eggs,
                    'threats' => $a->f_threats === null ? null : explode(',', $a->f_threats),
                ],
            ]),
            $change($b, 90, [
                'kind' => 'move',
                'geometry' => ['type' => 'Point', 'coordinates' => [$b->lon - 0.0003, $b->lat + 0.0002]],
                'was_geometry' => ['type' => 'Point', 'coordinates' => [$b->lon, $b->lat]],
            ]),
        ]);
    }

    /**
     * @param  list<array{float, float}>  $line
     * @return list<array{float, float}> the same way in steps of some fifty metres
     */
    public static function spread(array $line): array
    {
        $points = [];
        for ($i = 1; $i < count($line); $i++) {
            [$a, $b] = [$line[$i - 1], $line[$i]];
            $steps = max(1, (int) round(hypot($b[0] - $a[0], $b[1] - $a[1]) / 0.00045));
            for ($s = 0; $s < $steps; $s++) {
                $points[] = [$a[0] + (($b[0] - $a[0]) * $s) / $steps, $a[1] + (($b[1] - $a[1]) * $s) / $steps];
            }
        }

        return $points;
    }
}
