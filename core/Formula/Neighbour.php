<?php

declare(strict_types=1);

namespace PinYard\Formula;

/** A layer as formulas of others may name it. */
interface Neighbour
{
    public function title(): string;

    /** Key of the field that names its records. */
    public function nameKey(): ?string;

    /** @return array<string, Type> by key: the fields that formulas of others may read */
    public function typesForOthers(): array;
}
