<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\ToldColumns;
use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use PinYard\Audience\Blur;
use PinYard\Geo\Box;
use PinYard\Geo\ZOrder;

/**
 * The place of a record as it is told where only its cell may be known: somewhere in that cell, by a hash of its id
 * under a key of ours ({@see ToldColumns}). So it is the same each time and in every outlet, and moving a record within
 * its cell moves nothing that is told. Of the true place nothing is left but the cell, not even in the order of rows.
 */
final readonly class BlurredPlace
{
    /** @param  Box|null  $rows  that all rows lie in: only of the sizes that cells have there is anything worked out */
    public function __construct(private Layer $layer, private Blur $blur, private ?Box $rows = null)
    {
    }

    /** Adds what stands for longitude, latitude and Z-order number to rows of the layer's table. */
    public function select(Builder $rows): Builder
    {
        foreach ($this->columns() as $column => $sql) {
            $rows->selectRaw("$sql as $column");
        }

        return $rows;
    }

    /** @return array{lon: string, lat: string, z: string} SQL of what stands for the columns of those names */
    public function columns(): array
    {
        return [
            'lon' => $this->byBand(self::lon(...)),
            'lat' => $this->byBand($this->lat(...)),
            'z' => $this->byBand(self::z(...)),
        ];
    }

    /** Narrows to those rows of the layer's table that are told to be in a box. */
    public function within(Builder $rows, Box $box): Builder
    {
        return $rows->whereRaw(
            "({$this->byBand(self::lon(...))} between ? and ? and {$this->byBand($this->lat(...))} between ? and ?)",
            [$box->west, $box->east, $box->south, $box->north],
        );
    }

    /**
     * What is worked out of the size of cells at the latitude of a row: written out for each size, because MariaDB
     * works out again whatever stands twice. Numbers are written as doubles: decimals are ten times slower.
     *
     * @param  \Closure(int, string): string  $of  of the side in bits, and the hash
     */
    private function byBand(\Closure $of): string
    {
        $hash = ToldColumns::hashOf($this->layer);
        $there = $this->bands();
        if (count($there) === 1) {
            return '('.$of($there[0][2], $hash).')';
        }
        $bands = [];
        $north = null;
        foreach ($this->blur->bands() as [$from, $to, $bits]) {
            [, , , $south] = ZOrder::bounds(0, $to, 0);
            $is = array_filter([
                $north === null ? null : sprintf('lat <= %s', self::number($north)),
                $to === 1 << ZOrder::BITS ? null : sprintf('lat > %s', self::number($south)),
            ]);
            $bands[] = [$from, $to, $is === [] ? 'lat is not null' : implode(' and ', $is), $bits];
            $north = $south;
        }
        // Most rows lie where the programme does.
        $area = $this->layer->programme->area();
        [, $row] = ZOrder::steps(0, ($area->south + $area->north) / 2);
        usort($bands, static fn (array $a, array $b): int => ($b[0] <= $row && $row < $b[1])
            <=> ($a[0] <= $row && $row < $a[1]));
        $cases = array_map(static fn (array $b): string => " when $b[2] then {$of($b[3], $hash)}", $bands);

        return '(case'.implode('', $cases).' end)';
    }

    /** @return list<array{int, int, int}> those of {@see Blur::bands()} that rows lie in */
    private function bands(): array
    {
        if ($this->rows === null) {
            return [];
        }
        [, $first] = ZOrder::steps(0, $this->rows->north);
        [, $last] = ZOrder::steps(0, $this->rows->south);

        // A step more on either side: what lies on a border may be worked out on the other side of it.
        return array_values(array_filter(
            $this->blur->bands(),
            static fn (array $band): bool => $band[0] <= $last + 1 && $band[1] > $first - 1,
        ));
    }

    private static function lon(int $bits, string $hash): string
    {
        $cells = 1 << (ZOrder::BITS - $bits);

        // 180 degrees east lie in the last cell, not in one beyond it. Whole numbers of cells, so that nothing is left
        // of where in its cell a record lies, not even in the last digit.
        return sprintf(
            '(floor(least(lon + 180e0, 359.9999999999999e0) * %s) + ((%s & 65535) + 0.5e0) / 65536e0) * %s - 180e0',
            self::number($cells / 360),
            $hash,
            self::number(360 / $cells),
        );
    }

    /** In steps from the northern edge of the Mercator square, as {@see ZOrder} goes down. */
    private function lat(int $bits, string $hash): string
    {
        $cells = 1 << (ZOrder::BITS - $bits);

        return sprintf(
            '%s * atan(exp(%s - %s * (floor((%s) * %s) + ((%s >> 16) + 0.5e0) / 65536e0))) - 90e0',
            self::number(360 / M_PI),
            self::number(M_PI),
            self::number(2 * M_PI / $cells),
            ToldColumns::downOf($this->layer),
            self::number($cells),
            $hash,
        );
    }

    private static function z(int $bits, string $hash): string
    {
        $cell = sprintf('((z >> %1$d) << %1$d)', 2 * $bits);

        return 2 * $bits <= 32
            ? sprintf('(%s + (%s >> %d))', $cell, $hash, 32 - 2 * $bits)
            : sprintf('(%s + (%s << %d))', $cell, $hash, 2 * $bits - 32);
    }

    private static function number(float $number): string
    {
        return sprintf('%.17e', $number);
    }
}
