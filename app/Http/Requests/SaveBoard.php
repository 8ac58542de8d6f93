<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Models\Audience;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\Slice;
use Illuminate\Foundation\Http\FormRequest;
use Illuminate\Validation\Rule;
use PinYard\Board\BoardPlan;
use PinYard\Board\Tile;
use PinYard\Refused;

final class SaveBoard extends FormRequest
{
    /** @return array<string, mixed> */
    public function rules(): array
    {
        return [
            'title' => [$this->isMethod('POST') ? 'required' : 'sometimes', 'filled', 'string', 'max:120'],
            'audience' => ['sometimes', 'filled', Rule::enum(Audience::class)],
            'tiles' => ['sometimes', 'array'],
        ];
    }

    public function audience(): Audience
    {
        return Audience::from($this->string('audience', Audience::Programme->value)->value());
    }

    /**
     * @return list<array<string, mixed>>
     *
     * @throws Refused
     */
    public function tiles(Programme $programme): array
    {
        $layers = $programme->layers()->get()->keyBy('id');
        $plan = BoardPlan::read(
            $this->input('tiles'),
            $layers->map(static fn (Layer $l) => $l->design())->all(),
            Slice::query()->whereIn('layer_id', $layers->keys())->pluck('layer_id', 'id')->all(),
        );

        return array_map(static fn (Tile $t): array => $t->toArray(), $plan->tiles);
    }
}
