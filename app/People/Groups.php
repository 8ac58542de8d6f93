<?php

declare(strict_types=1);

namespace App\People;

use App\Audit\Audit;
use App\Models\Group;
use App\Models\Member;
use App\Models\Programme;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use PinYard\Refused;

/** Groups of people, and who is in them. */
final class Groups
{
    private const MOST = 60;

    /** @return list<array<string, mixed>> */
    public static function for(User $person, Programme $programme): array
    {
        $me = $programme->memberFor($person);
        $groups = $programme->groups()->with('members.user')->orderBy('name')->get();
        if ($me?->coordinates() !== true) {
            $groups = $groups->filter(
                static fn (Group $g): bool => $g->members->contains('id', $me?->id),
            );
        }

        return array_values(
            $groups->map(static fn (Group $g): array => [
                'id' => $g->id,
                'name' => $g->name,
                'may_change' => $g->may_change,
                'members_seen' => $g->members_seen,
                'people' => $me?->coordinates() === true || $g->members_seen
                    ? self::people($g)
                    : null,
            ])->all(),
        );
    }

    /** @return array<string, mixed> as a coordinator gets it */
    public static function present(Group $group): array
    {
        $group->load('members.user');

        return [
            'id' => $group->id,
            'name' => $group->name,
            'may_change' => $group->may_change,
            'members_seen' => $group->members_seen,
            'people' => self::people($group),
        ];
    }

    /** @return list<array{id: int, name: string}> */
    private static function people(Group $group): array
    {
        return array_values(
            $group->members->sortBy('user.name')
                ->map(static fn (Member $m): array => ['id' => $m->id, 'name' => $m->user->name])->all(),
        );
    }

    /**
     * @param  array{name?: string, may_change?: bool, members_seen?: bool}  $in
     *
     * @throws Refused
     */
    public static function make(Programme $programme, array $in): Group
    {
        return DB::transaction(static function () use ($programme, $in): Group {
            Programme::query()->lockForUpdate()->findOrFail($programme->id);
            if ($programme->groups()->count() >= self::MOST) {
                throw Refused::because('groups_many', 'name', null, ['most' => self::MOST]);
            }
            self::allowName($programme, $in['name'] ?? '', null);

            $group = $programme->groups()->create($in + ['may_change' => false, 'members_seen' => false]);
            Audit::note($programme->id, 'group_made', ['group' => $group->name]);

            return $group;
        });
    }

    /**
     * @param  array{name?: string, may_change?: bool, members_seen?: bool}  $in
     *
     * @throws Refused
     */
    public static function change(Group $group, array $in): Group
    {
        return DB::transaction(static function () use ($group, $in): Group {
            if (isset($in['name'])) {
                self::allowName($group->programme, $in['name'], $group);
            }
            $was = $group->name;
            $group->update($in);
            self::changed($group);
            Audit::note($group->programme_id, 'group_changed', [
                'group' => $was,
                'name' => $group->name,
                'change' => $group->may_change ? 'yes' : 'no',
                'seen' => $group->members_seen ? 'yes' : 'no',
            ]);

            return $group;
        });
    }

    public static function remove(Group $group): void
    {
        DB::transaction(static function () use ($group): void {
            // What was said of it must not hold for another that gets its number; nor stand as said of nobody.
            foreach ($group->programme->layers()->withTrashed()->whereNotNull('seen_by')->lockForUpdate()->get() as $l) {
                $rules = array_diff_key($l->seen_by ?? [], ["group-$group->id" => true]);
                if ($rules !== $l->seen_by) {
                    $l->update(['seen_by' => $rules]);
                }
            }
            $group->delete();
            self::changed($group);
            Audit::note($group->programme_id, 'group_gone', ['group' => $group->name]);
        });
    }

    /** @param  int  $member  number of somebody of its programme */
    public static function join(Group $group, int $member): void
    {
        $person = $group->programme->members()->findOrFail($member);
        if ($group->members()->syncWithoutDetaching([$member])['attached'] !== []) {
            self::changed($group);
            Audit::note($group->programme_id, 'group_joined', ['group' => $group->name, 'name' => $person->user->name]);
        }
    }

    public static function leave(Group $group, int $member): void
    {
        $person = $group->programme->members()->findOrFail($member);
        if ($group->members()->detach($member) > 0) {
            self::changed($group);
            Audit::note($group->programme_id, 'group_left', ['group' => $group->name, 'name' => $person->user->name]);
        }
    }

    /** What was kept for its people is given to nobody any more. */
    private static function changed(Group $group): void
    {
        DB::table('programmes')->where('id', $group->programme_id)->update(['designs' => random_int(1, PHP_INT_MAX)]);
    }

    /** @throws Refused */
    private static function allowName(Programme $programme, string $name, ?Group $own): void
    {
        // Rights in designs go by names, of crews and of groups.
        $taken = $programme->groups()->where('name', $name)->when($own, static fn ($q) => $q->whereKeyNot($own?->id))
            ->exists() || $programme->crews()->where('name', $name)->exists();
        if ($taken) {
            throw Refused::because('group_name_taken', 'name', $name);
        }
    }
}
