<?php

declare(strict_types=1);

namespace App\Boards;

use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Models\Attachment;
use App\Records\Bits\BitColumn;
use App\Records\Bits\BitLayer;
use App\Records\VisibleRecords;
use Illuminate\Database\Query\Builder;
use PinYard\Bits\NotByBits;
use PinYard\Bits\Slots;
use PinYard\Board\Tiles\LatestTile;
use PinYard\Carto\Look;
use PinYard\Design\Field;

/** The records that were collected, or that arrived, last, as a list tells them. */
final class LatestRecords
{
    /** More than so many ids in one question are no quicker. */
    private const AT_ONCE = 1_000;

    /**
     * @param  VisibleRecords  $records  showing the tile's fields
     * @param  bool  $named  whether they are called by their names
     * @param  string|null  $find  only those whose name or told texts have this in them
     * @param  BitLayer|null  $bits  what finds the latest of a large layer
     * @return array<string, mixed>
     */
    public static function of(
        VisibleRecords $records,
        LatestTile $tile,
        bool $named,
        ?string $find,
        ?BitLayer $bits,
    ): array {
        $whole = $records->layer->design();
        $design = $records->design();
        $fields = array_values(array_filter(array_map(
            static fn (string $key): ?Field => $records->shows($key) ? $design->field($key) : null,
            $tile->fields,
        )));
        $name = $named ? $whole->nameField() : null;
        $name = $name !== null && $records->shows($name->key) ? $name : null;
        $told = $name === null ? $fields : [$name, ...$fields];
        $choice = $fields[0] ?? null;
        // Whoever holds a link may know when a record was made, and not when it reached us.
        $by = $tile->by === 'arrived' && ! $records->viewer->isLink() ? 'received_at' : 'collected_at';
        $order = $tile->by === 'name' ? $name?->column() : null;
        $rows = $records->rows();
        if ($find !== null) {
            self::search($rows, $told, $find);
        }
        $latest = $bits === null || $find !== null || $order !== null
            ? null
            : self::latest($records, $bits, $by === 'collected_at' ? $by : BitColumn::ARRIVED, $tile->count);
        $total = $latest[1] ?? $rows->clone()->count();
        if ($latest !== null) {
            $rows->whereIn('id', $latest[0]);
        }
        $list = [];
        $order === null ? $rows->orderByDesc($by)->orderByDesc('id') : $rows->orderBy($order)->orderBy('id');
        $found = $rows->limit($tile->count)->get();
        $photos = $tile->photo ? self::photos($records, array_values($found->pluck('id')->all())) : [];
        foreach ($found as $row) {
            $code = $choice === null ? null : $row->{$choice->column()};
            $list[] = [
                'id' => $records->viewer->idIn($tile->frame->id, (string) $row->id),
                'name' => $name === null ? null : StoredRow::name($whole, $row),
                'details' => array_map(
                    static fn (Field $f): ?string => StoredValue::shown($f, $row->{$f->column()}),
                    $fields,
                ),
                'class' => $code === null ? null : (string) $code,
                'at' => StoredRow::instant($row->$by),
                'photo' => $photos[$row->id] ?? null,
            ];
        }

        return [
            'records' => $list,
            'labels' => array_map(static fn (Field $f): string => $f->label, $fields),
            'by' => $order !== null ? 'name' : ($by === 'received_at' ? 'arrived' : 'collected'),
            'photo' => $tile->photo,
            'legend' => Look::suggest($whole, $choice?->key)->legend([]),
            'n' => $total,
        ];
    }

    /**
     * Among which the latest of a large layer are, so that they alone are read.
     *
     * @return array{list<string>, int}|null ids, and how many records there are in all; null where too many came at the
     *     same moment, or it cannot be told
     */
    private static function latest(VisibleRecords $records, BitLayer $bits, string $by, int $count): ?array
    {
        try {
            $all = $records->slots($bits);
            $total = Slots::count($all);
            $moments = $bits->numbers($by);
            $oldest = $moments->ranked($all, max(0, $total - $count));
            $latest = $oldest === null ? $all : $all & $moments->atLeast($oldest);

            return Slots::count($latest) > self::AT_ONCE ? null : [$bits->ids($latest), $total];
        } catch (NotByBits) {
            return null;
        }
    }

    /**
     * @param  list<string>  $ids
     * @return array<string, string> the first photo of each as this viewer knows it
     */
    private static function photos(VisibleRecords $records, array $ids): array
    {
        if (! $records->sight->photos) {
            return [];
        }
        $photos = [];
        $found = Attachment::query()->where('layer_id', $records->layer->id)->whereIn('record_id', $ids)
            ->where('state', 'stored')->where('type', 'like', 'image/%')
            ->when(
                $records->layer->stoodUntil(),
                static fn ($q, string $until) => $q->where('created_at', '<', $until),
            )
            ->orderBy('position')->orderBy('id')->get(['id', 'record_id']);
        foreach ($found as $photo) {
            $photos[$photo->record_id] ??= $records->viewer->idOf($photo->id);
        }

        return $photos;
    }

    /** @param  list<Field>  $fields */
    private static function search(Builder $rows, array $fields, string $text): void
    {
        $rows->where(static function (Builder $any) use ($fields, $text): void {
            $any->whereRaw('1 = 0');
            foreach ($fields as $field) {
                $kind = $field->valueKind();
                if ($kind->isText()) {
                    $any->orWhere($field->column(), 'like', '%'.addcslashes($text, '\\%_').'%');
                }
                foreach ($kind->isChoice() ? $field->choices : [] as $choice) {
                    if (mb_stripos($choice->label, $text) !== false) {
                        $any->orWhereRaw("find_in_set(?, {$field->column()}) > 0", [$choice->code]);
                    }
                }
            }
        });
    }
}
