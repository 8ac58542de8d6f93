<?php

declare(strict_types=1);

namespace App\Alerts;

use App\Models\Alert;
use App\Models\Member;
use App\Rights\Viewer;
use App\Slices\RuleNeeds;
use App\Slices\SliceBook;
use Illuminate\Support\Facades\DB;

/** Names all that an alert is worked out from: while that is the same, nothing has begun or ended. */
final class AlertState
{
    public static function of(Alert $alert): string
    {
        $programme = $alert->programme;
        $rule = is_array($alert->plan['rule'] ?? null) ? $alert->plan['rule'] : [];
        $text = (string) json_encode($rule);
        $layers = DB::table('layers')->where('programme_id', $programme->id)->orderBy('id')
            ->get(['id', 'visits_of', 'change_number', 'design_version', 'updated_at', 'deleted_at']);
        $all = static fn (): string => (string) json_encode($layers);
        $layer = $rule['layer'] ?? null;
        $read = $layers->filter(static fn ($l): bool => in_array($layer, [$l->id, $l->visits_of], true));
        $parts = [
            (string) json_encode($alert->plan),
            now($programme->time_zone)->toDateString(),
            (string) json_encode($read->values()),
            (string) json_encode(DB::table('members as m')->where('m.programme_id', $programme->id)->orderBy('m.id')
                ->select('m.user_id', 'm.role', 'm.crew_id')->selectRaw(Member::GROUPS.' as in_groups')->get()),
        ];
        foreach (DB::table('slices')->whereIn('id', SliceBook::slicesIn($rule))->orderBy('id')->get() as $slice) {
            $parts[] = "$slice->id $slice->filter";
            array_push($parts, ...RuleNeeds::of((string) $slice->filter, $programme, Viewer::anyone(), $all));
        }
        if (str_contains($text, '"walked"') || str_contains($text, '"hours"')) {
            $parts[] = (string) json_encode(DB::table('trail_days')->where('programme_id', $programme->id)
                ->selectRaw('count(*) as n, sum(metres) as m, sum(seconds) as s')->first());
        }
        if (($rule['kind'] ?? null) === 'silence') {
            // Time alone changes it.
            $parts[] = now()->format('Y-m-d H:i');
        }

        return hash('sha256', implode('|', $parts));
    }
}
