<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Audience;
use App\Models\Programme;
use App\Rights\ShownTo;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;
use PinYard\Carto\Viewpoint;
use PinYard\Geo\Box;
use PinYard\Refused;

final class SaveMap extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        $presence = $this->isMethod('POST') ? 'required' : 'sometimes';

        return [
            // One layer to begin with, by its number, perhaps with its look and card; or several with all they say.
            'layer' => ['sometimes', 'integer'],
            'look' => ['sometimes', 'array'],
            'card' => ['sometimes', 'array'],
            'layers' => ['sometimes', 'array'],
            'title' => [$presence, 'filled', 'string', 'max:120'],
            'about' => ['sometimes', 'nullable', 'string', 'max:2000'],
            'audience' => ['sometimes', 'filled', Rule::enum(Audience::class)],
            'shown_to' => ['sometimes', 'array', 'max:100'],
            'extent' => ['sometimes', 'filled', 'array', 'size:4'],
            'viewpoints' => ['sometimes', 'array'],
            'searches' => ['sometimes', 'array'],
            'beside' => ['sometimes', 'nullable', 'array'],
        ];
    }

    /**
     * @return list<string> names of the audiences that it is shown to
     *
     * @throws Refused
     */
    public function shownTo(Programme $programme): array
    {
        return ShownTo::read($this->input('shown_to') ?? [], $programme);
    }

    public function audience(): Audience
    {
        return Audience::from($this->string('audience', Audience::Programme->value)->value());
    }

    /**
     * What was sent of the map itself.
     *
     * @return array<string, mixed>
     *
     * @throws Refused
     */
    public function fields(): array
    {
        $fields = [];
        if ($this->has('title')) {
            $fields['title'] = $this->string('title')->value();
        }
        if ($this->has('about')) {
            $fields['about'] = trim($this->string('about')->value());
        }
        if ($this->has('extent')) {
            $fields['extent'] = Box::of(...array_values((array) $this->input('extent')))->toArray();
        }
        if ($this->has('viewpoints')) {
            $fields['viewpoints'] = array_map(
                static fn (Viewpoint $v): array => $v->toArray(),
                Viewpoint::list($this->input('viewpoints')),
            );
        }

        return $fields;
    }
}
