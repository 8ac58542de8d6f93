<?php

declare(strict_types=1);

namespace App\Sync;

use App\Models\Role;
use App\Models\User;
use App\Rights\AudienceName;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;

/**
 * The answer for layers in which nothing has changed since a phone last asked: most rounds are of this kind. One number
 * of the layer tells it, and what else the phone must hear (its design, whether all records are seen) comes for all
 * layers in one query.
 */
final class UnchangedLayers
{
    /**
     * @param  array<mixed>  $cursors  change number that the phone has, by layer
     * @return array<int, array{cursor: int, more: bool, design: int, scope: string,
     *     records: list<array<string, mixed>>, gone: list<string>, outside: list<string>}> by layer, as News tells it;
     *     the others must be asked
     */
    public static function of(User $user, array $cursors): array
    {
        $layers = DB::table('layers as l')
            ->join('programmes as p', 'p.id', '=', 'l.programme_id')
            ->join(
                'members as m',
                static fn ($join) => $join->on('m.programme_id', '=', 'p.id')->where('m.user_id', $user->id),
            )
            ->leftJoin('crews as c', 'c.id', '=', 'm.crew_id')
            ->join(
                'layer_designs as d',
                static fn ($join) => $join->on('d.layer_id', '=', 'l.id')->on('d.version', '=', 'l.design_version'),
            )
            ->whereIn('l.id', array_map(intval(...), array_keys($cursors)))
            ->whereNull('l.deleted_at')
            ->whereNull('p.deleted_at')
            ->select('l.id', 'l.change_number', 'l.design_version', 'm.role', 'c.name as crew', 'l.seen_by')
            ->selectRaw("json_query(d.document, '$.rights') as rights")
            ->get();
        $news = [];
        foreach ($layers as $layer) {
            if (($cursors[$layer->id] ?? null) !== $layer->change_number || ! self::isByDesign($layer)) {
                continue;
            }
            $rights = $layer->rights === null ? [] : ['rights' => json_decode($layer->rights, true)];
            $all =
                Role::from($layer->role) === Role::Coordinator || LayerDesign::rightsIn($rights, $layer->crew)->seeAll;
            $news[$layer->id] = [
                'cursor' => $layer->change_number,
                'more' => false,
                'design' => $layer->design_version,
                'scope' => $all ? 'all' : 'own',
                'records' => [],
                'gone' => [],
                'outside' => [],
            ];
        }

        return $news;
    }

    /** Whether what this person sees of it goes without any rule. */
    private static function isByDesign(\stdClass $layer): bool
    {
        $rules = $layer->seen_by === null ? [] : array_keys((array) json_decode($layer->seen_by, true));

        return $layer->role === Role::Coordinator->value ||
            ($layer->role === Role::Crew->value && array_diff($rules, [AudienceName::LINK]) === []);
    }
}
