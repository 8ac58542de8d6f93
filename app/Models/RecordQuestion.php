<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\SoftDeletingScope;
use Illuminate\Support\Carbon;

/**
 * A question of the desk about a record, to whoever made it, and the answer.
 *
 * @property int $id
 * @property int $layer_id
 * @property string $record_id 16 bytes
 * @property int $to_user
 * @property int|null $asked_by
 * @property string $text
 * @property Carbon $asked_at
 * @property string|null $answer
 * @property Carbon|null $answered_at when it was written on the phone
 * @property Carbon|null $closed_at
 * @property Layer $layer
 */
class RecordQuestion extends Model
{
    protected $table = 'asked_back';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = ['asked_at' => 'datetime', 'answered_at' => 'datetime', 'closed_at' => 'datetime'];

    /** @return BelongsTo<Layer, $this> */
    public function layer(): BelongsTo
    {
        $layer = $this->belongsTo(Layer::class);
        $layer->withoutGlobalScope(SoftDeletingScope::class);

        return $layer;
    }

    /** @return Builder<self> what this person has still to answer */
    public static function waitingFor(User $user): Builder
    {
        return self::query()->where('to_user', $user->id)->whereNull('answered_at')->whereNull('closed_at');
    }
}
