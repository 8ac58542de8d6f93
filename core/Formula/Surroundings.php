<?php

declare(strict_types=1);

namespace PinYard\Formula;

/** What a formula is worked out in: one record, a moment, a time zone. */
final class Surroundings
{
    /**
     * @param  array<string, mixed>  $values  by field key, as JSON has them
     * @param  array<string, array<array-key, string>>  $labels  code to label, by key of a choice field
     */
    public function __construct(
        public array $values,
        public readonly \DateTimeImmutable $now,
        public readonly \DateTimeZone $zone,
        public readonly array $labels = [],
        public readonly ?float $lon = null,
        public readonly ?float $lat = null,
    ) {
    }
}
