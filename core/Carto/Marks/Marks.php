<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\ColourDifference;
use PinYard\Carto\NumberClasses;
use PinYard\Carto\Peg;
use PinYard\Carto\Tally;

/** By what the marks of a look differ: how a record comes to its class, and what is said of the classes. */
abstract readonly class Marks
{
    /**
     * @param  array<array-key, Peg>  $classes  by code
     * @param  Peg  $other  of what is in no class; where there are no classes, of all
     */
    public function __construct(public array $classes, public Peg $other)
    {
    }

    /** @return list<string> keys of the fields that they go by */
    abstract public function fields(): array;

    /**
     * @param  callable(string): (string|int|float|null)  $stored  a value of the record by the key of its field, as it
     *     is stored
     * @return string|null the class of a record; null where it is in none
     */
    abstract public function classOf(callable $stored): ?string;

    /** @return array<string, mixed> as it is kept and sent */
    abstract public function toArray(): array;

    /**
     * What features depend on; looks that differ in colours alone carry the same.
     *
     * @return array<string, mixed>
     */
    abstract public function carries(): array;

    /**
     * The legend, a line for each class.
     *
     * @param  array<array-key, int>  $counts  records by code; '' counts those without a value
     * @param  array<string, mixed>  $drawn  what each line says of how it is drawn
     * @return list<array<string, mixed>>
     */
    abstract public function legend(array $counts, array $drawn): array;

    /** The numbers' classes, where there are such. */
    public function numbers(): ?NumberClasses
    {
        return null;
    }

    /** What of the records in areas, where it goes by that. */
    public function tally(): ?Tally
    {
        return null;
    }

    /** Whether areas are filled so that they can be read from afar, as numbers need. */
    public function fills(): bool
    {
        return false;
    }

    /**
     * Classes that people have to tell apart: any two.
     *
     * @return list<array{array-key, array-key}> their codes
     */
    protected function compared(): array
    {
        $codes = array_keys($this->classes);
        $pairs = [];
        foreach ($codes as $i => $one) {
            foreach (array_slice($codes, $i + 1) as $other) {
                $pairs[] = [$one, $other];
            }
        }

        return $pairs;
    }

    /**
     * Classes whose marks have the same shape and can hardly be told apart.
     *
     * @param  bool  $headless  whether all are drawn in one shape, whatever their heads
     * @return list<array{string, string}> their codes; '' for the mark of what has no value
     */
    public function alike(bool $headless): array
    {
        $pairs = array_map(
            fn (array $pair): array => [
                (string) $pair[0],
                (string) $pair[1],
                $this->classes[$pair[0]],
                $this->classes[$pair[1]],
            ],
            $this->compared(),
        );
        foreach ($this->classes as $code => $peg) {
            $pairs[] = [(string) $code, '', $peg, $this->other];
        }
        $alike = [];
        foreach ($pairs as [$one, $other, $a, $b]) {
            if (
                ($headless || $a->isShapedAs($b)) &&
                ColourDifference::least($a->colour, $b->colour) < ColourDifference::CLOSE
            ) {
                $alike[] = [$one, $other];
            }
        }

        return $alike;
    }

    /**
     * The last line of a legend, for what is in no class; none where there is nothing of it.
     *
     * @param  array<array-key, int>  $counts  of the classes that have no line
     * @param  array<string, mixed>  $drawn
     * @return list<array<string, mixed>>
     */
    protected function rest(array $counts, array $drawn): array
    {
        return array_sum($counts) === 0 ? [] : [
            ['code' => null, 'label' => null] + $this->other->toArray() + ['count' => array_sum($counts)] + $drawn,
        ];
    }
}
