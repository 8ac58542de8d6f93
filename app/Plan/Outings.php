<?php

declare(strict_types=1);

namespace App\Plan;

use App\Models\Layer;
use App\Models\Outing;
use App\Models\Programme;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Collection;
use PinYard\Geo\Box;
use PinYard\Plan\Outing as OutingPlan;
use PinYard\Refused;

/** Outings with how far they have come, counted from the records themselves. */
final class Outings
{
    /**
     * @param  Collection<int, Outing>  $outings
     * @return list<array<string, mixed>>
     */
    public static function present(Programme $programme, Collection $outings, User $person): array
    {
        return self::for($programme, $outings, Viewer::person($person));
    }

    /**
     * As one viewer is told of them.
     *
     * @param  Collection<int, Outing>  $outings
     * @param  (\Closure(Layer): mixed)|null  $each  is given each layer before its records are counted
     * @return list<array<string, mixed>>
     */
    public static function for(
        Programme $programme,
        Collection $outings,
        Viewer $viewer,
        ?\Closure $each = null,
    ): array {
        $layers = $programme
            ->layers()
            ->with(['visitsLayer', 'programme'])
            ->get()
            ->keyBy('id');
        if ($each !== null) {
            $layers->each(static fn (Layer $l): mixed => $each($l));
        }
        $today = $programme->today();

        return array_values(
            $outings
                ->map(static function (Outing $o) use ($programme, $layers, $today, $viewer): array {
                    [$done, $wanted] = self::progress($programme, $o, $layers, $viewer);
                    $due = OutingPlan::due($o->starts_on, $o->ends_on, $today);

                    return [
                        'id' => $o->id,
                        'title' => $o->title,
                        'note' => $o->note,
                        'crew' => $o->crew_id,
                        'crew_name' => $o->crew?->name,
                        'from' => $o->starts_on,
                        'to' => $o->ends_on,
                        'area' => $o->area,
                        'layers' => $o->layers,
                        'target' => $o->target,
                        'count' => $o->count,
                        'checklist' => $o->checklist,
                        'progress' => [
                            'done' => $done,
                            'wanted' => $wanted,
                            'due' => round($due, 4),
                            'state' => OutingPlan::state($done, $wanted, $due),
                            'when' => $today < $o->starts_on ? 'ahead' : ($today > $o->ends_on ? 'over' : 'now'),
                        ],
                    ];
                })
                ->all(),
        );
    }

    /** @throws Refused */
    public static function save(Programme $programme, ?Outing $outing, mixed $in): Outing
    {
        $layers = $programme
            ->layers()
            ->with('visitsLayer')
            ->get()
            ->mapWithKeys(static fn (Layer $l): array => [$l->id => $l->visitsLayer !== null])
            ->all();
        $crews = array_map(intval(...), array_values($programme->crews()->pluck('id')->all()));
        $plan = OutingPlan::read($in, $crews, $layers);
        $outing ??= new Outing;
        $outing->fill([
            'crew_id' => $plan->crew,
            'title' => $plan->title,
            'note' => $plan->note,
            'starts_on' => $plan->from,
            'ends_on' => $plan->to,
            'area' => $plan->area?->toArray(),
            'layers' => $plan->layers,
            'target' => $plan->target,
            'count' => $plan->count,
            'checklist' => $plan->checklist,
        ]);
        $outing->programme()->associate($programme);
        $outing->save();

        return $outing->refresh();
    }

    /**
     * @param  Collection<int, Layer>  $layers
     * @return array{int, int|null} done and wanted; null where there is no target
     */
    private static function progress(Programme $programme, Outing $o, Collection $layers, Viewer $viewer): array
    {
        $zone = new \DateTimeZone($programme->time_zone);
        $instant = static fn (string $day, int $plus): string => (new \DateTimeImmutable($day, $zone))
            ->modify("+$plus days")
            ->setTimezone(new \DateTimeZone('UTC'))
            ->format('Y-m-d H:i:s');
        $people =
            $o->crew_id === null ? null : $programme->members()->where('crew_id', $o->crew_id)->pluck('user_id')->all();
        $during = static fn (Builder $query): Builder => $query
            ->where('collected_at', '>=', $instant($o->starts_on, 0))
            ->where('collected_at', '<', $instant($o->ends_on, 1))
            ->when($people !== null, static fn (Builder $q) => $q->whereIn('created_by', $people ?? []));
        // Whoever may see their own records alone is told how far they have come themselves.
        $here = static function (Layer $layer) use ($o, $viewer): Builder {
            $seen = VisibleRecords::of($viewer, $layer);

            return $o->area === null ? $seen->rows() : $seen->within($seen->rows(), Box::of(...$o->area));
        };
        $done = 0;
        $wanted = 0;
        foreach ($o->layers as $id) {
            $layer = $layers->get($id);
            if ($layer === null) {
                continue;
            }
            if ($o->target !== 'visits') {
                $done += $during($here($layer))->count();
            } elseif (($visits = $layer->visitsLayer) !== null) {
                $wanted += $here($layer)->count();
                $done += $here($layer)
                    ->whereIn(
                        'id',
                        $during(VisibleRecords::of($viewer, $visits)->rows())->select('parent'),
                    )
                    ->count();
            }
        }

        return [
            $done,
            match ($o->target) {
                'records' => $o->count,
                'visits' => $wanted,
                default => null,
            },
        ];
    }
}
