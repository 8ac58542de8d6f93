<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Carbon;

/**
 * The bytes of an attachment on their way in (tus 1.0).
 *
 * @property string $id
 * @property string $attachment_id 16 bytes
 * @property int $user_id
 * @property int $length
 * @property Carbon $expires_at
 */
class Upload extends Model
{
    protected $table = 'uploads';

    public $incrementing = false;

    protected $keyType = 'string';

    protected $fillable = ['id', 'attachment_id', 'user_id', 'length', 'expires_at'];

    protected $casts = ['expires_at' => 'datetime'];

    /** The file that takes the bytes; its length is the offset, so that it survives a killed process. */
    public function file(): string
    {
        return storage_path("uploads/{$this->id}");
    }

    public function offset(): int
    {
        clearstatcache(true, $this->file());

        return is_file($this->file()) ? (int) filesize($this->file()) : 0;
    }
}
