<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\NumberClasses;
use PinYard\Carto\Peg;
use PinYard\Carto\Tally;
use PinYard\Carto\TallyState;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** A mark for each class of what is told of the records in each area. */
final readonly class ByTally extends ByNumbers
{
    /** @param  array<int, Peg>  $classes  by the number of the class */
    private function __construct(private Tally $tally, NumberClasses $numbers, array $classes, Peg $other)
    {
        parent::__construct($numbers, $classes, $other);
    }

    /** @param  array<int, Peg>|null  $classes  null: discs of the scheme's colours */
    public static function of(Tally $tally, NumberClasses $numbers, ?array $classes = null, ?Peg $other = null): self
    {
        return new self($tally, $numbers, $classes ?? self::discs($numbers), $other ?? Peg::missing());
    }

    /**
     * Reads `{of, method, scheme, breaks, classes, other}`.
     *
     * @param  array<mixed>  $in
     * @param  callable(int): ?LayerDesign  $others  designs of the layers that it may count, by number
     *
     * @throws Refused
     */
    public static function read(array $in, LayerDesign $design, callable $others): self
    {
        $numbers = NumberClasses::read($in);

        return self::of(
            Tally::read($in['of'] ?? null, $design, $others),
            $numbers,
            ...self::readPegs($in, $numbers),
        );
    }

    /** With at least so many records to each. */
    public function withLeast(int $least): self
    {
        /** @var array<int, Peg> $classes */
        $classes = $this->classes;

        return new self($this->tally->withLeast($least), $this->numbers, $classes, $this->other);
    }

    public function tally(): Tally
    {
        return $this->tally;
    }

    public function fields(): array
    {
        return $this->tally->by === null ? [] : [$this->tally->by->key];
    }

    /** No value of the area itself says it: {@see classOfArea()}. */
    public function classOf(callable $stored): ?string
    {
        return null;
    }

    /** @param  float|null  $by  what the area has of what a rate is told by */
    public function classOfArea(TallyState $state, ?float $by): ?string
    {
        return $this->tally->isFew($state) ? Tally::FEW : $this->numbers->codeOf($this->tally->valueOf($state, $by));
    }

    public function carries(): array
    {
        return ['of' => $this->tally->toArray(), 'breaks' => $this->numbers->breaks];
    }

    public function toArray(): array
    {
        return ['kind' => 'inside', 'of' => $this->tally->toArray()] + $this->classesToArray();
    }

    protected function few(int $count, array $drawn): array
    {
        return $this->tally->least === 0 ? [] : [
            ['code' => Tally::FEW, 'label' => null] +
            $this->other->toArray() + ['count' => $count] +
            $drawn + ['hatched' => true],
        ];
    }
}
