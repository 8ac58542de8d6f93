<?php

declare(strict_types=1);

namespace App\Console;

/** Seconds that something takes, once or as the median of several runs. */
trait Stopwatch
{
    private function time(\Closure $work): float
    {
        $from = hrtime(true);
        $work();

        return (hrtime(true) - $from) / 1e9;
    }

    /** @param  \Closure(): float  $run */
    private function median(int $times, \Closure $run): float
    {
        $all = array_map(static fn (): float => $run(), range(1, $times));
        sort($all);

        return $all[intdiv($times, 2)];
    }
}
