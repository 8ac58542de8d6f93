<?php

declare(strict_types=1);

namespace App\Maps\Picture;

use App\Answers\KeptFiles;
use App\Backdrops;
use App\Maps\LayerPage;
use App\Maps\MapPage;
use Illuminate\Http\Request;
use Illuminate\Http\Response;
use PinYard\Carto\Look;
use PinYard\Carto\Peg;
use PinYard\Carto\Tally;
use PinYard\Geo\Box;

/**
 * A small picture of a map to know it by in lists and galleries. It is drawn from the features that its viewer gets and
 * from nothing else, so that it tells no more than the map does.
 */
final class MapPicture
{
    private const KEPT = 'pictures';

    /** Counted on when a picture of the same things is drawn otherwise: those that are kept are of the way before. */
    private const WAY = 2;

    /** Pixels. */
    private const WIDTH = 480;

    private const HEIGHT = 270;

    /** As the map opens on a common screen: what is drawn there only from nearer is not drawn here. */
    private const PAGE_WIDTH = 920;

    private const PAGE_HEIGHT = 700;

    private const DOT = 3.5;

    /** Larger in number these are drawn smaller. */
    private const MANY = 400;

    /** @param  array<string, LayerPage>  $layers  that the viewer sees and that are drawn at first, by part */
    private function __construct(private readonly Box $extent, private readonly array $layers)
    {
    }

    public static function of(MapPage $page): self
    {
        $zoom = Canvas::zoomOf($page->extent(), self::PAGE_WIDTH, self::PAGE_HEIGHT);

        return new self(
            $page->extent(),
            array_filter(
                $page->layers(),
                static fn (LayerPage $l): bool => ! $l->seesNothing() &&
                    $l->part->visible &&
                    $l->part->zoom->holds($zoom),
            ),
        );
    }

    public function response(Request $request): Response
    {
        $state = implode('|', [
            'picture '.self::WAY,
            config('app.version'),
            json_encode($this->extent->toArray()),
            Backdrops::version(),
            ...array_map(
                static fn (LayerPage $l): string => $l->features()->tag.json_encode($l->part->look->toArray()),
                array_values($this->layers),
            ),
        ]);
        $png = KeptFiles::get(self::KEPT, $state);
        if ($png === null) {
            $png = $this->draw();
            KeptFiles::put(self::KEPT, $state, $png);
        }
        $response = new Response($png, 200, ['Content-Type' => 'image/png', 'Cache-Control' => 'private, no-cache']);
        $response->setEtag(hash_hmac('sha256', $png, (string) config('app.key')));
        $response->isNotModified($request);

        return $response;
    }

    private function draw(): string
    {
        $canvas = new Canvas($this->extent, self::WIDTH, self::HEIGHT);
        BackdropOnPicture::draw($canvas, $this->extent);
        // The topmost comes first in a map, and last here.
        foreach (array_reverse($this->layers) as $layer) {
            $features = json_decode($layer->features()->text(), true)['features'] ?? [];
            $many = count($features) > self::MANY;
            foreach ($features as $feature) {
                self::feature($canvas, $feature, $layer->part->look, $layer->part->opacity, $many);
            }
        }

        return $canvas->png();
    }

    /** @param  array{geometry: array<string, mixed>, properties: array<string, mixed>}  $feature */
    private static function feature(Canvas $canvas, array $feature, Look $look, float $opacity, bool $many): void
    {
        ['geometry' => $geometry, 'properties' => $told] = $feature;
        $class = $told['class'] ?? null;
        $peg = $look->marks->classes[$class ?? ''] ?? $look->marks->other;
        if ($geometry['type'] === 'Point') {
            $size = $look->size === null ? null : (($told['size'] ?? 0) * $look->size->pixels) / 5;
            $radius = max(1.5, $size ?? ($many ? 2 : self::DOT));
            $canvas->dot($geometry['coordinates'][0], $geometry['coordinates'][1], $radius, $peg->colour, $opacity);

            return;
        }
        $parts = str_starts_with($geometry['type'], 'Multi') ? $geometry['coordinates'] : [$geometry['coordinates']];
        foreach ($parts as $part) {
            if (str_ends_with($geometry['type'], 'LineString')) {
                $canvas->line($part, $peg->colour, 1.5, $opacity);
            } else {
                self::area($canvas, $part, $peg, $look, $class === null || $class === Tally::FEW, $opacity);
            }
        }
    }

    /** @param  list<list<array{float, float}>>  $rings */
    private static function area(
        Canvas $canvas,
        array $rings,
        Peg $peg,
        Look $look,
        bool $empty,
        float $opacity,
    ): void {
        $fills = $look->marks->fills();
        $canvas->area($rings, $peg->colour, $opacity * ($fills ? ($empty ? 0.15 : 0.8) : 0.3));
        foreach ($rings as $ring) {
            $canvas->line($ring, $fills ? '#1D2B2E' : $peg->colour, $fills ? 0.5 : 1, $opacity);
        }
    }
}
