<?php

declare(strict_types=1);

namespace PinYard\Flag;

/** A reason to look at a record again, with what one must know to judge it. */
final readonly class Flag
{
    /**
     * @param  string  $about  key of the field or slot; empty where it is the record as a whole
     * @param  string|null  $other  id (16 bytes) of the record that it is compared with
     * @param  array<string, scalar>  $said  for the sentence: metres, seconds, values
     */
    public function __construct(
        public FlagKind $kind,
        public string $about = '',
        public ?string $other = null,
        public array $said = [],
    ) {
    }
}
