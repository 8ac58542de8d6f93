<?php

declare(strict_types=1);

namespace PinYard\Formula;

use PinYard\Geo\Shape;

/** What a formula is worked out in: one record, a moment, a time zone. */
final class Surroundings
{
    /**
     * @param  array<string, mixed>  $values  by field key, as JSON has them
     * @param  array<string, array<array-key, string>>  $labels  code to label, by key of a choice field
     * @param  float|null  $length  metres of a line, or around an area
     * @param  float|null  $area  square metres
     * @param  float|null  $altitude  metres
     * @param  int  $visits  how often the record was visited
     * @param  array<string, mixed>  $latest  values of its latest visit
     * @param  (\Closure(string, float, float): array<string, mixed>)|null  $areas  values of the area of a layer (by
     *     title) that a place lies in
     */
    public function __construct(
        public array $values,
        public readonly \DateTimeImmutable $now,
        public readonly \DateTimeZone $zone,
        public readonly array $labels = [],
        public readonly ?float $lon = null,
        public readonly ?float $lat = null,
        public readonly ?float $length = null,
        public readonly ?float $area = null,
        public readonly ?float $altitude = null,
        public readonly int $visits = 0,
        public readonly array $latest = [],
        public readonly ?\Closure $areas = null,
    ) {
    }

    /** The same surroundings for a record at another place. */
    public function at(?Shape $shape, ?float $altitude = null): self
    {
        return new self(
            $this->values,
            $this->now,
            $this->zone,
            $this->labels,
            $shape?->place->lon,
            $shape?->place->lat,
            $shape?->length,
            $shape?->area,
            $altitude,
            $this->visits,
            $this->latest,
            $this->areas,
        );
    }

    /**
     * The same surroundings before any value is known.
     *
     * @param  array<string, array<array-key, string>>  $labels
     */
    public function anew(array $labels): self
    {
        return new self(
            [],
            $this->now,
            $this->zone,
            $labels,
            $this->lon,
            $this->lat,
            $this->length,
            $this->area,
            $this->altitude,
            $this->visits,
            $this->latest,
            $this->areas,
        );
    }
}
