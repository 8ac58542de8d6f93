<?php

declare(strict_types=1);

namespace App\Designs;

use App\Layers\AreaDependency;
use App\Layers\LayerTable;
use App\Layers\VisitDependency;
use App\Models\DesignVersion;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use PinYard\Design\Column;
use PinYard\Design\DesignChange;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Design\SharedList;
use PinYard\Geo\GeometryKind;
use PinYard\Overtaken;
use PinYard\Problem;
use PinYard\Refused;

/** Saves designs: a new layer with its table, or the next version of a layer's design. */
final class DesignStore
{
    public static function createLayer(Programme $programme, LayerDesign $design, ?User $by): Layer
    {
        $design = SharedLists::applied($programme, $design)->withGenerations([]);
        $layer = new Layer([
            'title' => $design->title,
            'design_version' => 1,
            'columns' => self::columns($design),
            'is_area' => $design->geometry === GeometryKind::Area,
        ]);
        $layer->programme()->associate($programme);
        $layer->visits_of =
            $design->visitsOf === null ? null : VisitDependency::find($programme, $design->visitsOf)->id;
        $layer->save();
        try {
            // Making a table commits by itself in MariaDB, so a failure afterwards is cleaned up by hand.
            LayerTable::make($layer, array_map(Column::of(...), $design->valueFields()), $design->geometry);
            self::keep($layer, 1, $design, $by);
        } catch (\Throwable $e) {
            $layer->delete();
            throw $e;
        }

        return $layer;
    }

    /**
     * @param  int  $base  the version that the coordinator began from
     * @param  array<mixed>  $decisions  see {@see DesignChange::between()}
     *
     * @throws Refused
     */
    public static function saveNext(
        Layer $layer,
        LayerDesign $design,
        int $base,
        ?User $by,
        array $decisions = [],
    ): Layer {
        return self::prepare($layer, $design, $base, $decisions)->save($by);
    }

    /**
     * Checks a next version and gives its layer's table room for it, outside of any transaction. New columns do no harm
     * if it is never saved; altering a table inside a transaction would end it.
     *
     * @param  array<mixed>  $decisions
     * @param  array<int, SharedList>  $lists  by number: shared lists that are about to change
     *
     * @throws Refused
     */
    public static function prepare(
        Layer $layer,
        LayerDesign $design,
        int $base,
        array $decisions,
        array $lists = [],
    ): NextDesign {
        $fresh = Layer::query()->findOrFail($layer->id);
        self::refuseStale($fresh, $base);
        $design = SharedLists::applied($fresh->programme, $design, $lists);
        $change = self::change($fresh, $design, $decisions);
        $problems = [
            ...$change->problems,
            ...VisitDependency::problems($fresh, $design),
            ...AreaDependency::problems($fresh, $design),
        ];
        if ($problems !== []) {
            throw Refused::for($problems);
        }
        $design = $design->withGenerations(self::generations($fresh, $change));
        $columns = array_filter(
            $design->valueFields(),
            static fn (Field $f): bool => ! LayerTable::hasColumn($fresh, $f->column()),
        );
        LayerTable::widen($fresh, array_values(array_map(Column::of(...), $columns)));
        if ($design->geometry !== GeometryKind::Point) {
            LayerTable::shapes($fresh);
        }

        return new NextDesign($fresh->id, $design, $base, $change);
    }

    /** @param  array<mixed>  $decisions */
    public static function change(Layer $layer, LayerDesign $design, array $decisions = []): DesignChange
    {
        $kept = [];
        foreach (array_keys($layer->columns) as $key) {
            $kind = $layer->kindOf((string) $key);
            if ($kind !== null) {
                $kept[(string) $key] = $kind;
            }
        }

        return DesignChange::between(
            $layer->design(),
            $design,
            $kept,
            self::earlier($layer, $design),
            new LayerCounts($layer),
            $decisions,
        );
    }

    /**
     * Fields of the new design that an earlier one had and today's has not, as they last were.
     *
     * @return array<string, Field>
     */
    private static function earlier(Layer $layer, LayerDesign $design): array
    {
        $wanted = array_filter(
            array_keys($layer->columns),
            static fn (string $key): bool => $layer->design()->field($key) === null && $design->field($key) !== null,
        );
        $found = [];
        for (
            $version = $layer->design_version - 1;
            $version >= 1 && array_diff($wanted, array_keys($found)) !== [];
            $version--
        ) {
            foreach ($wanted as $key) {
                $field = $layer->design($version)->field($key);
                if ($field !== null) {
                    $found[$key] ??= $field;
                }
            }
        }

        return $found;
    }

    /** @return array<string, int> by key: which of its columns a field uses; one that changes its kind gets the next */
    private static function generations(Layer $layer, DesignChange $change): array
    {
        $generations = [];
        foreach (array_keys($layer->columns) as $key) {
            $generations[(string) $key] = $layer->generationOf((string) $key) + (isset($change->turned[$key]) ? 1 : 0);
        }

        return $generations;
    }

    /** @throws Overtaken */
    public static function refuseStale(Layer $layer, int $base): void
    {
        if ($layer->design_version !== $base) {
            throw Overtaken::for([
                new Problem('design_stale', null, $base, ['base' => $base, 'current' => $layer->design_version]),
            ]);
        }
    }

    public static function keep(
        Layer $layer,
        int $version,
        LayerDesign $design,
        ?User $by,
        ?DesignChange $change = null,
    ): void {
        $kept = new DesignVersion([
            'version' => $version,
            'document' => $design->toArray(),
            'created_by' => $by?->id,
            'moves' => $change === null || $change->moves === [] ? null : $change->moves,
        ]);
        $layer->designs()->save($kept);
    }

    /** @return array<string, string> key to kind, with the number of the column where it is not the first */
    public static function columns(LayerDesign $design): array
    {
        $columns = [];
        foreach ($design->valueFields() as $field) {
            $columns[$field->key] = $field->valueKind()->value.($field->generation > 1 ? ":$field->generation" : '');
        }

        return $columns;
    }
}
