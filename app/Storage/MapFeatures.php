<?php

declare(strict_types=1);

namespace App\Storage;

use Illuminate\Database\Query\Builder;
use PinYard\Carto\Look;
use PinYard\Carto\StyleLayers;
use PinYard\Design\GeometryKind;
use PinYard\Design\LayerDesign;
use PinYard\Exchange\GeoJson;
use PinYard\Geo\Wkb;
use PinYard\Record\RecordId;

/** Records as a map draws them: features with just a name and a class, the look as style layers, the legend. */
final class MapFeatures
{
    /** More points than this are not sent at once; the answer then says how many there are. */
    public const MOST = 20_000;

    /** @return array{source: string, layers: list<mixed>, legend: list<mixed>, features: array<string, mixed>, total: int} */
    public static function view(Builder $query, LayerDesign $design, Look $look): array
    {
        $counts = self::countsByClass(clone $query, $look);

        return [
            'source' => 'records',
            'layers' => StyleLayers::of($look, 'records'),
            'legend' => $look->legend($counts),
            'features' => self::features($query, $design, $look),
            'total' => array_sum($counts),
        ];
    }

    /** @return array<string, mixed> a GeoJSON FeatureCollection */
    public static function features(Builder $query, LayerDesign $design, Look $look): array
    {
        $name = $design->nameField();
        $shapes = $design->geometry !== GeometryKind::Point;
        $columns = ['id', 'lon', 'lat', ...($shapes ? ['shape'] : []), ...array_filter([$name?->column(), $look->field?->column()])];
        $features = [];
        foreach ($query->orderBy('z')->limit(self::MOST)->get(array_unique($columns)) as $row) {
            $geometry = $shapes ? Wkb::geoJson($row->shape, $design->geometry) : null;
            $features[] = GeoJson::feature(RecordId::fromBytes($row->id)->text, $geometry ?? ['type' => 'Point', 'coordinates' => [round($row->lon, GeoJson::DECIMALS), round($row->lat, GeoJson::DECIMALS)]], array_filter([
                'id' => RecordId::fromBytes($row->id)->text,
                'name' => Records::name($design, $row),
                'class' => $look->field === null ? null : $row->{$look->field->column()},
            ], static fn (mixed $v): bool => $v !== null));
        }

        return GeoJson::collection($features);
    }

    /** @return array<array-key, int> records by code of the look's field; '' where there is none */
    public static function countsByClass(Builder $query, Look $look): array
    {
        $column = $look->field?->column();
        if ($column === null) {
            return ['' => $query->count()];
        }

        return $query->groupBy($column)->selectRaw("coalesce($column, '') as code, count(*) as n")->pluck('n', 'code')
            ->map(static fn (mixed $n): int => (int) $n)->all();
    }
}
