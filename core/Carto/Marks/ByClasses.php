<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\NumberClasses;
use PinYard\Carto\Peg;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** A mark for each class of a field's numbers. */
final readonly class ByClasses extends ByNumbers
{
    /** @param  array<int, Peg>  $classes  by the number of the class */
    private function __construct(public Field $field, NumberClasses $numbers, array $classes, Peg $other)
    {
        parent::__construct($numbers, $classes, $other);
    }

    /** @param  array<int, Peg>|null  $classes  null: discs of the scheme's colours */
    public static function of(Field $field, NumberClasses $numbers, ?array $classes = null, ?Peg $other = null): self
    {
        return new self($field, $numbers, $classes ?? self::discs($numbers), $other ?? Peg::missing());
    }

    /**
     * Reads `{field, method, scheme, breaks, classes, other}`.
     *
     * @param  array<mixed>  $in
     *
     * @throws Refused
     */
    public static function read(array $in, LayerDesign $design): self
    {
        $numbers = NumberClasses::read($in);

        return self::of(NumberField::of($in['field'] ?? null, $design), $numbers, ...self::readPegs($in, $numbers));
    }

    public function fields(): array
    {
        return [$this->field->key];
    }

    public function classOf(callable $stored): ?string
    {
        return $this->numbers->codeOf($stored($this->field->key));
    }

    public function carries(): array
    {
        return ['by' => $this->field->key, 'breaks' => $this->numbers->breaks];
    }

    public function toArray(): array
    {
        return ['kind' => 'classes', 'field' => $this->field->key] + $this->classesToArray();
    }
}
