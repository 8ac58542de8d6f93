<?php

declare(strict_types=1);

namespace App\Models;

use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Database\Eloquent\Relations\BelongsTo;
use Illuminate\Database\Eloquent\Relations\BelongsToMany;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;

/**
 * @property int $id
 * @property int $programme_id
 * @property int|null $shelf_id
 * @property string $title
 * @property string|null $about
 * @property list<array<string, mixed>> $layers the topmost first, each a {@see \PinYard\Carto\LayerOnMap} with what its
 *     layer was called when the map was saved
 * @property array{float, float, float, float} $extent
 * @property list<array{id: string, title: string, extent: array{float, float, float, float}}>|null $viewpoints
 * @property list<array{id: string, title: string, part: string, slice: int}>|null $searches
 * @property array<string, mixed>|null $beside a {@see \PinYard\Carto\MapTable}
 * @property Audience $audience
 * @property list<string>|null $shown_to names of the audiences that it is shown to, of one that is shown to some
 * @property string|null $link_token
 * @property Carbon $updated_at
 * @property Programme $programme
 * @property \Illuminate\Database\Eloquent\Collection<int, Layer> $mapped
 * @property \Illuminate\Database\Eloquent\Collection<int, Layer> $counted
 */
class Map extends Model
{
    use HasHousekeeping;
    use OpensByLink;

    protected $table = 'maps';

    protected $fillable = [
        'title',
        'about',
        'layers',
        'extent',
        'viewpoints',
        'searches',
        'beside',
        'audience',
        'shown_to',
        'link_token',
    ];

    protected $casts = [
        'layers' => 'array',
        'extent' => 'array',
        'viewpoints' => 'array',
        'searches' => 'array',
        'beside' => 'array',
        'audience' => Audience::class,
        'shown_to' => 'array',
    ];

    protected static function booted(): void
    {
        // Which layers and slices a map reads is asked from their side, too.
        static::saved(static function (Map $map): void {
            if (! $map->wasRecentlyCreated && ! $map->wasChanged(['layers', 'searches'])) {
                return;
            }
            $uses = [];
            foreach ($map->layers as $l) {
                $uses[] = ['part' => $l['id'], 'use' => 'shown', 'layer_id' => $l['layer'], 'slice_id' => $l['slice']];
                $of = $l['look']['of'] ?? null;
                if ($of !== null) {
                    $uses[] = [
                        'part' => $l['id'],
                        'use' => 'counted',
                        'layer_id' => $of['layer'],
                        'slice_id' => $of['slice'] ?? null,
                    ];
                }
                if (isset($of['share'])) {
                    $uses[] = [
                        'part' => $l['id'],
                        'use' => 'share',
                        'layer_id' => $of['layer'],
                        'slice_id' => $of['share'],
                    ];
                }
            }
            $shown = array_column($map->layers, 'layer', 'id');
            foreach ($map->searches ?? [] as $search) {
                if (isset($shown[$search['part']])) {
                    $uses[] = [
                        'part' => $search['part'],
                        'use' => $search['id'],
                        'layer_id' => $shown[$search['part']],
                        'slice_id' => $search['slice'],
                    ];
                }
            }
            $there = Layer::withTrashed()->whereIn('id', array_column($uses, 'layer_id'))->pluck('id')->all();
            $slices = Slice::query()
                ->whereIn('id', array_filter(array_column($uses, 'slice_id')))
                ->pluck('id')
                ->all();
            DB::table('map_layers')->where('map_id', $map->id)->delete();
            DB::table('map_layers')->insert(
                array_values(
                    array_map(
                        static fn (array $use): array => [
                            ...$use,
                            'map_id' => $map->id,
                            'slice_id' => in_array($use['slice_id'], $slices, true) ? $use['slice_id'] : null,
                        ],
                        array_filter($uses, static fn (array $u): bool => in_array($u['layer_id'], $there, true)),
                    ),
                ),
            );
        });
    }

    /** @return BelongsTo<Programme, $this> */
    public function programme(): BelongsTo
    {
        return $this->belongsTo(Programme::class);
    }

    /** @return BelongsToMany<Layer, $this> the layers that it shows and that are there, in no order */
    public function mapped(): BelongsToMany
    {
        return $this->belongsToMany(Layer::class, 'map_layers')->wherePivot('use', 'shown')->distinct();
    }

    /** @return BelongsToMany<Layer, $this> the layers whose records colour its areas and that are there, in no order */
    public function counted(): BelongsToMany
    {
        return $this->belongsToMany(Layer::class, 'map_layers')->wherePivot('use', 'counted')->distinct();
    }

    /**
     * Maps that show a layer, or colour areas by its records.
     *
     * @param  Builder<static>  $maps
     */
    public function scopeShowing(Builder $maps, Layer $layer): void
    {
        $maps->whereIn('id', DB::table('map_layers')->where('layer_id', $layer->id)->select('map_id'));
    }
}
