<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\HeldBack;
use PinYard\Board\Measure;
use PinYard\Board\Plan;
use PinYard\Board\Reading;
use PinYard\Board\TileInput;

/** How far a measure has come towards a target, and how far it should be by today. */
final readonly class TargetTile extends MeasuringTile
{
    private function __construct(
        Frame $frame,
        Reading $reading,
        Measure $measure,
        Format $format,
        private Plan $plan,
    ) {
        parent::__construct($frame, $reading, $measure, $format);
    }

    public static function kind(): string
    {
        return 'target';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        $measure = $in->measure($reading->layer);

        return new self($frame, $reading, $measure, Format::read($in, $measure), Plan::read($in));
    }

    public function tellsFigures(): bool
    {
        return true;
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        [$figure] = $facts->figures()->of($this->reading, [$this->measure]);
        if ($figure->held) {
            throw HeldBack::because('held_few', null, null, ['least' => $facts->figures()->least()]);
        }
        $value = $this->format->number($figure->number());

        return [
            'value' => $value,
            'n' => $figure->n,
            'missing' => $figure->n - $figure->known,
        ] + $this->plan->answer($value ?? 0.0, $facts->today()) + $this->format->said();
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return parent::body() + $this->plan->toArray();
    }
}
