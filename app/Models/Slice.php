<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A named filter on a layer.
 *
 * @property int $id
 * @property int $layer_id
 * @property string $name
 * @property array<mixed> $filter
 * @property Layer $layer
 */
class Slice extends Model
{
    protected $table = 'slices';

    protected $fillable = ['name', 'filter'];

    protected $casts = ['filter' => 'array'];

    /** @return BelongsTo<Layer, $this> */
    public function layer(): BelongsTo
    {
        return $this->belongsTo(Layer::class);
    }
}
