<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Support\Facades\Storage;
use PinYard\Device\FileType;
use PinYard\Record\RecordId;

/**
 * A file of a record: a photo, or what a slot holds. It is announced by an operation (`on_way`) and becomes `stored`
 * when its bytes are here.
 *
 * @property string $id 16 bytes
 * @property int $layer_id
 * @property string $record_id 16 bytes
 * @property string|null $slot
 * @property string $name
 * @property string $type
 * @property int $bytes
 * @property string $sha256
 * @property 'on_way'|'stored'|'refused'|'removed' $state removed ones keep their bytes and can be put back
 * @property string|null $reason
 * @property int|null $width
 * @property int|null $height
 * @property int|null $created_by
 * @property Layer|null $layer null while it rests in the bin
 */
class Attachment extends Model
{
    protected $table = 'attachments';

    public $incrementing = false;

    public $timestamps = false;

    protected $keyType = 'string';

    protected $guarded = [];

    /** @return BelongsTo<Layer, $this> */
    public function layer(): BelongsTo
    {
        return $this->belongsTo(Layer::class);
    }

    /** Ids in addresses are written as text. */
    public function resolveRouteBinding($value, $field = null): ?Model
    {
        return preg_match('/^[0-9a-f-]{36}$/D', (string) $value) === 1
            ? $this->newQuery()->find(RecordId::of($value)->bytes())
            : null;
    }

    public function arrived(): bool
    {
        return Storage::disk('attachments')->exists($this->path());
    }

    public function text(): string
    {
        return RecordId::fromBytes($this->id)->text;
    }

    /** Where the file lies on the disk `attachments`; `original`, `view` (1,280 px) or `thumb` (320 px). */
    public function path(string $size = 'original'): string
    {
        $id = $this->text();
        $end = $size === 'original' ? FileType::from($this->type)->extension() : 'jpg';

        return sprintf('%d/%s/%s-%s.%s', $this->layer_id, substr($id, -2), $id, $size, $end);
    }
}
