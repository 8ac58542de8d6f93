<?php

declare(strict_types=1);

namespace PinYard\Bits;

/** Takes in what a field of each record holds, slot after slot, and gives it back as sets. */
interface Coder
{
    /** @param  list<int|float|string|null>  $values  of the next slots; null: has none */
    public function add(array $values): void;

    /** @throws NotByBits where it cannot be kept so */
    public function done(): NumberSlots|ChoiceSlots;
}
