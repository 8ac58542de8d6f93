<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * Who was in a programme and is no longer: what such a person did before then is held for the coordinator, not turned
 * away.
 *
 * @property int $programme_id
 * @property int $user_id
 * @property int|null $crew_id
 * @property Role $role
 * @property Carbon $left_at
 * @property Crew|null $crew
 */
class FormerMember extends Model
{
    protected $table = 'former_members';

    public $timestamps = false;

    protected $fillable = ['programme_id', 'user_id', 'crew_id', 'role', 'left_at'];

    protected $casts = ['role' => Role::class, 'left_at' => 'datetime'];

    /** @return BelongsTo<Crew, $this> */
    public function crew(): BelongsTo
    {
        return $this->belongsTo(Crew::class);
    }
}
