<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\SoftDeletingScope;
use Illuminate\Support\Carbon;

/**
 * Something that a phone brought and a person must decide: a clash, or something that is held.
 *
 * @property int $id
 * @property int $layer_id
 * @property string $record_id 16 bytes
 * @property string $op 16 bytes
 * @property int|null $user_id
 * @property 'clash'|'held' $kind
 * @property array<string, mixed> $operation
 * @property list<array{key: string, was: mixed, theirs: mixed, mine: mixed, stands: 'theirs'|'mine'}>|null $clashes
 * @property list<array{code: string, field: string|null, message: string}>|null $reasons
 * @property Carbon $captured_at
 * @property Carbon $received_at
 * @property int|null $settled_by
 * @property Carbon|null $settled_at
 * @property array<string, mixed>|null $settlement
 * @property Layer $layer
 */
class Conflict extends Model
{
    protected $table = 'disputes';

    public $timestamps = false;

    protected $guarded = [];

    protected $casts = [
        'operation' => 'array',
        'clashes' => 'array',
        'reasons' => 'array',
        'settlement' => 'array',
        'captured_at' => 'datetime',
        'received_at' => 'datetime',
        'settled_at' => 'datetime',
    ];

    /** @return BelongsTo<Layer, $this> */
    public function layer(): BelongsTo
    {
        $layer = $this->belongsTo(Layer::class);
        // Also one that lies in the bin: what is decided about it is asked for by number.
        $layer->withoutGlobalScope(SoftDeletingScope::class);

        return $layer;
    }

    /**
     * @param  array<int>  $layers
     * @return Builder<self> those that nobody has settled yet
     */
    public static function open(array $layers): Builder
    {
        return self::query()->whereIn('layer_id', $layers)->whereNull('settled_at');
    }
}
