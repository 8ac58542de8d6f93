<?php

declare(strict_types=1);

namespace App\Import;

use App\Designs\DesignStore;
use App\Models\Import;
use App\Models\Layer;
use PinYard\Design\Choice;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Import\ImportProposal;
use PinYard\Import\ImportSettings;

/** Values of a table that a choice list of the layer does not know yet. */
final class NewChoices
{
    /** @return array<string, list<string>> labels by field */
    public static function of(Layer $layer, Import $import, ImportSettings $settings): array
    {
        $new = [];
        foreach ($settings->columns as $i => $c) {
            $field = $c->take ? $layer->design()->field($c->key) : null;
            if ($field === null || ! $field->kind->isChoice() || $field->list !== null) {
                continue;
            }
            $known = [];
            foreach ($field->choices as $choice) {
                $known[mb_strtolower($choice->code)] = $known[mb_strtolower($choice->label)] = true;
            }
            $distinct = (array) ($import->reading['columns'][$i]['distinct'] ?? []);
            foreach (ImportProposal::choices($distinct, $field->kind === FieldKind::SeveralChoices) as $choice) {
                if (! isset($known[mb_strtolower($choice->label)])) {
                    $new[$c->key][] = $choice->label;
                }
            }
        }

        return $new;
    }

    public static function add(Layer $layer, Import $import, ImportSettings $settings): Layer
    {
        $design = self::designWith($layer, $import, $settings);
        if ($design === null) {
            return $layer;
        }
        $saved = DesignStore::saveNext($layer, $design, $layer->design_version, $import->user);

        return Layer::query()->with('programme')->findOrFail($saved->id);
    }

    /** The layer's design with the new choices; null where there are none. */
    public static function designWith(Layer $layer, Import $import, ImportSettings $settings): ?LayerDesign
    {
        $new = self::of($layer, $import, $settings);
        if ($new === []) {
            return null;
        }
        $document = $layer->design()->toArray();
        foreach ($document['fields'] as $i => $field) {
            if (isset($new[$field['key']])) {
                $codes = array_column($field['choices'], 'code');
                foreach (ImportProposal::choices(array_fill_keys($new[$field['key']], 1), false) as $choice) {
                    $code = $choice->code;
                    for ($n = 2; in_array($code, $codes, true); $n++) {
                        $code = "{$choice->code}_$n";
                    }
                    $codes[] = $code;
                    $document['fields'][$i]['choices'][] = (new Choice($code, $choice->label))->toArray();
                }
            }
        }

        return LayerDesign::fromArray($document, $layer->neighbours());
    }
}
