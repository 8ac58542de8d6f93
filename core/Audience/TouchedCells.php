<?php

declare(strict_types=1);

namespace PinYard\Audience;

use PinYard\Geo\AreaCells;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Geo\Unrolled;
use PinYard\Geo\ZOrder;

/**
 * The cells that a line or an area touches, as quarters of the Z-order: what is told of it where its place is blurred.
 *
 * What is smaller than a cell each way is told as the one cell that its place lies in, as points are: of two cells that
 * a nest of ten metres touches everybody would know that it lies on the border between them, and of four that it lies
 * on their corner. What reaches over very many cells is told in larger ones, by how many they are and by nothing else.
 */
final class TouchedCells
{
    /** Cells from side to side that are told at most, each way; beyond them larger ones are taken. */
    public const ACROSS = 128;

    /** @var list<float> four numbers for each edge, in degrees */
    private array $edges = [];

    private int $larger = 0;

    private function __construct(private readonly Blur $blur, private readonly bool $isArea)
    {
    }

    /** @return list<array{int, int, int}> as {@see ofParts()} */
    public static function of(Shape $shape, Blur $blur): array
    {
        $at = $shape->place;

        return self::ofParts($shape->parts, $shape->kind === GeometryKind::Area, $at->lon, $at->lat, $blur);
    }

    /**
     * Without measuring anything: for many at once.
     *
     * @param  list<list<array{float, float}>>  $parts  of a line, or rings of an area
     * @param  float  $lon  of the place that stands for the whole
     * @return list<array{int, int, int}> steps from the west and the north, bits of the side; in order, and four that
     *     make up a larger one as that, so that the same cells are always the same list
     */
    public static function ofParts(array $parts, bool $isArea, float $lon, float $lat, Blur $blur): array
    {
        $touched = new self($blur, $isArea);
        [$x, $y] = ZOrder::steps($lon, $lat);
        [$west, $east, $north, $south] = $touched->read($parts) ?? [0, 0, 0, 0];
        $bits = $blur->bitsAt($y);
        if (max($east - $west, $south - $north) < 1 << $bits) {
            return [[$x >> $bits << $bits, $y >> $bits << $bits, $bits]];
        }
        $touched->larger = $touched->largerBy($west, $east, $north, $south);
        $whole = $touched->part(0, 0, ZOrder::BITS, range(0, count($touched->edges) - 4, 4), null, [0.0, 0.0]);

        return $whole === true ? [[0, 0, ZOrder::BITS]] : $whole;
    }

    /**
     * Takes the edges along each part; what sticks out beyond the antimeridian is there once more from the other side.
     *
     * @param  list<list<array{float, float}>>  $parts
     * @return array{int, int, int, int}|null its first and last column and row of steps, columns perhaps beyond the
     *     world; null for a mere place
     */
    private function read(array $parts): ?array
    {
        $edges = Unrolled::edges($parts);
        if ($edges === []) {
            return null;
        }
        // Cells end with the Mercator square; what lies beyond is in those at its edge.
        $within = static fn (float $lat): float => max(-ZOrder::EDGE + 1e-9, min(ZOrder::EDGE - 1e-9, $lat));
        $lons = [...array_column($edges, 0), ...array_column($edges, 2)];
        $lats = array_map($within, [...array_column($edges, 1), ...array_column($edges, 3)]);
        [$west, $east] = [min($lons), max($lons)];
        foreach ([0, $east > 180 ? -360 : null, $west < -180 ? 360 : null] as $shift) {
            foreach ($shift === null ? [] : $edges as [$lon1, $lat1, $lon2, $lat2]) {
                array_push($this->edges, $lon1 + $shift, $within($lat1), $lon2 + $shift, $within($lat2));
            }
        }
        $column = static fn (float $lon): int => (int) floor(($lon + 180) / 360 * (1 << ZOrder::BITS));

        return [$column($west), $column($east), ZOrder::steps(0, max($lats))[1], ZOrder::steps(0, min($lats))[1]];
    }

