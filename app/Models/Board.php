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
 * @property list<string>|null $pages titles of its pages; null where it has but one without
 * @property bool $visitors_pick whether whoever has the link can pick in its tiles
 * @property Audience $audience
 * @property list<string>|null $shown_to names of the audiences that it is shown to, of one that is shown to some
 * @property string|null $link_token
 * @property Carbon $updated_at
 * @property Programme $programme
 */
class Board extends Model
{
    use HasHousekeeping;
    use OpensByLink;

    protected $table = 'boards';

    protected $fillable = ['title', 'tiles', 'pages', 'visitors_pick', 'audience', 'shown_to', 'link_token'];

    protected $casts = [
        'tiles' => 'array',
        'pages' => 'array',
        'visitors_pick' => 'boolean',
        'audience' => Audience::class,
        'shown_to' => 'array',
    ];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }
}
