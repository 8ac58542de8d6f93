<?php

declare(strict_types=1);

namespace App\Storage;

use App\Models\ChoiceList;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Design\SharedList;
use PinYard\Problem;
use PinYard\Refused;

/** Lists that fields share: a design takes its choices from them, and a changed list makes a new design of every layer that uses it. */
final class SharedLists
{
    /**
     * The design with the choices that its shared lists have today; a list of another programme is let go, its choices stay.
     *
     * @throws Refused where the choices do not go with the rest of the design
     */
    public static function applied(Programme $programme, LayerDesign $design): LayerDesign
    {
        $numbers = array_unique(array_filter(array_map(static fn (Field $f): ?int => $f->list, $design->fields)));
        if ($numbers === []) {
            return $design;
        }
        $lists = ChoiceList::query()->where('programme_id', $programme->id)->whereIn('id', $numbers)->get()->keyBy('id');
        $document = $design->toArray();
        foreach ($lists as $list) {
            $document = SharedList::read(['title' => $list->title, 'choices' => $list->choices])->into($document, $list->id);
        }
        $document['fields'] = array_map(static fn (array $f): array => isset($f['list']) && ! $lists->has($f['list']) ? array_diff_key($f, ['list' => 1]) : $f, $document['fields']);

        return LayerDesign::fromArray($document, $design->neighbours);
    }

    /** @return list<array{Layer, Field}> the fields that share a list */
    public static function usedBy(ChoiceList $list): array
    {
        $used = [];
        foreach ($list->programme->layers()->orderBy('title')->get() as $layer) {
            foreach ($layer->design()->fields as $field) {
                if ($field->list === $list->id) {
                    $used[] = [$layer, $field];
                }
            }
        }

        return $used;
    }

    /**
     * Choices that would leave the list although records carry them.
     *
     * @return list<array{code: string, label: string, count: int, layers: list<string>}>
     */
    public static function missed(ChoiceList $list, SharedList $next): array
    {
        $kept = array_map(static fn (Choice $c): string => $c->code, $next->choices);
        $gone = array_values(array_filter($list->choices, static fn (array $c): bool => ! in_array($c['code'], $kept, true)));
        $missed = [];
        foreach ($gone === [] ? [] : self::usedBy($list) as [$layer, $field]) {
            foreach ((new LayerCounts($layer))->withCodes($field, array_column($gone, 'code')) as $code => $count) {
                if ($count > 0) {
                    $missed[$code]['count'] = ($missed[$code]['count'] ?? 0) + $count;
                    $missed[$code]['layers'][] = $layer->title;
                }
            }
        }
        $told = [];
        foreach ($gone as $choice) {
            if (isset($missed[$choice['code']])) {
                $told[] = ['code' => $choice['code'], 'label' => $choice['label'], 'count' => $missed[$choice['code']]['count'], 'layers' => array_values(array_unique($missed[$choice['code']]['layers']))];
            }
        }

        return $told;
    }

    /**
     * @param  array<mixed>  $moves  code that leaves to the code that its records get
     */
    public static function save(ChoiceList $list, SharedList $next, int $base, array $moves, ?User $by): void
    {
        DB::transaction(static function () use ($list, $next, $base, $moves, $by): void {
            $now = ChoiceList::query()->with('programme')->lockForUpdate()->findOrFail($list->id);
            if ($now->version !== $base) {
                throw Refused::because('list_stale', null, $base, ['base' => $base, 'current' => $now->version]);
            }
            $used = self::usedBy($now);
            $same = $now->choices === $next->toArray();
            $now->update(['title' => $next->title, 'choices' => $next->toArray(), 'version' => $base + ($same ? 0 : 1)]);
            $layers = [];
            foreach ($same ? [] : $used as [$layer, $field]) {
                $layers[$layer->id] ??= [$layer, []];
                $layers[$layer->id][1][$field->key] = ['move' => $moves];
            }
            foreach ($layers as [$layer, $decisions]) {
                try {
                    $design = LayerDesign::fromArray($next->into($layer->design()->toArray(), $now->id), $layer->neighbours());
                    Designs::saveNext($layer, $design, $layer->design_version, $by, $decisions);
                } catch (Refused $e) {
                    throw Refused::for(array_map(static fn (Problem $p): Problem => new Problem('list_layer', $p->field, $p->value, ['layer' => $layer->title, 'why' => \App\Texts::problems([$p])[0]['message']]), $e->problems));
                }
            }
        }, 3);
    }
}
