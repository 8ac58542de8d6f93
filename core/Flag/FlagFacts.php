<?php

declare(strict_types=1);

namespace PinYard\Flag;

use DateTimeImmutable;
use PinYard\Geo\Position;

/** What must be known of a record to find what speaks against it. */
final readonly class FlagFacts
{
    /**
     * @param  Position|null  $place  null where it has none
     * @param  bool|null  $inArea  whether it lies in one of the areas that it should lie in; null: not asked
     * @param  float|null  $accuracy  of its fix, in metres; null where it has none
     * @param  DateTimeImmutable  $collected  when it was made
     * @param  DateTimeImmutable  $received  when it arrived
     * @param  array<string, mixed>  $values  by key of the field
     * @param  array<string, int>  $files  how many it has or are on their way, by slot; without a slot under ''
     * @param  Nearby|null  $near  the nearest of those collected close by in time, before it
     * @param  Nearby|null  $before  the record that the same person made before it, with a fix
     */
    public function __construct(
        public ?Position $place,
        public ?bool $inArea,
        public ?float $accuracy,
        public DateTimeImmutable $collected,
        public DateTimeImmutable $received,
        public array $values,
        public array $files,
        public ?Nearby $near = null,
        public ?Nearby $before = null,
    ) {
    }
}
