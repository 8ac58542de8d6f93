<?php

declare(strict_types=1);

namespace App\Plan;

use App\Models\Layer;
use App\Models\Outing;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use App\Rights\WorkSeen;
use Illuminate\Database\Eloquent\Builder as EloquentBuilder;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Collection;
use Illuminate\Support\Facades\DB;
use PinYard\Filter\Subject;
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
     * Narrows to those that a viewer is told of: all, where that was said ({@see WorkSeen}); else where their own crew
     * goes, and what is for all crews; whoever goes out nowhere, nothing.
     *
     * @param  EloquentBuilder<Outing>  $outings
     */
    public static function of(
        EloquentBuilder $outings,
        Programme $programme,
        Viewer $viewer,
    ): void {
        if (WorkSeen::tellsAll($viewer, $programme, WorkSeen::OUTINGS)) {
            return;
        }
        $member = $viewer->person === null ? null : $programme->memberFor($viewer->person);
        $member?->role === Role::Crew
            ? $outings->where(static fn ($own) => $own->whereNull('crew_id')->orWhere('crew_id', $member->crew_id))
            : $outings->whereRaw('1 = 0');
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
                // Of one whose records are closed to them nothing could be said but that there is none.
                ->filter(static fn (Outing $o): bool => $o->layers === [] || array_filter(
                    $o->layers,
                    static fn (int $id): bool => isset($layers[$id])
                        && ! VisibleRecords::of($viewer, $layers[$id])->seesNothing(),
                ) !== [] || $viewer->person !== null)
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
        // By rules, and not by columns: who made a record is in no column of what a link is told.
        $during = static fn (Layer $layer): VisibleRecords => VisibleRecords::of($viewer, $layer)->filtered(
            $layer->filter(['all' => [
                ['field' => Subject::COLLECTED, 'test' => 'between', 'value' => [$o->starts_on, $o->ends_on]],
                ...$o->crew_id === null
                    ? []
                    : [['field' => Subject::CREW, 'test' => 'one_of', 'value' => [$o->crew_id]]],
            ]]),
        );
        // Whoever may see their own records alone is told how far they have come themselves.
        $here = static fn (VisibleRecords $seen): Builder => $o->area === null
            ? $seen->rows()
            : $seen->within($seen->rows(), Box::of(...$o->area));
        $done = 0;
        $wanted = 0;
        foreach ($o->layers as $id) {
            $layer = $layers->get($id);
            if ($layer === null) {
                continue;
            }
            if ($o->target !== 'visits') {
                $done += $here($during($layer))->count();
            } elseif (($visits = $layer->visitsLayer) !== null) {
                $all = VisibleRecords::of($viewer, $layer);
                $wanted += $here($all)->count();
                $visited = DB::query()->fromSub($during($visits)->visitsByRecord(), 'v')->select('visited');
                $done += $here($all)->whereIn('id', $visited)->count();
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
