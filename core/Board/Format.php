<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Refused;

/** In which unit, and with how many decimals, a tile tells its measure. */
final readonly class Format
{
    private const MOST_DECIMALS = 6;

    /**
     * @param  string|null  $unit  as it is written; null: none
     * @param  float  $factor  what values are multiplied by
     * @param  int|null  $decimals  null: as many as say something
     */
    private function __construct(
        public ?string $unit,
        private float $factor,
        public ?int $decimals,
        private ?string $chosenUnit,
        private ?int $chosenDecimals,
    ) {
    }

    /**
     * Reads `{unit?, decimals?}` of a tile.
     *
     * @throws Refused
     */
    public static function read(TileInput $tile, Measure $measure): self
    {
        $kept = $measure->unit();
        $unit = $tile->value('unit');
        $factor = is_string($unit) && $unit !== $kept ? Unit::factor($kept, $unit) : 1.0;
        if (($unit !== null && ! is_string($unit)) || $factor === null) {
            throw $tile->refused('tile_unit', 'unit', $unit, ['unit' => $kept ?? '']);
        }
        $decimals = $tile->whole('decimals', 0, self::MOST_DECIMALS, null);

        return new self(
            is_string($unit) ? $unit : $kept,
            $factor,
            $decimals ?? ($factor === 1.0 ? $measure->decimals() : null),
            is_string($unit) ? $unit : null,
            $decimals,
        );
    }

    public function of(float|string|null $value): float|string|null
    {
        return is_float($value) ? $value * $this->factor : $value;
    }

    public function number(?float $value): ?float
    {
        return $value === null ? null : $value * $this->factor;
    }

    /** @return array{unit: string|null, decimals: int|null} for whoever writes the numbers */
    public function said(): array
    {
        return ['unit' => $this->unit, 'decimals' => $this->decimals];
    }

    /** @return array<string, mixed> as it is kept */
    public function toArray(): array
    {
        return ['unit' => $this->chosenUnit, 'decimals' => $this->chosenDecimals];
    }
}
