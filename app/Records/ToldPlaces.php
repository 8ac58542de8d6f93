<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\LayerRows;
use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Blur;
use PinYard\Audience\CellOutline;
use PinYard\Audience\Lot;
use PinYard\Audience\Sharpness;
use PinYard\Audience\Sight;
use PinYard\Audience\TouchedCells;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Position;
use PinYard\Geo\Wkb;
use PinYard\Geo\ZOrder;
use stdClass;
use Symfony\Component\HttpKernel\Exception\ServiceUnavailableHttpException;

/**
 * What is told of where records are that can't be worked out in SQL: of lines and areas the cells that they touch, of
 * any record the area that it lies in. It is kept by record and the change that it was worked out from, the same for
 * everybody who sees them so; what changed since is brought in before rows are read. A row that nothing is kept of
 * tells no place.
 */
final readonly class ToldPlaces
{
    /** Rows that are read at once: of shapes a few, of points so many that areas are gone through but seldom. */
    private const SHAPES = 500;

    private const POINTS = 10_000;

    private const WRITTEN = 500;

    /** So many that have changed are worked out by whoever reads; more are by a job. */
    private const IN_REQUEST = 20_000;

    /** Seconds to wait for another who works out the same. */
    private const PATIENCE = 20;

    public string $way;

    private string $key;

    private function __construct(private Layer $layer, private ?Blur $blur, private ?int $areas)
    {
        $this->way = $blur !== null ? "cell:$blur->metres" : "area:$areas";
        $this->key = hash_hkdf('sha256', (string) config('app.key'), 16, "told places of layer $layer->id $this->way");
    }

    /** Whether places are told by what is kept here: not as they are, not at all, and not as SQL works them out. */
    public static function areKept(Layer $layer, Sight $way): bool
    {
        return $way->place === Sharpness::Area
            || $way->place === Sharpness::Cell
                && $layer->has_shapes && $layer->design()->geometry !== GeometryKind::Point;
    }

    /** @return self|null null also on a past day: what is kept is of today, and nothing is told rather than all */
    public static function of(Layer $layer, Sight $way): ?self
    {
        return self::areKept($layer, $way) && $layer->stands() === null
            ? new self($layer, $way->blur, $way->areas)
            : null;
    }

    /**
     * Puts it beside rows of the layer's table.
     *
     * @return array{lon: string, lat: string, z: string, shape: string} SQL of what stands for the columns
     */
    public function join(Builder $rows, string $as = 'told'): array
    {
        $this->bring();
        $of = $rows->getGrammar()->wrapTable($rows->from);
        $rows->leftJoin("told_places as $as", function ($on) use ($as, $of): void {
            $on->where("$as.of_layer", $this->layer->id)
                ->where("$as.of_way", $this->way)
                ->whereRaw("$as.of_record = $of.id")
                ->whereRaw("$as.of_change = $of.change_number");
        });

        return [
            'lon' => "$as.told_lon", 'lat' => "$as.told_lat", 'z' => "$as.told_z", 'shape' => "$as.told_shape",
        ];
    }

    /**
     * Works out what has changed since it last was.
     *
     * @throws ServiceUnavailableHttpException where somebody else has been at it for too long
     */
    private function bring(): void
    {
        if ($this->isCurrent()) {
            return;
        }
        [$from] = $this->state();
        $many = LayerRows::live($this->layer)->where('change_number', '>', $from ?? 0)->limit(self::IN_REQUEST + 1);
        if (DB::query()->fromSub($many->select('id'), 'changed')->count() > self::IN_REQUEST) {
            // Until then nothing is told of them.
            BringToldPlaces::dispatch($this->layer->id);

            return;
        }
        $this->bringAll();
    }

    /** @throws ServiceUnavailableHttpException */
    public function bringAll(int $patience = self::PATIENCE): void
    {
        // One at a time: who comes meanwhile finds it done.
        $name = 'told:'.md5(DB::connection()->getDatabaseName()."|{$this->layer->id}|$this->way");
        if ((int) DB::scalar('select get_lock(?, ?)', [$name, $patience]) !== 1) {
            throw new ServiceUnavailableHttpException(10);
        }
        try {
            [$from, $to, $areas] = $this->state();
            if ($from === null || $from < $to) {
                $this->workOut($from ?? 0);
                DB::table('told_places_until')->upsert(
                    ['of_layer' => $this->layer->id, 'of_way' => $this->way, 'until' => $to, 'areas' => $areas],
                    ['of_layer', 'of_way'],
                );
            }
        } finally {
            DB::scalar('select release_lock(?)', [$name]);
        }
    }

    private function isCurrent(): bool
    {
        [$from, $to] = $this->state();

        return $from !== null && $from >= $to;
    }

    /** @return array{int|null, int, string} until where it is kept, null for nothing; until where it can be; areas */
    private function state(): array
    {
        $of = DB::table('layers')
            ->leftJoin('told_places_until', fn ($on) => $on
                ->whereColumn('told_places_until.of_layer', 'layers.id')
                ->where('told_places_until.of_way', $this->way))
            ->where('layers.id', $this->layer->id)
            ->selectRaw('change_number, until, areas')
            ->selectRaw('(select concat(id, \':\', change_number) from layers a where a.id = ? and a.is_area'
                .' and a.deleted_at is null and a.programme_id = layers.programme_id) as state', [$this->areas ?? 0])
            ->first();
        $areas = (string) ($of->state ?? '');

        return [
            $of === null || $of->until === null || $of->areas !== $areas ? null : (int) $of->until,
            (int) ($of->change_number ?? 0),
            $areas,
        ];
    }

    private function workOut(int $from): void
    {
        $areas = $this->areas === null ? null : AreasOfRecords::of($this->layer, $this->areas);
        $after = '';
        $most = $areas === null ? self::SHAPES : self::POINTS;
        do {
            $rows = array_values(LayerRows::live($this->layer)
                ->where('change_number', '>', $from)
                ->where('id', '>', $after)
                ->orderBy('id')
                ->limit($most)
                ->get(['id', 'change_number', 'lon', 'lat', 'z', ...$this->blur === null ? [] : ['shape']])
                ->all());
            $after = $rows === [] ? '' : $rows[count($rows) - 1]->id;
            $told = $areas === null
                ? array_map($this->inCells(...), $rows)
                : $areas->places($rows, $this->key);
            $kept = array_map(
                fn (stdClass $row, array $place): array => [
                    'of_layer' => $this->layer->id, 'of_way' => $this->way,
                    'of_record' => $row->id, 'of_change' => $row->change_number,
                ] + $place,
                $rows,
                $told,
            );
            foreach (array_chunk($kept, self::WRITTEN) as $some) {
                DB::table('told_places')->upsert($some, ['of_layer', 'of_way', 'of_record']);
            }
        } while (count($rows) === $most);
    }

    /** @return array{told_lon: float|null, told_lat: float|null, told_z: int|null, told_shape: string|null} */
    private function inCells(stdClass $row): array
    {
        if ($this->blur === null || $row->lon === null) {
            return self::place(null, null);
        }
        $kind = $this->layer->design()->geometry;
        $cells = TouchedCells::ofParts(
            Wkb::partsOf($row->shape, $kind) ?? [[[(float) $row->lon, (float) $row->lat]]],
            $kind === GeometryKind::Area,
            (float) $row->lon,
            (float) $row->lat,
            $this->blur,
        );
        // A mark stands in one of them, whichever, as those of points stand somewhere in their cell.
        $lot = Lot::of($this->key.$row->id);
        [$x, $y, $bits] = $cells[$lot[0] % count($cells)];
        [$west, $south, $east, $north] = ZOrder::bounds($x, $y, $bits);

        return self::place(
            Position::of(Lot::between($west, $east, $lot[1]), Lot::between($south, $north, $lot[2])),
            Wkb::ofPolygons(CellOutline::of($cells)),
        );
    }

    /** @return array{told_lon: float|null, told_lat: float|null, told_z: int|null, told_shape: string|null} */
    public static function place(?Position $at, ?string $shape): array
    {
        return [
            'told_lon' => $at?->lon, 'told_lat' => $at?->lat, 'told_z' => $at === null ? null : ZOrder::of($at),
            'told_shape' => $shape,
        ];
    }
}
