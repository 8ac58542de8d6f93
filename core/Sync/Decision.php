<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Geo\Position;
use PinYard\Problem;

/** The answer to one operation, and what is to be written for it. */
final readonly class Decision
{
    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @param  list<DeclaredPhoto>  $photos
     * @param  list<Problem>  $problems
     */
    private function __construct(
        public Operation $operation,
        public Outcome $outcome,
        public array $values = [],
        public ?Position $position = null,
        public array $photos = [],
        public array $problems = [],
    ) {
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @param  list<DeclaredPhoto>  $photos
     */
    public static function applied(Operation $operation, array $values, Position $position, array $photos): self
    {
        return new self($operation, Outcome::Applied, $values, $position, $photos);
    }

    /** @param  list<Problem>  $problems */
    public static function refused(Operation $operation, array $problems): self
    {
        return new self($operation, Outcome::Refused, problems: $problems);
    }
}
