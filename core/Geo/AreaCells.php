<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Tells for a million places in which of some hundred areas each lies.
 *
 * The world is parted into the quarters of the Z-order. A quarter that lies wholly in an area is a range of numbers
 * whose places need no further look; one that the border of an area crosses is parted further, until few edges are left
 * in it. A place in such a quarter is joined with the quarter's middle by a way along its sides, of which the few edges
 * are known: an odd number of crossings changes the side (even-odd rule, as {@see PointInArea}). Places must come in
 * the order of their Z-order numbers, so that one walk over the ranges is enough.
 */
final class AreaCells
{
    /** Edges that a quarter may keep. */
    private const EDGES = 8;

    /** So many times a quarter around an area is parted. */
    private const DEEPEST = 16;

    /**
     * @var list<array{int, int, int, list<int>|null, bool, float, float, int}> first and last number, area, edges that
     *     cross it or null, whether the middle lies inside, the middle, list of the edges
     */
    private array $cells = [];

    /** @var list<list<float>> four numbers for each edge, by area */
    private array $edges = [];

    private int $next = 0;

    /** @var array<int, array{int, int, int, list<int>|null, bool, float, float, int}> */
    private array $open = [];

    private int $nearestEnd = PHP_INT_MAX;

    /**
     * @param  array<int, list<list<array{float, float}>>>  $areas  rings by number; of several areas the one that
     *     stands first counts
     */
    public function __construct(array $areas)
    {
        $order = 0;
        foreach ($areas as $rings) {
            $this->area($order++, $rings);
        }
        usort($this->cells, static fn (array $a, array $b): int => $a[0] <=> $b[0] ?: $a[1] <=> $b[1]);
    }

    public function count(): int
    {
        return count($this->cells);
    }

    /**
     * The area of the next place, by its place in the list; null for none.
     *
     * @param  int  $z  not less than that of the place before
     */
    public function at(int $z, float $lon, float $lat): ?int
    {
        $this->walkTo($z);
        $found = null;
        foreach ($this->open as $cell) {
            if (($found === null || $cell[2] < $found) && $this->holds($cell, $lon, $lat)) {
                $found = $cell[2];
            }
        }

        return $found;
    }

    /**
     * Packed so that a few places can be asked for later without unpacking all ({@see PackedCells}).
     *
     * @return array<int, array<int, string>> the areas in each quarter, by the bits of its side and its place among all
     *     quarters of that size
     */
    public function packed(): array
    {
        $quarters = [];
        foreach ($this->cells as [$first, $last, $area, $which, $inside, $lon, $lat, $list]) {
            // A quarter holds four to the power of its bits.
            $bits = intdiv((int) round(log($last - $first + 1, 2)), 2);
            $packed = pack('VCeeV', $area, $inside ? 1 : 0, $lon, $lat, count($which ?? []));
            foreach ($which ?? [] as $i) {
                $packed .= pack('e4', ...array_slice($this->edges[$list], $i, 4));
            }
            // Not by its first number: numbers that end in the same bits make arrays slow.
            $quarters[$bits][$first >> 2 * $bits] = ($quarters[$bits][$first >> 2 * $bits] ?? '').$packed;
        }

        return $quarters;
    }

    /** Begins a new walk over the places. */
    public function rewind(): void
    {
        [$this->next, $this->open, $this->nearestEnd] = [0, [], PHP_INT_MAX];
    }

    /**
     * All areas of the next place, by their places in the list.
     *
     * @param  int  $z  not less than that of the place before
     * @return list<int>
     */
    public function allAt(int $z, float $lon, float $lat): array
    {
        $this->walkTo($z);
        $found = [];
        foreach ($this->open as $cell) {
            if ($this->holds($cell, $lon, $lat)) {
                $found[] = $cell[2];
            }
        }

        return $found;
    }

