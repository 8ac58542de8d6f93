<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\NumberClasses;
use PinYard\Carto\Peg;
use PinYard\Carto\Tally;
use PinYard\Refused;

/** A mark for each class of numbers, the lowest first; whose numbers they are the kinds of it say. */
abstract readonly class ByNumbers extends Marks
{
    /** @param  array<int, Peg>  $classes  by the number of the class */
    protected function __construct(protected NumberClasses $numbers, array $classes, Peg $other)
    {
        parent::__construct($classes, $other);
    }

    /** @return array<int, Peg> discs of the scheme's colours, one for each class */
    protected static function discs(NumberClasses $numbers): array
    {
        return array_map(
            static fn (string $colour): Peg => Peg::of('disc', $colour),
            $numbers->scheme->colours(count($numbers->breaks) + 1),
        );
    }

    /**
     * Reads `{classes: [{head, colour, label?}], other}`; a class that is not named has the scheme's colour.
     *
     * @param  array<mixed>  $in
     * @return array{array<int, Peg>, Peg}
     *
     * @throws Refused
     */
    protected static function readPegs(array $in, NumberClasses $numbers): array
    {
        $classes = self::discs($numbers);
        foreach (is_array($in['classes'] ?? null) ? array_values($in['classes']) : [] as $i => $class) {
            $classes[$i] = Peg::read($class, "look/classes/$i");
        }

        return [$classes, isset($in['other']) ? Peg::read($in['other'], 'look/other') : Peg::missing()];
    }

    public function numbers(): NumberClasses
    {
        return $this->numbers;
    }

    public function fills(): bool
    {
        return true;
    }

    /** Only neighbours have to be told apart. */
    protected function compared(): array
    {
        $pairs = [];
        for ($i = 1; $i < count($this->classes); $i++) {
            $pairs[] = [$i - 1, $i];
        }

        return $pairs;
    }

    /** @return array<string, mixed> */
    protected function classesToArray(): array
    {
        return [
            'method' => $this->numbers->method->value,
            'scheme' => $this->numbers->scheme->value,
            'breaks' => $this->numbers->breaks,
            'classes' => array_map(
                static fn (Peg $peg, ?string $label): array => $peg->toArray() +
                    ($label === null ? [] : ['label' => $label]),
                array_values($this->classes),
                $this->numbers->labels,
            ),
            'other' => $this->other->toArray(),
        ];
    }

    public function legend(array $counts, array $drawn): array
    {
        $lines = [];
        foreach ($this->numbers->labels as $i => $label) {
            [$from, $to] = $this->numbers->rangeOf($i);
            $lines[] =
                ['code' => (string) $i, 'label' => $label] +
                $this->classes[$i]->toArray() + ['count' => $counts[$i] ?? 0] +
                $drawn + (isset($drawn['geometry']) && isset($drawn['plain']) ? ['filled' => true] : []) +
                ['from' => $from, 'to' => $to];
            unset($counts[$i]);
        }
        $few = $this->few($counts[Tally::FEW] ?? 0, $drawn);
        if ($few !== []) {
            unset($counts[Tally::FEW]);
        }

        return [...$lines, ...$few, ...$this->rest($counts, $drawn)];
    }

    /**
     * The line of what is too little to say anything by.
     *
     * @param  array<string, mixed>  $drawn
     * @return list<array<string, mixed>>
     */
    protected function few(int $count, array $drawn): array
    {
        return [];
    }
}
