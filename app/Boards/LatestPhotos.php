<?php

declare(strict_types=1);

namespace App\Boards;

use App\Layers\StoredRow;
use App\Models\Attachment;
use App\Records\VisibleRecords;
use PinYard\Board\Tiles\PhotosTile;

/** The latest photos of records, as a strip shows them. */
final class LatestPhotos
{
    /**
     * @param  VisibleRecords  $records  with their photos, showing their names where those are told
     * @return array<string, mixed>
     */
    public static function of(VisibleRecords $records, PhotosTile $tile): array
    {
        if (! $records->sight->photos) {
            return ['photos' => [], 'n' => 0];
        }
        $design = $records->design();
        $named = $records->shows((string) $records->layer->design()->nameField()?->key);
        $of = Attachment::query()
            ->where('layer_id', $records->layer->id)
            ->where('state', 'stored')
            ->where('type', 'like', 'image/%')
            ->when(
                $records->layer->stoodUntil(),
                static fn ($q, string $until) => $q->where('created_at', '<', $until),
            )
            ->whereIn('record_id', $records->rows()->select('id'));
        $found = (clone $of)->orderByDesc('created_at')->orderByDesc('id')->limit($tile->count)->get();
        $rows = $records->rows()->whereIn('id', $found->pluck('record_id')->unique()->all())->get()->keyBy('id');
        $photos = [];
        foreach ($found as $photo) {
            $row = $rows[$photo->record_id] ?? null;
            $photos[] = [
                'id' => $records->viewer->idOf($photo->id),
                'record' => $records->viewer->idIn($tile->frame->id, $photo->record_id),
                'name' => $row !== null && $named ? StoredRow::name($design, $row) : null,
                'at' => $row === null ? null : StoredRow::instant($row->collected_at),
            ];
        }

        return ['photos' => $photos, 'n' => $of->count()];
    }

    /** Whether a strip of these records may show a photo. */
    public static function shows(VisibleRecords $records, Attachment $photo): bool
    {
        return $photo->layer_id === $records->layer->id && $records->sight->photos && $records->has($photo->record_id);
    }
}
