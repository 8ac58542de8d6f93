<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use PinYard\Audience\Blur;
use PinYard\Geo\ZOrder;

/**
 * The place of a record as it is told where only its cell may be known: somewhere in that cell, by a hash of its id
 * under a key of ours. So it is the same each time and in every outlet, and moving a record within its cell moves
 * nothing that is told. Of the true place nothing is left but the cell, not even in the order of rows.
 */
final readonly class BlurredPlace
{
    public function __construct(private Layer $layer, private Blur $blur)
    {
    }

    /** Adds what stands for longitude, latitude and Z-order number to rows of the layer's table. */
    public function select(Builder $rows): Builder
    {
        $side = $this->bits();
        $cells = sprintf('(1 << (%d - %s))', ZOrder::BITS, $side);
        // Steps from the north, as ZOrder has them: asinh(tan(lat)) written out, because MariaDB has none.
        $lat = 'greatest(-85.051128779806592, least(85.051128779806592, lat))';
        $tan = "tan(radians($lat))";
        $down = "(1 - sign($tan) * ln(abs($tan) + sqrt($tan * $tan + 1)) / pi()) / 2";
        $x = "(least(floor((lon + 180) / 360 * $cells), $cells - 1) + {$this->hash(1)}) / $cells";
        $y = "(greatest(0, least(floor($down * $cells), $cells - 1)) + {$this->hash(9)}) / $cells";
        $up = "pi() * (1 - 2 * $y)";
        $key = $this->key();
        $z = "((z >> (2 * $side)) << (2 * $side)) + floor({$this->hash(17)} * (1 << (2 * $side)))";

        return $rows
            ->selectRaw("$x * 360 - 180 as lon", [$key])
            ->selectRaw("degrees(atan((exp($up) - exp(-($up))) / 2)) as lat", [$key, $key])
            ->selectRaw("$z as z", [$key]);
    }

    /** Side in bits of the cell at the latitude of a row. */
    private function bits(): string
    {
        $bands = $this->blur->bands();
        $case = '';
        foreach (array_slice($bands, 0, -1) as [, $to, $bits]) {
            [, , , $south] = ZOrder::bounds(0, $to, 0);
            $case .= sprintf(' when lat > %.15F then %d', $south, $bits);
        }
        $last = $bands[count($bands) - 1][2];

        return $case === '' ? (string) $last : "(case$case else $last end)";
    }

    /** A number from 0 up to 1, by eight letters of the hash of its id. */
    private function hash(int $from): string
    {
        return "conv(substr(md5(concat(?, id)), $from, 8), 16, 10) / 4294967296";
    }

    private function key(): string
    {
        return hash_hkdf('sha256', (string) config('app.key'), 32, "places of layer {$this->layer->id}");
    }
}
