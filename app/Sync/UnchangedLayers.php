<?php

declare(strict_types=1);

namespace App\Sync;

use App\Models\Layer;
use App\Models\Member;
use App\Models\Role;
use App\Models\User;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;

/**
 * The answer for layers in which nothing has changed since a phone last asked: most rounds are of this kind. One number
 * of the layer tells it, and what else the phone must hear (its design, whether all records are seen) comes for all
 * layers in two queries.
 */
final class UnchangedLayers
{
    /**
     * @param  Collection<int, Layer>  $layers  by number, with their programmes
     * @param  array<mixed>  $cursors  change number that the phone has, by layer
     * @return array<int, array{cursor: int, more: bool, design: int, scope: 'all'|'own',
     *     records: list<array<string, mixed>>, gone: list<string>, outside: list<string>}> by layer, as News tells it;
     *     the others must be asked
     */
    public static function of(User $user, Collection $layers, array $cursors): array
    {
        $still = $layers->filter(
            static fn (Layer $l): bool => ($cursors[$l->id] ?? null) === $l->change_number && ! $l->programme
                ->trashed(),
        );
        if ($still->isEmpty()) {
            return [];
        }
        $members = Member::query()
            ->with('crew')
            ->where('user_id', $user->id)
            ->whereIn('programme_id', $still->pluck('programme_id')->unique())
            ->get()
            ->keyBy('programme_id');
        $documents = DB::table('layer_designs as d')
            ->join(
                'layers as l',
                static fn ($join) => $join->on('l.id', '=', 'd.layer_id')->on('l.design_version', '=', 'd.version'),
            )
            ->whereIn('l.id', $still->keys())
            ->pluck('d.document', 'l.id');
        $news = [];
        foreach ($still as $id => $layer) {
            $member = $members[$layer->programme_id] ?? null;
            if ($member === null || ! isset($documents[$id])) {
                continue;
            }
            $all =
                $member->role === Role::Coordinator ||
                LayerDesign::rightsIn((array) json_decode($documents[$id], true), $member->crew?->name)->seeAll;
            $news[$id] = [
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
}
