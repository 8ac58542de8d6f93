<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\Peg;

/** One mark for all. */
final readonly class OneMark extends Marks
{
    public function __construct(Peg $peg)
    {
        parent::__construct([], $peg);
    }

    public function fields(): array
    {
        return [];
    }

    public function classOf(callable $stored): ?string
    {
        return null;
    }

    public function toArray(): array
    {
        return ['kind' => 'single', 'peg' => $this->other->toArray()];
    }

    public function carries(): array
    {
        return [];
    }

    public function legend(array $counts, array $drawn): array
    {
        // Of a single class lines and areas are drawn without a head.
        return [
            ['code' => null, 'label' => null] +
            $this->other->toArray() + ['count' => array_sum($counts)] +
            $drawn + ($drawn === [] ? [] : ['plain' => true]),
        ];
    }
}
