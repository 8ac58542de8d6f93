<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Refused;

/** From which zoom up to which something is drawn; zooms as map styles count them, in tiles of 512 pixels. */
final readonly class ZoomRange
{
    public const FARTHEST = 0.0;

    public const NEAREST = 22.0;

    private function __construct(public float $from, public float $to)
    {
    }

    public static function all(): self
    {
        return new self(self::FARTHEST, self::NEAREST);
    }

    /**
     * Reads `[from, to]`.
     *
     * @throws Refused
     */
    public static function read(mixed $in, string $at): self
    {
        [$from, $to] = is_array($in) && array_is_list($in) && count($in) === 2 ? $in : [null, null];
        if (
            ! is_int($from) && ! is_float($from) || ! is_int($to) && ! is_float($to) ||
            ! ($from >= self::FARTHEST && $from < $to && $to <= self::NEAREST)
        ) {
            throw Refused::because('zoom_range', $at, null, ['from' => self::FARTHEST, 'to' => self::NEAREST]);
        }

        return new self((float) $from, (float) $to);
    }

    public function isAll(): bool
    {
        return $this->from === self::FARTHEST && $this->to === self::NEAREST;
    }

    /** Whether something is drawn at a zoom; also nearer than one can choose, and farther. */
    public function holds(float $zoom): bool
    {
        return ($zoom >= $this->from || $this->from === self::FARTHEST) &&
            ($zoom < $this->to || $this->to === self::NEAREST);
    }

    /**
     * @param  array<string, mixed>  $layer  of a map style; it keeps what it has said of zooms, where that is narrower
     * @return array<string, mixed>|null null where it would never be drawn
     */
    public function narrow(array $layer): ?array
    {
        $zoom = static fn (mixed $said, float $else): float => is_int($said) || is_float($said) ? (float) $said : $else;
        $from = max($this->from, $zoom($layer['minzoom'] ?? null, self::FARTHEST));
        $to = min($this->to, $zoom($layer['maxzoom'] ?? null, self::NEAREST));
        if ($from >= $to) {
            return null;
        }
        unset($layer['minzoom'], $layer['maxzoom']);

        return $layer +
            ($from > self::FARTHEST ? ['minzoom' => $from] : []) +
            // A style's zoom may go beyond the nearest that one can choose; "all" must not end there.
            ($to < self::NEAREST ? ['maxzoom' => $to] : []);
    }

    /** @return array{float, float} */
    public function toArray(): array
    {
        return [$this->from, $this->to];
    }
}
