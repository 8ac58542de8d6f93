<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Layer;
use App\Models\Programme;
use App\Texts;

/** The tiles that a new board begins with, so that nobody starts from an empty page. */
final class BoardDraft
{
    /** @return list<array<string, mixed>> */
    public static function tiles(Programme $programme): array
    {
        $layer = $programme->layers()->orderBy('id')->first();
        if (! $layer instanceof Layer) {
            return [];
        }
        $design = $layer->design();
        $choice = $design->choiceFields()[0] ?? null;
        $tile = static fn (string $kind, string $title, int $width, int $height, ?string $field = null): array => [
            'id' => $kind,
            'kind' => $kind,
            'title' => $title,
            'layer' => $layer->id,
            'slice' => null,
            'field' => $field,
            'width' => $width,
            'height' => $height,
            'names' => false,
        ];

        return array_values(
            array_filter([
                $tile('count', Texts::of('draft.count', ['layer' => $design->title]), 4, 2),
                $tile('map', Texts::of('draft.map', ['layer' => $design->title]), 8, 5),
                $choice === null
                    ? null
                    : $tile('breakdown', Texts::of('draft.breakdown', ['field' => $choice->label]), 4, 3, $choice->key),
                $tile('latest', Texts::of('draft.latest'), 12, 3),
            ]),
        );
    }
}
