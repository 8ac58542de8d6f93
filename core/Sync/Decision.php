<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Geo\Shape;
use PinYard\Problem;

/** The answer to one operation, and what is to be written for it. */
final readonly class Decision
{
    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @param  list<DeclaredFile>  $files
     * @param  list<Problem>  $problems
     */
    private function __construct(
        public Operation $operation,
        public Outcome $outcome,
        public array $values = [],
        public ?Shape $shape = null,
        public array $files = [],
        public array $problems = [],
    ) {
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @param  list<DeclaredFile>  $files
     */
    public static function applied(Operation $operation, array $values, Shape $shape, array $files): self
    {
        return new self($operation, Outcome::Applied, $values, $shape, $files);
    }

    /** @param  list<Problem>  $problems */
    public static function refused(Operation $operation, array $problems): self
    {
        return new self($operation, Outcome::Refused, problems: $problems);
    }
}
