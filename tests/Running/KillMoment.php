<?php

declare(strict_types=1);

namespace Tests\Running;

use Symfony\Component\Process\Process;
use Throwable;

/**
 * When to kill, so that a round is hit in its middle whatever the machine: a random part of the time that a round takes
 * here, and sooner after each miss (a fixed time misses as soon as rounds become quicker, and then tests nothing).
 */
final class KillMoment
{
    /** @param  float  $round seconds that an undisturbed round takes */
    public function __construct(private float $round)
    {
    }

    /**
     * Sends a round and kills while it is on its way.
     *
     * @param  list<array<string, mixed>>  $operations
     * @return bool whether the round was broken by it
     */
    public function hit(Phone $phone, array $operations, string $kill): bool
    {
        $wait = $this->round * mt_rand(5, 90) / 100;
        $killer = Process::fromShellCommandline(sprintf('sleep %.4F; %s', $wait, $kill));
        $killer->start();
        try {
            $broken = $phone->post('/api/v1/sync', $phone->round($operations))->getStatusCode() !== 200;
        } catch (Throwable) {
            $broken = true;
        }
        $killer->wait();
        $this->round *= $broken ? 1 : 0.9;

        return $broken;
    }
}