    /** @param  array{int, int, int, list<int>|null, bool, float, float, int}  $cell */
    private function holds(array $cell, float $lon, float $lat): bool
    {
        return $cell[3] === null ||
            self::isIn($this->edges[$cell[7]], $cell[3], $cell[4], $cell[5], $cell[6], $lon, $lat);
    }

    private function walkTo(int $z): void
    {
        if ($z > $this->nearestEnd) {
            $this->nearestEnd = PHP_INT_MAX;
            foreach ($this->open as $i => $cell) {
                if ($cell[1] < $z) {
                    unset($this->open[$i]);
                } elseif ($cell[1] < $this->nearestEnd) {
                    $this->nearestEnd = $cell[1];
                }
            }
        }
        while (isset($this->cells[$this->next]) && $this->cells[$this->next][0] <= $z) {
            $cell = $this->cells[$this->next++];
            if ($cell[1] >= $z) {
                $this->open[] = $cell;
                $this->nearestEnd = min($this->nearestEnd, $cell[1]);
            }
        }
    }

    /** @param  list<list<array{float, float}>>  $rings */
    private function area(int $number, array $rings): void
    {
        $edges = [];
        $least = 180.0;
        $most = -180.0;
        foreach ($rings as $ring) {
            // Along the ring, so that the antimeridian is no border; what sticks out is done once more from the other
            // side.
            $lon = $ring[0][0] ?? 0.0;
            for ($i = 1, $n = count($ring); $i < $n; $i++) {
                $by = fmod($ring[$i][0] - $ring[$i - 1][0], 360);
                $to = $lon + ($by > 180 ? $by - 360 : ($by < -180 ? $by + 360 : $by));
                array_push($edges, $lon, $ring[$i - 1][1], $to, $ring[$i][1]);
                $lon = $to;
                $least = min($least, $lon);
                $most = max($most, $lon);
            }
        }
        foreach ([0, $most > 180 ? -360 : null, $least < -180 ? 360 : null] as $shift) {
            if ($shift === null) {
                continue;
            }
            $moved = [];
            foreach ($edges as $i => $degrees) {
                $moved[] = $i % 2 === 0 ? $degrees + $shift : $degrees;
            }
            $this->begin($number, $moved);
        }
    }

    /**
     * Begins with the few quarters that are about as large as the area.
     *
     * @param  list<float>  $edges
     */
    private function begin(int $number, array $edges): void
    {
        [$west, $south, $east, $north] = [180.0, 90.0, -180.0, -90.0];
        for ($i = 0, $n = count($edges); $i < $n; $i += 4) {
            $west = min($west, $edges[$i]);
            $east = max($east, $edges[$i]);
            $south = min($south, $edges[$i + 1]);
            $north = max($north, $edges[$i + 1]);
        }
        if ($west > 180 || $east < -180 || $edges === []) {
            return;
        }
        [$x1, $y1] = ZOrder::steps(max(-180.0, $west), $north);
        [$x2, $y2] = ZOrder::steps(min(180.0, $east), $south);
        $bits = min(ZOrder::BITS, (int) ceil(log(max($x2 - $x1, $y2 - $y1, 1) + 1, 2)));
        $this->edges[] = $edges;
        $all = range(0, count($edges) - 4, 4);
        for ($x = $x1 >> $bits; $x <= $x2 >> $bits; $x++) {
            for ($y = $y1 >> $bits; $y <= $y2 >> $bits; $y++) {
                [$w, $s, $e, $n] = ZOrder::bounds($x << $bits, $y << $bits, $bits);
                [$lon, $lat] = [($w + $e) / 2, ($s + $n) / 2];
                // The middle, by a way to the east.
                $inside = false;
                foreach ($all as $i) {
                    if (
                        $lat < $edges[$i + 3] !== $edges[$i + 1] > $lat &&
                        $lon <
                            $edges[$i] +
                                (($lat - $edges[$i + 1]) / ($edges[$i + 3] - $edges[$i + 1])) *
                                    ($edges[$i + 2] - $edges[$i])
                    ) {
                        $inside = ! $inside;
                    }
                }
                $this->part(
                    $number,
                    $x << $bits,
                    $y << $bits,
                    $bits,
                    max(0, $bits - self::DEEPEST),
                    $all,
                    $lon,
                    $lat,
                    $inside,
                );
            }
        }
    }

