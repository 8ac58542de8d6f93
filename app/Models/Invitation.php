<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;
use PinYard\People\TypedCode;

/**
 * A link by which a person joins a programme. Only a hash of its token is kept.
 *
 * @property int $id
 * @property int $programme_id
 * @property int|null $crew_id
 * @property string|null $mail_token_hash
 * @property string|null $code_hash
 * @property int|null $most people that it is for; null: the one who is named
 * @property int $used how many have come by it
 * @property string $name
 * @property string $email
 * @property Role $role
 * @property bool $makes
 * @property list<int>|null $groups numbers of the groups that it leads to
 * @property Carbon $expires_at
 * @property Carbon|null $accepted_at
 * @property Programme $programme
 */
class Invitation extends Model
{
    protected $table = 'invitations';

    protected $attributes = ['used' => 0];

    protected $fillable = ['token_hash', 'mail_token_hash', 'crew_id', 'name', 'email', 'role', 'makes', 'groups',
        'most', 'code_hash', 'expires_at'];

    protected $casts = [
        'role' => Role::class,
        'makes' => 'boolean',
        'most' => 'integer',
        'used' => 'integer',
        'groups' => 'array',
        'expires_at' => 'datetime',
        'accepted_at' => 'datetime',
    ];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }

    /** @return Builder<self> by the link that was handed over, the one that was mailed, or the code that was typed */
    public static function byToken(string $token): Builder
    {
        $hash = hash('sha256', $token);
        $code = TypedCode::read($token);

        return self::query()->where(
            static fn (Builder $q) => $q->where('token_hash', $hash)->orWhere('mail_token_hash', $hash)
                ->orWhere('code_hash', $code === null ? '' : hash('sha256', $code)),
        );
    }

    public static function open(string $token): ?self
    {
        $found = self::byToken($token)->first();

        return $found?->isOpen() ? $found : null;
    }

    public function isOpen(): bool
    {
        return $this->accepted_at === null && $this->expires_at->isFuture();
    }

    /** Whether a link came by mail, so that whoever opens it has the address. */
    public function wasMailed(string $token): bool
    {
        return $this->mail_token_hash !== null && hash_equals($this->mail_token_hash, hash('sha256', $token));
    }
}
