<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Layer;
use App\Rights\AudienceName;
use App\Rights\AudienceRules;
use Illuminate\Contracts\Queue\ShouldBeUnique;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Foundation\Queue\Queueable;
use Illuminate\Support\Facades\DB;

/**
 * Works out for all records of a layer what its rules tell of where they are, after a rule was said or very many
 * changed, and throws away what no rule asks for any more.
 */
final class BringToldPlaces implements ShouldBeUnique, ShouldQueue
{
    use Dispatchable;
    use Queueable;

    public int $timeout = 1_800;

    /** A worker that was killed does not keep the next from it for longer. */
    public int $uniqueFor = 1_800;

    public function __construct(private readonly int $layer)
    {
        $this->onQueue('slow');
    }

    public function uniqueId(): string
    {
        return (string) $this->layer;
    }

    public function handle(): void
    {
        $layer = Layer::query()->with('programme')->find($this->layer);
        if ($layer === null) {
            return;
        }
        $ways = [];
        foreach (array_keys($layer->seen_by ?? []) as $name) {
            $audience = AudienceName::named((string) $name, $layer->programme);
            $sight = $audience === null ? null : AudienceRules::sight($layer, $audience);
            foreach ([$sight, $sight?->figures] as $way) {
                $told = $way === null ? null : ToldPlaces::of($layer, $way);
                if ($told !== null) {
                    $told->bringAll($this->timeout);
                    $ways[] = $told->way;
                }
            }
        }
        foreach (['told_places_until', 'told_places'] as $table) {
            DB::table($table)->where('of_layer', $layer->id)->whereNotIn('of_way', $ways)->delete();
        }
        // What was kept meanwhile may not tell all.
        DB::table('programmes')->where('id', $layer->programme_id)->update(['designs' => random_int(1, PHP_INT_MAX)]);
    }
}
