<?php

declare(strict_types=1);

namespace App\Boards\Figures;

use App\Maps\Tallies\CountedRecords;
use App\Models\Layer;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use PinYard\Board\Figure;
use PinYard\Board\Measure;
use PinYard\Board\MeasureKind;
use PinYard\Geo\Wkb;
use PinYard\Refused;
use PinYard\Stats\Spread;

/**
 * A measure of the records that lie in each area. A record counts in each area that its place lies in; one in none
 * counts nowhere.
 */
final class FiguresInAreas
{
    /**
     * @param  VisibleRecords  $records  those that are measured
     * @return array<string, Figure> by area as the viewer knows it; those that have no record are not there
     *
     * @throws Refused where the viewer may not know the places, or where it cannot be measured so
     */
    public static function of(VisibleRecords $records, Layer $areas, Measure $measure): array
    {
        $field = $measure->quantity?->field;
        if ($measure->kind->needsQuantity() && ($field === null || ! $field->valueKind()->isNumber())) {
            throw Refused::because('measure_in_areas', 'measure', null, [
                'field' => $field->label ?? $measure->quantity->key ?? '',
            ]);
        }
        if (! $records->areToldIn($areas) || ($field !== null && ! $records->shows($field->key))) {
            throw Refused::because('tile_hidden', 'measure');
        }
        [$ids, $rings] = self::areas($records->viewer, $areas);
        $values = $counts = [];
        (new CountedRecords($records, $field, null))->perArea(
            $rings,
            static function (string $id, int $area, ?float $value) use (&$values, &$counts): void {
                $counts[$area] = ($counts[$area] ?? 0) + 1;
                if ($value !== null) {
                    $values[$area][] = $value;
                }
            },
        );
        $figures = [];
        foreach ($counts as $area => $n) {
            $figures[$ids[$area]] = self::figure($measure, $n, $values[$area] ?? []);
        }

        return $figures;
    }

    /**
     * @return array{list<string>, list<list<list<array{float, float}>>>} of each area that a viewer sees its id as they
     *     know it, and its rings
     *
     * @throws Refused where they see none
     */
    public static function areas(Viewer $viewer, Layer $areas): array
    {
        $visible = VisibleRecords::of($viewer, $areas);
        if ($visible->seesNothing()) {
            throw Refused::because('tile_hidden', 'measure');
        }
        $ids = $rings = [];
        foreach ($visible->rows()->whereNotNull('area_m2')->orderBy('id')->get(['id', 'shape']) as $row) {
            $ids[] = $viewer->idOf((string) $row->id);
            $rings[] = Wkb::allRings(is_string($row->shape) ? $row->shape : null);
        }

        return [$ids, $rings];
    }

    /** @param  list<float>  $values */
    private static function figure(Measure $measure, int $n, array $values): Figure
    {
        $known = $measure->kind === MeasureKind::Count ? $n : count($values);
        if ($measure->kind === MeasureKind::Count) {
            return new Figure((float) $n, $n, $n);
        }
        if ($values === []) {
            return new Figure(null, $n, 0);
        }
        $spread = Spread::ofValues($values);

        return new Figure(match ($measure->kind) {
            MeasureKind::Sum => array_sum($values),
            MeasureKind::Mean => $spread->mean,
            MeasureKind::Median => $spread->quantile(0.5),
            MeasureKind::Quantile => $spread->quantile($measure->share ?? 0.5),
            MeasureKind::Deviation => $known > 1 ? $spread->deviation : null,
            MeasureKind::Least => $spread->least(),
            MeasureKind::Most => $spread->most(),
            MeasureKind::Distinct => (float) $spread->distinct(),
            default => null,
        }, $n, $known);
    }
}
