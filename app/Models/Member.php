<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A person in a programme.
 *
 * @property int $id
 * @property int $programme_id
 * @property int $user_id
 * @property int|null $crew_id
 * @property Role $role
 * @property Carbon|null $last_heard_at
 * @property int $waiting
 * @property float|null $last_lon
 * @property float|null $last_lat
 * @property Carbon|null $last_place_at
 * @property int|null $battery per cent
 * @property User $user
 * @property Crew|null $crew
 */
class Member extends Model
{
    protected $table = 'members';

    protected $fillable = ['user_id', 'crew_id', 'role'];

    protected $casts = ['role' => Role::class, 'last_heard_at' => 'datetime', 'last_place_at' => 'datetime'];

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
}
