<?php

declare(strict_types=1);

namespace PinYard\Board;

/** How finely time is parted. Weeks begin on Monday (ISO 8601). */
enum Step: string
{
    case Day = 'day';
    case Week = 'week';
    case Month = 'month';
    case Year = 'year';

    public function next(): ?self
    {
        return match ($this) {
            self::Day => self::Week,
            self::Week => self::Month,
            self::Month => self::Year,
            self::Year => null,
        };
    }

    /** The first day of the step that a day is in. */
    public function startOf(string $day): string
    {
        $date = new \DateTimeImmutable($day, new \DateTimeZone('UTC'));

        return match ($this) {
            self::Day => $day,
            self::Week => $date->modify('-'.((int) $date->format('N') - 1).' days')->format('Y-m-d'),
            self::Month => $date->format('Y-m-01'),
            self::Year => $date->format('Y-01-01'),
        };
    }

    /** The first day of the step after that of a first day. */
    public function after(string $start, int $steps = 1): string
    {
        $date = new \DateTimeImmutable($start, new \DateTimeZone('UTC'));

        $moved = match ($this) {
            self::Day => $date->modify("$steps days"),
            self::Week => $date->modify(7 * $steps.' days'),
            self::Month => $date->modify("$steps months"),
            self::Year => $date->modify("$steps years"),
        };

        return $moved->format('Y-m-d');
    }

    /**
     * The first days of all steps from one to another, both of them first days themselves.
     *
     * @return list<string>|null null where there are more than so many
     */
    public function all(string $from, string $to, int $most): ?array
    {
        $steps = [];
        for ($at = $from; $at <= $to; $at = $this->after($at)) {
            if (count($steps) === $most) {
                return null;
            }
            $steps[] = $at;
        }

        return $steps;
    }
}
