<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A file that goes out: records of a layer in some format.
 *
 * @property int $id
 * @property int $layer_id
 * @property int $user_id
 * @property 'working'|'done'|'failed'|'cancelled' $state
 * @property array<string, mixed> $settings
 * @property string $name of the file
 * @property int $records
 * @property int $bytes
 * @property Layer $layer
 * @property User $user
 */
class Export extends Model
{
    protected $table = 'exports';

    protected $guarded = [];

    protected $casts = ['settings' => 'array'];

    /** @return BelongsTo<Layer, $this> */
    public function layer(): BelongsTo
    {
        return $this->belongsTo(Layer::class);
    }

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    public function path(): string
    {
        return storage_path("exports/$this->id");
    }
}
