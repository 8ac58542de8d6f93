<?php

declare(strict_types=1);

namespace App\Sync;

use App\Models\Layer;
use App\Models\User;
use App\Storage\Records;
use PinYard\Record\RecordId;
use PinYard\Sync\Operation;

/** Finds which of the records that a batch says to have visited there are, and may be seen by who says so. */
final class Visitable
{
    /**
     * @param  array<int, Layer>  $layers
     * @param  array<int, Operation>  $operations
     * @return array<string, true> by id as text
     */
    public static function among(User $user, array $layers, array $operations): array
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
            foreach (Records::seenBy($user, $layers[$layer])->whereIn('id', $ids)->pluck('id') as $id) {
                $found[RecordId::fromBytes($id)->text] = true;
            }
        }

        return $found;
    }
}
