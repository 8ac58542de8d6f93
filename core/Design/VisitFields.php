<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Type;

/** What formulas of a layer may say about visits to its records. */
final readonly class VisitFields
{
    /**
     * @param  array<string, Type>  $types  by key of the visits' fields
     * @param  bool  $known  whether the layer has visits at all
     * @param  bool  $lenient  an earlier design may name what visits no longer have: it is missing then, and no error
     */
    private function __construct(public array $types, public bool $known, public bool $lenient)
    {
    }

    public static function none(): self
    {
        return new self([], false, false);
    }

    public static function of(LayerDesign $visits): self
    {
        $types = [];
        foreach ($visits->valueFields() as $field) {
            $type = $field->valueKind()->type();
            if ($type !== null && $type !== Type::Choices) {
                // The code of a choice, as a text: labels belong to the visits' own design.
                $types[$field->key] = $type === Type::Choice ? Type::Text : $type;
            }
        }

        return new self($types, true, false);
    }

    /** For reading what was saved before. */
    public function lenient(): self
    {
        return new self($this->types, $this->known, true);
    }
}
