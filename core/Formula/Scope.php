<?php

declare(strict_types=1);

namespace PinYard\Formula;

/** What a formula may name: fields with their types, the codes of choices, what other layers have. */
final readonly class Scope
{
    /**
     * @param  array<string, Type>  $fields  by key
     * @param  array<string, array<array-key, string>>  $labels  code to label, by key of a choice field
     */
    public function __construct(public array $fields, public array $labels = [], public ?Neighbours $neighbours = null)
    {
    }
}
