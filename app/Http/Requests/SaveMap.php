<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Audience;
use App\Models\Layer;
use App\Models\Map;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;
use PinYard\Carto\Look;
use PinYard\Carto\Viewpoint;
use PinYard\Design\Field;
use PinYard\Geo\Box;
use PinYard\Refused;

final class SaveMap extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        $presence = $this->isMethod('POST') ? 'required' : 'sometimes';

        return [
            'layer' => [$presence, 'integer'],
            'title' => [$presence, 'filled', 'string', 'max:120'],
            'audience' => ['sometimes', 'filled', Rule::enum(Audience::class)],
            'look' => ['sometimes', 'array'],
            'card' => ['sometimes', 'array'],
            'card.fields' => ['sometimes', 'array'],
            'card.photos' => ['sometimes', 'boolean'],
            'extent' => ['sometimes', 'filled', 'array', 'size:4'],
            'viewpoints' => ['sometimes', 'array'],
        ];
    }

    public function audience(): Audience
    {
        return Audience::from($this->string('audience', Audience::Programme->value)->value());
    }

    /**
     * @return array<string, mixed>
     *
     * @throws Refused
     */
    public function fields(Layer $layer, ?Map $map): array
    {
        $design = $layer->design();
        $all = array_map(static fn (Field $f): string => $f->key, $design->valueFields());
        $look = $this->has('look')
            ? Look::read($this->input('look'), $design)->toArray()
            : ($map === null
                ? Look::suggest($design)->toArray()
                : $map->look);
        $card = $map === null ? ['fields' => $all, 'photos' => true] : $map->card;
        if ($this->has('card.fields')) {
            $card['fields'] = array_values(array_intersect($all, (array) $this->input('card.fields')));
        }
        if ($this->has('card.photos')) {
            $card['photos'] = $this->boolean('card.photos');
        }
        $extent = $this->has('extent')
            ? Box::of(...array_values((array) $this->input('extent')))->toArray()
            : ($map === null
                ? $layer->programme->area()->toArray()
                : $map->extent);

        return [
            'layer_id' => $layer->id,
            'title' => $this->has('title') ? $this->string('title')->value() : $map?->title,
            'look' => $look,
            'card' => $card,
            'extent' => $extent,
            'viewpoints' => $this->has('viewpoints')
                ? array_map(
                    static fn (Viewpoint $v): array => $v->toArray(),
                    Viewpoint::list($this->input('viewpoints')),
                )
                : $map->viewpoints ?? [],
        ];
    }
}
