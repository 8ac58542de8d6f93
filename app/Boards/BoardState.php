<?php

declare(strict_types=1);

namespace App\Boards;

use App\Maps\SharedMapState;
use App\Models\Audience;
use App\Models\Member;
use App\Models\Onlooker;
use App\Models\User;
use App\Rights\Viewer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/**
 * Names all that could change what one viewer is answered by a board, read with one query: screens ask every few
 * seconds, and mostly nothing has changed. It names more than that, for it does not look at what the tiles read. It
 * stays on the server ({@see \App\Answers\KeptAnswer}).
 */
final class BoardState
{
    /** @return string|null null where the person is not in the board's programme, or there is no such board */
    public static function forPerson(int $board, User $person): ?string
    {
        if ($person instanceof Onlooker) {
            return self::of(
                self::rows()->where('b.id', $board)->where('b.programme_id', $person->programmeNumber()),
                "as {$person->standsFor()}",
                Viewer::person($person),
            );
        }

        return self::of(
            self::rows()
                ->where('b.id', $board)
                ->join(
                    'members as m',
                    static fn ($join) => $join->on('m.programme_id', '=', 'p.id')->where('m.user_id', $person->id),
                )
                ->leftJoin('crews as c', 'c.id', '=', 'm.crew_id')
                ->addSelect('m.role', 'm.crew_id', 'm.makes', 'c.name as crew')
                ->selectRaw(Member::GROUPS.' as in_groups'),
            "person $person->id",
            Viewer::person($person),
        );
    }

    public static function forLink(string $token): ?string
    {
        return self::of(
            self::rows()->where('b.link_token', $token)->where('b.audience', Audience::Link->value),
            'link',
            Viewer::anyone(),
        );
    }

    private static function of(Builder $rows, string $viewer, Viewer $looks): ?string
    {
        $all = $rows->orderBy('l.id')->orderBy('s.id')->get()->all();

        return $all === []
            ? null
            : implode('|', [
                $viewer,
                now((string) $all[0]->time_zone)->toDateString(),
                self::beside((string) $all[0]->kinds, (int) $all[0]->programme, $looks),
                hash('sha256', serialize($all)),
            ]);
    }

    /**
     * What tiles tell that is in no layer of the programme: maps, crews, outings. Most boards have none of them.
     *
     * @param  string  $tiles  as they are stored
     */
    public static function beside(string $tiles, int $programme, Viewer $viewer): string
    {
        $parts = [];
        if (preg_match_all('/"map":(\d+)/', $tiles, $maps) > 0) {
            $parts[] = SharedMapState::ofMaps(array_map(intval(...), $maps[1]));
            // Layers of other programmes are seen by what one is there.
            $parts[] = $viewer->person === null ? '' : (string) json_encode(
                DB::table('members as m')->where('m.user_id', $viewer->person->id)->orderBy('m.id')
                    // Some maps are shown to one person alone.
                    ->select('m.user_id', 'm.programme_id', 'm.role', 'm.crew_id', 'm.makes')
                    ->selectRaw(Member::GROUPS.' as in_groups')->get(),
            );
        }
        $people = str_contains($tiles, '"walked"') || str_contains($tiles, '"hours"')
            || str_contains($tiles, '"crews"') || str_contains($tiles, '"outings"')
            || str_contains($tiles, '"coverage"') || str_contains($tiles, '"@crew"')
            || str_contains($tiles, '"@person"');
        if ($people) {
            // Whoever is not told of all is told of their own alone.
            $parts[] = 'person '.($viewer->person->id ?? 'none').($viewer->person instanceof Onlooker
                ? $viewer->person->standsFor()
                : '');
            $parts[] = (string) json_encode(
                DB::table('members as m')->leftJoin('crews as c', 'c.id', '=', 'm.crew_id')
                    ->where('m.programme_id', $programme)->orderBy('m.id')
                    ->get(
                        [
                            'm.user_id',
                            'm.crew_id',
                            'c.name',
                            'm.role',
                            'm.last_heard_at',
                            'm.waiting',
                            'm.last_place_at',
                        ],
                    ),
            );
        }
        if (str_contains($tiles, '"walked"') || str_contains($tiles, '"hours"')
            || str_contains($tiles, '"coverage"')) {
            $parts[] = (string) json_encode(
                DB::table('trail_days')->where('programme_id', $programme)
                    ->selectRaw('count(*) as n, sum(metres) as m, sum(seconds) as s')->first(),
            );
        }
        if (str_contains($tiles, '"outings"')) {
            $parts[] = (string) json_encode(
                DB::table('outings')->where('programme_id', $programme)->orderBy('id')->get(['id', 'updated_at']),
            );
        }

        return $parts === [] ? '' : hash('sha256', implode('|', $parts));
    }

    private static function rows(): Builder
    {
        return DB::table('boards as b')
            ->join('programmes as p', 'p.id', '=', 'b.programme_id')
            ->leftJoin(
                'layers as l',
                static fn ($join) => $join->on('l.programme_id', '=', 'p.id')->whereNull('l.deleted_at'),
            )
            ->leftJoin('slices as s', 's.layer_id', '=', 'l.id')
            ->whereNull('b.deleted_at')
            ->whereNull('p.deleted_at')
            ->select(
                'b.id as board',
                'b.programme_id as programme',
                'b.visitors_pick',
                'b.pages',
                'b.title',
                'b.audience',
                'b.shown_to',
                'b.owner_id',
                'b.updated_at as board_updated_at',
                'p.name',
                'p.time_zone',
                'p.designs',
                'p.work_seen',
                'p.west',
                'p.south',
                'p.east',
                'p.north',
                'l.id as layer',
                'l.change_number',
                'l.design_version',
                'l.updated_at as layer_updated_at',
                's.id as slice',
                's.name as slice_name',
                's.filter',
            )
            // The tiles stand in every row; what they are made of would be the most of it.
            ->selectRaw('md5(b.tiles) as tiles')
            ->selectRaw("if(b.tiles like '%\"map\":%' or b.tiles like '%\"crews\"%' or b.tiles like '%\"outings\"%' "
                ."or b.tiles like '%\"@crew\"%' or b.tiles like '%\"@person\"%' or b.tiles like '%\"walked\"%' "
                ."or b.tiles like '%\"hours\"%' or b.tiles like '%\"coverage\"%', b.tiles, '') as kinds")
            // Who is in which crew, where a rule asks for it.
            ->selectRaw(
                "if(s.filter like '%@crew%', (select group_concat(x.user_id, ':', coalesce(x.crew_id, 0) order by "
                    .'x.user_id) from members x where x.programme_id = p.id), null) as crews',
            );
    }
}
