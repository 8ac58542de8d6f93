<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * A choice list that several fields share.
 *
 * @property int $id
 * @property int $programme_id
 * @property string $title
 * @property int $version
 * @property list<array<string, mixed>> $choices as a design document has them
 * @property Programme $programme
 */
class ChoiceList extends Model
{
    protected $table = 'choice_lists';

    protected $fillable = ['title', 'version', 'choices'];

    protected $casts = ['choices' => 'array'];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }
}
