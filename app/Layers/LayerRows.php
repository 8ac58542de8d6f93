<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\ZOrder;
use stdClass;

/**
 * Rows of a layer's table as they are, for the work itself: deciding, calculating, bringing in, writing history.
 * What a person or a link is told begins at the one reader (VisibleRecords); a test holds that.
 */
final class LayerRows
{
    /** Rows of records that are not deleted. */
    public static function live(Layer $layer): Builder
    {
        return self::all($layer)->where('deleted', 0);
    }

    /** Also those that are deleted. */
    public static function all(Layer $layer): Builder
    {
        return DB::table($layer->table());
    }

    /** @param  string  $record  16 bytes */
    public static function find(Layer $layer, string $record): ?stdClass
    {
        return self::all($layer)->where('id', $record)->first();
    }

    /**
     * Narrows to a box: points through the Z-order index, then by the places themselves; lines and areas through their
     * spatial index.
     */
    public static function within(Builder $query, Box $box, GeometryKind $kind = GeometryKind::Point): Builder
    {
        if ($kind !== GeometryKind::Point) {
            return $query->where(function (Builder $any) use ($box): void {
                foreach ($box->parts() as $p) {
                    $any->orWhereRaw('mbrintersects(shape, st_geomfromtext(?))', [
                        sprintf(
                            'POLYGON((%1$.9F %2$.9F,%3$.9F %2$.9F,%3$.9F %4$.9F,%1$.9F %4$.9F,%1$.9F %2$.9F))',
                            $p->west,
                            $p->south,
                            $p->east,
                            $p->north,
                        ),
                    ]);
                }
            });
        }

        return self::near($query, $box)->where(static fn (Builder $all) => self::between($all, $box));
    }

    /**
     * Narrows to what the Z-order index has in a box and beside it.
     *
     * @param  int  $ranges  about so many of them: more fit it better
     */
    public static function near(Builder $query, Box $box, int $ranges = 24): Builder
    {
        $all = ZOrder::ranges($box, $ranges);
        // The widest first: MariaDB looks for each row until one holds it.
        usort($all, static fn (array $a, array $b): int => $b[1] - $b[0] <=> $a[1] - $a[0]);

        return $query->where(static function (Builder $any) use ($all): void {
            foreach ($all as $range) {
                $any->orWhereBetween('z', $range);
            }
        });
    }

    /** Narrows to places in a box by their longitudes and latitudes alone. */
    public static function between(Builder $query, Box $box): Builder
    {
        return $query->where(static function (Builder $any) use ($box): void {
            foreach ($box->parts() as $part) {
                $any->orWhere(
                    static fn (Builder $in) => $in
                        ->whereBetween('lon', [$part->west, $part->east])
                        ->whereBetween('lat', [$part->south, $part->north]),
                );
            }
        });
    }
}
