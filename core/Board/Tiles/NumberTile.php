<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Compared;
use PinYard\Board\Facts;
use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\Grouping;
use PinYard\Board\Measure;
use PinYard\Board\Reading;
use PinYard\Board\TileInput;

/** One large number, perhaps of a span of days with what it was before and a small line. */
final readonly class NumberTile extends MeasuringTile
{
    private function __construct(
        Frame $frame,
        Reading $reading,
        Measure $measure,
        Format $format,
        private ?Compared $compared,
    ) {
        parent::__construct($frame, $reading, $measure, $format);
    }

    public static function kind(): string
    {
        return 'number';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        $measure = $in->measure($reading->layer);

        return new self(
            $frame,
            $reading,
            $measure,
            Format::read($in, $measure),
            Compared::read($in, $reading->layer),
        );
    }

    public function tellsFigures(): bool
    {
        return true;
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        $compared = $this->compared;
        $today = $facts->today();
        $now = $compared === null ? $this->reading : $this->reading->within($compared->by, ...$compared->span($today));
        [$figure] = $facts->figures()->of($now, [$this->measure]);
        $answer = [
            'value' => $this->format->of($figure->value),
            'n' => $figure->n,
            'missing' => $figure->n - $figure->known,
            'least' => $figure->held ? $facts->figures()->least() : null,
        ] + $this->format->said();
        if ($compared === null) {
            return $answer;
        }
        $before = $compared->earlier($today);
        [$earlier] = $facts->figures()->of($this->reading->within($compared->by, ...$before), [$this->measure]);

        return $answer + [
            'span' => $compared->span($today),
            'earlier' => [
                'value' => $this->format->of($earlier->value),
                'n' => $earlier->n,
                'from' => $before[0],
                'to' => $before[1],
                'against' => $compared->against,
                'least' => $earlier->held ? $facts->figures()->least() : null,
            ],
            'line' => $this->line($facts, $now, $compared, $today),
        ];
    }

    /** @return list<array{string, float|null}> the measure of each day, week or month of the span */
    private function line(Facts $facts, Reading $now, Compared $compared, string $today): array
    {
        if ($facts->figures()->least() > 1) {
            // Its days would mostly be of too few, and the whole not told for that.
            return [];
        }
        $step = $compared->step($today);
        [$from, $to] = $compared->span($today);
        $by = Grouping::time($compared->by, $step, $compared->field);
        $values = [];
        foreach ($facts->figures()->by($now, [$this->measure], $by) as $group) {
            $values[(string) $group->keys[0]] = $group->figures[0]->number();
        }
        $line = [];
        foreach ($step->all($step->startOf($from), $to, 400) ?? [] as $at) {
            $line[] = [$at, $this->format->number($values[$at] ?? ($this->measure->kind->adds() ? 0.0 : null))];
        }

        return $line;
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return parent::body() + ['compare' => $this->compared?->toArray()];
    }
}