    /**
     * @param  int  $least  bits of the smallest quarter
     * @param  list<int>  $candidates  edges that cross the quarter around this one
     * @param  bool  $inside  whether the middle of that quarter lies inside
     */
    private function part(
        int $number,
        int $x,
        int $y,
        int $bits,
        int $least,
        array $candidates,
        float $fromLon,
        float $fromLat,
        bool $inside,
    ): void {
        $list = count($this->edges) - 1;
        $edges = $this->edges[$list];
        [$west, $south, $east, $north] = ZOrder::bounds($x, $y, $bits);
        [$lon, $lat] = [($west + $east) / 2, ($south + $north) / 2];
        if ($lon !== $fromLon || $lat !== $fromLat) {
            $inside = self::isIn($edges, $candidates, $inside, $fromLon, $fromLat, $lon, $lat);
        }
        [$width, $height] = [$east - $west, $north - $south];
        $kept = [];
        foreach ($candidates as $i) {
            $a = $edges[$i];
            $c = $edges[$i + 2];
            if (($a < $west && $c < $west) || ($a > $east && $c > $east)) {
                continue;
            }
            $b = $edges[$i + 1];
            $d = $edges[$i + 3];
            if (($b < $south && $d < $south) || ($b > $north && $d > $north)) {
                continue;
            }
            // All corners of the quarter on one side of the edge: it passes by.
            $p = ($c - $a) * ($south - $b) - ($d - $b) * ($west - $a);
            $q = ($c - $a) * $height;
            $r = ($d - $b) * $width;
            if (
                ($p > 0 && $p + $q > 0 && $p - $r > 0 && $p + $q - $r > 0) ||
                ($p < 0 && $p + $q < 0 && $p - $r < 0 && $p + $q - $r < 0)
            ) {
                continue;
            }
            $kept[] = $i;
        }
        if ($kept === [] && ! $inside) {
            return;
        }
        if (count($kept) <= self::EDGES || $bits <= $least) {
            $first = ZOrder::ofQuarter($x, $y);
            $this->cells[] = [
                $first,
                $first + (1 << (2 * $bits)) - 1,
                $number,
                $kept === [] ? null : $kept,
                $inside,
                $lon,
                $lat,
                $list,
            ];

            return;
        }
        $half = 1 << ($bits - 1);
        foreach ([[$x, $y], [$x + $half, $y], [$x, $y + $half], [$x + $half, $y + $half]] as [$qx, $qy]) {
            $this->part($number, $qx, $qy, $bits - 1, $least, $kept, $lon, $lat, $inside);
        }
    }

    /**
     * Whether a place lies inside, going from it along its latitude and then along the longitude of the quarter's
     * middle.
     *
     * @param  array<int, float>  $edges
     * @param  list<int>  $which
     */
    public static function isIn(
        array $edges,
        array $which,
        bool $inside,
        float $midLon,
        float $midLat,
        float $lon,
        float $lat,
    ): bool {
        foreach ($which as $i) {
            $b = $edges[$i + 1];
            $d = $edges[$i + 3];
            $a = $edges[$i];
            $c = $edges[$i + 2];
            if ($b > $lat !== $d > $lat) {
                $at = $a + (($lat - $b) / ($d - $b)) * ($c - $a);
                if ($at > $lon !== $at > $midLon) {
                    $inside = ! $inside;
                }
            }
            if ($a > $midLon !== $c > $midLon) {
                $at = $b + (($midLon - $a) / ($c - $a)) * ($d - $b);
                if ($at > $lat !== $at > $midLat) {
                    $inside = ! $inside;
                }
            }
        }

        return $inside;
    }
}
