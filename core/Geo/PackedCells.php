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
                $n = $head['n1'];
                $inside = $head['a1'] === 1;
                /** @var array<int, float> $edges  counted from one */
                $edges = $n === 0 ? [] : unpack('e'. 4 * $n, $this->text, $at + self::HEAD);
                $which = $n === 0 ? [] : range(1, 4 * $n - 3, 4);
                if (AreaCells::isIn($edges, $which, $inside, $head['o1'], $head['o2'], $lon, $lat)) {
                    $found[] = $head[1];
                }
                $at += self::HEAD + self::EDGE * $n;
            }
        }

        return $found;
    }
}
