<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Support\Carbon;
use PinYard\Geo\Box;

/**
 * @property int $id
 * @property string $name
 * @property string $purpose
 * @property string $time_zone
 * @property float $west
 * @property float $south
 * @property float $east
 * @property float $north
 * @property int|null $photo_edge longest edge of photos in pixels; null: as they were taken
 * @property bool $second_factor whether who coordinates it must have a second factor
 * @property array<string, list<string>>|null $work_seen names of the audiences that are told of all trails, crews now,
 *     outings ({@see \App\Rights\WorkSeen})
 * @property int $designs another number whenever a design of one of its layers becomes another
 * @property Carbon|null $updated_at
 */
class Programme extends Model
{
    use HasHousekeeping;

    protected $table = 'programmes';

    protected $fillable = ['name', 'purpose', 'time_zone', 'west', 'south', 'east', 'north', 'photo_edge'];

    protected $casts = [
        'west' => 'float',
        'south' => 'float',
        'east' => 'float',
        'north' => 'float',
        'photo_edge' => 'integer',
        'designs' => 'integer',
        'second_factor' => 'boolean',
        'work_seen' => 'array',
    ];

    protected $attributes = ['photo_edge' => 2560, 'second_factor' => false];

    protected static function booted(): void
    {
        static::creating(static fn (Programme $programme): int => $programme->designs = random_int(1, PHP_INT_MAX));
        $demand = static fn (Programme $programme) => User::demandSecond(
            array_values(array_map(intval(...), $programme->members()->pluck('user_id')->all())),
        );
        static::updated(static fn (Programme $p) => $p->wasChanged('second_factor') ? $demand($p) : null);
        static::deleted($demand);
        static::restored($demand);
    }

    public function area(): Box
    {
        return Box::of($this->west, $this->south, $this->east, $this->north);
    }

    /** @return HasMany<Member, $this> */
    public function members(): HasMany
    {
        return $this->hasMany(Member::class);
    }

    /** @return HasMany<Crew, $this> */
    public function crews(): HasMany
    {
        return $this->hasMany(Crew::class);
    }

    /** @return HasMany<Group, $this> */
    public function groups(): HasMany
    {
        return $this->hasMany(Group::class)->chaperone('programme');
    }

    /** @return HasMany<Layer, $this> */
    public function layers(): HasMany
    {
        return $this->hasMany(Layer::class)->chaperone('programme');
    }

    /** @return HasMany<Map, $this> */
    public function maps(): HasMany
    {
        return $this->hasMany(Map::class)->chaperone('programme');
    }

    /** @return HasMany<Board, $this> */
    public function boards(): HasMany
    {
        return $this->hasMany(Board::class)->chaperone('programme');
    }

    /** @return HasMany<Alert, $this> */
    public function alerts(): HasMany
    {
        return $this->hasMany(Alert::class)->chaperone('programme');
    }

    /** @return HasMany<Outing, $this> */
    public function outings(): HasMany
    {
        return $this->hasMany(Outing::class)->chaperone('programme');
    }

    /** @return HasMany<Invitation, $this> */
    public function invitations(): HasMany
    {
        return $this->hasMany(Invitation::class);
    }

    private ?string $stands = null;

    /** From now on its today is a past day. */
    public function standOn(string $day): void
    {
        $this->stands = $day;
    }

    /** The moment by its own clock; of a past day that it stands on the last one. */
    public function now(): Carbon
    {
        return $this->stands === null
            ? now($this->time_zone)
            : Carbon::parse($this->stands, $this->time_zone)->endOfDay();
    }

    /** The day by its own calendar. */
    public function today(): string
    {
        return $this->now()->toDateString();
    }

    /** @var array<int, Member|null> by person, where that was read with the programme */
    private array $known = [];

    public function memberFor(User $user): ?Member
    {
        if ($user instanceof Onlooker) {
            return $user->memberOf($this);
        }

        return $this->known[$user->id] ??= $this->members()->where('user_id', $user->id)->first();
    }

    public function isCoordinatedBy(int $person): bool
    {
        $member = array_key_exists($person, $this->known)
            ? $this->known[$person]
            : $this->known[$person] = $this->members()->where('user_id', $person)->first();

        return $member?->role === Role::Coordinator;
    }

    /**
     * What somebody is in each of many programmes, asked for once.
     *
     * @param  Collection<int, self>  $programmes
     */
    public static function knowMembers(Collection $programmes, User $user): void
    {
        if ($user instanceof Onlooker) {
            return;
        }
        $members = Member::query()->with(['crew', 'groups'])->where('user_id', $user->id)
            ->whereIn('programme_id', $programmes->modelKeys())->get()->keyBy('programme_id');
        foreach ($programmes as $programme) {
            $programme->knowMember($user, $members[$programme->id] ?? null);
        }
    }

    /** For who has read it already; it holds for this object alone. */
    public function knowMember(User $user, ?Member $member): void
    {
        $this->known[$user->id] = $member;
    }
}
