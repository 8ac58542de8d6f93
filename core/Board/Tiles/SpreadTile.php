<?php

declare(strict_types=1);

namespace PinYard\Board\Tiles;

use PinYard\Board\Facts;
use PinYard\Board\Format;
use PinYard\Board\Frame;
use PinYard\Board\Measure;
use PinYard\Board\MeasureKind;
use PinYard\Board\Pick;
use PinYard\Board\Reading;
use PinYard\Board\TileInput;
use PinYard\Stats\Pretty;

/** How a number lies: how many records there are from each round number to the next. */
final readonly class SpreadTile extends MeasuringTile
{
    private const MOST_BARS = 30;

    private function __construct(Frame $frame, Reading $reading, Measure $measure, Format $format, private int $bars)
    {
        parent::__construct($frame, $reading, $measure, $format);
    }

    public static function kind(): string
    {
        return 'spread';
    }

    public static function read(TileInput $in, Frame $frame): self
    {
        $reading = $in->reading();
        $measure = $in->measure($reading->layer);
        if ($measure->quantity?->isNumber() !== true || $measure->kind !== MeasureKind::Mean) {
            throw $in->refused('tile_needs_number', 'measure/field', $measure->quantity?->key);
        }

        return new self(
            $frame,
            $reading,
            $measure,
            Format::read($in, $measure),
            $in->whole('bars', 2, self::MOST_BARS, 10) ?? 10,
        );
    }

    /** @return array<string, mixed> */
    public function answer(Facts $facts): array
    {
        $spread = $this->measure->quantity === null
            ? null
            : $facts->figures()->spread($this->reading, $this->measure->quantity);
        if ($spread === null || $spread->known() === 0) {
            return ['bars' => [], 'n' => $spread?->missing() ?? 0, 'missing' => $spread?->missing() ?? 0]
                + $this->format->said();
        }
        $ends = Pretty::numbers($spread->least(), $spread->most(), $this->bars);
        if (end($ends) <= $spread->most()) {
            // Every bar is from its lower end up to the upper one, which is the next one's.
            $ends[] = end($ends) + ($ends[1] ?? 1.0) - $ends[0];
        }
        $counts = $spread->counts(array_slice($ends, 1, -1));
        $bars = [];
        foreach ($counts as $i => $count) {
            $bars[] = [
                'from' => $this->format->number($ends[$i]),
                'to' => $this->format->number($ends[$i + 1] ?? $ends[$i]),
                'count' => $count,
                'pick' => "{$ends[$i]}..".($ends[$i + 1] ?? $ends[$i]),
            ];
        }

        return [
            'bars' => $bars,
            'mean' => $this->format->number($spread->mean()),
            'median' => $this->format->number($spread->quantile(0.5)),
            'deviation' => $spread->known() > 1 ? $this->format->number($spread->deviation()) : null,
            'least' => $this->format->number($spread->least()),
            'most' => $this->format->number($spread->most()),
            'n' => $spread->known() + $spread->missing(),
            'missing' => $spread->missing(),
        ] + $this->format->said();
    }

    /** @param  string  $value  `from..to`, the latter not counted in */
    public function pick(string $value): ?Pick
    {
        $ends = explode('..', $value);
        $field = $this->measure->quantity?->field;
        if ($field === null || count($ends) !== 2 || ! is_numeric($ends[0]) || ! is_numeric($ends[1])) {
            return null;
        }

        return Pick::of(
            $this->reading->layer,
            ['field' => $field->key, 'test' => 'at_least', 'value' => (float) $ends[0]],
            ['field' => $field->key, 'test' => 'at_most', 'value' => self::below((float) $ends[1])],
        );
    }

    /** As little below another number as survives being written with fourteen digits. */
    private static function below(float $number): float
    {
        return $number - max(abs($number) * 1e-12, 1e-300);
    }

    /** @return array<string, mixed> */
    protected function body(): array
    {
        return parent::body() + ['bars' => $this->bars];
    }
}
