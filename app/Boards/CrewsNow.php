<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;
use App\Rights\Viewer;
use App\Rights\WorkSeen;

/**
 * Who is out with a phone: where, when last heard, with how much to send. Whoever coordinates is told of all; a crew of
 * its own people; whoever else may look, because just that was opened ({@see WorkSeen}, or by the tile), of crews and
 * not of who is in them.
 */
final class CrewsNow
{
    private const MOST = 200;

    /**
     * @param  bool  $open  whether all crews were opened to whoever may look
     * @return array<string, mixed>
     */
    public static function of(Programme $programme, Viewer $viewer, bool $open): array
    {
        $me = $viewer->person === null ? null : $programme->memberFor($viewer->person);
        $all = $me?->role === Role::Coordinator;
        $open = $open || WorkSeen::tellsAll($viewer, $programme, WorkSeen::CREWS);
        $members = $programme->members()->with(['user', 'crew'])->where('role', Role::Crew->value)
            ->when(! $all && ! $open, static fn ($q) => $me?->crew_id === null
                ? $q->where('user_id', $viewer->person->id ?? 0)
                : $q->where('crew_id', $me->crew_id))
            ->orderByDesc('last_heard_at')->limit(self::MOST)->get();
        $named = static fn (Member $m): bool => $all || ($me !== null && ($m->user_id === $viewer->person?->id
            || ($m->crew_id !== null && $m->crew_id === $me->crew_id)));

        return [
            'people' => array_values($members->map(static fn (Member $m): array => [
                'id' => $named($m) ? $m->user_id : null,
                'name' => $named($m) ? $m->user->name : null,
                'crew' => $m->crew?->name,
                'crew_id' => $m->crew_id,
                'heard_at' => $m->last_heard_at?->toIso8601ZuluString(),
                'waiting' => $m->waiting,
                'place' => $m->last_place_at === null ? null : [
                    'lon' => $m->last_lon,
                    'lat' => $m->last_lat,
                    'at' => $m->last_place_at->toIso8601ZuluString(),
                ],
            ])->all()),
        ];
    }
}
