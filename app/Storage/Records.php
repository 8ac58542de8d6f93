<?php

declare(strict_types=1);

namespace App\Storage;

use App\Formulas\Around;
use App\Formulas\VisitFacts;
use App\Models\Layer;
use App\Models\User;
use App\Rights\LayerRights;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Design\GeometryKind;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;
use PinYard\Geo\Box;
use PinYard\Geo\Wkb;
use PinYard\Geo\ZOrder;
use PinYard\Record\RecordId;

/** Reads records out of a layer's table. */
final class Records
{
    /** Records that are not deleted. */
    public static function of(Layer $layer): Builder
    {
        return DB::table($layer->table())->where('deleted', 0);
    }

    /**
     * Those records that a person may see; null stands for whoever has the link of something that was opened to all.
     * Everything that shows records or counts them to a person begins here.
     */
    public static function seenBy(?User $viewer, Layer $layer): Builder
    {
        return self::withDeletedSeenBy($viewer, $layer)->where('deleted', 0);
    }

    /** The same with deleted records, for histories and restoring. */
    public static function withDeletedSeenBy(?User $viewer, Layer $layer): Builder
    {
        $query = DB::table($layer->table());

        if ($viewer === null) {
            return $layer->design()->publicSees ? $query : $query->whereRaw('1 = 0');
        }

        return LayerRights::of($viewer, $layer)->seesAll() ? $query : $query->where('created_by', $viewer->id);
    }

    /** Narrows to a box: points through the Z-order index, then by the places themselves; lines and areas through their spatial index. */
    public static function within(Builder $query, Box $box, GeometryKind $kind = GeometryKind::Point): Builder
    {
        if ($kind !== GeometryKind::Point) {
            return $query->where(function (Builder $any) use ($box): void {
                foreach ($box->parts() as $p) {
                    $any->orWhereRaw('mbrintersects(shape, st_geomfromtext(?))', [sprintf('POLYGON((%1$.9F %2$.9F,%3$.9F %2$.9F,%3$.9F %4$.9F,%1$.9F %4$.9F,%1$.9F %2$.9F))', $p->west, $p->south, $p->east, $p->north)]);
                }
            });
        }

        return $query->where(function (Builder $any) use ($box): void {
            foreach (ZOrder::ranges($box) as $range) {
                $any->orWhereBetween('z', $range);
            }
        })->where(function (Builder $any) use ($box): void {
            foreach ($box->parts() as $part) {
                $any->orWhere(fn (Builder $in) => $in
                    ->whereBetween('lon', [$part->west, $part->east])
                    ->whereBetween('lat', [$part->south, $part->north]));
            }
        });
    }

    /**
     * Records as JSON has them, with authors and photos, from rows of a layer's table.
     *
     * @param  iterable<object>  $rows
     * @return list<array<string, mixed>>
     */
    public static function present(Layer $layer, LayerDesign $design, iterable $rows): array
    {
        $rows = is_array($rows) ? array_values($rows) : iterator_to_array($rows, false);
        $ids = array_map(static fn (object $r): string => $r->id, $rows);
        $photos = self::photos($layer, $ids);
        $authors = DB::table('users')->whereIn('id', array_unique(array_filter(array_map(static fn (object $r): ?int => $r->created_by, $rows))))->pluck('name', 'id');

        $around = $design->rules->changes() ? Around::rows($layer, $design, $rows, $design->rules->visited()) : null;
        $visits = VisitFacts::of($layer, $ids);
        $visited = $layer->visited === null ? [] : self::names($layer->visited, array_map(static fn (object $r): string => $r->parent, $rows));

        return array_map(static fn (object $row): array => [
            'id' => RecordId::fromBytes($row->id)->text,
            'version' => $row->version,
            'lon' => $row->lon,
            'lat' => $row->lat,
            ...($design->geometry === GeometryKind::Point ? [] : [
                'geometry' => Wkb::geoJson($row->shape ?? null, $design->geometry), 'length' => $row->length_m ?? null, 'area' => $row->area_m2 ?? null,
            ]),
            ...($layer->visits_of === null ? [] : ['visited' => RecordId::fromBytes($row->parent)->text, 'visited_name' => $visited[$row->parent] ?? null]),
            ...($layer->visitsLayer === null ? [] : ['visits' => $visits[$row->id][0] ?? 0, 'visited_at' => isset($visits[$row->id]) ? self::instant($visits[$row->id][2]) : null]),
            'accuracy' => $row->accuracy,
            'altitude' => $row->altitude,
            'fix' => array_filter(['satellites' => $row->satellites, 'type' => $row->fix_type, 'at' => $row->fix_at === null ? null : self::instant($row->fix_at)], static fn (mixed $v): bool => $v !== null) ?: null,
            'collected_at' => self::instant($row->collected_at),
            'received_at' => self::instant($row->received_at),
            'author' => $authors[$row->created_by] ?? null,
            'values' => (object) ($around === null ? self::values($design, $row) : self::freshValues($design, $around->at($row), $row)),
            'name' => self::name($design, $row),
            'photos' => $photos[$row->id] ?? [],
        ], $rows);
    }

