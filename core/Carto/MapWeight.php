<?php

declare(strict_types=1);

namespace PinYard\Carto;

/**
 * How much a map asks of whoever opens it, what makes it heavy, and what would help. The limits are our own: on a slow
 * laptop with drawing in software 5,000 pegs come within a second, 25,000 within some five.
 */
final readonly class MapWeight
{
    private const MUCH_SHAPES = 5_000;

    private const HEAVY_SHAPES = 25_000;

    private const MUCH_BYTES = 2_000_000;

    private const HEAVY_BYTES = 8_000_000;

    private const MANY_LAYERS = 8;

    /** @param  list<WeightOfLayer>  $layers */
    public function __construct(private array $layers)
    {
    }

    /** @return int records that are drawn when the map opens */
    public function shapes(): int
    {
        return array_sum(array_map(static fn (WeightOfLayer $l): int => $l->visible ? $l->drawn : 0, $this->layers));
    }

    /** @return int what is fetched when the map opens */
    public function bytes(): int
    {
        return array_sum(array_map(static fn (WeightOfLayer $l): int => $l->visible ? $l->bytes : 0, $this->layers));
    }

    /** @return 'light'|'medium'|'heavy' */
    public function level(): string
    {
        return match (true) {
            $this->shapes() > self::HEAVY_SHAPES || $this->bytes() > self::HEAVY_BYTES => 'heavy',
            $this->shapes() > self::MUCH_SHAPES ||
            $this->bytes() > self::MUCH_BYTES ||
            $this->shown() > self::MANY_LAYERS => 'medium',
            default => 'light',
        };
    }

    /**
     * What makes it so, the heaviest first; nothing of a light map.
     *
     * @return list<array{code: 'cut'|'shapes'|'corners'|'layers', layer?: string, drawn?: int, total?: int,
     *     bytes?: int, count?: int}>
     */
    public function reasons(): array
    {
        $reasons = [];
        foreach ($this->layers as $layer) {
            if ($layer->total > $layer->drawn) {
                $reasons[] = [
                    'code' => 'cut',
                    'layer' => $layer->title,
                    'drawn' => $layer->drawn,
                    'total' => $layer->total,
                ];
            }
        }
        if ($this->level() === 'light') {
            return $reasons;
        }
        $shown = array_filter($this->layers, static fn (WeightOfLayer $l): bool => $l->visible);
        usort($shown, static fn (WeightOfLayer $a, WeightOfLayer $b): int => $b->bytes <=> $a->bytes);
        foreach ($shown as $layer) {
            if ($layer->drawn > self::MUCH_SHAPES) {
                $reasons[] = ['code' => 'shapes', 'layer' => $layer->title, 'drawn' => $layer->drawn];
            } elseif ($layer->bytes > self::MUCH_BYTES) {
                $reasons[] = ['code' => 'corners', 'layer' => $layer->title, 'bytes' => $layer->bytes];
            }
        }
        if ($this->shown() > self::MANY_LAYERS) {
            $reasons[] = ['code' => 'layers', 'count' => $this->shown()];
        }

        return $reasons;
    }

    private function shown(): int
    {
        return count(array_filter($this->layers, static fn (WeightOfLayer $l): bool => $l->visible));
    }
}
