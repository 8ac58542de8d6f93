<?php

declare(strict_types=1);

namespace PinYard\Alert;

use DateTimeImmutable;
use DateTimeZone;
use PinYard\Refused;

/**
 * When an alert keeps still: so many minutes after it last spoke, and between two times of the day by the programme's
 * clock. What happens meanwhile is told afterwards, at once, if it is still so.
 */
final readonly class Rest
{
    private const MOST_MINUTES = 7 * 24 * 60;

    /**
     * @param  string|null  $from  time of the day, `21:00`; null where it never keeps quiet
     * @param  string|null  $until  at this time it may speak again
     */
    private function __construct(public int $minutes, public ?string $from, public ?string $until)
    {
    }

    /**
     * Reads `{minutes?, from?, until?}`.
     *
     * @throws Refused
     */
    public static function read(mixed $in): self
    {
        $in = is_array($in) ? $in : [];
        $minutes = $in['minutes'] ?? 0;
        if (! is_int($minutes) || $minutes < 0 || $minutes > self::MOST_MINUTES) {
            throw Refused::because('alert_rest', 'rest/minutes', is_scalar($minutes) ? $minutes : null);
        }
        [$from, $until] = [self::time($in, 'from'), self::time($in, 'until')];
        if (($from === null) !== ($until === null)) {
            throw Refused::because('alert_times', $from === null ? 'rest/from' : 'rest/until');
        }

        return new self($minutes, $from === $until ? null : $from, $from === $until ? null : $until);
    }

    /** @param  array<mixed>  $in */
    private static function time(array $in, string $key): ?string
    {
        $time = $in[$key] ?? null;
        if ($time === null || (is_string($time) && preg_match('/^([01]\d|2[0-3]):[0-5]\d$/D', $time) === 1)) {
            return $time;
        }
        throw Refused::because('alert_time', "rest/$key", is_scalar($time) ? $time : null);
    }

    /** @param  DateTimeImmutable|null  $told  when it last spoke */
    public function keepsStill(DateTimeImmutable $now, ?DateTimeImmutable $told, DateTimeZone $zone): bool
    {
        return ($told !== null && $now->getTimestamp() - $told->getTimestamp() < $this->minutes * 60)
            || $this->isQuiet($now->setTimezone($zone)->format('H:i'));
    }

    /** The night goes over midnight. */
    private function isQuiet(string $time): bool
    {
        return $this->from !== null && $this->until !== null && ($this->from < $this->until
            ? $time >= $this->from && $time < $this->until
            : $time >= $this->from || $time < $this->until);
    }

    /** @return array{minutes: int, from: string|null, until: string|null} */
    public function toArray(): array
    {
        return ['minutes' => $this->minutes, 'from' => $this->from, 'until' => $this->until];
    }
}
