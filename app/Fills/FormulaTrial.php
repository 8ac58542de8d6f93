<?php

declare(strict_types=1);

namespace App\Fills;

use App\Formulas\FormulaContext;
use App\Layers\StoredRow;
use App\Models\Layer;
use App\Models\User;
use App\Records\VisibleRecords;
use PinYard\Design\FieldRules;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Formula;
use PinYard\Formula\Type;
use PinYard\Record\RecordId;
use PinYard\Refused;
use stdClass;

/** A formula worked out for the newest records, before anything is saved. */
final class FormulaTrial
{
    private const RECORDS = 5;

    /** So many of the newest are looked at for some that have a value: five times "no value" tells little. */
    private const LOOKED_AT = 200;

    /**
     * @return array{type: string, tries: list<array<string, mixed>>}
     *
     * @throws Refused
     */
    public static function of(Layer $layer, User $viewer, mixed $document, mixed $text, bool $condition): array
    {
        if (! is_string($text)) {
            throw Refused::because('must_be_text', 'formula');
        }
        $design = is_array($document) ? LayerDesign::fromArray($document, $layer->neighbours()) : $layer->design();
        $formula = Formula::read(
            $text,
            FieldRules::scope($design, $layer->neighbours()),
            $condition ? Type::YesNo : null,
        );
        // The draft may name fields that no record has yet; their values are missing.
        $rows = VisibleRecords::for($viewer, $layer)
            ->rows()
            ->orderByDesc('change_number')
            ->limit(self::LOOKED_AT)
            ->get();
        $around = FormulaContext::rows($layer, $design, $rows, $formula->visited);
        $tried = $rows
            ->map(
                static fn (stdClass $row): array => [
                    'id' => RecordId::fromBytes($row->id)->text,
                    'name' => StoredRow::name($layer->design(), $row),
                    'value' => $formula->value($around->at($row)),
                ],
            );
        $with = $tried->filter(static fn (array $try): bool => $try['value'] !== null);
        $without = $tried->filter(static fn (array $try): bool => $try['value'] === null);
        $shown = $with->take(self::RECORDS - min(1, $without->count()));

        return [
            'type' => $formula->type->value,
            'tries' => array_values($shown->concat($without->take(self::RECORDS - $shown->count()))->all()),
        ];
    }
}
