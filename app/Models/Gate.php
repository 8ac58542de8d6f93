<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * The front door of a programme. Its link stays the same for good; `open` says whether it leads anywhere.
 *
 * @property int $id
 * @property int $programme_id
 * @property array{title: string, about: string, colour: string, hung: list<array{kind: 'map'|'board',
 *     id: int}>} $design
 * @property bool $open
 * @property string $link_token
 * @property Programme $programme
 */
class Gate extends Model
{
    protected $table = 'gates';

    protected $fillable = ['programme_id', 'design', 'open', 'link_token'];

    protected $casts = ['design' => 'array', 'open' => 'boolean'];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }
}
