<?php

declare(strict_types=1);

namespace PinYard\Bits;

/** Numbers as they come in. They wait outside of memory until it is known how far they lie apart. */
final class NumberCoder implements Coder
{
    private const MOST_DECIMALS = 6;

    /** Whole numbers up to here are exact as doubles. */
    private const LARGEST = 2 ** 53;

    /** @var resource of units of the last decimal, eight bytes each */
    private $units;

    /** @var list<array{int, int}> how many numbers came at once, and with how many decimals they were written */
    private array $parts = [];

    private string $there = '';

    private int|float $least = INF;

    private int|float $most = -INF;

    private bool $fits = true;

    /** @param  int  $decimals  so many at least */
    public function __construct(private int $decimals = 0)
    {
        $this->units = fopen('php://temp/maxmemory:4194304', 'w+') ?: throw new \RuntimeException('no room');
    }

    public function add(array $values): void
    {
        if ($values === [] || ! $this->fits) {
            return;
        }
        // There are millions of them: what is done for each is done here, by names of its own.
        do {
            [$ten, $again] = [10 ** $this->decimals, false];
            [$least, $most, $there, $units] = [INF, -INF, '', []];
            foreach ($values as $value) {
                if ($value === null) {
                    $there .= '0';
                    $units[] = 0;

                    continue;
                }
                $number = (float) $value;
                // Rounded without a call; what no whole number can hold comes out as another number.
                $scaled = (int) ($number * $ten + ($number < 0 ? -0.5 : 0.5));
                if ($scaled / $ten != $number) {
                    $again = true;

                    break;
                }
                $there .= '1';
                $units[] = $scaled;
                if ($scaled < $least) {
                    $least = $scaled;
                }
                if ($scaled > $most) {
                    $most = $scaled;
                }
            }
            $this->decimals += $again ? 1 : 0;
            $this->fits = $this->decimals <= self::MOST_DECIMALS && max(abs($least), abs($most)) <= self::LARGEST
                || $units === [] || $least > $most;
        } while ($again && $this->fits);
        $this->there .= $there;
        $this->parts[] = [count($units), $this->decimals];
        $this->least = min($this->least, $least / $ten);
        $this->most = max($this->most, $most / $ten);
        fwrite($this->units, pack('q*', ...$units));
    }

    public function done(): NumberSlots
    {
        $there = Slots::ofFlags($this->there);
        if ($this->fits && $this->least > $this->most) {
            return new NumberSlots($there, [], 0, $this->decimals);
        }
        $ten = 10 ** $this->decimals;
        // A number that had fewer decimals may be too large with those of another.
        if (! $this->fits || max(abs($this->least), abs($this->most)) * $ten > self::LARGEST) {
            throw new NotByBits('not to so many decimals');
        }
        $least = (int) round($this->least * $ten);
        $count = strlen(decbin((int) round($this->most * $ten) - $least));
        if ($count > NumberSlots::MOST_PLACES) {
            throw new NotByBits('numbers too far from each other');
        }
        $planes = new Planes;
        rewind($this->units);
        foreach ($this->parts as [$n, $decimals]) {
            $times = 10 ** ($this->decimals - $decimals);
            $units = [];
            /** @var array<int, int> $read */
            $read = unpack('q*', (string) stream_get_contents($this->units, 8 * $n)) ?: [];
            foreach ($read as $unit) {
                $units[] = (int) ($unit * $times) - $least;
            }
            $planes->add($units, $count);
        }
        fclose($this->units);
        $places = [];
        for ($i = 0; $i < $count; $i++) {
            // Where there is no number stands anything.
            $places[] = $planes->withDigit($i) & $there;
        }

        return new NumberSlots($there, $places, $least, $this->decimals);
    }
}
