<?php

declare(strict_types=1);

namespace App\Records;

use App\Formulas\FormulaContext;
use App\Layers\PlaceColumns;
use App\Layers\StoredRow;
use App\Models\Layer;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;
use PinYard\Geo\GeometryKind;
use PinYard\Record\RecordId;
use stdClass;

/** Records as those of a programme get them, with authors and photos; which of them, {@see VisibleRecords} says. */
final class RecordView
{
    /**
     * Records as JSON has them, with authors and photos, from rows of a layer's table.
     *
     * @param  iterable<stdClass>  $rows  as {@see VisibleRecords} gives them to that person, or whole
     * @param  User  $viewer  who gets them
     * @return list<array<string, mixed>>
     */
    public static function present(Layer $layer, LayerDesign $design, iterable $rows, User $viewer): array
    {
        $rows = is_array($rows) ? array_values($rows) : iterator_to_array($rows, false);
        $ids = array_map(static fn (stdClass $r): string => $r->id, $rows);
        $photos = self::photos(
            $layer,
            array_column(array_filter($rows, static fn (stdClass $r): bool => (bool) ($r->seen_photos ?? true)), 'id'),
        );
        $authors = DB::table('users')
            ->whereIn('id', array_unique(array_filter([
                ...array_column($rows, 'created_by'),
                ...array_column($rows, 'accepted_by'),
            ])))
            ->pluck('name', 'id');

        // What is made of fields that are hidden is as it was stored.
        $whole = array_values(array_filter($rows, static fn (stdClass $r): bool => (bool) ($r->seen_whole ?? true)));
        $around = $design->rules->changes() && $whole !== []
            ? FormulaContext::rows($layer, $design, $whole, $design->rules->visited())
            : null;
        $visits = self::visits($layer, $ids, $viewer);
        $visited =
            $layer->visited === null
                ? []
                : self::names(
                    $layer->visited->setRelation('programme', $layer->programme),
                    array_column($rows, 'parent'),
                    $viewer,
                );

        return array_map(
            static fn (stdClass $row): array => [
                'id' => RecordId::fromBytes($row->id)->text,
                'version' => $row->version,
                'lon' => $row->lon,
                'lat' => $row->lat,
                ...$design->geometry === GeometryKind::Point
                    ? []
                    : [
                        'geometry' => PlaceColumns::drawn($row, $design->geometry),
                        'length' => $row->length_m ?? null,
                        'area' => $row->area_m2 ?? null,
                    ],
                ...$layer->visits_of === null
                    ? []
                    : [
                        'visited' => RecordId::fromBytes($row->parent)->text,
                        'visited_name' => $visited[$row->parent] ?? null,
                    ],
                ...$layer->visitsLayer === null
                    ? []
                    : [
                        'visits' => $visits[$row->id][0] ?? 0,
                        'visited_at' => isset($visits[$row->id]) ? StoredRow::instant($visits[$row->id][1]) : null,
                    ],
                'accuracy' => $row->accuracy,
                'altitude' => $row->altitude,
                'fix' => array_filter(
                    [
                        'satellites' => $row->satellites,
                        'type' => $row->fix_type,
                        'at' => $row->fix_at === null ? null : StoredRow::instant($row->fix_at),
                    ],
                    static fn (mixed $v): bool => $v !== null,
                ) ?:
                    null,
                'collected_at' => StoredRow::instant($row->collected_at),
                'received_at' => StoredRow::instant($row->received_at),
                'author' => $authors[$row->created_by] ?? null,
                'accepted' => $row->accepted_at === null
                    ? null
                    : [
                        'at' => StoredRow::instant($row->accepted_at),
                        'by' => $authors[$row->accepted_by] ?? null,
                    ],
                'values' => (object) ($around === null || ! ($row->seen_whole ?? true)
                    ? StoredRow::values($design, $row)
                    : self::freshValues($design, $around->at($row), $row)),
                'name' => StoredRow::name($design, $row),
                'photos' => $photos[$row->id] ?? [],
                // Said where the place is not as it is.
                ...$row->seen_exact ?? true ? [] : ['place' => $row->lon === null ? 'none' : $row->seen_place],
            ],
            $rows,
        );
    }

    /**
     * The same, with what changes with the clock (`today()`, `age()`) worked out now; its column holds what it was last
     * night.
     *
     * @return array<string, string|int|float|bool|list<string>|null>
     */
    private static function freshValues(LayerDesign $design, Surroundings $in, stdClass $row): array
    {
        $values = StoredRow::values($design, $row);
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

    /**
     * @param  list<string>  $ids  16 bytes each
     * @return array<string, array{int, string}> by id: visits that this person may see, when the latest was (UTC)
     */
    private static function visits(Layer $layer, array $ids, User $viewer): array
    {
        $found = [];
        $of = $layer->visitsLayer;
        if ($of === null) {
            return [];
        }
        // It lies in the same one, and who belongs to that is known.
        $of->setRelation('programme', $layer->programme);
        foreach (array_chunk($ids, 1_000) as $some) {
            $rows = VisibleRecords::for($viewer, $of)->rows()->whereIn('parent', $some)
                ->groupBy('parent')->selectRaw('parent, count(*) as visits, max(collected_at) as latest');
            foreach ($rows->get() as $row) {
                $found[$row->parent] = [(int) $row->visits, (string) $row->latest];
            }
        }

        return $found;
    }

    /**
     * @param  list<string>  $ids  16 bytes each
     * @return array<string, string|null> what records are called, by id, as far as this person may know it
     */
    public static function names(Layer $layer, array $ids, User $viewer): array
    {
        $design = $layer->design();
        $names = [];
        foreach (array_chunk(array_values(array_unique($ids)), 500) as $some) {
            foreach (VisibleRecords::for($viewer, $layer)->withDeleted()->whereIn('id', $some)->get() as $row) {
                $names[$row->id] = StoredRow::name($design, $row);
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
            $found = DB::table('attachments')
                ->where('layer_id', $layer->id)
                ->whereIn('record_id', $some)
                ->where('state', '!=', 'removed')
                ->orderBy('position')
                ->get(['id', 'record_id', 'state', 'name', 'type', 'slot']);
            foreach ($found as $photo) {
                $photos[$photo->record_id][] = [
                    'id' => RecordId::fromBytes($photo->id)->text,
                    'state' => $photo->state,
                    'name' => $photo->name,
                    'type' => $photo->type,
                    'slot' => $photo->slot,
                ];
            }
        }

        return $photos;
    }
}
