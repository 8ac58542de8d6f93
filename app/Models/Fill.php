<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property int $id
 * @property int $layer_id
 * @property string $field
 * @property string $formula
 * @property int|null $slice_id
 * @property int|null $user_id
 * @property string $state
 * @property int $changed
 * @property int $skipped
 * @property int $kept
 * @property string|null $kind
 * @property int|null $design_version
 * @property string|null $written_at
 * @property string|null $undone_at
 * @property int|null $from_number
 * @property int|null $undone_from
 * @property int $numbers
 * @property Layer $layer
 */
class Fill extends Model
{
    protected $table = 'fills';

    protected $fillable = [
        'layer_id',
        'field',
        'formula',
        'slice_id',
        'user_id',
        'state',
        'changed',
        'kind',
        'design_version',
        'written_at',
        'undone_at',
        'from_number',
        'undone_from',
    ];

    /** @return BelongsTo<Layer, $this> */
    public function layer(): BelongsTo
    {
        return $this->belongsTo(Layer::class);
    }

    /** The table of what it changed: record, value before, value after, versions by it and by its undo. */
    public function table(): string
    {
        return "fill_$this->id";
    }
}
