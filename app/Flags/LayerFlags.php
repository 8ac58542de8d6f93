<?php

declare(strict_types=1);

namespace App\Flags;

use App\Models\Layer;
use App\Models\User;
use App\Records\RecordView;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Flag\FlagKind;
use PinYard\Flag\FlagRules;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** What records of a layer are flagged for, and what of them is: for those who may accept them. */
final class LayerFlags
{
    /** Raised where flags are worked out in another way. */
    private const WAY = 1;

    /** All kinds. */
    public const ANY = 'any';

    public static function rules(Layer $layer): FlagRules
    {
        $kept = DB::table('layer_flags')->where('layer_id', $layer->id)->value('rules');

        return self::rulesIn($layer, is_string($kept) ? $kept : null);
    }

    /** @param  string|null  $kept  as JSON; null: nobody has said any */
    public static function rulesIn(Layer $layer, ?string $kept): FlagRules
    {
        $design = $layer->design();
        $rules = $kept === null ? null : (array) json_decode($kept, true);
        try {
            return $rules === null ? FlagRules::usual($design) : FlagRules::read($rules, $design, self::areas($layer));
        } catch (Refused) {
            // What has become of the layer since leaves no room for some of them: its areas are gone, or it has others.
            return FlagRules::read(
                ['areas' => null, ...FlagRules::areSinglePlaces($design) ? [] : ['double' => null]] + $rules,
                $design,
                [],
            );
        }
    }

    /** @throws Refused */
    public static function say(Layer $layer, mixed $document): void
    {
        $rules = FlagRules::read($document, $layer->design(), self::areas($layer));
        DB::table('layer_flags')->upsert(
            ['layer_id' => $layer->id, 'rules' => json_encode($rules->toArray(), JSON_THROW_ON_ERROR)],
            ['layer_id'],
            ['rules'],
        );
    }

    /**
     * What a layer is flagged for holds for its copy as well.
     *
     * @param  array<int, int>  $layers  numbers of layers to those of their copies, where those are copied with it
     */
    public static function copy(int $from, Layer $to, array $layers = []): void
    {
        $kept = DB::table('layer_flags')->where('layer_id', $from)->value('rules');
        if (is_string($kept)) {
            $rules = (array) json_decode($kept, true);
            $areas = $rules['areas'] ?? null;
            DB::table('layer_flags')->upsert(
                ['layer_id' => $to->id, 'rules' => json_encode(
                    ['areas' => $areas === null ? null : $layers[$areas] ?? $areas] + $rules,
                    JSON_THROW_ON_ERROR,
                )],
                ['layer_id'],
                ['rules'],
            );
        }
    }

    /**
     * Names all that flags are worked out by, but for the records; it is asked of many layers, so it reads no design.
     *
     * @param  string|null  $rules  as they are kept
     */
    public static function basis(Layer $layer, ?string $rules): string
    {
        $areas = $rules === null ? null : (array) json_decode($rules, true);
        $areas = $areas['areas'] ?? null;

        return hash('sha256', serialize([
            self::WAY,
            $rules,
            $layer->design_version,
            $layer->programme->area()->toArray(),
            $layer->programme->time_zone,
            $areas === null ? null : DB::table('layers')->where('id', $areas)->whereNull('deleted_at')
                ->value('change_number'),
        ]));
    }

    /** @return list<array{id: int, title: string}> layers of areas in which records of this one may have to lie */
    public static function areasToLieIn(Layer $layer): array
    {
        return array_values(Layer::areasOf($layer->programme)->where('id', '!=', $layer->id)
            ->map(static fn (Layer $l): array => ['id' => $l->id, 'title' => $l->title])->all());
    }

    /** @return list<int> their numbers */
    private static function areas(Layer $layer): array
    {
        return array_column(self::areasToLieIn($layer), 'id');
    }

    /**
     * Those that are flagged, for one reason or any.
     *
     * @param  Builder  $rows  of the layer's table
     *
     * @throws Refused
     */
    public static function narrow(Builder $rows, Layer $layer, string $kind): Builder
    {
        if ($kind !== self::ANY && FlagKind::tryFrom($kind) === null) {
            throw Refused::because('flag_unknown', 'flag', $kind);
        }

        return $rows->whereNull('accepted_at')->whereIn('id', DB::table('record_flags')->select('record_id')
            ->where('layer_id', $layer->id)
            ->when($kind !== self::ANY, static fn (Builder $q) => $q->where('kind', $kind)));
    }

    /** @return array{all: int, kinds: list<array{kind: string, n: int}>} records, the commonest kind first */
    public static function counts(Layer $layer): array
    {
        $kinds = DB::table('record_flags')->where('layer_id', $layer->id)
            ->selectRaw('kind, count(distinct record_id) as n')->groupByRaw('kind with rollup')
            ->pluck('n', 'kind')->all();
        // The row of all kinds has none; of no row at all there is not even that.
        $all = (int) ($kinds[''] ?? 0);
        unset($kinds['']);
        arsort($kinds);

        return [
            'all' => $all,
            'kinds' => array_map(
                static fn (string $kind, mixed $n): array => ['kind' => $kind, 'n' => (int) $n],
                array_keys($kinds),
                array_values($kinds),
            ),
        ];
    }

    /**
     * @param  list<array<string, mixed>>  $records  as {@see RecordView} presents them
     * @param  bool  $some  whether there may be any
     * @return list<array<string, mixed>> the same, each with its `flags` in words
     */
    public static function beside(Layer $layer, array $records, User $viewer, bool $some = true): array
    {
        $ids = array_map(static fn (array $r): string => RecordId::of($r['id'])->bytes(), $records);
        $rows = $ids === [] || ! $some ? [] : DB::table('record_flags')
            ->where('layer_id', $layer->id)->whereIn('record_id', $ids)
            ->orderBy('kind')->orderBy('about')->get()->all();
        $names = RecordView::names(
            $layer,
            array_values(array_filter(array_column($rows, 'other'), is_string(...))),
            $viewer,
        );
        $flags = [];
        foreach ($rows as $row) {
            $flags[$row->record_id][] = [
                'kind' => $row->kind,
                'text' => FlagSentence::of($layer, $row, $row->other === null ? null : $names[$row->other] ?? null),
                'other' => $row->other === null ? null : RecordId::fromBytes($row->other)->text,
            ];
        }

        return array_map(
            // What was accepted a moment ago has none any more.
            static fn (array $record, string $id): array => $record + [
                'flags' => $record['accepted'] === null ? $flags[$id] ?? [] : [],
            ],
            $records,
            $ids,
        );
    }
}
