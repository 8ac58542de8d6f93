<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Facades\DB;

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
    protected static function booted(): void
    {
        // Where a rule of who sees what is made of it, nothing that was kept is given any more.
        $changed = static fn (Slice $slice): int => DB::table('programmes as p')
            ->join('layers as l', 'l.programme_id', '=', 'p.id')
            ->where('l.id', $slice->layer_id)
            ->whereNotNull('l.seen_by')
            ->update(['p.designs' => random_int(1, PHP_INT_MAX)]);
        static::updated($changed);
        static::deleted($changed);
    }

    protected $table = 'slices';

    protected $fillable = ['name', 'filter'];

    protected $casts = ['filter' => 'array'];

    /** @return BelongsTo<Layer, $this> */
    public function layer(): BelongsTo
    {
        return $this->belongsTo(Layer::class);
    }
}
