<?php

declare(strict_types=1);

namespace App\Models;

use App\Answers\CompiledDesigns;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\HasMany;
use Illuminate\Database\Eloquent\Relations\HasOne;
use Illuminate\Database\Eloquent\SoftDeletingScope;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;
use PinYard\Formula\Neighbours;
use PinYard\Refused;

/**
 * @property int $id
 * @property int $programme_id
 * @property int|null $shelf_id
 * @property int|null $visits_of the layer whose records these are visits to
 * @property string $title
 * @property int $design_version
 * @property array<string, string> $columns field key to kind, with `:2` and so on behind where the column is not the
 *     first of that key
 * @property int $change_number
 * @property Carbon|null $updated_at
 * @property array<string, array{rows: string, slice: int|null, place: string, metres: int|null,
 *     fields: list<string>|null, photos: bool, bands: list<array{int, int, int}>|null,
 *     areas?: int|null}>|null $seen_by rules of who may
 *     see what of it, by audience
 * @property bool $is_area its records are areas today
 * @property bool $has_shapes its table has room for lines and areas
 * @property Programme $programme
 * @property Layer|null $visited
 * @property Layer|null $visitsLayer
 */
class Layer extends Model
{
    use HasHousekeeping;

    protected $table = 'layers';

    protected $fillable = ['title', 'design_version', 'columns', 'has_shapes', 'is_area', 'seen_by'];

    protected $casts = ['columns' => 'array', 'seen_by' => 'array', 'has_shapes' => 'boolean', 'is_area' => 'boolean'];

    /** @var array<int, LayerDesign> */
    private array $read = [];

    /** @var array{string, array<string, string>}|null the columns as they are stored, and read */
    private ?array $kinds = null;

    protected static function booted(): void
    {
        // What is kept of designs is kept under this number: of any layer, for formulas read one another. It is drawn
        // and not counted,
        // so that a database that was put back to an earlier day never comes upon what was kept of a day that is no
        // more.
        $changed = static fn (Layer $layer): int => DB::table('programmes')
            ->where('id', $layer->programme_id)
            ->update(['designs' => random_int(1, PHP_INT_MAX)]);
        // Rules of who sees what are a part of it: what was kept under the rules of before is given to nobody.
        static::created($changed);
        static::deleted($changed);
        static::restored($changed);
        static::updated(
            static fn (Layer $layer): int => $layer->wasChanged([
                'title',
                'design_version',
                'is_area',
                'visits_of',
                'seen_by',
                'programme_id',
                'deleted_at',
            ])
                ? $changed($layer)
                : 0,
        );
    }

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        $programme = $this->belongsTo(Programme::class);
        $programme->withoutGlobalScope(SoftDeletingScope::class);

        return $programme;
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

    /** @return BelongsTo<Layer, $this> the layer whose records these are visits to */
    public function visited(): BelongsTo
    {
        $visited = $this->belongsTo(self::class, 'visits_of');
        $visited->withoutGlobalScope(SoftDeletingScope::class);

        return $visited;
    }

    /** @return HasOne<Layer, $this> the layer that holds visits to these records */
    public function visitsLayer(): HasOne
    {
        return $this->hasOne(self::class, 'visits_of');
    }

    /**
     * Which layer is visited, and which holds the visits, is asked of a single layer: when a record is written, worked
     * out or shown. Whoever goes through many layers loads both with them.
     */
    public function getVisitedAttribute(): ?Layer
    {
        return $this->visits_of === null ? null : $this->loadMissing('visited')->getRelation('visited');
    }

    public function getVisitsLayerAttribute(): ?Layer
    {
        return $this->loadMissing('visitsLayer')->getRelation('visitsLayer');
    }

    /**
     * What formulas of this layer may say of other layers. Areas and visits know nothing of areas, so nothing goes in a
     * circle.
     */
    public function neighbours(): Neighbours
    {
        $this->loadMissing('programme');
        $known = $this->visitsLayer === null ? Neighbours::none() : Neighbours::of($this->visitsLayer->design());

        return $this->is_area || $this->visits_of !== null
            ? $known
            : $known->among(
                array_values(
                    self::areasOf($this->programme)->map(static fn (Layer $l): LayerDesign => $l->design())->all(),
                ),
            );
    }

    /** @return Collection<int, static> layers of areas in a programme */
    public static function areasOf(Programme $programme): Collection
    {
        $areas = static::query()->where('programme_id', $programme->id)->where('is_area', true)->orderBy('id')->get();
        foreach ($areas as $layer) {
            $layer->setRelation('programme', $programme);
        }

        return $areas;
    }

    /**
     * A filter on its records, read with today's design and that of the visits to them.
     *
     * @throws Refused
     */
    public function filter(mixed $document): Filter
    {
        return Filter::read($document, $this->design(), $this->visitsLayer?->design());
    }

    /** The table that its records are read from; what writes never stands on a past day. */
    public function table(): string
    {
        return $this->stands === null ? 'records_'.$this->id : ($this->stands[2])();
    }

    /** @var array{string, string, \Closure(): string}|null a past day, when it ended, the table as it was then */
    private ?array $stands = null;

    /**
     * From now on it is read as it stood on a past day ({@see \App\Records\Stood\AsItStood}).
     *
     * @param  string  $until  the moment when the day ended (UTC)
     * @param  \Closure(): string  $table
     */
    public function standOn(string $day, string $until, \Closure $table): void
    {
        $this->stands = [$day, $until, $table];
    }

    /** Names the past day that it is read of; null: it is read as it is. */
    public function stands(): ?string
    {
        return $this->stands[0] ?? null;
    }

    /** When the past day that it is read of ended (UTC). */
    public function stoodUntil(): ?string
    {
        return $this->stands[1] ?? null;
    }

    /**
     * @return array<string, string> the columns, read once: the cast would decode them for every value of every record
     */
    private function columnKinds(): array
    {
        $stored = (string) ($this->attributes['columns'] ?? '[]');
        if ($this->kinds === null || $this->kinds[0] !== $stored) {
            $this->kinds = [$stored, (array) json_decode($stored, true)];
        }

        return $this->kinds[1];
    }

    /** The kind of values in the column that a field has, or had when it left the design. */
    public function kindOf(string $key): ?FieldKind
    {
        $column = $this->columnKinds()[$key] ?? null;

        return $column === null ? null : FieldKind::from(explode(':', $column)[0]);
    }

    /** A field that changed its kind has got a second column, a third, and so on. */
    public function generationOf(string $key): int
    {
        return (int) (explode(':', $this->columnKinds()[$key] ?? '')[1] ?? 1);
    }

    public function columnOf(string $key): string
    {
        return Field::columnName($key, $this->generationOf($key));
    }

    /** The design of a version, or the current one. */
    public function design(?int $version = null): LayerDesign
    {
        $version ??= $this->design_version;
        if (isset($this->read[$version])) {
            return $this->read[$version];
        }
        $this->loadMissing('programme');

        return $this->read[$version] = CompiledDesigns::of(
            $this->id,
            $version,
            $this->programme->designs,
            fn (): LayerDesign => $this->readDesign($version),
        );
    }

    private function readDesign(int $version): LayerDesign
    {
        $document = $this->designs()->where('version', $version)->firstOrFail()->document;
        if ($this->visited !== null) {
            // By the title that it has today.
            $document['visits_of'] = $this->visited->title;
        }

        // What was saved once must stay readable, whatever has become of the visits since.
        return LayerDesign::fromArray($document, $this->neighbours()->lenient());
    }
}
