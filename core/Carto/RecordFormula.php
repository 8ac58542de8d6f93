<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\FieldRules;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Formula;
use PinYard\Problem;
use PinYard\Refused;

/** Formulas that live in a map alone, in the language of Build. */
final class RecordFormula
{
    /** Letters. */
    public const LONGEST = 300;

    /**
     * Only of the record's own values: what is told of a place, of visits or of areas has rules of its own.
     *
     * @throws Refused naming where on the map it stands
     */
    public static function read(string $text, LayerDesign $design, string $at): Formula
    {
        try {
            $formula = Formula::read($text, FieldRules::scope($design));
        } catch (Refused $e) {
            throw Refused::for(array_map(
                static fn (Problem $p): Problem => new Problem($p->code, $at, $p->value, $p->params),
                $e->problems,
            ));
        }
        if ($formula->visited || $formula->areas !== [] || $formula->readsPlace()) {
            throw Refused::because('card_formula', $at, $text);
        }

        return $formula;
    }
}
