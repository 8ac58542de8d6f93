<?php

declare(strict_types=1);

namespace Demo;

use App\Alerts\AlertRun;
use App\Models\Layer;
use App\Models\Programme;
use Illuminate\Support\Facades\DB;

/** What the coordinator of the demo is told without asking, and the first that came of it. */
final class DawnAlerts
{
    public static function make(Programme $programme, Layer $nests): void
    {
        $late = $nests->slices()->where('name', 'Not looked at for ten days')->value('id');
        $make = static fn (string $name, array $rule, array $more = []): int => $programme->alerts()->create([
            'name' => $name,
            'plan' => array_replace([
                'rule' => $rule,
                'to' => ['coordinators' => true, 'crews' => []],
                'by_mail' => true,
                'on_phones' => false,
                'rest' => ['minutes' => 60, 'from' => '21:00', 'until' => '05:00'],
            ], $more),
        ])->id;
        $overdue = $make('Nests not looked at for ten days', [
            'kind' => 'slice', 'layer' => $nests->id, 'slice' => $late,
        ], ['rest' => ['minutes' => 0, 'from' => null, 'until' => null]]);
        $silent = $make('A crew on an outing is silent', [
            'kind' => 'silence', 'crew' => null, 'hours' => 12, 'on_outings' => true,
        ]);
        $many = $make('Four hundred nests', [
            'kind' => 'measure', 'layer' => $nests->id, 'slice' => null, 'measure' => ['of' => 'count'],
            'passes' => 'above', 'value' => 400,
        ]);
        array_map(AlertRun::of(...), [$overdue, $silent, $many]);
        // As if the last three had come into the slice this morning.
        foreach (DB::table('alert_watches')->where('alert_id', $overdue)->get() as $watch) {
            DB::table('alert_watches')->where('id', $watch->id)->update([
                'known' => json_encode(array_slice((array) json_decode($watch->known), 0, -3)),
            ]);
        }
        DB::table('alerts')->where('id', $overdue)->update(['seen' => null]);
        AlertRun::of($overdue);
    }
}
