<?php

declare(strict_types=1);

namespace App\Flags;

use App\Layers\BulkInsert;
use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Models\Layer;
use App\Records\AreasOfRecords;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Flag\Fences;
use PinYard\Flag\FlagFacts;
use PinYard\Flag\FlagRules;
use PinYard\Flag\RecordFlags;
use PinYard\Geo\Position;
use stdClass;

/**
 * Keeps flags of the records that wait to be looked at, by the change numbers of their layer: whatever was written
 * since is looked at, and those beside which it stands. Killed half way, the next goes on from the same number. Nothing
 * of a record changes by it, so phones, maps and boards hear nothing.
 */
final class FlagRound
{
    /** In one transaction. */
    private const ROWS = 500;

    private const SECONDS = 5.0;

    /** Whoever looks waits for no more changes than that; the rest comes by itself. */
    private const AT_ONCE = 5_000;

    /** Every few seconds; mostly nothing has changed. */
    public static function run(): void
    {
        $until = microtime(true) + self::SECONDS;
        $layers = Layer::query()->with('programme')
            ->whereHas('programme', static fn ($q) => $q->whereNull('deleted_at'))->orderBy('id')->get();
        $kept = DB::table('layer_flags')->get()->keyBy('layer_id');
        foreach ($layers as $layer) {
            if (self::left($layer, $kept[$layer->id] ?? null) === null) {
                continue;
            }
            // One that fails must not hold up the others; it is tried again.
            rescue(static function () use ($layer, $until): void {
                while (microtime(true) < $until && self::step($layer));
            });
        }
    }

    /** For who looks at them now: brings them up to date where that is little. */
    public static function catchUp(Layer $layer): void
    {
        $left = self::left($layer, DB::table('layer_flags')->where('layer_id', $layer->id)->first());
        if ($left !== null && $left <= self::AT_ONCE) {
            self::step($layer);
        }
    }

    /** @return int|null how many changes of a layer have not been looked at; null where all is as it should be */
    private static function left(Layer $layer, ?stdClass $kept): ?int
    {
        if ($kept === null || $kept->basis !== LayerFlags::basis($layer, $kept->rules)) {
            return $layer->change_number;
        }

        return (int) $kept->as_of >= $layer->change_number ? null : $layer->change_number - (int) $kept->as_of;
    }

    /** @return bool whether there is more to do */
    private static function step(Layer $layer): bool
    {
        DB::table('layer_flags')->insertOrIgnore(['layer_id' => $layer->id]);

        return DB::transaction(static function () use ($layer): bool {
            $kept = DB::table('layer_flags')->where('layer_id', $layer->id)->lock('for update skip locked')->first();

            // Where somebody is at it already, it is done.
            return $kept !== null && (new self(Layer::query()->with('programme')->findOrFail($layer->id), $kept))->go();
        });
    }

    private FlagRules $rules;

    private int $asOf;

    /** @var array<string, Fences> */
    private array $fences = [];

    private function __construct(private readonly Layer $layer, private readonly stdClass $kept)
    {
        $this->rules = LayerFlags::rulesIn($layer, $kept->rules);
        $this->asOf = (int) $kept->as_of;
    }

    private function go(): bool
    {
        $basis = LayerFlags::basis($this->layer, $this->kept->rules);
        if ($basis !== $this->kept->basis) {
            $this->flags()->delete();
            $this->asOf = 0;
        }
        $set = $this->fence($basis !== $this->kept->basis);
        $beside = $this->settled();
        $rows = $this->written();
        $this->look($rows, $beside);
        $more = count($rows) === self::ROWS;
        DB::table('layer_flags')->where('layer_id', $this->layer->id)->update($set + [
            'basis' => $basis,
            'as_of' => $more ? end($rows)->change_number : max($this->asOf, $this->layer->change_number),
        ]);

        return $more;
    }

    /**
     * Where numbers are expected; what waits beyond that is flagged anew when it has become another.
     *
     * @return array<string, mixed> what is to be kept of it
     */
    private function fence(bool $anew): array
    {
        if (! $anew && $this->kept->fences !== null
            && LayerFences::hold((int) $this->kept->fenced_as_of, $this->layer->change_number)) {
            $this->fences = LayerFences::fromJson($this->kept->fences);

            return [];
        }
        $this->fences = LayerFences::of($this->layer, $this->rules);
        $json = LayerFences::toJson($this->fences);
        if ($json !== $this->kept->fences) {
            $this->refence();
        }

        return ['fences' => $json, 'fenced_as_of' => $this->layer->change_number];
    }

    private function refence(): void
    {
        $this->flags()->where('kind', 'outlier')->delete();
        $beyond = $this->waiting()->where('change_number', '<=', $this->asOf)->where(function (Builder $any): void {
            $any->whereRaw('1 = 0');
            foreach ($this->fences as $key => $fences) {
                $any->orWhereNotBetween($this->layer->columnOf($key), [$fences->low(), $fences->high()]);
            }
        });
        foreach (array_chunk($beyond->get()->all(), self::ROWS) as $rows) {
            $this->look($rows, []);
        }
    }

