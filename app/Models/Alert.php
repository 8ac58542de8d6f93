<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property int $id
 * @property int $programme_id
 * @property string $name
 * @property array<string, mixed> $plan {@see \PinYard\Alert\AlertPlan}
 * @property bool $paused
 * @property string|null $seen names all that it was last worked out from
 * @property bool $waits whether it has cases that were not told yet
 * @property string|null $trouble why it cannot be worked out
 * @property Programme $programme
 */
class Alert extends Model
{
    protected $table = 'alerts';

    protected $fillable = ['name', 'plan', 'paused'];

    protected $casts = ['plan' => 'array', 'paused' => 'boolean', 'waits' => 'boolean'];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }
}
