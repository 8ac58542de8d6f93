<?php

declare(strict_types=1);

namespace App\Sync;

use App\Layers\LayerRows;
use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;
use PinYard\Refused;
use PinYard\Sync\Operation;

/** Finds which record and file ids of a batch exist already. */
final class TakenIds
{
    /**
     * @param  array<int, Layer>  $layers
     * @param  array<int, Operation>  $operations
     * @return list<string> ids as text
     */
    public static function among(array $layers, array $operations): array
    {
        $records = [];
        $photos = [];
        foreach ($operations as $operation) {
            if ($operation->kind->adds()) {
                $records[$operation->layer][] = $operation->record->bytes();
            }
            foreach ($operation->photos as $photo) {
                try {
                    $photos[] = RecordId::of(is_array($photo) ? $photo['id'] ?? null : null)->bytes();
                } catch (Refused) {
                    // Its operation is refused for it later, with the reason.
                }
            }
        }
        $taken = [];
        foreach ($records as $layer => $ids) {
            if (isset($layers[$layer])) {
                array_push($taken, ...LayerRows::all($layers[$layer])->whereIn('id', $ids)->pluck('id')->all());
                // What is held has its id too, though it is in no table yet. Most layers hold nothing.
                if (! DB::table('disputes')->where('layer_id', $layer)->exists()) {
                    continue;
                }
                array_push(
                    $taken,
                    ...DB::table('disputes')
                        ->where('layer_id', $layer)
                        ->whereIn('record_id', $ids)
                        ->pluck('record_id')
                        ->all(),
                );
            }
        }
        if ($photos !== []) {
            array_push($taken, ...DB::table('attachments')->whereIn('id', $photos)->pluck('id')->all());
        }

        return array_map(static fn (string $bytes): string => RecordId::fromBytes($bytes)->text, $taken);
    }
}
