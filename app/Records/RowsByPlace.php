<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\LayerRows;
use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use PinYard\Audience\Rows;
use PinYard\Audience\Sharpness;
use PinYard\Audience\Sight;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\ZOrder;

/** What the one reader ({@see VisibleRecords}) lets through, found and put in order by the places that are told. */
final readonly class RowsByPlace
{
    /** More than for places as they are: a row that is gone through costs more where it must be worked out. */
    private const RANGES = 64;

    public function __construct(private Layer $layer, private Sight $sight, private CutRows $cut)
    {
    }

    /** Narrows to those in a box, by the place that this viewer may have. */
    public function within(Builder $rows, Box $box): Builder
    {
        return match ($this->sight->place) {
            Sharpness::Exact => LayerRows::within(
                $rows,
                $box,
                $this->layer->has_shapes ? $this->layer->design()->geometry : GeometryKind::Point,
            ),
            Sharpness::None => $this->sight->ways === []
                ? $rows->whereRaw('1 = 0')
                : $this->toldWithin($rows, $box),
            default => $this->toldWithin($rows, $box),
        };
    }

    /** By what is told of each: its shape or cells, or else one place. */
    private function toldWithin(Builder $rows, Box $box): Builder
    {
        return $this->areShapes()
            ? $rows->where(fn (Builder $any): Builder => LayerRows::within(
                $any,
                $box,
                $this->layer->design()->geometry,
            )->orWhere(static fn (Builder $placed): Builder => LayerRows::between($placed->whereNull('shape'), $box)))
            // Where all are told in one way, the number of the told place is one that is kept, with an index.
            : ($this->sight->ways === [] ? LayerRows::within($rows, $box) : LayerRows::between($rows, $box));
    }

    /** Whether of some lines and areas more is told than one place: themselves, or the cells that they touch. */
    public function areShapes(): bool
    {
        $ways = $this->sight->ways === [] ? [$this->sight] : $this->sight->ways;
        $told = array_filter($ways, static fn (Sight $way): bool => in_array(
            $way->place,
            [Sharpness::Exact, Sharpness::Cell],
            true,
        ));

        return $told !== [] && $this->layer->has_shapes && $this->layer->design()->geometry !== GeometryKind::Point;
    }

    /** Rows in a box, by the place that this viewer may have. */
    public function in(Box $box): Builder
    {
        $blur = $this->sight->blur;
        if ($blur === null || $this->sight->ways !== [] || ToldPlaces::areKept($this->layer, $this->sight)) {
            return $this->within($this->cut->of(LayerRows::live($this->layer)), $box);
        }
        // Of those in the cells that it touches: more are not gone through, and which they are is told anyway. Where a
        // record is told to be is worked out for those alone whose cell lies across the edge.
        $around = $blur->around($box);
        // A box across the antimeridian has parts of the same latitudes.
        $all = Box::of(-180.0, $around[0][0]->south, 180.0, $around[0][0]->north);
        $place = new BlurredPlace($this->layer, $blur, $all);
        $rows = LayerRows::live($this->layer)->where(static function (Builder $any) use ($box, $around, $place): void {
            foreach ($around as $i => [$outer, $inner]) {
                $any->orWhere(static function (Builder $in) use ($outer, $inner, $place, $box, $i): void {
                    LayerRows::near($in, $outer, self::RANGES)->where(
                        static fn (Builder $told): Builder => (
                            $inner === null ? $told : LayerRows::between($told, $inner)
                        )->orWhere(
                            static fn (Builder $edge): Builder => $place->within(
                                LayerRows::between($edge, $outer),
                                $box->parts()[$i],
                            ),
                        ),
                    );
                });
            }
        });

        return $this->cut->of($rows, $all);
    }

    /**
     * In order of the places that this viewer may have.
     *
     * @param  bool  $narrowed  whether some are left out by filters
     */
    public function inOrder(int $most, ?Box $box, bool $narrowed): Builder
    {
        if ($box !== null) {
            return $this->placed($this->in($box))->orderBy('z')->limit($most);
        }
        $rows = LayerRows::live($this->layer);
        if (! $narrowed && $this->sight->rows === Rows::All
            && ! $this->sight->chooses() && ! ToldPlaces::areKept($this->layer, $this->sight)) {
            // Cells follow one another as their places do, so what lies behind that of the last one need not be gone
            // through: MariaDB would sort all of a large layer.
            $placed = LayerRows::live($this->layer)->whereNotNull('z')->orderBy('z');
            $last = (clone $placed)->offset($most - 1)->limit(1)->value('z');
            if (is_int($last)) {
                $last = $this->sight->blur?->lastOf($last) ?? $last;
                $rows->where('z', '<=', $last);
                $in = self::around((int) $placed->limit(1)->value('z'), $last);
            }
        }

        return $this->placed($this->cut->of($rows, $in ?? null))->orderBy('z')->limit($most);
    }

    /** All around the world at the latitudes of the smallest quarter that two Z-order numbers lie in. */
    private static function around(int $first, int $last): Box
    {
        $bits = 0;
        while (($first ^ $last) >> 2 * $bits !== 0) {
            $bits++;
        }
        [$x, $y] = ZOrder::stepsOf($first);
        [, $south, , $north] = ZOrder::bounds($x >> $bits << $bits, $y >> $bits << $bits, $bits);

        return Box::of(-180.0, $south, 180.0, $north);
    }

    /** Without those of whose place nothing is told. */
    private function placed(Builder $rows): Builder
    {
        $each = $this->sight->place === Sharpness::Exact
            || ($this->sight->ways === [] && $this->sight->blur !== null
                && ! ToldPlaces::areKept($this->layer, $this->sight));

        // By its number too: places are in the order of those in an index, first all that have none.
        return $each ? $rows : $rows->whereNotNull('lon')->whereNotNull('z');
    }
}
