<?php

declare(strict_types=1);

namespace PinYard\Board;

/** A group as it is called and drawn, the same wherever it stands. */
final readonly class Line
{
    /**
     * @param  string|null  $code  null: those that have none
     * @param  array<string, mixed>  $peg  how its mark is drawn; empty where it has none
     */
    public function __construct(public ?string $code, public ?string $label, public array $peg = [])
    {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return ['code' => $this->code, 'label' => $this->label] + $this->peg;
    }
}
