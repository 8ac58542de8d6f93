<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\Field;
use PinYard\Formula\Moment;
use PinYard\Refused;

/**
 * The span of days that a headline number is of, and the earlier one that it is held against: the last so many days or
 * those since a day, against as many before or the same days of the year before.
 */
final readonly class Compared
{
    private const MOST_DAYS = 3_660;

    /** Parts of the small line beside a number. */
    private const POINTS = 60;

    /**
     * @param  string  $by  key of the date
     * @param  Field|null  $field  null: when records were collected
     * @param  int|null  $days  the last so many, today among them
     * @param  string|null  $since  or those since a day
     * @param  'before'|'year'  $against
     */
    private function __construct(
        public string $by,
        public ?Field $field,
        public ?int $days,
        public ?string $since,
        public string $against,
    ) {
    }

    /**
     * Reads `{by, days | since, against}`.
     *
     * @throws Refused
     */
    public static function read(TileInput $tile, int $layer): ?self
    {
        $in = $tile->value('compare');
        if ($in === null) {
            return null;
        }
        $in = is_array($in) ? $in : [];
        $since = isset($in['since']) ? $tile->day($in['since'], 'compare/since') : null;
        $days = $since === null ? $in['days'] ?? 7 : null;
        if ($days !== null && (! is_int($days) || $days < 1 || $days > self::MOST_DAYS)) {
            throw $tile->refused('tile_number', 'compare/days', $days, ['least' => 1, 'most' => self::MOST_DAYS]);
        }

        $by = $tile->date($in['by'] ?? null, $layer, 'compare/by');

        return new self(
            $by,
            $tile->design($layer)->field($by),
            $days,
            $since,
            ($in['against'] ?? null) === 'year' ? 'year' : 'before',
        );
    }

    /** @return array{string, string} first and last day */
    public function span(string $today): array
    {
        return [$this->since ?? self::plus($today, 1 - ($this->days ?? 1)), max($today, $this->since ?? $today)];
    }

    /** @return array{string, string} of what it is held against */
    public function earlier(string $today): array
    {
        [$from, $to] = $this->span($today);
        if ($this->against === 'year') {
            return [self::yearBefore($from), self::yearBefore($to)];
        }
        $days = Moment::days($from, $to) + 1;

        return [self::plus($from, -$days), self::plus($from, -1)];
    }

    /** How finely its small line parts the span. */
    public function step(string $today): Step
    {
        [$from, $to] = $this->span($today);
        $days = Moment::days($from, $to) + 1;

        return match (true) {
            $days <= self::POINTS => Step::Day,
            $days <= 7 * self::POINTS => Step::Week,
            default => Step::Month,
        };
    }

    private static function plus(string $day, int $days): string
    {
        return Moment::addDays($day, $days) ?? $day;
    }

    /** The same day of the year before; of 29 February the 28th. */
    private static function yearBefore(string $day): string
    {
        return Moment::addMonths($day, -12) ?? $day;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return array_filter(
            ['by' => $this->by, 'days' => $this->days, 'since' => $this->since, 'against' => $this->against],
            static fn (mixed $v): bool => $v !== null,
        );
    }
}