    /** By how many bits cells are larger than they need to be, so that there are not too many of them. */
    private function largerBy(int $west, int $east, int $north, int $south): int
    {
        $least = ZOrder::BITS;
        foreach ($this->blur->bands() as [$from, $to, $bits]) {
            if ($from <= $south && $to > $north) {
                $least = min($least, $bits);
            }
        }
        // Counted in whole cells, from the first that it touches.
        $bits = $least;
        while (max(($east >> $bits) - ($west >> $bits), ($south >> $bits) - ($north >> $bits)) > self::ACROSS) {
            $bits++;
        }

        return $bits - $least;
    }

    /**
     * @param  list<int>  $candidates  edges that cross the quarter around this one
     * @param  bool|null  $inside  whether a place in that quarter is inside; null before the first
     * @param  array{float, float}  $from  that place
     * @return list<array{int, int, int}>|true true: all of it
     */
    private function part(int $x, int $y, int $bits, array $candidates, ?bool $inside, array $from): array|bool
    {
        [$west, $south, $east, $north] = ZOrder::bounds($x, $y, $bits);
        $middle = [($west + $east) / 2, ($south + $north) / 2];
        if ($this->isArea) {
            $inside = $inside === null
                ? $this->isInside($middle)
                : AreaCells::isIn($this->edges, $candidates, $inside, $from[0], $from[1], $middle[0], $middle[1]);
        }
        $kept = $this->crossing($candidates, $west, $south, $east, $north);
        if ($kept === []) {
            return $inside === true ? true : [];
        }
        if ($bits <= $this->blur->bitsAt($y) + $this->larger) {
            return true;
        }
        $half = 1 << ($bits - 1);
        $parts = [];
        $whole = 0;
        foreach ([[$x, $y], [$x + $half, $y], [$x, $y + $half], [$x + $half, $y + $half]] as [$qx, $qy]) {
            $of = $this->part($qx, $qy, $bits - 1, $kept, $inside, $middle);
            $whole += $of === true ? 1 : 0;
            array_push($parts, ...$of === true ? [[$qx, $qy, $bits - 1]] : $of);
        }

        return $whole === 4 ? true : $parts;
    }

    /**
     * By a way to the east (even-odd rule).
     *
     * @param  array{float, float}  $at
     */
    private function isInside(array $at): bool
    {
        $inside = false;
        for ($i = 0, $n = count($this->edges); $i < $n; $i += 4) {
            [$a, $b, $c, $d] = array_slice($this->edges, $i, 4);
            if ($b > $at[1] !== $d > $at[1] && $a + ($at[1] - $b) / ($d - $b) * ($c - $a) > $at[0]) {
                $inside = ! $inside;
            }
        }

        return $inside;
    }

    /**
     * @param  list<int>  $candidates
     * @return list<int> of them those that touch a quarter
     */
    private function crossing(array $candidates, float $west, float $south, float $east, float $north): array
    {
        [$width, $height] = [$east - $west, $north - $south];
        $kept = [];
        foreach ($candidates as $i) {
            $a = $this->edges[$i];
            $b = $this->edges[$i + 1];
            $c = $this->edges[$i + 2];
            $d = $this->edges[$i + 3];
            if (($a < $west && $c < $west) || ($a > $east && $c > $east)
                || ($b < $south && $d < $south) || ($b > $north && $d > $north)) {
                continue;
            }
            // All corners on one side of the edge: it passes by.
            $p = ($c - $a) * ($south - $b) - ($d - $b) * ($west - $a);
            $q = ($c - $a) * $height;
            $r = ($d - $b) * $width;
            if (($p > 0 && $p + $q > 0 && $p - $r > 0 && $p + $q - $r > 0)
                || ($p < 0 && $p + $q < 0 && $p - $r < 0 && $p + $q - $r < 0)) {
                continue;
            }
            $kept[] = $i;
        }

        return $kept;
    }
}
