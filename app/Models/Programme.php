<?php

declare(strict_types=1);

namespace App\Models;

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
 * @property Carbon|null $updated_at
 */
class Programme extends Model
{
    use Kept;

    protected $fillable = ['name', 'purpose', 'time_zone', 'west', 'south', 'east', 'north', 'photo_edge'];

    protected $casts = ['west' => 'float', 'south' => 'float', 'east' => 'float', 'north' => 'float', 'photo_edge' => 'integer'];

    protected $attributes = ['photo_edge' => 2560];

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

    /** @return HasMany<Layer, $this> */
    public function layers(): HasMany
    {
        return $this->hasMany(Layer::class);
    }

    /** @return HasMany<Map, $this> */
    public function maps(): HasMany
    {
        return $this->hasMany(Map::class);
    }

    /** @return HasMany<Board, $this> */
    public function boards(): HasMany
    {
        return $this->hasMany(Board::class);
    }

    /** @return HasMany<Invitation, $this> */
    public function invitations(): HasMany
    {
        return $this->hasMany(Invitation::class);
    }

    public function memberFor(User $user): ?Member
    {
        return $this->members()->where('user_id', $user->id)->first();
    }
}
