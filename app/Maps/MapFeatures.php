<?php

declare(strict_types=1);

namespace App\Maps;

use App\Layers\PlaceColumns;
use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Maps\Tallies\AreaTallies;
use App\Records\VisibleRecords;
use Illuminate\Database\Query\Builder;
use PinYard\Audience\Sharpness;
use PinYard\Carto\Label;
use PinYard\Carto\Look;
use PinYard\Carto\Style\StyleLayers;
use PinYard\Design\Field;
use PinYard\Export\GeoJson;
use PinYard\Formula\Formula;
use PinYard\Geo\Box;

/** Records as a map draws them: features with just a name and a class, the look as style layers, the legend. */
final class MapFeatures
{
    /** More points than this are not sent at once; the answer then says how many there are. */
    public const MOST = 20_000;

    /**
     * @param  VisibleRecords  $records  showing at least the field of the look; and the field that names records, where
     *     names are told
     * @return array{source: string, layers: list<mixed>, legend: list<mixed>, features: array<string, mixed>,
     *     total: int}
     */
    public static function view(VisibleRecords $records, Look $look): array
    {
        $counts = self::countsByClass($records, $look);

        return [
            'source' => 'records',
            'layers' => StyleLayers::of($look, 'records'),
            'legend' => LegendText::of($look, $counts),
            'features' => self::features($records, $look),
            'total' => array_sum($counts),
        ];
    }

    /**
     * @return array{source: string, layers: list<mixed>, legend: list<mixed>, features: array<string, mixed>,
     *     total: int} of a layer that the viewer may not see
     */
    public static function nothing(): array
    {
        return [
            'source' => 'records',
            'layers' => [],
            'legend' => [],
            'features' => GeoJson::collection([]),
            'total' => 0,
        ];
    }

    /**
     * @param  Box|null  $box  only those in it
     * @param  Label|null  $label  of fields that are shown
     * @param  AreaTallies|null  $tallies  what areas are coloured by, where it is that
     * @param  array<string, string>  $photos  as the viewer knows them, by record (16 bytes)
     * @return array<string, mixed> a GeoJSON FeatureCollection
     */
    public static function features(
        VisibleRecords $records,
        Look $look,
        ?Box $box = null,
        ?Label $label = null,
        ?AreaTallies $tallies = null,
        array $photos = [],
    ): array {
        // Where they see some of them in another way, those are told.
        if ($records->sight->place === Sharpness::None && $records->sight->ways === []) {
            return GeoJson::collection([]);
        }
        $design = $records->design();
        $name = $design->nameField();
        $named = $records->shows((string) $records->layer->design()->nameField()?->key);
        $column = static fn (?Field $field): ?string => $field !== null && $records->shows($field->key)
            ? $field->column()
            : null;
        $by = [];
        foreach ($look->marks->fields() as $key) {
            $by[$key] = $column($design->field($key));
        }
        // Of several all must be told, or the class would not be true.
        $classed = $tallies === null && $by !== [] && ! in_array(null, $by, true);
        $size = $column($look->size?->field);
        $adds = $column($look->gather?->field);
        $shapes = $records->showsShapes();
        $written = [];
        foreach ($label?->fields() ?? [] as $key) {
            $field = $records->shows($key) ? $design->field($key) : null;
            if ($field !== null) {
                $written[$key] = $field;
            }
        }
        // Of what is not told nothing is worked out, either.
        $worked = count($written) === count($label?->fields() ?? []);
        $columns = [
            'id',
            'lon',
            'lat',
            ...$shapes ? ['shape', ...$records->sight->place === Sharpness::Exact ? [] : ['seen_place']] : [],
            ...array_filter([$name?->column(), $size, $adds, ...array_values($by)]),
            ...array_map(static fn (Field $f): string => $f->column(), array_values($written)),
        ];
        $features = [];
        foreach ($records->drawn(self::MOST, $box)->get(array_unique($columns)) as $row) {
            $geometry = $shapes ? PlaceColumns::drawn($row, $design->geometry) : null;
            $id = $records->viewer->idOf($row->id);
            $features[] = GeoJson::feature(
                $id,
                $geometry ?? [
                    'type' => 'Point',
                    'coordinates' => [round($row->lon, GeoJson::DECIMALS), round($row->lat, GeoJson::DECIMALS)],
                ],
                array_filter(
                    [
                        'id' => $id,
                        'name' => $named ? StoredRow::name($design, $row) : null,
                        'class' => $tallies !== null
                            ? $tallies->classOf($look, (string) $row->id)
                            : ($classed
                                ? $look->marks->classOf(static fn (string $key): mixed => $row->{$by[$key]})
                                : null),
                        'size' => $size === null ? null : $look->sizeOf($row->$size),
                        'adds' => $adds === null || $row->$adds === null ? null : (float) $row->$adds,
                        'photo' => $photos[(string) $row->id] ?? null,
                        'label' => $label?->textOf(
                            static fn (string $key): ?string => isset($written[$key])
                                ? StoredValue::shown($written[$key], $row->{$written[$key]->column()})
                                : null,
                            static fn (Formula $formula): ?string => $worked
                                ? WorkedOut::text($formula, $row, $records)
                                : null,
                            static fn (): ?string => $tallies?->textOf((string) $row->id),
                        ),
                    ],
                    static fn (mixed $v): bool => $v !== null,
                ),
            );
        }

        return GeoJson::collection($features);
    }

    /** How many records have no size, where there is one. */
    public static function withoutSize(VisibleRecords $records, Look $look): int
    {
        $column = $look->size === null || ! $records->shows($look->size->field->key)
            ? null
            : $look->size->field->column();

        return $column === null
            ? 0
            : $records->rows()->where(static fn ($any) => $any->whereNull($column)->orWhere($column, '<', 0))->count();
    }

    /** @return array<array-key, int> records by code of the look's field; '' where there is none */
    public static function countsByClass(VisibleRecords $records, Look $look, ?AreaTallies $tallies = null): array
    {
        return self::countsIn($records->rows(), $records, $look, $tallies);
    }

    /**
     * Of some of the records.
     *
     * @return array<array-key, int>
     */
    public static function countsIn(
        Builder $rows,
        VisibleRecords $records,
        Look $look,
        ?AreaTallies $tallies = null,
    ): array {
        if ($tallies !== null) {
            return $tallies->counts($look, $rows);
        }

        return ClassSql::of($look->marks, $records)?->counts($rows) ?? ['' => $rows->count()];
    }
}
