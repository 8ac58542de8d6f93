<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\Cache;

/**
 * One bringing in of a file, from its first byte to its undo.
 *
 * @property int $id
 * @property int $programme_id
 * @property int|null $layer_id
 * @property int|null $user_id
 * @property 'sending'|'reading'|'review'|'landing'|'done'|'failed'|'cancelled'|'undone' $state
 * @property bool $made_layer
 * @property list<array{name: string, bytes: int, sha256?: string}> $files
 * @property array<string, mixed>|null $source
 * @property array<string, mixed>|null $reading
 * @property array<string, mixed>|null $settings
 * @property array<string, mixed>|null $counts
 * @property list<array<string, mixed>>|null $problems
 * @property string|null $prefix 10 bytes
 * @property Carbon|null $landed_at
 * @property Carbon|null $created_at
 * @property Carbon|null $updated_at
 * @property Programme $programme
 * @property Layer|null $layer
 * @property User|null $user
 */
class Import extends Model
{
    protected $table = 'imports';

    protected $guarded = [];

    protected $casts = [
        'files' => 'array',
        'source' => 'array',
        'reading' => 'array',
        'settings' => 'array',
        'counts' => 'array',
        'problems' => 'array',
        'made_layer' => 'boolean',
        'landed_at' => 'datetime',
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

    /** @return BelongsTo<User, $this> */
    public function user(): BelongsTo
    {
        return $this->belongsTo(User::class);
    }

    /** Its folder: the files as they came, and what was made of them. */
    public function folder(string $inside = ''): string
    {
        return storage_path("imports/$this->id").($inside === '' ? '' : "/$inside");
    }

    /** The file of a number as it came in; its own name is for people, never a path. */
    public function file(int $n): string
    {
        return $this->folder("in-$n");
    }

    /** Rows done so far. Kept beside the row of the import, which is locked while it lands. */
    public function progress(?int $rows = null): int
    {
        if ($rows !== null) {
            Cache::put("import-$this->id", $rows, 86_400);
            Cache::put("import-$this->id-beat", time(), 86_400);
        }

        return $rows ?? (int) Cache::get("import-$this->id", 0);
    }

    /** Seconds since somebody was last seen at work on it. */
    public function silence(): int
    {
        return time() - (int) Cache::get("import-$this->id-beat", $this->updated_at?->getTimestamp() ?? 0);
    }

    public function wantsStop(?bool $stop = null): bool
    {
        if ($stop !== null) {
            $stop ? Cache::put("import-$this->id-stop", true, 86_400) : Cache::forget("import-$this->id-stop");
        }

        return $stop ?? (bool) Cache::get("import-$this->id-stop", false);
    }

    /** Bytes that all ids of its records begin with. */
    public function idOf(int $row): string
    {
        return $this->prefix.substr(pack('J', $row), 2);
    }
}
