<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Formula\Surroundings;
use PinYard\Geo\Shape;

/** What a record is at the moment when an operation on it is decided. */
final readonly class RecordState
{
    /**
     * @param  bool  $mine  whether who sends the operation made it
     * @param  int  $othersAt  the last version that somebody else, or another phone, made
     * @param  array<string, mixed>  $values  by today's design
     * @param  Surroundings  $in  what its formulas are worked out in
     * @param  array<string, int>  $files  how many it has, by slot ('' for photos at large)
     * @param  int  $visitedAt  the change number of the last visit to it by somebody else; 0 without
     */
    public function __construct(
        public int $version,
        public bool $deleted,
        public bool $mine,
        public int $othersAt,
        public array $values,
        public Shape $shape,
        public ?float $altitude,
        public Surroundings $in,
        public array $files = [],
        public int $visitedAt = 0,
    ) {
    }

    /**
     * The state after one more change by who sends the operation.
     *
     * @param  array<string, mixed>  $values
     * @param  array<string, int>  $files
     */
    public function then(array $values, Shape $shape, ?float $altitude, bool $deleted, array $files): self
    {
        return new self(
            $this->version + 1,
            $deleted,
            $this->mine,
            $this->othersAt,
            $values,
            $shape,
            $altitude,
            $this->in,
            $files,
            $this->visitedAt,
        );
    }
}
