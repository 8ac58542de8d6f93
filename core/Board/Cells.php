<?php

declare(strict_types=1);

namespace PinYard\Board;

/** What groups are made of by a second grouping. */
final readonly class Cells
{
    /**
     * @param  list<Line>  $lines  of the second grouping
     * @param  array<array-key, array<array-key, float>>  $values  by code of the first and of the second; '' has none
     */
    public function __construct(public array $lines, private array $values)
    {
    }

    /** @return list<float> one for each line */
    public function of(Line $row): array
    {
        return array_map(
            fn (Line $line): float => $this->values[$row->code ?? ''][$line->code ?? ''] ?? 0.0,
            $this->lines,
        );
    }
}