    /** @return array<string, string|int|float|bool|list<string>|null> */
    public static function values(LayerDesign $design, object $row): array
    {
        $values = [];
        foreach ($design->valueFields() as $field) {
            $values[$field->key] = StoredValue::fromColumn($field->valueKind(), $row->{$field->column()} ?? null);
        }

        return $values;
    }

    /**
     * The same, with what changes with the clock (`today()`, `age()`) worked out now; its column holds what it was last night.
     *
     * @return array<string, string|int|float|bool|list<string>|null>
     */
    private static function freshValues(LayerDesign $design, Surroundings $in, object $row): array
    {
        $values = self::values($design, $row);
        foreach ($design->rules->order as $key) {
            $formula = $design->rules->formulas[$key] ?? null;
            if ($formula?->changes) {
                $show = $design->rules->show[$key] ?? null;
                $in->values = $values;
                $values[$key] = $show === null || $show->value($in) === true ? $formula->value($in) : null;
            }
        }

        return $values;
    }

    /** What the record is called: the value of the design's name field, a choice by its label. */
    public static function name(LayerDesign $design, object $row): ?string
    {
        $field = $design->nameField();

        return $field === null ? null : StoredValue::shown($field, $row->{$field->column()} ?? null);
    }

    /**
     * @param  list<string>  $ids  16 bytes each
     * @return array<string, string|null> what records are called, by id
     */
    public static function names(Layer $layer, array $ids): array
    {
        $design = $layer->design();
        $names = [];
        foreach (array_chunk(array_values(array_unique($ids)), 500) as $some) {
            foreach (DB::table($layer->table())->whereIn('id', $some)->get() as $row) {
                $names[$row->id] = self::name($design, $row);
            }
        }

        return $names;
    }

    /**
     * @param  list<string>  $ids  16 bytes each
     * @return array<string, list<array{id: string, state: string, name: string, type: string, slot: string|null}>>
     */
    private static function photos(Layer $layer, array $ids): array
    {
        $photos = [];
        foreach (array_chunk($ids, 500) as $some) {
            $found = DB::table('attachments')->where('layer_id', $layer->id)->whereIn('record_id', $some)->where('state', '!=', 'removed')->orderBy('position')
                ->get(['id', 'record_id', 'state', 'name', 'type', 'slot']);
            foreach ($found as $photo) {
                $photos[$photo->record_id][] = ['id' => RecordId::fromBytes($photo->id)->text, 'state' => $photo->state, 'name' => $photo->name, 'type' => $photo->type, 'slot' => $photo->slot];
            }
        }

        return $photos;
    }

    /** A date and time of the database (UTC) as RFC 3339. */
    public static function instant(string $text): string
    {
        return str_replace(' ', 'T', $text).'Z';
    }
}
