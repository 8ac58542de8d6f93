<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * A link by which a person joins a programme. Only a hash of its token is kept.
 *
 * @property int $programme_id
 * @property int|null $crew_id
 * @property string $name
 * @property string $email
 * @property Role $role
 * @property Carbon $expires_at
 * @property Carbon|null $accepted_at
 * @property Programme $programme
 */
class Invitation extends Model
{
    protected $fillable = ['token_hash', 'crew_id', 'name', 'email', 'role', 'expires_at'];

    protected $casts = ['role' => Role::class, 'expires_at' => 'datetime', 'accepted_at' => 'datetime'];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }

    public static function open(string $token): ?self
    {
        return self::query()
            ->where('token_hash', hash('sha256', $token))
            ->whereNull('accepted_at')
            ->where('expires_at', '>', now())
            ->first();
    }
}
