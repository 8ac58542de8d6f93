<?php

declare(strict_types=1);

namespace App\Designs;

use App\Models\ChoiceList;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Texts;
use Illuminate\Support\Facades\DB;
use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Design\SharedList;
use PinYard\Overtaken;
use PinYard\Problem;
use PinYard\Refused;

/**
 * Lists that fields share: a design takes its choices from them, and a changed list makes a new design of every layer
 * that uses it.
 */
final class SharedLists
{
    /**
     * The design with the choices that its shared lists have today; a list of another programme is let go, its choices
     * stay.
     *
     * @param  array<int, SharedList>  $next  by number: lists as they are about to become
     *
     * @throws Refused where the choices do not go with the rest of the design
     */
    public static function applied(Programme $programme, LayerDesign $design, array $next = []): LayerDesign
    {
        $numbers = array_unique(array_filter(array_map(static fn (Field $f): ?int => $f->list, $design->fields)));
        if ($numbers === []) {
            return $design;
        }
        $lists = ChoiceList::query()
            ->where('programme_id', $programme->id)
            ->whereIn('id', $numbers)
            ->get()
            ->keyBy('id');
        $document = $design->toArray();
        foreach ($lists as $list) {
            $document = (
                $next[$list->id] ?? SharedList::read(['title' => $list->title, 'choices' => $list->choices])
            )->into($document, $list->id);
        }
        $document['fields'] = array_map(
            static fn (array $f): array => isset($f['list']) && ! $lists->has($f['list'])
                ? array_diff_key($f, ['list' => 1])
                : $f,
            $document['fields'],
        );

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
        $gone = array_values(
            array_filter($list->choices, static fn (array $c): bool => ! in_array($c['code'], $kept, true)),
        );
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
                $told[] = [
                    'code' => $choice['code'],
                    'label' => $choice['label'],
                    'count' => $missed[$choice['code']]['count'],
                    'layers' => array_values(array_unique($missed[$choice['code']]['layers'])),
                ];
            }
        }

        return $told;
    }

    /**
     * @param  array<mixed>  $moves  code that leaves to the code that its records get
     */
    public static function save(ChoiceList $list, SharedList $next, int $base, array $moves, ?User $by): void
    {
        // Tables are widened first, outside of the transaction in which all of the designs are saved, or none.
        $prepared = self::prepared($list, $next, $base, $moves);
        DB::transaction(static function () use ($list, $next, $base, $prepared, $by): void {
            $now = self::fresh($list, $base, true);
            $same = $now->choices === $next->toArray();
            $using = array_unique(array_map(static fn (array $used): int => $used[0]->id, self::usedBy($now)));
            if (! $same && array_diff($using, array_map(static fn (array $p): int => $p[1]->layer, $prepared)) !== []) {
                // A further layer has come to use it meanwhile.
                throw Overtaken::because('list_stale', null, $base, ['base' => $base, 'current' => $now->version]);
            }
            $now->update([
                'title' => $next->title,
                'choices' => $next->toArray(),
                'version' => $base + ($same ? 0 : 1),
            ]);
            foreach ($prepared as [$title, $design]) {
                self::naming($title, static fn () => $design->save($by));
            }
        }, 3);
    }

    /**
     * @param  array<mixed>  $moves
     * @return list<array{string, NextDesign}> the next design of each layer that uses the list, with the layer's title,
     *     in the order of their locks
     */
    private static function prepared(ChoiceList $list, SharedList $next, int $base, array $moves): array
    {
        $now = self::fresh($list, $base, false);
        if ($now->choices === $next->toArray()) {
            return [];
        }
        $layers = [];
        foreach (self::usedBy($now) as [$layer, $field]) {
            $layers[$layer->id] ??= [$layer, []];
            $layers[$layer->id][1][$field->key] = ['move' => $moves];
        }
        ksort($layers);
        $prepared = [];
        foreach ($layers as [$layer, $decisions]) {
            $prepared[] = [
                $layer->title,
                self::naming(
                    $layer->title,
                    static fn (): NextDesign => DesignStore::prepare(
                        $layer,
                        LayerDesign::fromArray(
                            $next->into($layer->design()->toArray(), $now->id),
                            $layer->neighbours(),
                        ),
                        $layer->design_version,
                        $decisions,
                        [$now->id => $next],
                    ),
                ),
            ];
        }

        return $prepared;
    }

    private static function fresh(ChoiceList $list, int $base, bool $lock): ChoiceList
    {
        $now = ChoiceList::query()
            ->with('programme')
            ->when($lock, static fn ($q) => $q->lockForUpdate())
            ->findOrFail($list->id);
        if ($now->version !== $base) {
            throw Overtaken::because('list_stale', null, $base, ['base' => $base, 'current' => $now->version]);
        }

        return $now;
    }

    /**
     * @template T
     *
     * @param  \Closure(): T  $do
     * @return T
     *
     * @throws Refused that says of which layer
     */
    private static function naming(string $layer, \Closure $do): mixed
    {
        try {
            return $do();
        } catch (Refused $e) {
            throw Refused::for(
                array_map(
                    static fn (Problem $p): Problem => new Problem('list_layer', $p->field, $p->value, [
                        'layer' => $layer,
                        'why' => Texts::problems([$p])[0]['message'],
                    ]),
                    $e->problems,
                ),
            );
        }
    }
}
