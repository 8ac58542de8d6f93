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
 * @property list<array<string, mixed>> $tiles
 * @property Audience $audience
 * @property string|null $link_token
 * @property Carbon $updated_at
 * @property Programme $programme
 */
class Board extends Model
{
    use HasHousekeeping;
    use OpensByLink;

    protected $table = 'boards';

    protected $fillable = ['title', 'tiles', 'audience', 'link_token'];

    protected $casts = ['tiles' => 'array', 'audience' => Audience::class];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }
}
