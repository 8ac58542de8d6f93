<?php

declare(strict_types=1);

namespace PinYard\Formula;

/** What formulas of a layer may say of other layers: of visits to its records, and of areas that they lie in. */
final readonly class Neighbours
{
    /**
     * @param  array<string, Type>  $types  by key of the visits' fields
     * @param  bool  $known  whether the layer has visits at all
     * @param  bool  $lenient  an earlier design may name what is no longer there: it is missing then, and no error
     * @param  array<string, array{string|null, array<string, Type>}>  $areas  layers of areas by title: key of the
     *     field that names them, types of all fields
     */
    private function __construct(
        public array $types,
        public bool $known,
        public bool $lenient,
        public array $areas = [],
    ) {
    }

    public static function none(): self
    {
        return new self([], false, false);
    }

    public static function of(Neighbour $visits): self
    {
        return new self($visits->typesForOthers(), true, false);
    }

    /** @param  list<Neighbour>  $areas */
    public function among(array $areas): self
    {
        $known = [];
        foreach ($areas as $one) {
            $known[$one->title()] = [$one->nameKey(), $one->typesForOthers()];
        }

        return new self($this->types, $this->known, $this->lenient, $known);
    }

    /** For reading what was saved before. */
    public function lenient(): self
    {
        return new self($this->types, $this->known, true, $this->areas);
    }
}
