<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\NumberClasses;
use PinYard\Carto\Peg;
use PinYard\Carto\Scheme;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Refused;
use PinYard\Stats\Method;

/**
 * Records counted in the cells of a grid, or a number of theirs summed: areas are drawn, one for each cell with
 * records, so that the legend is true. Cells are quarters of the Web Mercator square ({@see \PinYard\Geo\ZOrder}): on
 * the map all are as large, on the ground they are smaller towards the poles.
 */
final readonly class Density extends ByNumbers
{
    /** Sides of cells in bits of ZOrder's steps of some 19 mm: from 10 m to 1,250 km at the equator. */
    public const FINEST = 9;

    public const COARSEST = 26;

    /**
     * @param  Field|null  $field  what is summed; null: the records themselves are counted
     * @param  int  $bits  of a cell's side in steps
     * @param  array<int, Peg>  $classes  by the number of the class
     */
    private function __construct(
        public ?Field $field,
        public int $bits,
        NumberClasses $numbers,
        array $classes,
        Peg $other,
    ) {
        parent::__construct($numbers, $classes, $other);
    }

    public static function of(?Field $field, int $bits, NumberClasses $numbers): self
    {
        return new self($field, $bits, $numbers, self::discs($numbers), Peg::missing());
    }

    /** Before it is known where its numbers part. */
    public static function unclassed(?Field $field, int $bits): self
    {
        return self::of($field, $bits, NumberClasses::of(Method::Natural, Scheme::Tide, []));
    }

    /**
     * Reads `{field, bits, method, scheme, breaks, classes, other}`.
     *
     * @param  array<mixed>  $in
     *
     * @throws Refused
     */
    public static function read(array $in, LayerDesign $design): self
    {
        $numbers = NumberClasses::read($in);

        return new self(
            isset($in['field']) ? NumberField::of($in['field'], $design) : null,
            self::bits($in['bits'] ?? null),
            $numbers,
            ...self::readPegs($in, $numbers),
        );
    }

    /** @throws Refused */
    public static function bits(mixed $in): int
    {
        return is_int($in) && $in >= self::FINEST && $in <= self::COARSEST
            ? $in
            : throw Refused::because('look_cells', 'look/bits', is_scalar($in) ? $in : null, [
                'least' => self::FINEST,
                'most' => self::COARSEST,
            ]);
    }

    public function fields(): array
    {
        return $this->field === null ? [] : [$this->field->key];
    }

    /** Cells have classes, records have none. */
    public function classOf(callable $stored): ?string
    {
        return null;
    }

    public function carries(): array
    {
        return ['cells' => $this->bits, 'by' => $this->field?->key, 'breaks' => $this->numbers->breaks];
    }

    public function toArray(): array
    {
        return ['kind' => 'density', 'field' => $this->field?->key, 'bits' => $this->bits] + $this->classesToArray();
    }
}
