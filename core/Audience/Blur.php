<?php

declare(strict_types=1);

namespace PinYard\Audience;

use PinYard\Geo\Box;
use PinYard\Geo\Geodesic;
use PinYard\Geo\ZOrder;

/**
 * Cells that stand for the places in them: quarters of the Z-order, each parted only while the shortest sides of all
 * its four children are still as long as was asked for. How long they are depends on the latitude alone, so the size of
 * a cell tells nothing of what lies in it.
 */
final class Blur
{
    public const LEAST = 10;

    /** Half a world of cells in each direction; beyond it a place is better hidden. */
    public const MOST = 500_000;

    /** Degrees by which what is worked out on either side of a border may differ. */
    private const HAIR = 1e-9;

    /** @var list<array{int, int, int}>|null as {@see bands()} gives them */
    private ?array $bands = null;

    /** @var array<int, list<array{int, int, int}>> by metres: they depend on nothing else */
    private static array $workedOut = [];

    /** @var array<string, bool> by row and bits */
    private array $known = [];

    private function __construct(public readonly int $metres)
    {
    }

    /** @param  int  $metres  that every side is at least long, {@see LEAST} to {@see MOST} */
    public static function of(int $metres): self
    {
        return new self($metres);
    }

    /**
     * The same with bands that were worked out before: it takes a quarter of a second.
     *
     * @param  list<array{int, int, int}>  $bands
     */
    public static function known(int $metres, array $bands): self
    {
        $blur = new self($metres);
        $blur->bands = $bands;

        return $blur;
    }

    /** @return list<array{int, int, int}> from north to south: first row of steps, row after the last, side in bits */
    public function bands(): array
    {
        $this->bands ??= self::$workedOut[$this->metres] ?? null;
        if ($this->bands === null) {
            $bands = [];
            foreach ($this->parted(0, ZOrder::BITS) as [$from, $to, $bits]) {
                $last = count($bands) - 1;
                if ($last >= 0 && $bands[$last][2] === $bits) {
                    $bands[$last][1] = $to;
                } else {
                    $bands[] = [$from, $to, $bits];
                }
            }
            $this->bands = self::$workedOut[$this->metres] = $bands;
        }

        return $this->bands;
    }

    /** @return list<array{int, int, int}> */
    private function parted(int $row, int $bits): array
    {
        $rows = 1 << $bits;
        if (! $this->isParted($row, $bits)) {
            return [[$row, $row + $rows, $bits]];
        }
        // The chains of quarters along the northern and the southern end: what lies between ends between them.
        $north = $this->ends($row, $bits, true);
        if ($bits < ZOrder::BITS && $north === $this->ends($row, $bits, false)) {
            return [[$row, $row + $rows, $north]];
        }
        $half = $bits - 1;

        return [...$this->parted($row, $half), ...$this->parted($row + (1 << $half), $half)];
    }

    /** How large the quarter is at which the parting ends, along one end of a row of quarters. */
    private function ends(int $row, int $bits, bool $atNorth): int
    {
        while ($this->isParted($row, $bits)) {
            $bits--;
            $row += $atNorth ? 0 : 1 << $bits;
        }

        return $bits;
    }

    private function isParted(int $row, int $bits): bool
    {
        if ($bits === 0) {
            return false;
        }
        $half = $bits - 1;

        // Chains along the ends go over the same quarters again and again.
        return $this->known["$row $bits"] ??= $this->metres
            <= min(self::shortest($row, $half), self::shortest($row + (1 << $half), $half));
    }

    /** Metres of the shortest side of a quarter, by geodesics on WGS 84. */
    private static function shortest(int $row, int $bits): float
    {
        return min(self::sides($row, $bits));
    }

    /** @return array{float, float, float} metres along the north, along the south, from north to south */
    private static function sides(int $row, int $bits): array
    {
        [$west, $south, $east, $north] = ZOrder::bounds(0, $row, $bits);
        // Half of a side that goes around the world leads to its end the other way.
        $wide = $east - $west >= 180 ? 2 : 1;
        $middle = $west + ($east - $west) / $wide;

        return [
            $wide * Geodesic::metres($west, $north, $middle, $north),
            $wide * Geodesic::metres($west, $south, $middle, $south),
            Geodesic::metres($west, $north, $west, $south),
        ];
    }

    /** Side in bits of the cells at a row of steps. */
    public function bitsAt(int $row): int
    {
        foreach ($this->bands() as [, $to, $bits]) {
            if ($row < $to) {
                return $bits;
            }
        }

        return ZOrder::BITS;
    }

    /** @return array{float, float, float, float} west, south, east, north of the cell that a place lies in */
    public function cellOf(float $lon, float $lat): array
    {
        [$x, $y] = ZOrder::steps($lon, $lat);
        $bits = $this->bitsAt($y);

        return ZOrder::bounds($x >> $bits << $bits, $y >> $bits << $bits, $bits);
    }

    /** The last Z-order number of the cell that a number lies in. */
    public function lastOf(int $z): int
    {
        [, $y] = ZOrder::stepsOf($z);

        return $z | ((1 << (2 * $this->bitsAt($y))) - 1);
    }

    /**
     * What a box is to the cells: for each of its parts the smallest box that holds all cells that it touches, and the
     * largest one, if there is any, whose cells are all of them in it.
     *
     * @return non-empty-list<array{Box, Box|null}>
     */
    public function around(Box $box): array
    {
        return array_map(
            function (Box $part): array {
                // The further from the equator the larger they are, so those at the corners reach furthest.
                [$wests, $souths, $easts, $norths] = array_map(null, ...[
                    $this->cellOf($part->west, $part->south), $this->cellOf($part->west, $part->north),
                    $this->cellOf($part->east, $part->south), $this->cellOf($part->east, $part->north),
                ]);
                [$west, $south, $east, $north] = [min($wests), min($souths), max($easts), max($norths)];
                $inner = [
                    $west < $part->west ? max($easts[0], $easts[1]) : $west,
                    $south < $part->south ? max($norths[0], $norths[2]) : $south,
                    $east > $part->east ? min($wests[2], $wests[3]) : $east,
                    $north > $part->north ? min($souths[1], $souths[3]) : $north,
                ];
                $hair = self::HAIR;

                return [
                    // What lies beyond the square of the Z-order is in the cells at its edge.
                    Box::of(
                        max(-180.0, $west - $hair),
                        $south < 1 - ZOrder::EDGE ? -90.0 : $south - $hair,
                        min(180.0, $east + $hair),
                        $north > ZOrder::EDGE - 1 ? 90.0 : $north + $hair,
                    ),
                    $inner[0] + $hair < $inner[2] - $hair && $inner[1] + $hair < $inner[3] - $hair
                        ? Box::of($inner[0] + $hair, $inner[1] + $hair, $inner[2] - $hair, $inner[3] - $hair)
                        : null,
                ];
            },
            $box->parts(),
        );
    }

    /** @return array{int, int} metres of the shortest and of the longest side of the cell that a place lies in */
    public function sizeAt(float $lon, float $lat): array
    {
        [, $y] = ZOrder::steps($lon, $lat);
        $bits = $this->bitsAt($y);
        $sides = self::sides($y >> $bits << $bits, $bits);

        return [(int) floor(min($sides)), (int) ceil(max($sides))];
    }
}
