<?php

declare(strict_types=1);

namespace PinYard\Geo;

/**
 * Tells for a few places in which of some hundred areas each lies, from the quarters that {@see AreaCells} made: of
 * these only an index is held, and those around a place are read when it is asked for.
 */
final readonly class PackedCells
{
    /** Bytes of a quarter in the index: its place among those of its size, where it begins, how many bytes it has. */
    private const ENTRY = 16;

    /** Bytes of an area before its edges, and of an edge. */
    private const HEAD = 25;

    private const EDGE = 32;

    /**
     * @param  list<array{int, int, int, int, int}>  $sizes  of quarters: bits of a quarter's numbers, buckets (a power
     *     of two) less one, where in the index their marks, the ends of their buckets and their quarters begin
     * @param  \Closure(int, int): string  $read
     */
    private function __construct(private string $index, private array $sizes, private \Closure $read)
    {
    }

    /** @return array{string, string} the index; what is read of it later */
    public static function pack(AreaCells $cells): array
    {
        $quarters = $cells->packed();
        $index = pack('V', count($quarters));
        $body = '';
        foreach ($quarters as $bits => $of) {
            // A bucket for each quarter, so that there is mostly one or none to look at.
            $buckets = 1;
            while ($buckets < count($of)) {
                $buckets <<= 1;
            }
            $in = array_fill(0, $buckets, '');
            foreach ($of as $quarter => $text) {
                // Quarters beside each other are numbers in a row, so they fall into buckets of their own.
                $in[$quarter & $buckets - 1] .= pack('PVV', $quarter, strlen($body), strlen($text));
                $body .= $text;
            }
            $ends = '';
            $at = 0;
            foreach ($in as $entries) {
                $ends .= pack('V', $at);
                $at += intdiv(strlen($entries), self::ENTRY);
            }
            $index .= pack('V2', $bits, $buckets).self::marks($buckets, array_keys($of))
                .$ends.pack('V', $at).implode('', $in);
        }

        return [$index, $body];
    }

    /**
     * A bit for each of eight times as many buckets: that a place lies in no quarter of a size is mostly told by one.
     *
     * @param  list<int>  $quarters
     */
    private static function marks(int $buckets, array $quarters): string
    {
        $bytes = array_fill(0, $buckets, 0);
        foreach ($quarters as $quarter) {
            $bytes[$quarter >> 3 & $buckets - 1] |= 1 << ($quarter & 7);
        }

        return implode('', array_map(chr(...), $bytes));
    }

    /**
     * @param  string  $index  that {@see pack()} gave
     * @param  \Closure(int, int): string  $read  gives so many bytes of the rest, from one on
     * @return self|null null where it is no such index
     */
    public static function of(string $index, \Closure $read): ?self
    {
        $count = strlen($index) < 4 ? 0 : self::numbers($index, 0, 1)[1];
        $at = 4;
        $sizes = [];
        for ($i = 0; $i < $count; $i++) {
            if (strlen($index) < $at + 8) {
                return null;
            }
            [1 => $bits, 2 => $buckets] = self::numbers($index, $at, 2);
            $ends = $at + 8 + $buckets;
            $entries = $ends + 4 * ($buckets + 1);
            if ($bits > ZOrder::BITS || $buckets < 1 || strlen($index) < $entries) {
                return null;
            }
            $sizes[] = [2 * $bits, $buckets - 1, $at + 8, $ends, $entries];
            $at = $entries + self::ENTRY * self::numbers($index, $entries - 4, 1)[1];
        }

        return strlen($index) >= 4 && $at === strlen($index) ? new self($index, $sizes, $read) : null;
    }

    /** @return list<int> the areas of a place, by their places in the list */
    public function at(int $z, float $lon, float $lat): array
    {
        $found = [];
        foreach ($this->sizes as [$shift, $mask, $marks, $ends, $entries]) {
            $quarter = $z >> $shift;
            if ((ord($this->index[$marks + ($quarter >> 3 & $mask)]) >> ($quarter & 7) & 1) === 0) {
                continue;
            }
            [1 => $from, 2 => $to] = self::numbers($this->index, $ends + 4 * ($quarter & $mask), 2);
            for (; $from < $to; $from++) {
                /** @var array{q: int, at: int, bytes: int} $entry */
                $entry = unpack('Pq/Vat/Vbytes', $this->index, $entries + self::ENTRY * $from);
                if ($entry['q'] === $quarter) {
                    $this->areasIn(($this->read)($entry['at'], $entry['bytes']), $lon, $lat, $found);
                    break;
                }
            }
        }

        return $found;
    }

    /** @param  list<int>  $found */
    private function areasIn(string $quarter, float $lon, float $lat, array &$found): void
    {
        for ($at = 0, $end = strlen($quarter); $at < $end; $at += self::HEAD + self::EDGE * $n) {
            /** @var array{1: int, a1: int, o1: float, o2: float, n1: int} $head */
            $head = unpack('V/Ca1/eo1/eo2/Vn1', $quarter, $at);
            $n = $head['n1'];
            /** @var array<int, float> $edges  counted from one */
            $edges = $n === 0 ? [] : unpack('e'. 4 * $n, $quarter, $at + self::HEAD);
            if ($n === 0
                ? $head['a1'] === 1
                : AreaCells::isIn($edges, self::each($n), $head['a1'] === 1, $head['o1'], $head['o2'], $lon, $lat)) {
                $found[] = $head[1];
            }
        }
    }

    /** @return list<int> where each of so many edges begins, counted from one */
    private static function each(int $edges): array
    {
        /** @var array<int, list<int>> $each */
        static $each = [[]];

        return $each[$edges] ??= range(1, 4 * $edges - 3, 4);
    }

    /** @return array<int, int> counted from one */
    private static function numbers(string $text, int $at, int $count): array
    {
        /** @var array<int, int> $numbers */
        $numbers = unpack("V$count", $text, $at);

        return $numbers;
    }
}
