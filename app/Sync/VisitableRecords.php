<?php

declare(strict_types=1);

namespace App\Sync;

use App\Layers\LayerRows;
use App\Models\Layer;
use PinYard\Record\RecordId;
use PinYard\Sync\Operation;

/**
 * Finds which of the records that a batch says to have visited there are, and might be seen by who says so when it was
 * said.
 */
final class VisitableRecords
{
    /**
     * @param  int  $user  who says so
     * @param  array<int, Layer>  $layers
     * @param  array<int, Operation>  $operations
     * @param  array<int, bool>  $seesAll  whether that person sees, or saw until leaving, everyone's records; by layer
     * @return array<string, bool> by id as text: true for what is there, false for what has been deleted meanwhile
     */
    public static function among(int $user, array $layers, array $operations, array $seesAll): array
    {
        $asked = [];
        foreach ($operations as $operation) {
            $visited = $layers[$operation->layer]->visits_of ?? null;
            if ($visited !== null && $operation->visited !== null && isset($layers[$visited])) {
                $asked[$visited][] = $operation->visited->bytes();
            }
        }
        $found = [];
        foreach ($asked as $layer => $ids) {
            foreach (
                LayerRows::all($layers[$layer])
                    ->whereIn('id', $ids)
                    ->when(! ($seesAll[$layer] ?? false), static fn ($q) => $q->where('created_by', $user))
                    ->get(['id', 'deleted']) as $row
            ) {
                $found[RecordId::fromBytes($row->id)->text] = ! $row->deleted;
            }
        }

        return $found;
    }
}
