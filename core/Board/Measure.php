<?php

declare(strict_types=1);

namespace PinYard\Board;

/**
 * What a tile tells of its records: how many, or something of what they hold. A ratio is made of two others, each of
 * all the tile's records or of those in a slice.
 */
final readonly class Measure
{
    /** Ratios are told by one, a hundred, a thousand, a hundred thousand. */
    private const TIMES = [1, 100, 1_000, 100_000];

    /**
     * @param  float|null  $share  of a quantile, between 0 and 1
     * @param  int|null  $slice  whose share is told; of other measures, whose records alone are measured
     * @param  int  $times  a ratio is told by so many
     */
    private function __construct(
        public MeasureKind $kind,
        public ?Quantity $quantity = null,
        public ?float $share = null,
        public ?int $slice = null,
        public ?self $top = null,
        public ?self $bottom = null,
        public int $times = 1,
    ) {
    }

    public static function count(): self
    {
        return new self(MeasureKind::Count);
    }

    /** The same of the records in a slice. */
    public function within(?int $slice): self
    {
        return new self(
            $this->kind,
            $this->quantity,
            $this->share,
            $slice,
            $this->top,
            $this->bottom,
            $this->times,
        );
    }

    /** Whether it tells of who has been at work. */
    public function tellsPeople(): bool
    {
        return array_filter(
            $this->all(),
            static fn (self $m): bool => $m->quantity?->key === Quantity::PERSON || $m->kind->isEffort(),
        ) !== [];
    }

    /**
     * Reads `{of, field?, p?, slice?, top?, bottom?, times?}`; nothing is a count.
     *
     * @throws \PinYard\Refused
     */
    public static function read(mixed $in, int $layer, TileInput $tile, string $at, bool $inRatio = false): self
    {
        if ($in === null) {
            return self::count();
        }
        $in = is_array($in) ? $in : [];
        $of = $in['of'] ?? null;
        $kind = is_string($of) ? MeasureKind::tryFrom($of) : null;
        if ($kind === null || ($inRatio && $kind === MeasureKind::Ratio)) {
            throw $tile->refused('measure_unknown', "$at/of", $of);
        }
        if ($kind === MeasureKind::Ratio) {
            $times = $in['times'] ?? 1;
            if (! in_array($times, self::TIMES, true)) {
                throw $tile->refused('measure_times', "$at/times", $times);
            }

            return new self(
                $kind,
                top: self::read($in['top'] ?? null, $layer, $tile, "$at/top", true),
                bottom: self::read($in['bottom'] ?? null, $layer, $tile, "$at/bottom", true),
                times: $times,
            );
        }
        $slice = $tile->slice($in['slice'] ?? null, $layer, "$at/slice");
        if ($kind === MeasureKind::Share && $slice === null) {
            throw $tile->refused('measure_share', "$at/slice");
        }
        $quantity = $kind->needsQuantity() ? $tile->quantity($in['field'] ?? null, $layer, "$at/field") : null;
        if ($quantity !== null && ! $quantity->has($kind)) {
            throw $tile->refused('measure_field', "$at/field", $quantity->key, [
                'field' => $quantity->field->label ?? $quantity->key,
            ]);
        }
        $share = $kind === MeasureKind::Quantile ? $in['p'] ?? null : null;
        if ($kind === MeasureKind::Quantile && (! is_int($share) && ! is_float($share) || $share < 0 || $share > 1)) {
            throw $tile->refused('measure_quantile', "$at/p", $share);
        }

        return new self($kind, $quantity, is_int($share) || is_float($share) ? (float) $share : null, $slice);
    }

    /** What it is told in before anything is converted. */
    public function unit(): ?string
    {
        return match (true) {
            $this->kind === MeasureKind::Share => '%',
            $this->kind === MeasureKind::Walked => 'km',
            $this->kind === MeasureKind::Hours => 'h',
            $this->kind->keepsUnit() => $this->quantity?->unit,
            default => null,
        };
    }

    /** Decimals that it is shown with; null: as many as say something. */
    public function decimals(): ?int
    {
        return match ($this->kind) {
            MeasureKind::Count, MeasureKind::Distinct => 0,
            MeasureKind::Share, MeasureKind::Walked, MeasureKind::Hours => 1,
            MeasureKind::Sum, MeasureKind::Least, MeasureKind::Most => $this->quantity?->decimals(),
            default => null,
        };
    }

    /** @return list<int> numbers of the slices that it goes by */
    public function slices(): array
    {
        return array_values(array_filter(
            [$this->slice, ...$this->top?->slices() ?? [], ...$this->bottom?->slices() ?? []],
            is_int(...),
        ));
    }

    /** @return list<string> keys of the fields that it reads */
    public function fields(): array
    {
        return array_values(array_filter(
            [$this->quantity?->field?->key, ...$this->top?->fields() ?? [], ...$this->bottom?->fields() ?? []],
            is_string(...),
        ));
    }

    /** @return list<self> itself, and what it is made of */
    public function all(): array
    {
        return [$this, ...$this->top?->all() ?? [], ...$this->bottom?->all() ?? []];
    }

    /**
     * What it is called by, for whoever reads it: the labels of fields and not their keys, nothing of slices.
     *
     * @return array<string, mixed> `{of, field?, p?, top?, bottom?}`
     */
    public function told(): array
    {
        return array_filter(
            [
                'of' => $this->kind->value,
                'field' => $this->quantity === null ? null : $this->quantity->field->label ?? $this->quantity->key,
                'p' => $this->share,
                'top' => $this->top?->told(),
                'bottom' => $this->bottom?->told(),
            ],
            static fn (mixed $v): bool => $v !== null,
        );
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return array_filter(
            [
                'of' => $this->kind->value,
                'field' => $this->quantity?->key,
                'p' => $this->share,
                'slice' => $this->slice,
                'top' => $this->top?->toArray(),
                'bottom' => $this->bottom?->toArray(),
                'times' => $this->kind === MeasureKind::Ratio ? $this->times : null,
            ],
            static fn (mixed $v): bool => $v !== null,
        );
    }
}
