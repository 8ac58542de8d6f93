<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Formula\Moment;
use PinYard\Refused;

/**
 * A target, with where one should be on each day: evenly from the first day to the last, or along points of a planned
 * curve; and values on the way that mean something.
 */
final readonly class Plan
{
    private const MOST_POINTS = 60;

    private const MOST_THRESHOLDS = 6;

    /**
     * @param  float  $target  in the unit that the tile tells
     * @param  list<array{day: string, value: float}>  $curve  by day
     * @param  list<array{at: float, text: string}>  $thresholds  the lowest first
     */
    private function __construct(
        public float $target,
        public ?string $from,
        public ?string $to,
        public array $curve,
        public array $thresholds,
    ) {
    }

    /**
     * Reads `{target, from?, to?, curve?: [{day, value}], thresholds?: [{at, text}]}` of a tile.
     *
     * @throws Refused
     */
    public static function read(TileInput $tile): self
    {
        $target = self::number($tile, $tile->value('target'), 'target');
        if ($target <= 0) {
            throw $tile->refused('target_zero', 'target', $target);
        }
        $from = $tile->value('from') === null ? null : $tile->day($tile->value('from'), 'from');
        $to = $tile->value('to') === null ? null : $tile->day($tile->value('to'), 'to');
        if (($from === null) !== ($to === null)) {
            throw $tile->refused('target_days', $from === null ? 'from' : 'to');
        }
        if ($from !== null && $to !== null && $from >= $to) {
            throw $tile->refused('target_order', 'to', $to, ['from' => $from, 'to' => $to]);
        }

        return new self($target, $from, $to, self::curve($tile), self::thresholds($tile));
    }

    /**
     * @return list<array{day: string, value: float}>
     *
     * @throws Refused
     */
    private static function curve(TileInput $tile): array
    {
        $curve = [];
        foreach (self::listOf($tile, 'curve', self::MOST_POINTS) as $i => $point) {
            $day = $tile->day($point['day'] ?? null, "curve/$i/day");
            $curve[$day] = [
                'day' => $day,
                'value' => self::number($tile, $point['value'] ?? null, "curve/$i/value"),
            ];
        }
        ksort($curve);

        return array_values($curve);
    }

    /**
     * @return list<array{at: float, text: string}>
     *
     * @throws Refused
     */
    private static function thresholds(TileInput $tile): array
    {
        $thresholds = [];
        foreach (self::listOf($tile, 'thresholds', self::MOST_THRESHOLDS) as $i => $one) {
            $text = $one['text'] ?? '';
            if (! is_string($text) || mb_strlen($text) > 60) {
                throw $tile->refused('tile_text', "thresholds/$i/text");
            }
            $thresholds[] = ['at' => self::number($tile, $one['at'] ?? null, "thresholds/$i/at"), 'text' => $text];
        }
        usort($thresholds, static fn (array $a, array $b): int => $a['at'] <=> $b['at']);

        return $thresholds;
    }

    /**
     * @return list<array<mixed>>
     *
     * @throws Refused
     */
    private static function listOf(TileInput $tile, string $key, int $most): array
    {
        $list = $tile->value($key) ?? [];
        if (! is_array($list) || ! array_is_list($list) || count($list) > $most) {
            throw $tile->refused('tile_list', $key, null, ['most' => $most]);
        }

        return array_map(static fn (mixed $one): array => is_array($one) ? $one : [], $list);
    }

    /** @throws Refused */
    private static function number(TileInput $tile, mixed $value, string $at): float
    {
        return (is_int($value) || is_float($value)) && is_finite((float) $value) && abs($value) <= 1e15
            ? (float) $value
            : throw $tile->refused('tile_no_number', $at, $value);
    }

    /** Where one should be by the end of a day; null where nothing was planned by days. */
    public function dueOn(string $day): ?float
    {
        if ($this->curve !== []) {
            return $this->alongCurve($day);
        }
        if ($this->from === null || $this->to === null) {
            return null;
        }
        $days = Moment::days($this->from, $this->to) + 1;
        $gone = max(0, min($days, Moment::days($this->from, $day) + 1));

        return $this->target * ($gone / $days);
    }

    /** Between two points evenly; before the first nothing was due, after the last what it says. */
    private function alongCurve(string $day): float
    {
        $before = null;
        foreach ($this->curve as $point) {
            if ($point['day'] >= $day) {
                if ($point['day'] === $day) {
                    return $point['value'];
                }
                if ($before === null) {
                    return 0.0;
                }
                $part = Moment::days($before['day'], $day) / Moment::days($before['day'], $point['day']);

                return $before['value'] + ($point['value'] - $before['value']) * $part;
            }
            $before = $point;
        }

        return $before['value'] ?? 0.0;
    }

    /** @return array<string, mixed> */
    public function answer(float $value, string $today): array
    {
        $due = $this->dueOn($today);
        $passed = null;
        foreach ($this->thresholds as $threshold) {
            $passed = $value >= $threshold['at'] ? $threshold['text'] : $passed;
        }

        return [
            'target' => $this->target,
            'due' => $due,
            'from' => $this->from ?? $this->curve[0]['day'] ?? null,
            'to' => $this->to ?? $this->curve[count($this->curve) - 1]['day'] ?? null,
            'state' => match (true) {
                $value >= $this->target => 'reached',
                $due === null => 'open',
                $value >= $due => 'on',
                default => 'behind',
            },
            'passed' => $passed,
            'thresholds' => $this->thresholds,
        ];
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'target' => $this->target,
            'from' => $this->from,
            'to' => $this->to,
            'curve' => $this->curve,
            'thresholds' => $this->thresholds,
        ];
    }
}
