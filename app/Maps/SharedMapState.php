<?php

declare(strict_types=1);

namespace App\Maps;

use App\Backdrops;
use App\Models\Audience;
use App\OneTrip;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * What everything that a shared map tells is made of, read with one query: pages ask whether something has changed. It
 * names more than that: of a rule that may read other records, all of their programme.
 */
final class SharedMapState
{
    /**
     * @param  string|null  $search  id of a search that is asked; one that the map does not have changes nothing
     * @return string|null null where there is no such map, or it is not open
     */
    public static function of(string $token, ?string $search = null): ?string
    {
        $rows = OneTrip::of(
            static fn (): array => self::rows($search)
                ->where('m.link_token', $token)
                ->where('m.audience', Audience::Link->value)
                ->get()
                ->all(),
        );

        return self::said($rows, $search);
    }

    /**
     * Of maps that stand on a board, whoever may open them.
     *
     * @param  list<int>  $maps  numbers
     */
    public static function ofMaps(array $maps): string
    {
        return self::said(self::rows(null)->whereIn('m.id', $maps)->orderBy('m.id')->get()->all(), null) ?? 'none';
    }

    private static function rows(?string $search): Builder
    {
        return DB::table('maps as m')
            ->join('programmes as p', 'p.id', '=', 'm.programme_id')
            ->leftJoin('map_layers as ml', 'ml.map_id', '=', 'm.id')
            ->leftJoin('layers as l', 'l.id', '=', 'ml.layer_id')
            ->leftJoin('programmes as lp', 'lp.id', '=', 'l.programme_id')
            ->leftJoin('slices as s', 's.id', '=', 'ml.slice_id')
            ->whereNull('m.deleted_at')
            ->whereNull('p.deleted_at')
            ->orderBy('ml.part')
            ->orderBy('ml.use')
            ->select(
                'm.id',
                'm.title',
                'm.updated_at',
                'p.name',
                'ml.part',
                'ml.use',
                'l.title as layer',
                'l.change_number',
                'l.design_version',
                'l.updated_at as layer_updated_at',
                'l.deleted_at',
                'lp.designs',
                'lp.time_zone',
                'lp.deleted_at as programme_deleted_at',
                's.name as slice',
                's.filter',
            )
            // Labels may be worked out by the clock.
            ->selectRaw('m.layers like ? as clocked', ['%"formula"%'])
            ->selectRaw('m.searches like ? as asked', ['%"id":%"'.($search ?? '').'"%'])
            ->selectRaw(
                'md5(concat_ws(char(0), m.layers, m.about, m.extent, m.viewpoints, m.searches, m.beside)) as document',
            )
            ->selectRaw(
                'if(s.id is null, null, concat((select group_concat(x.change_number order by x.id) from layers x where '
                    ."x.programme_id = l.programme_id), if(s.filter like '%@crew%', (select group_concat(y.user_id, "
                    ."':', coalesce(y.crew_id, 0) order by y.user_id) from members y where y.programme_id = "
                    ."l.programme_id), ''))) as relied_on",
            );
    }

    /** @param  array<\stdClass>  $rows */
    private static function said(array $rows, ?string $search): ?string
    {
        if ($rows === []) {
            return null;
        }
        $days = [array_filter(array_column($rows, 'clocked')) !== [] ? WorkedOut::clock() : ''];
        $knows = $search !== null && (bool) $rows[0]->asked;
        foreach ($rows as $row) {
            unset($row->asked);
        }
        foreach ($rows as $row) {
            if ($row->slice !== null) {
                $days[] = now((string) $row->time_zone)->toDateString();
            }
        }

        // Whoever asks for what is not there is told, and kept, the same as all others.
        return hash('sha256', serialize([$rows, $days, $knows ? $search : ''])).'|'.Backdrops::version();
    }
}