    /**
     * Forgets flags of what is accepted or gone.
     *
     * @return list<string> ids (16 bytes each) of those that were flagged because of a record that was written since
     */
    private function settled(): array
    {
        $written = LayerRows::all($this->layer)->where('change_number', '>', $this->asOf);
        $this->flags()->whereIn(
            'record_id',
            (clone $written)->where(static fn (Builder $q) => $q->where('deleted', 1)->orWhereNotNull('accepted_at'))
                ->select('id'),
        )->delete();

        return array_values(array_map(strval(...), $this->flags()->whereNotNull('other')
            ->whereIn('other', $written->select('id'))->distinct()->pluck('record_id')->all()));
    }

    /**
     * What was written since, in its order: what waits, and what others that wait are compared with. A record that was
     * accepted as it came may lie beside one that waits, and one that is gone may have stood between two.
     *
     * @return list<stdClass>
     */
    private function written(): array
    {
        $written = LayerRows::all($this->layer)->where('change_number', '>', $this->asOf);
        $reach = $this->rules->reach();
        $waits = static fn (Builder $q): Builder => $q->where('deleted', 0)->whereNull('accepted_at');
        // Asked first: what is mostly written waits, and then no time of all that waits is needed.
        $others = $reach > 0 && (clone $written)->whereNot($waits)->exists()
            ? $this->waiting()->selectRaw('min(collected_at) as first, max(collected_at) as last')->first()
            : null;
        $written->where(static function (Builder $any) use ($waits, $others, $reach): void {
            $any->where($waits);
            if ($others !== null && is_string($others->first)) {
                $any->orWhereBetween('collected_at', [
                    (new \DateTimeImmutable($others->first))->modify("-$reach hours")->format('Y-m-d H:i:s.v'),
                    $others->last,
                ]);
            }
        });

        return array_values($written->orderBy('change_number')->limit(self::ROWS)->get()->all());
    }

    /**
     * @param  list<stdClass>  $rows  that were written
     * @param  list<string>  $beside  ids (16 bytes each) of others that are to be looked at as well
     */
    private function look(array $rows, array $beside): void
    {
        $neighbours = new FlagNeighbours($this->layer, $this->rules);
        $near = [];
        foreach ($rows as $row) {
            [$near[$row->id], $after] = $neighbours->near($row);
            array_push($beside, ...$after);
        }
        [$before, $after] = $neighbours->steps($rows);
        $others = array_diff(array_unique([...$beside, ...$after]), array_column($rows, 'id'));
        if ($others !== []) {
            $others = array_values($this->waiting()->whereIn('id', $others)->get()->all());
            foreach ($others as $row) {
                $near[$row->id] = $neighbours->near($row)[0];
            }
            $before += $neighbours->steps($others)[0];
            $rows = [...$rows, ...$others];
        }
        $this->put(
            array_values(array_filter(
                $rows,
                static fn (stdClass $row): bool => ! $row->deleted && $row->accepted_at === null,
            )),
            $near,
            $before,
        );
    }

    /**
     * @param  list<stdClass>  $rows  that wait
     * @param  array<string, \PinYard\Flag\Nearby|null>  $near  by id
     * @param  array<string, \PinYard\Flag\Nearby>  $before  by id
     */
    private function put(array $rows, array $near, array $before): void
    {
        if ($rows === []) {
            return;
        }
        $ids = array_column($rows, 'id');
        $this->flags()->whereIn('record_id', $ids)->delete();
        $zone = new \DateTimeZone($this->layer->programme->time_zone);
        $design = $this->layer->design();
        $finder = new RecordFlags($this->rules, $design, $this->layer->programme->area(), $zone, $this->fences);
        $in = $this->rules->outside && $this->rules->areas !== null
            ? AreasOfRecords::of($this->layer, $this->rules->areas)->lieIn($rows)
            : [];
        $files = $this->files($ids);
        $found = [];
        foreach ($rows as $i => $row) {
            foreach ($finder->of(new FlagFacts(
                $row->lon === null ? null : Position::of((float) $row->lon, (float) $row->lat),
                $in[$i] ?? null,
                $row->accuracy,
                new \DateTimeImmutable($row->collected_at),
                new \DateTimeImmutable($row->received_at),
                StoredRow::values($design, $row),
                $files[$row->id] ?? [],
                $near[$row->id] ?? null,
                $before[$row->id] ?? null,
            )) as $flag) {
                $found[] = [
                    'layer_id' => $this->layer->id,
                    'record_id' => $row->id,
                    'kind' => $flag->kind->value,
                    'about' => $flag->about,
                    'other' => $flag->other,
                    'said' => json_encode((object) $flag->said, JSON_THROW_ON_ERROR),
                ];
            }
        }
        BulkInsert::into('record_flags', $found);
    }

    /**
     * @param  list<string>  $ids  16 bytes each
     * @return array<string, array<string, int>> how many of each slot, by record
     */
    private function files(array $ids): array
    {
        $files = [];
        foreach (
            DB::table('attachments')->where('layer_id', $this->layer->id)->whereIn('record_id', $ids)
                ->whereIn('state', ['on_way', 'stored'])->groupBy('record_id', 'slot')
                ->selectRaw('record_id, slot, count(*) as n')->get() as $row
        ) {
            $files[$row->record_id][(string) $row->slot] = (int) $row->n;
        }

        return $files;
    }

    private function waiting(): Builder
    {
        return LayerRows::live($this->layer)->whereNull('accepted_at');
    }

    private function flags(): Builder
    {
        return DB::table('record_flags')->where('layer_id', $this->layer->id);
    }
}
