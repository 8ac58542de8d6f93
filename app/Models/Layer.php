<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;

/**
 * @property int $id
 * @property int $programme_id
 * @property string $title
 * @property int $design_version
 * @property array<string, string> $columns field key to kind, with `:2` and so on behind where the column is not the first of that key
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

    /** The kind of values in the column that a field has, or had when it left the design. */
    public function kindOf(string $key): ?FieldKind
    {
        return isset($this->columns[$key]) ? FieldKind::from(explode(':', $this->columns[$key])[0]) : null;
    }

    /** A field that changed its kind has got a second column, a third, and so on. */
    public function generationOf(string $key): int
    {
        return (int) (explode(':', $this->columns[$key] ?? '')[1] ?? 1);
    }

    public function columnOf(string $key): string
    {
        return Field::columnName($key, $this->generationOf($key));
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
