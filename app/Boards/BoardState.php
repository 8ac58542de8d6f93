<?php

declare(strict_types=1);

namespace App\Boards;

use App\Maps\SharedMapState;
use App\Models\Audience;
use App\Models\Member;
use App\Models\Onlooker;
use App\Models\User;
use App\OneTrip;
use App\Rights\Viewer;
use Illuminate\Support\Facades\DB;

/**
 * Names all that could change what one viewer is answered by a board, read with one query: screens ask every few
 * seconds, and mostly nothing has changed. It names more than that, for it does not look at what the tiles read. It
 * stays on the server ({@see \App\Answers\KeptAnswer}).
 */
final class BoardState
{
    private const WORKERS = 'walked|hours|coverage|crews|outings|@crew|@person';

    /**
     * SQL for what the tiles of a board `b` in a programme `p` tell that is in no layer: people, trails, outings. Which
     * tiles do is told by what stands in them as they are stored. Rows are one number of 60 bits, in whatever order.
     */
    private const WORK = "if(b.tiles rlike '\"(".self::WORKERS.")\"', (select "
        ."concat(count(*), ':', bit_xor(conv(left(md5(concat_ws(':', x.user_id, coalesce(x.crew_id, ''), x.role, "
        ."x.waiting, coalesce(x.last_heard_at, ''), '|', coalesce(x.last_place_at, ''), y.name)), 15), 16, 10))) "
        ."from members x left join crews y on y.id = x.crew_id where x.programme_id = p.id), '') as people, "
        ."if(b.tiles rlike '\"(walked|hours|coverage)\"', (select concat_ws(':', count(*), sum(t.metres), "
        ."sum(t.seconds)) from trail_days t where t.programme_id = p.id), '') as trails, "
        ."if(b.tiles rlike '\"outings\"', (select concat(count(*), ':', bit_xor(conv(left(md5(concat(o.id, ':', "
        ."coalesce(o.updated_at, ''))), 15), 16, 10))) from outings o where o.programme_id = p.id), '') as outings";

    /**
     * SQL for the layers of a programme `p`, each with its slices, and who is in which crew where a rule asks for it.
     * A digest for each slice: the text of all of them could be longer than MariaDB lets it get.
     */
    private const LAYERS = "(select group_concat(l.id, ':', l.change_number, ':', l.design_version, ':', "
        ."coalesce(l.updated_at, ''), ':', coalesce((select group_concat(md5(concat_ws(':', s.id, s.filter, s.name, "
        ."if(s.filter like '%@crew%', (select group_concat(x.user_id, ':', coalesce(x.crew_id, 0) order by x.user_id) "
        ."from members x where x.programme_id = l.programme_id), ''))) order by s.id) "
        ."from slices s where s.layer_id = l.id), '') order by l.id) "
        .'from layers l where l.programme_id = p.id and l.deleted_at is null)';

    /** @return string|null null where the person is not in the board's programme, or there is no such board */
    public static function forPerson(int $board, User $person): ?string
    {
        if ($person instanceof Onlooker) {
            return self::of(
                'b.id = ? and b.programme_id = ?',
                [$board, $person->programmeNumber()],
                "as {$person->standsFor()}",
                Viewer::person($person),
            );
        }

        return self::of(
            'b.id = ?',
            [$person->id, $board],
            "person $person->id",
            Viewer::person($person),
            'm.role, m.crew_id, m.makes, c.name as crew, '.Member::GROUPS.' as in_groups,',
            'join members m on m.programme_id = p.id and m.user_id = ? left join crews c on c.id = m.crew_id',
        );
    }

    public static function forLink(string $token): ?string
    {
        $which = 'b.link_token = ? and b.audience = ?';

        return self::of($which, [$token, Audience::Link->value], 'link', Viewer::anyone());
    }

    /**
     * Layers and slices come as one text each, for a row of each of them cost four times as much as all the rest.
     *
     * @param  literal-string  $which
     * @param  list<int|string>  $bindings  in the order in which they stand in the query
     */
    private static function of(
        string $which,
        array $bindings,
        string $viewer,
        Viewer $looks,
        string $also = '',
        string $joined = '',
    ): ?string {
        $board = OneTrip::of(static fn (): ?\stdClass => DB::selectOne(
            "select $also b.id, b.programme_id, b.visitors_pick, b.pages, b.title, b.audience, b.shown_to, b.owner_id,"
                .'b.updated_at, p.name, p.time_zone, p.designs, p.work_seen, p.west, p.south, p.east, p.north,'
                .'md5(b.tiles) as tiles,'
                // Maps in them are read by numbers that stand there.
                ."if(b.tiles like '%\"map\":%', b.tiles, '') as with_maps,"
                .self::WORK.','
                .self::LAYERS.' as layers '
                ."from boards b join programmes p on p.id = b.programme_id $joined "
                ."where $which and b.deleted_at is null and p.deleted_at is null",
            $bindings,
        ));

        return $board === null ? null : implode('|', [
            $viewer,
            now((string) $board->time_zone)->toDateString(),
            self::maps((string) $board->with_maps, $looks),
            hash('sha256', serialize($board)),
        ]);
    }

    /**
     * What tiles tell that is in no layer of the programme: maps, crews, outings. Most boards have none of them.
     *
     * @param  string  $tiles  as they are stored
     */
    public static function beside(string $tiles, int $programme, Viewer $viewer): string
    {
        $work = preg_match('/"('.self::WORKERS.')"/', $tiles) === 0 ? null : DB::selectOne(
            'select '.self::WORK.' from programmes p join (select ? as tiles) b where p.id = ?',
            [$tiles, $programme],
        );
        $parts = array_filter([self::maps($tiles, $viewer), ...array_values((array) $work)]);
        if ($parts === []) {
            return '';
        }
        // Whoever is not told of all is told of their own alone.
        $parts[] = 'person '.($viewer->person->id ?? 'none')
            .($viewer->person instanceof Onlooker ? $viewer->person->standsFor() : '');

        return hash('sha256', implode('|', $parts));
    }

    private static function maps(string $tiles, Viewer $viewer): string
    {
        if (preg_match_all('/"map":(\d+)/', $tiles, $maps) === 0) {
            return '';
        }

        return implode('|', [
            SharedMapState::ofMaps(array_map(intval(...), $maps[1])),
            // Layers of other programmes are seen by what one is there.
            $viewer->person === null ? '' : (string) json_encode(
                DB::table('members as m')->where('m.user_id', $viewer->person->id)->orderBy('m.id')
                    // Some maps are shown to one person alone.
                    ->select('m.user_id', 'm.programme_id', 'm.role', 'm.crew_id', 'm.makes')
                    ->selectRaw(Member::GROUPS.' as in_groups')->get(),
            ),
        ]);
    }
}
