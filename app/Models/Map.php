<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;

/**
 * @property int $id
 * @property int $programme_id
 * @property int|null $shelf_id
 * @property string $title
 * @property int $layer_id
 * @property array<string, mixed> $look
 * @property array<string, mixed> $card
 * @property array{float, float, float, float} $extent
 * @property list<array{id: string, title: string, extent: array{float, float, float, float}}>|null $viewpoints
 * @property Layer|null $layer null while it rests in the bin
 * @property Audience $audience
 * @property string|null $link_token
 * @property Carbon $updated_at
 * @property Programme $programme
 */
class Map extends Model
{
    use HasHousekeeping;
    use OpensByLink;

    protected $table = 'maps';

    protected $fillable = ['layer_id', 'title', 'look', 'card', 'extent', 'viewpoints', 'audience', 'link_token'];

    protected $casts = [
        'look' => 'array',
        'card' => 'array',
        'extent' => 'array',
        'viewpoints' => 'array',
        'audience' => Audience::class,
    ];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }

    /** @return BelongsTo<Layer, $this> */
    public function layer(): BelongsTo
    {
        return $this->belongsTo(Layer::class);
    }
}
