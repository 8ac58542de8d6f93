<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use PinYard\Design\LayerDesign;

/**
 * @property int $id
 * @property int $programme_id
 * @property string $title
 * @property int $design_version
 * @property array<string, string> $columns
 * @property int $change_number
 * @property Programme $programme
 */
class Layer extends Model
{
    protected $fillable = ['title', 'design_version', 'columns'];

    protected $casts = ['columns' => 'array'];

    /** @var array<int, LayerDesign> */
    private array $read = [];

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }

    /** @return HasMany<DesignVersion, $this> */
    public function designs(): HasMany
    {
        return $this->hasMany(DesignVersion::class);
    }

    /** @return HasMany<Slice, $this> */
    public function slices(): HasMany
    {
        return $this->hasMany(Slice::class);
    }

    public function table(): string
    {
        return 'records_'.$this->id;
    }

    /** The design of a version, or the current one. */
    public function design(?int $version = null): LayerDesign
    {
        $version ??= $this->design_version;

        return $this->read[$version] ??= LayerDesign::fromArray(
            $this->designs()->where('version', $version)->firstOrFail()->document,
        );
    }
}
