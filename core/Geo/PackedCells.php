<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Tells for a few places in which of some hundred areas each lies, from what {@see AreaCells::packed()} made: only
 * the quarters around each place are unpacked.
 */
final readonly class PackedCells
{
    /** Bytes of an area before its edges, and of an edge. */
    private const HEAD = 25;

    private const EDGE = 32;

    /**
     * @param  array<int, array<int, int>>  $starts
     * @param  string  $text  that {@see AreaCells::packed()} gave, perhaps with something before it
     * @param  int  $from  where it begins
     */
    public function __construct(private array $starts, private string $text, private int $from = 0)
    {
    }

    /** @return list<int> the areas of a place, by their places in the list */
    public function at(int $z, float $lon, float $lat): array
    {
        $found = [];
        foreach ($this->starts as $bits => $quarters) {
            $start = $quarters[$z >> 2 * $bits] ?? null;
            if ($start === null) {
                continue;
            }
            $at = $this->from + $start;
            /** @var array{1: int} $count */
            $count = unpack('V', $this->text, $at);
            $at += 4;
            for ($i = $count[1]; $i > 0; $i--) {
                /** @var array{1: int, a1: int, o1: float, o2: float, n1: int} $head */
                $head = unpack('V/Ca1/eo1/eo2/Vn1', $this->text, $at);
                $inside = $head['a1'] === 1;
                if ($this->isIn($head['n1'], $at + self::HEAD, $inside, $head['o1'], $head['o2'], $lon, $lat)) {
                    $found[] = $head[1];
                }
                $at += self::HEAD + self::EDGE * $head['n1'];
            }
        }

        return $found;
    }

    /** As {@see AreaCells::isIn()}, of edges that are unpacked in one go. */
    private function isIn(
        int $edges,
        int $at,
        bool $inside,
        float $midLon,
        float $midLat,
        float $lon,
        float $lat,
    ): bool {
        if ($edges === 0) {
            return $inside;
        }
        /** @var array<int, float> $e  counted from one */
        $e = unpack('e'. 4 * $edges, $this->text, $at);
        for ($i = 1, $end = 4 * $edges; $i < $end; $i += 4) {
            $a = $e[$i];
            $b = $e[$i + 1];
            $c = $e[$i + 2];
            $d = $e[$i + 3];
            if ($b > $lat !== $d > $lat) {
                $x = $a + (($lat - $b) / ($d - $b)) * ($c - $a);
                if ($x > $lon !== $x > $midLon) {
                    $inside = ! $inside;
                }
            }
            if ($a > $midLon !== $c > $midLon) {
                $y = $b + (($midLon - $a) / ($c - $a)) * ($d - $b);
                if ($y > $lat !== $y > $midLat) {
                    $inside = ! $inside;
                }
            }
        }

        return $inside;
    }
}
