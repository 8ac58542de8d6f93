<?php

declare(strict_types=1);

namespace App\Sync;

use App\Models\Layer;
use App\Models\User;
use App\Records\RecordEdit;
use Illuminate\Support\Facades\DB;
use PinYard\Sync\Decision;

/**
 * Brings back records that were deleted while somebody was on the way to visit them, and leaves it to a person to
 * decide: a visit saves its record as a change does, whichever of both arrives first. Runs inside the batch's
 * transaction.
 */
final class RevivedRecords
{
    /**
     * @param  list<Decision>  $decisions
     * @param  array<int, Layer>  $layers  locked by the caller
     */
    public static function of(User $user, array $decisions, array $layers): void
    {
        foreach ($decisions as $decision) {
            $op = $decision->operation;
            $visited = $layers[$layers[$op->layer]->visits_of ?? 0] ?? null;
            if (! $decision->revives || $visited === null || $op->visited === null) {
                continue;
            }
            (new RecordEdit($user, $visited->id))->bringBack($op->visited->text);
            // As of the record that is back, so that it is decided there.
            DB::table('disputes')
                ->where('op', $op->op->bytes())
                ->update(['layer_id' => $visited->id, 'record_id' => $op->visited->bytes()]);
        }
    }
}
