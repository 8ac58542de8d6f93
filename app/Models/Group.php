<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;

/**
 * People of a programme who see what others do not, beside its crews: partners, a council, a class.
 *
 * @property int $id
 * @property int $programme_id
 * @property string $name
 * @property bool $may_change whether its members may do what designs let crews do
 * @property bool $members_seen whether they see who else is in it
 * @property Programme $programme
 */
class Group extends Model
{
    protected $table = 'groups';

    protected $fillable = ['name', 'may_change', 'members_seen'];

    protected $casts = ['may_change' => 'boolean', 'members_seen' => 'boolean'];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }

    /** @return BelongsToMany<Member, $this> */
    public function members(): BelongsToMany
    {
        return $this->belongsToMany(Member::class, 'group_members');
    }
}
