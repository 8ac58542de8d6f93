<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;
use Illuminate\Support\Carbon;

/**
 * A person in a programme.
 *
 * @property int $id
 * @property int $programme_id
 * @property int $user_id
 * @property int|null $crew_id
 * @property Role $role
 * @property bool $makes maps and boards, beside what the role says
 * @property Carbon|null $last_heard_at
 * @property int $waiting
 * @property float|null $last_lon
 * @property float|null $last_lat
 * @property Carbon|null $last_place_at
 * @property int|null $battery per cent
 * @property User $user
 * @property Crew|null $crew
 * @property Collection<int, Group> $groups
 */
class Member extends Model
{
    /** Name of the one audience that they stand for ({@see Onlooker}); null: they are somebody */
    public ?string $onlyAs = null;

    /** SQL for the groups that a row of members, called `m`, is in, and what they let it do. */
    public const GROUPS = "(select group_concat(concat(gm.group_id, ':', g.may_change) order by gm.group_id) "
        .'from group_members gm join `groups` g on g.id = gm.group_id where gm.member_id = m.id)';

    protected $table = 'members';

    protected $fillable = ['user_id', 'crew_id', 'role', 'makes'];

    protected $casts = [
        'role' => Role::class,
        'makes' => 'boolean',
        'last_heard_at' => 'datetime',
        'last_place_at' => 'datetime',
    ];

    protected static function booted(): void
    {
        static::saved(static function (Member $member): void {
            if ($member->wasRecentlyCreated || $member->wasChanged('role')) {
                User::demandSecond([$member->user_id]);
            }
        });
        static::deleted(static fn (Member $member) => User::demandSecond([$member->user_id]));
    }

    public function coordinates(): bool
    {
        return $this->role === Role::Coordinator;
    }

    /** Whether maps and boards are made by them. */
    public function mayMake(): bool
    {
        return $this->coordinates() || $this->makes || $this->role === Role::Maker;
    }

    /** Who is in which crew of a programme, to tell whether that has changed. */
    public static function crewsOf(Programme $programme): string
    {
        return static::query()
            ->where('programme_id', $programme->id)
            ->orderBy('user_id')
            ->pluck('crew_id', 'user_id')
            ->toJson();
    }

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** @return BelongsTo<Crew, $this> */
    public function crew(): BelongsTo
    {
        return $this->belongsTo(Crew::class);
    }

    /** @return Collection<int, Group> read with the member, or now */
    public function inGroups(): Collection
    {
        return $this->loadMissing('groups')->groups;
    }

    /** @return BelongsToMany<Group, $this> */
    public function groups(): BelongsToMany
    {
        return $this->belongsToMany(Group::class, 'group_members');
    }
}
