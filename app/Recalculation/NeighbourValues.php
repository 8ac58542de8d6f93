<?php

declare(strict_types=1);

namespace App\Recalculation;

use App\Layers\AreaDependency;
use App\Models\Layer;
use App\Records\Cause;
use App\Records\RecordListener;
use App\Records\RecordsChanged;
use PinYard\Formula\Formula;

/**
 * Formulas of one layer may read records of another: the area that a record lies in, the latest visit to it. When those
 * were written, what was worked out of them is worked out anew. Single visits are not waited for here, they are
 * followed in their own transaction.
 */
final class NeighbourValues implements RecordListener
{
    public function wants(Layer $layer, Cause $cause, bool $isRange): bool
    {
        return ! in_array($cause, [Cause::Files, Cause::Checked], true)
            && ($layer->is_area || ($isRange && $layer->visits_of !== null));
    }

    public function hear(RecordsChanged $changed): void
    {
        $layer = $changed->layer;
        if ($layer->visits_of !== null) {
            $visited = $layer->visited;
            if ($visited !== null && $changed->records === null) {
                self::anew($visited, Cause::Visits, $changed->user, static fn (Formula $f): bool => $f->visited);
            }

            return;
        }
        foreach (AreaDependency::readers($layer) as $reader) {
            self::anew(
                $reader,
                Cause::Areas,
                $changed->user,
                static fn (Formula $f): bool => in_array($layer->title, $f->areas, true),
            );
        }
    }

    /** @param  \Closure(Formula): bool  $reads */
    private static function anew(Layer $layer, Cause $cause, ?int $user, \Closure $reads): void
    {
        $rules = $layer->design()->rules;
        $keys = [];
        foreach ($rules->formulas as $key => $formula) {
            if ($reads($formula)) {
                array_push($keys, (string) $key, ...$rules->readers((string) $key));
            }
        }
        if ($keys !== []) {
            Recalculate::soon($layer, array_values(array_unique($keys)), $cause, $user);
        }
    }
}
