<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * A picture of one's own for the heads of pegs.
 *
 * @property string $token
 * @property int $programme_id
 * @property string $name
 * @property 'svg'|'png' $type
 * @property string $sha256 of the bytes that are kept
 * @property string $body
 * @property int|null $created_by
 * @property Carbon $created_at
 */
class Mark extends Model
{
    protected $table = 'marks';

    public const UPDATED_AT = null;

    public $incrementing = false;

    protected $primaryKey = 'token';

    protected $keyType = 'string';

    protected $guarded = [];

    /** @return array{head: string, name: string, address: string} */
    public function line(): array
    {
        return [
            'head' => "own-{$this->token}",
            'name' => $this->name,
            'address' => "/api/v1/open/marks/{$this->token}",
        ];
    }
}
