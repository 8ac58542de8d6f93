<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\Grouping;
use PinYard\Board\HeldBack;
use PinYard\Board\Line;
use PinYard\Board\Measure;
use PinYard\Board\Pick;
use PinYard\Board\Reading;
use PinYard\Board\Step;
use PinYard\Board\TileInput;
use PinYard\Board\TooFewToPart;

/** A measure over time: of each day, week, month or year, in one line or in one for each group. */
final readonly class TrendTile extends MeasuringTile
{
    /** Steps that are told; of more than that the next coarser ones are. */
    private const MOST_STEPS = 400;

    private const MOST_LINES = 8;

    /** Days dated later than this many years ahead are mistakes, and would press the line into a corner. */
    private const YEARS_AHEAD = 2;

    /** @param  bool  $running  each step tells all up to it */
    private function __construct(
        Frame $frame,
        Reading $reading,
        Measure $measure,
        Format $format,
        private Grouping $by,
        private ?Grouping $lines,
        private bool $running,
    ) {
        parent::__construct($frame, $reading, $measure, $format);
    }

    public static function kind(): string
    {
        return 'trend';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        $measure = $in->measure($reading->layer);
        $by = $in->grouping($reading->layer);
        if (! $by->isTime()) {
            throw $in->refused('tile_needs_date', 'by/field', $by->key);
        }
        $lines = $in->value('lines') === null ? null : $in->grouping($reading->layer, 'lines');
        if ($lines !== null && (! $lines->isClosed() || $lines->overlaps())) {
            throw $in->refused(
                'grouping_second',
                'lines',
                $lines->key,
                ['field' => $lines->field->label ?? $lines->key],
            );
        }
        $running = $in->yes('running');
        if ($running && ! $measure->kind->adds()) {
            throw $in->refused('trend_running', 'running');
        }

        return new self($frame, $reading, $measure, Format::read($in, $measure), $by, $lines, $running);
    }

    protected function groupings(): array
    {
        return $this->lines === null ? [$this->by] : [$this->by, $this->lines];
    }

    public function tellsFigures(): bool
    {
        return true;
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        if ($this->running && $facts->figures()->least() > 1) {
            // From one step to the next it would tell what is held back.
            throw HeldBack::because('held_running');
        }
        try {
            return $this->told($facts) + ['unparted' => false];
        } catch (TooFewToPart $few) {
            if ($this->lines === null) {
                throw $few;
            }
            $whole = new self($this->frame, $this->reading, $this->measure, $this->format, $this->by, null, false);

            return $whole->told($facts) + ['unparted' => true];
        }
    }

    /** @return array<string, mixed> */
    private function told(Facts $facts): array
    {
        $chosen = $this->by->step ?? Step::Day;
        $latest = ((int) substr($facts->today(), 0, 4) + self::YEARS_AHEAD).'-12-31';
        [$step, $steps, $groups] = $this->parted($facts, $chosen, $latest);
        $at = array_flip($steps);
        $values = [];
        $codes = [];
        $n = $outside = $missing = 0;
        foreach ($groups as $group) {
            $figure = $group->figures[0];
            $n += $figure->n;
            $i = $group->keys[0] === null ? null : $at[$group->keys[0]] ?? null;
            if ($i === null) {
                $group->keys[0] === null ? ($missing += $figure->n) : ($outside += $figure->n);

                continue;
            }
            $code = $this->lines === null ? '' : $group->keys[1] ?? '';
            $codes[$code] = $this->lines === null ? null : $group->keys[1];
            $values[$code][$i] = $this->format->number($figure->number());
        }

        return [
            'step' => $step->value,
            'coarser' => $step !== $chosen,
            'steps' => $steps,
            'lines' => $this->linesOf($facts, $values, array_values($codes), count($steps)),
            'parted' => $this->lines !== null,
            'running' => $this->running,
            'n' => $n,
            'missing' => $missing,
            'outside' => $outside,
            'least' => $facts->figures()->least() > 1 ? $facts->figures()->least() : null,
        ] + $this->format->said();
    }

    /** @return array{Step, list<string>, list<\PinYard\Board\Group>} */
    private function parted(Facts $facts, Step $step, string $latest): array
    {
        while (true) {
            $by = $this->by->withStep($step);
            $groups = $this->lines === null
                ? $facts->figures()->by($this->reading, [$this->measure], $by)
                : $facts->figures()->by($this->reading, [$this->measure], $by, $this->lines);
            $days = [];
            foreach ($groups as $group) {
                if ($group->keys[0] !== null && $group->keys[0] <= $latest) {
                    $days[] = $group->keys[0];
                }
            }
            if ($days === []) {
                return [$step, [], $groups];
            }
            $last = max($days);
            // A season that goes on is drawn up to today, so that silence is seen as silence.
            $today = $step->startOf($facts->today());
            $to = $last < $today && $step->all($last, $today, 60) !== null ? $today : $last;
            $steps = $step->all(min($days), $to, self::MOST_STEPS);
            $next = $step->next();
            if ($steps !== null) {
                return [$step, $steps, $groups];
            }
            if ($next === null) {
                // Centuries: what is before the last four hundred years is told as lying outside.
                $from = $step->after($to, 1 - self::MOST_STEPS);

                return [$step, $step->all($from, $to, self::MOST_STEPS) ?? [], $groups];
            }
            $step = $next;
        }
    }

    /**
     * @param  array<array-key, array<int, float|null>>  $values  by code and step
     * @param  list<string|null>  $codes
     * @return list<array<string, mixed>>
     */
    private function linesOf(Facts $facts, array $values, array $codes, int $steps): array
    {
        $lines = $this->lines === null
            ? [new Line(null, null)]
            : array_filter(
                $facts->lines($this->reading->layer, $this->lines, $codes),
                static fn (Line $l): bool => isset($values[$l->code ?? '']),
            );
        $out = [];
        foreach (array_slice(array_values($lines), 0, self::MOST_LINES) as $line) {
            $of = $values[$line->code ?? ''] ?? [];
            $row = [];
            $sum = 0.0;
            for ($i = 0; $i < $steps; $i++) {
                // A step that is there without a number is one that is not told.
                $value = $of[$i] ?? ($this->measure->kind->adds() && ! array_key_exists($i, $of) ? 0.0 : null);
                $sum += $value ?? 0.0;
                $row[] = $this->running ? $sum : $value;
            }
            $out[] = $line->toArray() + ['values' => $row];
        }

        return $out;
    }

    /** @param  string  $value  `from..to`, both days counted in */
    public function pick(string $value): ?Pick
    {
        return preg_match('/^(\d{4}-\d\d-\d\d)\.\.(\d{4}-\d\d-\d\d)$/D', $value, $m) === 1
            ? Pick::span($this->reading->layer, $this->by->key, $m[1], $m[2])
            : null;
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return parent::body() + [
            'by' => $this->by->toArray(),
            'lines' => $this->lines?->toArray(),
            'running' => $this->running,
        ];
    }
}
