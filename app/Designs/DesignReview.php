<?php

declare(strict_types=1);

namespace App\Designs;

use App\Layers\AreaDependency;
use App\Layers\VisitDependency;
use App\Models\Layer;
use App\Texts;
use PinYard\Design\ChangeEffect;
use PinYard\Design\DesignMerge;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** What a coordinator sees before a new design is saved. */
final class DesignReview
{
    /**
     * @param  array<mixed>  $document
     * @param  array<mixed>  $decisions
     * @return array<string, mixed>
     *
     * @throws Refused where the design is not sound
     */
    public static function of(Layer $layer, array $document, int $base, array $decisions): array
    {
        $design = SharedLists::applied($layer->programme, LayerDesign::fromArray($document, $layer->neighbours()));
        $stale = $base !== $layer->design_version;
        if ($stale) {
            if ($base < 1 || $base > $layer->design_version) {
                throw Refused::because('version_unknown', 'base', $base);
            }
            $merge = DesignMerge::of($layer->design($base)->toArray(), $layer->design()->toArray(), $design->toArray());

            return [
                'current' => $layer->design_version,
                'stale' => true,
                'effects' => [],
                'problems' => [],
                'merged' => $merge->document,
                'theirs' => $merge->theirs,
                'clashes' => $merge->clashes,
            ];
        }
        $change = DesignStore::change($layer, $design, $decisions);

        return [
            'current' => $layer->design_version,
            'stale' => false,
            'effects' => array_map(
                static fn (ChangeEffect $e): array => [
                    'code' => $e->code,
                    'field' => $e->field,
                    'label' => $e->params['label'] ?? $e->field,
                    'outcome' => $e->outcome,
                    'count' => $e->count,
                    'message' => Texts::of("effect.$e->code", ['count' => $e->count] + $e->params),
                    'asks' => $e->asks,
                    'options' => $e->options,
                    'choice' => $e->params['code'] ?? null,
                ],
                $change->effects,
            ),
            'problems' => Texts::problems([
                ...$change->problems,
                ...VisitDependency::problems($layer, $design),
                ...AreaDependency::problems($layer, $design),
            ]),
        ];
    }
}
