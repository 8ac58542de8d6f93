<?php

declare(strict_types=1);

namespace App\Processes;

use PinYard\Refused;
use Symfony\Component\Process\Exception\ProcessTimedOutException;
use Symfony\Component\Process\Process;

/**
 * Runs what reads strangers' files as a process of its own, with limits of time, of the processor, of memory and of
 * written bytes: a file that is made to take all of them ends that process, and nothing else waits for it.
 */
final readonly class LimitedProcess
{
    private const WRITTEN_BLOCKS = 8_000_000;

    /** How often a person's wish to stop is asked for. */
    private const ASK_MS = 500;

    public function __construct(private int $seconds, private int $memoryKb)
    {
    }

    /** The application's own commands, with little memory. */
    public static function artisan(int $seconds = 300, int $megabytes = 384): self
    {
        // Address space, not memory in use: PHP takes hold of more than it fills.
        return new self($seconds, $megabytes * 1024 + 2_000_000);
    }

    /**
     * @param  list<string>  $words
     * @param  array<string, string>  $environment
     * @param  \Closure(): bool|null  $stop
     *
     * @throws Refused when it was stopped, or took longer than it may
     */
    public function run(array $words, array $environment = [], ?\Closure $stop = null, mixed $input = null): Process
    {
        $cpu = $this->seconds + 5;
        // The shell sets limits and becomes the tool; words are never part of its text.
        $process = new Process(
            [
                'sh',
                '-c',
                "ulimit -c 0; ulimit -t $cpu; ulimit -v $this->memoryKb; ulimit -f ".
                self::WRITTEN_BLOCKS.
                '; exec "$@"',
                'sh',
                ...$words,
            ],
            base_path(),
            $environment,
            $input,
            $this->seconds,
        );
        try {
            $process->start();
            $asked = hrtime(true);
            while ($process->isRunning()) {
                $process->checkTimeout();
                if ($stop !== null && hrtime(true) - $asked > self::ASK_MS * 1_000_000) {
                    $asked = hrtime(true);
                    if ($stop()) {
                        $process->stop(0);
                        throw Refused::because('intake_stopped', 'file');
                    }
                }
                usleep(10_000);
            }
        } catch (ProcessTimedOutException) {
            throw Refused::because('intake_slow', 'file', null, ['minutes' => max(1, intdiv($this->seconds, 60))]);
        }

        return $process;
    }

    /** Whether it was ended by a limit of the processor, of memory, or of what it may write. */
    public static function wasEnded(Process $process): bool
    {
        return $process->hasBeenSignaled() || in_array($process->getExitCode(), [137, 152, 153, 139, 255], true);
    }
}
