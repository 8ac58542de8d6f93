<?php

declare(strict_types=1);

namespace App\Http\Requests;

use App\Boards\BoardThings;
use App\Models\Audience;
use App\Models\Programme;
use App\Rights\ShownTo;
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
            'shown_to' => ['sometimes', 'array', 'max:100'],
            'tiles' => ['sometimes', 'array'],
            'pages' => ['sometimes', 'nullable', 'array', 'max:'.BoardPlan::MOST_PAGES],
            'pages.*' => ['string', 'max:60'],
            'visitors_pick' => ['sometimes', 'boolean'],
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
     * @return list<array<string, mixed>>
     *
     * @throws Refused
     */
    public function tiles(Programme $programme): array
    {
        $plan = BoardPlan::read($this->input('tiles'), BoardThings::of($programme));

        return array_map(static fn (Tile $t): array => $t->toArray(), $plan->tiles);
    }

    /** @return list<string>|null titles; null where it has but one page */
    public function pages(): ?array
    {
        $pages = $this->input('pages');

        return is_array($pages) && $pages !== []
            ? array_map(static fn (mixed $p): string => is_string($p) ? $p : '', array_values($pages))
            : null;
    }
}
