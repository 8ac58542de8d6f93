<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\Layer;
use App\Models\Programme;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Neighbours;
use PinYard\Problem;
use PinYard\Refused;

/** What ties a layer of visits to the layer that is visited. */
final class VisitDependency
{
    /**
     * The layer that a new layer of visits belongs to, by its title.
     *
     * @throws Refused
     */
    public static function find(Programme $programme, string $title): Layer
    {
        $layer = $programme->layers()->where('title', $title)->orderBy('id')->first();

        return match (true) {
            $layer === null => throw Refused::because('visits_layer_unknown', '/visits_of', $title, [
                'layer' => $title,
            ]),
            $layer->visits_of !== null => throw Refused::because('visits_of_visits', '/visits_of', $title, [
                'layer' => $title,
            ]),
            $layer->visitsLayer !== null => throw Refused::because('visits_layer_taken', '/visits_of', $title, [
                'layer' => $title,
                'other' => $layer->visitsLayer->title,
            ]),
            default => $layer,
        };
    }

    /**
     * A layer stays what it was made as, and formulas of the visited layer keep what they read.
     *
     * @return list<Problem>
     */
    public static function problems(Layer $layer, LayerDesign $design): array
    {
        if (($design->visitsOf !== null) !== ($layer->visits_of !== null)) {
            return [new Problem('visits_fixed', '/visits_of', $design->visitsOf)];
        }
        if ($layer->visited === null) {
            return [];
        }
        try {
            LayerDesign::fromArray($layer->visited->design()->toArray(), Neighbours::of($design));
        } catch (Refused $e) {
            return array_map(
                static fn (Problem $p): Problem => new Problem('visit_field_used', '/fields', $p->value, [
                    'layer' => $layer->visited->title,
                    'field' => $layer->visited->design()->fields[(int) (explode('/', (string) $p->field)[2] ?? 0)]
                        ->label,
                    'part' => is_string($p->value) ? $p->value : '',
                ]),
                $e->problems,
            );
        }

        return [];
    }
}
