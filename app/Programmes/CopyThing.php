<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Designs\DesignStore;
use App\Flags\LayerFlags;
use App\Models\Audience;
use App\Models\Board;
use App\Models\ChoiceList;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Role;
use App\Models\Slice;
use App\Models\User;
use App\Plan\Questions;
use App\Rights\AudienceName;
use App\Rights\ShownTo;
use App\Slices\CarriedRule;
use App\Texts;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Neighbours;

/**
 * Copies of things: designs, looks and tiles, never records. A copied programme is a fresh season: its layers are
 * empty, nothing of it is shared yet.
 */
final readonly class CopyThing
{
    public function __construct(private User $user)
    {
    }

    public function of(Programme|Layer|Map|Board $thing): Programme|Layer|Map|Board
    {
        return match (true) {
            $thing instanceof Programme => $this->programme($thing),
            $thing instanceof Layer => $this->layer(
                $thing,
                $thing->programme,
                Texts::of('copy.title', ['title' => $thing->title]),
                null,
            ),
            $thing instanceof Map => $this->map(
                $thing,
                $thing->programme,
                Texts::of('copy.title', ['title' => $thing->title]),
            ),
            default => $this->board(
                $thing,
                $thing->programme,
                Texts::of('copy.title', ['title' => $thing->title]),
                [],
                [],
                [],
            ),
        };
    }

    private function programme(Programme $from): Programme
    {
        $to = $from->replicate(['deleted_at', 'deleted_by']);
        $to->name = mb_substr(Texts::of('copy.title', ['title' => $from->name]), 0, 120);
        $to->owner_id = $this->user->id;
        $to->save();
        $to->members()->create(['user_id' => $this->user->id, 'role' => Role::Coordinator]);
        $crews = [];
        foreach ($from->crews()->get() as $crew) {
            $crews[$crew->id] = $to->crews()->create(['name' => $crew->name])->id;
        }
        $lists = [];
        foreach (ChoiceList::query()->where('programme_id', $from->id)->get() as $list) {
            $copy = new ChoiceList(['title' => $list->title, 'choices' => $list->choices, 'version' => 1]);
            $copy->programme()->associate($to);
            $copy->save();
            $lists[$list->id] = $copy->id;
        }
        /** @var array<int, Layer> $layers */
        $layers = [];
        // First what is visited, then the visits, and then what formulas of the visited say of them.
        foreach (
            $from->layers()->get()->sortBy(static fn (Layer $l): array => [$l->visits_of !== null, $l->id]) as $layer
        ) {
            $layers[$layer->id] = $this->layer(
                $layer,
                $to,
                $layer->title,
                $layer->visits_of === null ? null : $layer->visited?->title,
                $lists,
            );
        }
        foreach ($from->layers()->get() as $layer) {
            $copy = $layers[$layer->id]->fresh();
            if ($copy !== null && $layer->design()->rules->visited()) {
                DesignStore::saveNext(
                    $copy,
                    LayerDesign::fromArray(self::relisted($layer->design()->toArray(), $lists), $copy->neighbours()),
                    $copy->design_version,
                    $this->user,
                );
            }
        }
        $slices = [];
        $rule = new CarriedRule($from, $crews);
        foreach (Slice::query()->whereIn('layer_id', array_keys($layers))->get() as $slice) {
            $slices[$slice->id] = $layers[$slice->layer_id]
                ->slices()
                ->create(['name' => $slice->name, 'filter' => $rule->of($slice->filter)])->id;
        }
        $numbers = array_map(static fn (Layer $l): int => $l->id, $layers);
        foreach ($layers as $of => $layer) {
            self::seen($layer, $slices, $numbers);
            LayerFlags::copy($of, $layer, $numbers);
        }
        $maps = [];
        foreach (ShownTo::mapsOf($from, $this->user) as $map) {
            $maps[$map->id] = $this->map($map, $to, $map->title, $numbers, $slices)->id;
        }
        $boards = [];
        foreach (ShownTo::boardsOf($from, $this->user) as $board) {
            $boards[$board->id] = $this->board($board, $to, $board->title, $numbers, $slices, $maps)->id;
        }
        foreach ($from->alerts()->get() as $alert) {
            AlertCopy::into($to, $alert, $numbers, $slices, $crews);
        }
        $this->questions($from, $to, $numbers, $boards);

        return $to;
    }

    /**
     * @param  array<int, int>  $lists  numbers of shared lists to those of their copies; without them the layer stays
     *     in its programme
     */
    private function layer(Layer $from, Programme $to, string $title, ?string $visitsOf, ?array $lists = null): Layer
    {
        $document = $from->design()->withGenerations([])->toArray();
        $document = [
            ...array_diff_key($document, ['visits_of' => 1]),
            'title' => mb_substr($title, 0, 120),
            ...$visitsOf === null ? [] : ['visits_of' => $visitsOf],
        ];
        if ($lists !== null) {
            $document = self::relisted($document, $lists);
        }
        // Formulas about visits need those first; until there are any they say nothing.
        $design = LayerDesign::fromArray($document, Neighbours::none()->lenient());
        $copy = DesignStore::createLayer(
            $to,
            LayerDesign::fromArray(self::withoutVisits($document, $design), Neighbours::none()),
            $this->user,
        );
        $copy->update([
            'owner_id' => $this->user->id,
            'tags' => $from->tags,
            'purposes' => $from->purposes,
            // What was hidden stays hidden in the copy.
            'seen_by' => $to->id === $from->programme_id ? $from->seen_by : self::forOthers($from->seen_by),
            'shelf_id' => $to->id === $from->programme_id ? $from->shelf_id : null,
        ]);
        LayerFlags::copy($from->id, $copy);

        return $copy;
    }

    /**
     * A rule of who sees what goes by the copies of its slice and of its areas; where there are none it lets nothing
     * through, and tells no places.
     *
     * @param  array<int, int>  $slices  numbers to those of their copies
     * @param  array<int, int>  $layers  likewise
     */
    private static function seen(Layer $layer, array $slices, array $layers): void
    {
        $rules = $layer->seen_by ?? [];
        $new = array_map(
            static fn (array $rule): array => [
                ...$rule['slice'] === null ? [] : ['slice' => $slices[$rule['slice']] ?? 0],
                ...($rule['areas'] ?? null) === null ? [] : ['areas' => $layers[$rule['areas']] ?? 0],
            ] + $rule,
            $rules,
        );
        if ($new !== $rules) {
            $layer->update(['seen_by' => $new]);
        }
    }

    /**
     * Rules of a programme's own crews and groups say nothing in another.
     *
     * @param  array<string, array<string, mixed>>|null  $rules
     * @return array<string, array<string, mixed>>|null
     */
    private static function forOthers(?array $rules): ?array
    {
        return $rules === null
            ? null
            : array_filter(
                $rules,
                static fn (string $of): bool => ! AudienceName::isOfProgramme($of),
                ARRAY_FILTER_USE_KEY,
            );
    }

    /**
     * @param  array<string, mixed>  $document
     * @return array<string, mixed> without the fields and conditions that read visits
     */
    private static function withoutVisits(array $document, LayerDesign $design): array
    {
        $rules = $design->rules;
        $gone = array_keys(array_filter($rules->formulas, static fn ($f): bool => $f->visited));
        foreach ($gone as $key) {
            array_push($gone, ...$rules->readers((string) $key));
        }
        $fields = [];
        foreach ($document['fields'] as $field) {
            $reads = [...$rules->show[$field['key']]->fields ?? [], ...$rules->require[$field['key']]->fields ?? []];
            if (in_array($field['key'], $gone, true)) {
                continue;
            }
            if (
                ($rules->show[$field['key']]->visited ?? false) ||
                ($rules->require[$field['key']]->visited ?? false) ||
                array_intersect($reads, $gone) !== []
            ) {
                $field = array_diff_key($field, ['show_when' => 1, 'require_when' => 1]);
            }
            $fields[] = $field;
        }
        $name = $document['name_field'] ?? null;

        return [
            ...array_diff_key($document, in_array($name, $gone, true) ? ['name_field' => 1] : []),
            'fields' => $fields,
        ];
    }

    /**
     * @param  array<string, mixed>  $document
     * @param  array<int, int>  $lists
     * @return array<string, mixed>
     */
    private static function relisted(array $document, array $lists): array
    {
        $document['fields'] = array_map(
            static fn (array $f): array => isset($f['list'], $lists[$f['list']])
                ? ['list' => $lists[$f['list']]] + $f
                : array_diff_key($f, ['list' => 1]),
            $document['fields'],
        );

        return $document;
    }

    /**
     * @param  array<int, int>  $layers  numbers of layers to those of their copies; empty for a copy within the
     *     programme
     * @param  array<int, int>  $slices
     */
    private function map(Map $from, Programme $to, string $title, array $layers = [], array $slices = []): Map
    {
        $parts = array_map(
            static fn (array $part): array => [
                'layer' => $layers[$part['layer']] ?? $part['layer'],
                'slice' => $slices[$part['slice'] ?? 0] ?? $part['slice'],
                'look' => self::look($part['look'], $layers, $slices),
            ] + $part,
            // Layers of other programmes stay theirs; one that lies in the bin does not come along.
            array_values(array_filter(
                $from->layers,
                static fn (array $part): bool => isset($layers[$part['layer']]) ||
                    Layer::query()->whereKey($part['layer'])->where('programme_id', '!=', $from->programme_id)
                        ->exists() ||
                    $layers === [],
            )),
        );
        $copy = $to
            ->maps()
            ->make([
                'layers' => $parts,
                'title' => mb_substr($title, 0, 120),
                'about' => $from->about,
                'extent' => $from->extent,
                'viewpoints' => $from->viewpoints,
                'searches' => array_map(
                    static fn (array $s): array => ['slice' => $slices[$s['slice']] ?? $s['slice']] + $s,
                    $from->searches ?? [],
                ),
                'beside' => $from->beside,
                'tags' => $from->tags,
                'purposes' => $from->purposes,
                'owner_id' => $this->user->id,
            ]);
        $copy->openTo(self::audience($from));

        return $copy;
    }

    /** A copy is shown to no more people than what it was made of; another programme has not its crews and groups. */
    private static function audience(Map|Board $from): Audience
    {
        return match ($from->audience) {
            Audience::Me, Audience::Some => Audience::Me,
            Audience::Programme, Audience::Link => Audience::Programme,
        };
    }

    /**
     * @param  array<string, mixed>  $look
     * @param  array<int, int>  $layers
     * @param  array<int, int>  $slices
     * @return array<string, mixed> counting the copies, where it counts
     */
    private static function look(array $look, array $layers, array $slices): array
    {
        if (isset($look['of'])) {
            foreach (['layer' => $layers, 'slice' => $slices, 'share' => $slices] as $what => $copies) {
                $look['of'][$what] = $copies[$look['of'][$what] ?? 0] ?? $look['of'][$what] ?? null;
            }
        }

        return $look;
    }

    /**
     * @param  array<int, int>  $layers  numbers of layers to those of their copies; empty for a copy within the
     *     programme
     * @param  array<int, int>  $slices
     * @param  array<int, int>  $maps
     */
    private function board(Board $from, Programme $to, string $title, array $layers, array $slices, array $maps): Board
    {
        $tiles = BoardCopy::tiles($from->tiles, $layers, $slices, $maps);
        $copy = $to
            ->boards()
            ->make([
                'title' => mb_substr($title, 0, 120),
                'tiles' => $tiles,
                'pages' => $from->pages,
                'tags' => $from->tags,
                'purposes' => $from->purposes,
                'owner_id' => $this->user->id,
            ]);
        $copy->openTo(self::audience($from));

        return $copy;
    }

    /**
     * @param  array<int, int>  $layers
     * @param  array<int, int>  $boards
     */
    private function questions(Programme $from, Programme $to, array $layers, array $boards): void
    {
        $questions = [];
        foreach (Questions::of($from) as $q) {
            $fields = array_values(
                array_filter(
                    array_map(
                        static fn (array $f): ?array => isset($layers[$f['layer']])
                            ? ['layer' => $layers[$f['layer']], 'key' => $f['key']]
                            : null,
                        $q['fields'],
                    ),
                ),
            );
            $tile =
                $q['tile'] !== null && isset($boards[$q['tile']['board']])
                    ? ['board' => $boards[$q['tile']['board']], 'tile' => $q['tile']['tile']]
                    : null;
            $questions[] = [
                'id' => $q['id'],
                'text' => $q['text'],
                'note' => $q['note'],
                'fields' => $fields,
                'tile' => $tile,
            ];
        }
        if ($questions !== []) {
            Questions::save($to, $questions);
        }
    }
}
