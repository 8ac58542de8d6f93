<?php

declare(strict_types=1);

namespace App\Maps;

use App\Layers\StoredRow;
use App\Rights\Viewer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Refused;
use stdClass;

/**
 * The records of a map leafed through by their photos, those collected last first: just the photos that its cards show
 * to this viewer, each with the place that the map tells.
 */
final readonly class PhotoWall
{
    private const PAGE = 48;

    /** @param  list<LayerPage>  $layers  the topmost first */
    public function __construct(private array $layers, private Viewer $viewer)
    {
    }

    public function isEmpty(): bool
    {
        return $this->photos() === null || $this->photos()->doesntExist();
    }

    /**
     * A part of it, in its order.
     *
     * @param  'after'|'before'|'from'|null  $way  from which photo on: behind it, up to it, beginning with it; null:
     *     from the first
     * @param  string|null  $photo  as this viewer knows it
     * @return array<string, mixed>
     *
     * @throws Refused where that photo is not (or no more) on the wall
     */
    public function page(?string $way = null, ?string $photo = null): array
    {
        $all = $this->photos();
        if ($all === null) {
            return ['photos' => [], 'n' => 0, 'first' => true, 'last' => true];
        }
        $back = $way === 'before';
        $rows = clone $all;
        if ($way !== null) {
            $at = $this->find($all, (string) $photo);
            $than = ['after' => '<', 'before' => '>', 'from' => '<='][$way];
            $rows->whereRaw("(collected_at, photo) $than (?, ?)", [$at->collected_at, $at->photo]);
        }
        $order = $back ? 'asc' : 'desc';
        $found = array_values(
            $rows->orderBy('collected_at', $order)->orderBy('photo', $order)->limit(self::PAGE + 1)->get()->all(),
        );
        $more = count($found) > self::PAGE;
        $found = array_slice($found, 0, self::PAGE);
        $found = $back ? array_reverse($found) : $found;

        return [
            'photos' => $this->told($found),
            'n' => $all->count(),
            'first' => $found === [] || ($back ? ! $more : $this->isFirst($all, $found[0])),
            'last' => $back ? false : ! $more,
        ];
    }

    private function isFirst(Builder $all, stdClass $photo): bool
    {
        return (clone $all)->whereRaw('(collected_at, photo) > (?, ?)', [$photo->collected_at, $photo->photo])
            ->doesntExist();
    }

    private function find(Builder $all, string $photo): stdClass
    {
        try {
            $id = $this->viewer->idFrom($photo);
        } catch (Refused) {
            $id = null;
        }

        return ($id === null ? null : (clone $all)->where('photo', $id)->first())
            ?? throw Refused::because('wall_photo_gone', 'photo', $photo);
    }

    /** Photo, record, part, when it was collected; a photo that several parts show stands there once. */
    private function photos(): ?Builder
    {
        $all = null;
        foreach ($this->layers as $i => $layer) {
            $one = $layer->photosOnCards()?->selectRaw("$i as part");
            $all = $all === null || $one === null ? $all ?? $one : $all->unionAll($one);
        }

        return $all === null ? null : DB::query()->fromSub(
            DB::query()->fromSub($all, 'photos')->groupBy('photo')->selectRaw('photo, min(part) as part, '
                .'min(record) as record, min(collected_at) as collected_at, min(width) as width, '
                .'min(height) as height'),
            'wall',
        );
    }

    /**
     * @param  list<stdClass>  $photos
     * @return list<array<string, mixed>>
     */
    private function told(array $photos): array
    {
        $of = [];
        foreach ($photos as $photo) {
            $of[$photo->part][] = $photo->record;
        }
        $records = array_map(
            fn (int $part, array $ids): array => $this->layers[$part]->onWall(array_values(array_unique($ids))),
            array_keys($of),
            $of,
        );
        $records = array_combine(array_keys($of), $records);
        $told = [];
        foreach ($photos as $photo) {
            $record = $records[$photo->part][$photo->record] ?? null;
            if ($record !== null) {
                $told[] = [
                    'id' => $this->viewer->idOf($photo->photo),
                    'part' => $this->layers[$photo->part]->part->id,
                    'record' => $this->viewer->idOf($photo->record),
                    'layer' => $this->layers[$photo->part]->title(),
                    'at' => StoredRow::instant($photo->collected_at),
                    'width' => $photo->width === null ? null : (int) $photo->width,
                    'height' => $photo->height === null ? null : (int) $photo->height,
                    ...$record,
                ];
            }
        }

        return $told;
    }
}
