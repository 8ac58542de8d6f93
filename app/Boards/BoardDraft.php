<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Texts;
use PinYard\Board\BoardPlan;

/**
 * The tiles that a new board begins with, so that nobody starts from an empty page: one for each question that fields
 * are tied to; without questions what can be said of the first layer.
 */
final class BoardDraft
{
    /** @return list<array<string, mixed>> */
    public static function tiles(Programme $programme, User $maker): array
    {
        $tiles = [];
        foreach (QuestionTiles::of($programme, $maker) as $question) {
            $best = $question['proposals'][0] ?? null;
            if ($best !== null && count($tiles) < BoardPlan::MOST_TILES) {
                $tiles[] = ['id' => 'q'.(count($tiles) + 1)] + $best;
            }
        }

        return $tiles === [] ? self::ofFirstLayer($programme) : $tiles;
    }

    /** @return list<array<string, mixed>> */
    private static function ofFirstLayer(Programme $programme): array
    {
        $layer = $programme->layers()->orderBy('id')->first();
        if (! $layer instanceof Layer) {
            return [];
        }
        $design = $layer->design();
        $choice = $design->choiceFields()[0] ?? null;
        $tile = static fn (string $id, string $kind, string $title, int $width, int $height): array => [
            'id' => $id,
            'kind' => $kind,
            'title' => $title,
            'layer' => $layer->id,
            'width' => $width,
            'height' => $height,
        ];

        return array_values(
            array_filter([
                $tile('count', 'number', Texts::of('draft.count', ['layer' => $design->title]), 4, 2),
                $tile('map', 'map', Texts::of('draft.map', ['layer' => $design->title]), 8, 5),
                $choice === null
                    ? null
                    : $tile('breakdown', 'breakdown', Texts::of('draft.breakdown', ['field' => $choice->label]), 4, 3)
                        + ['by' => ['field' => $choice->key]],
                $tile('latest', 'latest', Texts::of('draft.latest'), 12, 3),
            ]),
        );
    }
}
