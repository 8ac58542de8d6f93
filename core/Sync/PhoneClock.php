<?php

declare(strict_types=1);

namespace PinYard\Sync;

/**
 * What the moment of sending tells of a phone's clock. A phone says when a thing was done by its own clock, by how much
 * it knew that clock to be off at that time, and when it had last heard of the server; a clock may have been set in
 * between, by anybody.
 */
final readonly class PhoneClock
{
    /** Seconds: below that the way through the network may be the reason. */
    private const LEAST = 60;

    /** @param  int  $behind  seconds by which the phone's clock is behind now */
    private function __construct(private \DateTimeImmutable $now, private int $behind)
    {
    }

    /**
     * @param  mixed  $sentAt  RFC 3339, by the phone's clock
     * @return self|null where the phone does not say when it sends
     */
    public static function atSending(mixed $sentAt, \DateTimeImmutable $now): ?self
    {
        if (
            ! is_string($sentAt) ||
            preg_match('/^[1-9]\d{3}-\d\d-\d\dT\d\d:\d\d:\d\d(\.\d{1,6})?(Z|[+-]\d\d:\d\d)$/D', $sentAt) !== 1
        ) {
            return null;
        }
        try {
            $behind = $now->getTimestamp() - (new \DateTimeImmutable($sentAt))->getTimestamp();
        } catch (\Exception) {
            return null;
        }

        return new self($now, abs($behind) < self::LEAST ? 0 : $behind);
    }

    /**
     * Seconds by which the clock was behind when something was done: as it is now, or as it was known to be then,
     * whichever puts it between the last round before and now. Where neither does, the clock was set in between by an
     * amount that nobody knows, and the nearer end of that span is as true as can be.
     *
     * @param  int  $known  seconds that the phone knew of then
     * @param  \DateTimeImmutable|null  $heard  the server's time at the last round before it was done
     */
    public function behindAt(\DateTimeImmutable $captured, int $known, ?\DateTimeImmutable $heard): int
    {
        [$from, $to] = [$heard?->getTimestamp() ?? PHP_INT_MIN, $this->now->getTimestamp()];
        $at = $captured->getTimestamp();
        foreach (abs($known - $this->behind) < self::LEAST ? [$known] : [$this->behind, $known] as $off) {
            if ($at + $off >= $from - self::LEAST && $at + $off <= $to + self::LEAST) {
                return $off;
            }
        }

        return $at + $this->behind > $to ? $to - $at : $from - $at;
    }
}
