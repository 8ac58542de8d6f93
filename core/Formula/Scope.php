<?php

declare(strict_types=1);

namespace PinYard\Formula;

/** What a formula may name: fields with their types, the codes of choices, fields of visits. */
final readonly class Scope
{
    /**
     * @param  array<string, Type>  $fields  by key
     * @param  array<string, array<array-key, string>>  $labels  code to label, by key of a choice field
     * @param  array<string, Type>  $visits  fields of the layer's visits, by key
     */
    public function __construct(public array $fields, public array $labels = [], public array $visits = [])
    {
    }

    public function with(string $key, Type $type): self
    {
        return new self([...$this->fields, $key => $type], $this->labels, $this->visits);
    }
}
