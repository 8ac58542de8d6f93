<?php

declare(strict_types=1);

namespace PinYard\Flag;

/** Another record, and how far it is from the one at hand. */
final readonly class Nearby
{
    /**
     * @param  string  $id  16 bytes
     * @param  float  $metres  between their places
     * @param  float  $seconds  between the moments when they were collected, never less than 0
     * @param  float  $slack  metres by which both fixes may be wrong
     */
    public function __construct(
        public string $id,
        public float $metres,
        public float $seconds,
        public float $slack = 0.0,
    ) {
    }
}
