<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\SoftDeletes;
use Illuminate\Database\Eloquent\SoftDeletingScope;
use Illuminate\Support\Carbon;

/**
 * What people keep in order: it has an owner, tags, purposes, and rests in the bin for a while when it is thrown away.
 *
 * @property int|null $owner_id
 * @property list<string>|null $tags
 * @property list<string>|null $purposes
 * @property Carbon|null $deleted_at
 * @property int|null $deleted_by
 * @property User|null $owner
 */
trait HasHousekeeping
{
    use SoftDeletes;

    public function initializeHasHousekeeping(): void
    {
        $this->mergeCasts(['tags' => 'array', 'purposes' => 'array']);
        $this->mergeFillable(['owner_id', 'tags', 'purposes', 'shelf_id']);
    }

    /** @return BelongsTo<User, $this> */
    public function owner(): BelongsTo
    {
        return $this->belongsTo(User::class, 'owner_id');
    }

    /**
     * What lies in the bin.
     *
     * @return Builder<static>
     */
    public static function binned(): Builder
    {
        return static::query()->withoutGlobalScope(SoftDeletingScope::class)->whereNotNull('deleted_at');
    }

    public function throwAway(User $by): void
    {
        $this->deleted_by = $by->id;
        $this->save();
        $this->delete();
    }
}
