<?php

declare(strict_types=1);

namespace App\Boards;

use App\Models\Member;
use App\Models\Programme;
use App\Models\Role;
use App\Rights\Viewer;

/** Who is out with a phone: where, when last heard, with how much to send. */
final class CrewsNow
{
    private const MOST = 200;

    /** @return array<string, mixed> whoever holds a link is told crews, and not who is in them */
    public static function of(Programme $programme, Viewer $viewer): array
    {
        $members = $programme->members()->with(['user', 'crew'])->where('role', Role::Crew->value)
            ->orderByDesc('last_heard_at')->limit(self::MOST)->get();

        return [
            'people' => array_values($members->map(static fn (Member $m): array => [
                'id' => $viewer->isLink() ? null : $m->user_id,
                'name' => $viewer->isLink() ? null : $m->user->name,
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
