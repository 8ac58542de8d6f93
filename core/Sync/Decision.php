<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Geo\Shape;
use PinYard\Problem;

/** The answer to one operation, and what is to be written for it. */
final readonly class Decision
{
    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values  of a record that is added, by the design
     *     that its form showed
     * @param  list<DeclaredFile>  $files
     * @param  list<Problem>  $problems
     * @param  RecordState|null  $after  a record that was there, as it is afterwards
     * @param  bool  $writes  whether that is a new version
     * @param  list<ClashedValue>  $clashes
     * @param  bool  $revives  whether it is a visit to a record that was deleted meanwhile, which comes back with it
     */
    private function __construct(
        public Operation $operation,
        public Outcome $outcome,
        public array $values = [],
        public ?Shape $shape = null,
        public array $files = [],
        public array $problems = [],
        public ?RecordState $after = null,
        public bool $writes = false,
        public array $clashes = [],
        public bool $revives = false,
    ) {
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @param  list<DeclaredFile>  $files
     */
    public static function applied(
        Operation $operation,
        array $values,
        Shape $shape,
        array $files,
        bool $revives = false,
    ): self {
        return new self(
            $operation,
            $revives ? Outcome::Clash : Outcome::Applied,
            $values,
            $shape,
            $files,
            clashes: $revives ? [new ClashedValue(ClashedValue::DELETED, false, true, false, 'mine')] : [],
            revives: $revives,
        );
    }

    /**
     * @param  bool  $writes  whether there is something to write; else the record stays at its version
     * @param  bool  $others  whether others had changed the record meanwhile
     * @param  list<ClashedValue>  $clashes
     * @param  list<DeclaredFile>  $files  that join the record
     */
    public static function changed(
        Operation $operation,
        RecordState $after,
        bool $writes,
        bool $others,
        array $clashes = [],
        array $files = [],
    ): self {
        $outcome = match (true) {
            $clashes !== [] => Outcome::Clash,
            $others => Outcome::Merged,
            default => Outcome::Applied,
        };

        return new self($operation, $outcome, files: $files, after: $after, writes: $writes, clashes: $clashes);
    }

    /**
     * @param  list<Problem>  $problems  why it cannot be taken as it is
     * @param  list<DeclaredFile>  $files
     * @param  RecordState|null  $state  of the record, where it is there
     */
    public static function held(
        Operation $operation,
        array $problems,
        array $files = [],
        ?RecordState $state = null,
    ): self {
        return new self($operation, Outcome::Held, files: $files, problems: $problems, after: $state);
    }

    /** @param  list<Problem>  $problems */
    public static function refused(Operation $operation, array $problems): self
    {
        return new self($operation, Outcome::Refused, problems: $problems);
    }
}
