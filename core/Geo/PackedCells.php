<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Tells for a few places in which of some hundred areas each lies, from what {@see AreaCells::packed()} made: only
 * the quarters around each place are unpacked.
 */
final readonly class PackedCells
{
    /** Bytes of a quarter before its edges. */
    private const HEAD = 25;

    /**
     * @param  array<int, array<int, list<int>>>  $starts
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
            foreach ($quarters[$z >> 2 * $bits] ?? [] as $start) {
                $at = $this->from + $start;
                /** @var array{area: int, inside: int, lon: float, lat: float, edges: int} $head */
                $head = unpack('Varea/Cinside/elon/elat/Vedges', $this->text, $at);
                $n = $head['edges'];
                $inside = $head['inside'] === 1;
                /** @var array<int, float> $edges  counted from one */
                $edges = $n === 0 ? [] : unpack('e'. 4 * $n, $this->text, $at + self::HEAD);
                if (
                    $n === 0
                        ? $inside
                        : AreaCells::isIn(
                            $edges,
                            range(1, 4 * $n - 3, 4),
                            $inside,
                            $head['lon'],
                            $head['lat'],
                            $lon,
                            $lat,
                        )
                ) {
                    $found[] = $head['area'];
                }
            }
        }

        return $found;
    }
}
