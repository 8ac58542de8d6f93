<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Problem;

/** Where a row lies, or why nobody can say. */
final readonly class RowPlace
{
    /**
     * @param  'swapped'|'sign'|'outside'|'matched'|null  $how  what was done or noticed
     * @param  list<array{name: string, of: string, lon: float, lat: float, score: float}>  $candidates
     */
    private function __construct(
        public Position|Shape|null $place,
        public ?Problem $problem,
        public ?string $how,
        public array $candidates,
    ) {
    }

    /** @param  'swapped'|'sign'|'outside'|'matched'|null  $how */
    public static function at(Position|Shape $place, ?string $how = null): self
    {
        return new self($place, null, $how, []);
    }

    /** @param  list<array{name: string, of: string, lon: float, lat: float, score: float}>  $candidates */
    public static function nowhere(Problem $problem, array $candidates = []): self
    {
        return new self(null, $problem, null, $candidates);
    }
}
