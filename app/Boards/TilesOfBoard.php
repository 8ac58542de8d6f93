<?php

declare(strict_types=1);

namespace App\Boards;

use App\Maps\LayerPage;
use App\Models\Attachment;
use Illuminate\Http\JsonResponse;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use PinYard\Board\Tiles\DetailsTile;
use PinYard\Board\Tiles\LatestTile;
use PinYard\Board\Tiles\MapTile;
use PinYard\Board\Tiles\PhotosTile;
use PinYard\Refused;

/** What is fetched for single tiles of a board beside its answers: features and cards of maps, photos. */
final readonly class TilesOfBoard
{
    private BoardAnswers $answers;

    public function __construct(private BoardSources $sources, private BoardPicks $asked)
    {
        $this->answers = new BoardAnswers($sources, $asked);
    }

    public function features(Request $request, string $tile, string $part): JsonResponse|Response
    {
        return $this->layer($tile, $part)->features()->named($request, 'application/geo+json');
    }

    /** @param  mixed  $list  id of the list that the record was picked in: behind a link it has ids of its own */
    public function card(string $tile, string $part, string $record, mixed $list = null): JsonResponse
    {
        $known = $record;
        $shown = $this->answers->shown($tile);
        $viewer = $this->sources->viewer;
        if ($shown instanceof DetailsTile && $viewer->isLink()) {
            // By the ids of a list alone: by those of a map a name would get its place.
            if (! is_string($list) || ! $this->answers->shown($list) instanceof LatestTile) {
                abort(404);
            }
            try {
                $known = $viewer->idOf($viewer->idFromList($list, $record));
            } catch (Refused) {
                abort(404);
            }
        }
        $card = $this->layer($tile, $part)->card($known) ?? abort(404);

        // It is told by the id that it was asked by, or that of a list would become that of a map.
        return new JsonResponse(['id' => $record] + $card);
    }

    private function layer(string $tile, string $part): LayerPage
    {
        $shown = $this->answers->shown($tile);
        try {
            $page = $shown instanceof MapTile || ($shown instanceof DetailsTile && $this->mayShow($shown))
                ? $this->answers->factsFor($shown)->page($shown)
                : null;
        } catch (Refused) {
            $page = null;
        }

        return $page?->layer($part) ?? abort(404);
    }

    private function mayShow(DetailsTile $tile): bool
    {
        return $this->answers->factsFor($tile)->mayShow();
    }

    /** @param  string  $photo  as the viewer knows it */
    public function photo(string $tile, string $photo): Attachment
    {
        $shown = $this->answers->shown($tile);
        try {
            $found = Attachment::query()->find($this->sources->viewer->idFrom($photo));
        } catch (Refused) {
            $found = null;
        }
        // A card on a map shows photos as well.
        $shows = $found !== null && match (true) {
            $shown instanceof PhotosTile => $this->answers->factsFor($shown)->showsPhoto($shown, $found),
            $shown instanceof LatestTile => $this->answers->factsFor($shown)->lists($shown, $found),
            $shown instanceof MapTile,
            $shown instanceof DetailsTile && $this->mayShow($shown) => $this->answers->factsFor($shown)
                ->page($shown)->photo($photo) !== null,
            default => false,
        };

        return $shows ? $found : abort(404);
    }
}
