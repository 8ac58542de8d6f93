<?php

declare(strict_types=1);

namespace App\Formulas;

use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;

/** How often records were visited, and what their latest visits say. */
final class LatestVisits
{
    /**
     * @param  list<string>  $ids  records of a layer, 16 bytes each
     * @return array<string, array{int, array<string, mixed>, string}> by id: visits, values of the latest, when it was
     *     (UTC, as the database has it)
     */
    public static function of(Layer $layer, array $ids): array
    {
        $visits = $layer->visitsLayer;
        if ($visits === null || $ids === []) {
            return [];
        }
        $design = $visits->design();
        $facts = [];
        foreach (array_chunk($ids, 1_000) as $some) {
            $ranked = LayerRows::live($visits)
                ->whereIn('parent', $some)
                ->selectRaw(
                    '*, row_number() over (partition by parent order by collected_at desc, id desc) as place, '
                        .'count(*) over (partition by parent) as visits',
                );
            foreach (DB::query()->fromSub($ranked, 'v')->where('place', 1)->get() as $row) {
                $facts[$row->parent] = [(int) $row->visits, StoredRow::values($design, $row), $row->collected_at];
            }
        }

        return $facts;
    }
}
