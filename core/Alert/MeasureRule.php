<?php

declare(strict_types=1);

namespace PinYard\Alert;

use PinYard\Board\Figure;
use PinYard\Board\Measure;
use PinYard\Board\MeasureKind;
use PinYard\Board\Reading;
use PinYard\Board\TileInput;

/** A measure that passes a value: one case, from when it has passed until it is back. */
final readonly class MeasureRule extends AlertRule
{
    private function __construct(
        public Reading $reading,
        public Measure $measure,
        public bool $above,
        public float $value,
    ) {
    }

    public static function read(TileInput $in, array $crews): self
    {
        $reading = $in->reading();
        $measure = $in->measure($reading->layer);
        // The first or the last of some days is no number that could pass one.
        if ($measure->quantity?->isDay() === true && $measure->kind !== MeasureKind::Distinct) {
            throw $in->refused('alert_measure', 'measure');
        }
        $value = $in->value('value');
        if ((! is_int($value) && ! is_float($value)) || ! is_finite((float) $value) || abs($value) > 1e15) {
            throw $in->refused('alert_value', 'value', $value);
        }

        return new self($reading, $measure, $in->word('passes', ['above', 'below']) === 'above', (float) $value);
    }

    /** Whether it has passed: to be at the value is not to have passed it. Nothing measured passes nothing. */
    public function hasPassed(Figure $figure): bool
    {
        $number = $figure->number();

        return $number !== null && ($this->above ? $number > $this->value : $number < $this->value);
    }

    public function layers(): array
    {
        return [$this->reading->layer];
    }

    public function slices(): array
    {
        return array_values(array_filter([$this->reading->slice, ...$this->measure->slices()], is_int(...)));
    }

    public function toArray(): array
    {
        return [
            'kind' => 'measure',
            'layer' => $this->reading->layer,
            'slice' => $this->reading->slice,
            'measure' => $this->measure->toArray(),
            'passes' => $this->above ? 'above' : 'below',
            'value' => $this->value,
        ];
    }
}
