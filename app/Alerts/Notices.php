<?php

declare(strict_types=1);

namespace App\Alerts;

use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Rights\LayerRights;
use App\Texts;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;

/** What alerts have told a person: theirs alone, and only as long as they may see what it is of. */
final class Notices
{
    private const SHOWN = 60;

    /** @return array{unread: int, notices: list<array<string, mixed>>} the newest first */
    public static function for(User $person): array
    {
        $rows = self::rows($person)->orderByDesc('n.id')->limit(self::SHOWN)->get()->values()->all();

        return [
            'unread' => self::rows($person)->whereNull('n.read_at')->count(),
            'notices' => self::heard($person, $rows),
        ];
    }

    /** @return list<array<string, mixed>> what a phone is to show, the newest first */
    public static function onPhone(User $person): array
    {
        $rows = self::rows($person)->where('n.on_phone', true)->whereNull('n.read_at')
            ->orderByDesc('n.id')->limit(self::SHOWN)->get()->values()->all();

        return self::heard($person, $rows);
    }

    /**
     * @param  mixed  $ids  of those that were read; others' are left alone
     * @return list<int> those that are read now, or are none of theirs: nobody need send them again
     */
    public static function read(User $person, mixed $ids): array
    {
        $ids = array_values(array_filter(is_array($ids) ? array_slice($ids, 0, 500) : [], is_int(...)));
        if ($ids !== []) {
            DB::table('notices')->where('user_id', $person->id)->whereIn('id', $ids)->whereNull('read_at')
                ->update(['read_at' => now()]);
        }

        return $ids;
    }

    /** With the records that it names. */
    public static function sentence(stdClass $notice): string
    {
        $records = (array) json_decode((string) $notice->records, true);
        $names = array_map(
            static fn (mixed $r): string => is_array($r) && is_string($r['name'] ?? null)
                ? $r['name']
                : Texts::of('record.unnamed'),
            $records,
        );

        return $names === [] ? (string) $notice->text : $notice->text.': '.implode(', ', $names);
    }

    public static function mayHear(int $person, int $programme, ?int $layer): bool
    {
        $user = User::query()->find($person);
        $in = Programme::query()->find($programme);
        if ($user === null || $in?->memberFor($user) === null) {
            return false;
        }
        $of = $layer === null ? null : Layer::query()->with('programme')->find($layer);

        return $layer === null || ($of !== null && LayerRights::of($user, $of)->maySee());
    }

    private static function rows(User $person): Builder
    {
        return DB::table('notices as n')
            ->join('members as m', static fn ($join) => $join->on('m.programme_id', '=', 'n.programme_id')
                ->whereColumn('m.user_id', 'n.user_id'))
            ->join('programmes as p', 'p.id', '=', 'n.programme_id')
            ->whereNull('p.deleted_at')
            ->where('n.user_id', $person->id)
            ->select('n.*', 'p.name as programme');
    }

    /**
     * @param  array<int, stdClass>  $rows
     * @return list<array<string, mixed>>
     */
    private static function heard(User $person, array $rows): array
    {
        $layers = Layer::query()->with('programme')
            ->whereIn('id', array_filter(array_column($rows, 'layer_id')))->get()->keyBy('id');
        $told = [];
        foreach ($rows as $row) {
            $layer = $layers[$row->layer_id] ?? null;
            if ($row->layer_id !== null && ($layer === null || ! LayerRights::of($person, $layer)->maySee())) {
                continue;
            }
            $told[] = [
                'id' => $row->id,
                'programme' => $row->programme_id,
                'programme_name' => $row->programme,
                'layer' => $row->layer_id,
                'text' => $row->text,
                'records' => json_decode((string) $row->records, true),
                'path' => $row->path,
                'at' => str_replace(' ', 'T', (string) $row->made_at).'Z',
                'read' => $row->read_at !== null,
            ];
        }

        return $told;
    }
}
