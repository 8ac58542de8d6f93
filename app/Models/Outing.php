<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;

/**
 * @property int $id
 * @property int $programme_id
 * @property int|null $crew_id
 * @property string $title
 * @property string $note
 * @property string $starts_on year-month-day
 * @property string $ends_on
 * @property list<float>|null $area
 * @property list<int> $layers
 * @property 'none'|'records'|'visits' $target
 * @property int|null $count
 * @property list<string> $checklist
 * @property Programme $programme
 * @property Crew|null $crew
 */
class Outing extends Model
{
    protected $table = 'outings';

    protected $fillable = [
        'crew_id',
        'title',
        'note',
        'starts_on',
        'ends_on',
        'area',
        'layers',
        'target',
        'count',
        'checklist',
    ];

    protected $casts = ['area' => 'array', 'layers' => 'array', 'checklist' => 'array'];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }

    /** @return BelongsTo<Crew, $this> */
    public function crew(): BelongsTo
    {
        return $this->belongsTo(Crew::class);
    }
}
