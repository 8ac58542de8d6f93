<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Models\Board;
use App\Models\ChoiceList;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Outing;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Records\VisibleRecords;
use App\Rights\LayerRights;
use App\Rights\ShownTo;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/**
 * One search over everything that a person may see: programmes, layers, fields, maps, boards, questions, outings,
 * lists, records by name.
 */
final readonly class Search
{
    private const OF_EACH = 8;

    /** Names of records are looked through one by one; larger layers have a table to look in. */
    private const MOST_RECORDS = 50_000;

    public function __construct(private User $user)
    {
    }

    /**
     * @return list<array{kind: string, id: int|string, programme: int, title: string, under: string, layer?: int,
     *     board?: int}>
     */
    public function for(string $text): array
    {
        $words = array_values(array_filter(preg_split('/\s+/u', mb_strtolower(trim($text))) ?: []));
        if ($words === []) {
            return [];
        }
        $programmes = Programme::query()->whereRelation('members', 'user_id', $this->user->id)->get()->keyBy('id');
        Programme::knowMembers(new Collection($programmes->all()), $this->user);
        $desk = $programmes->filter(fn (Programme $p): bool => $p->memberFor($this->user)?->role === Role::Coordinator);
        $ids = $programmes->keys()->all();
        $name = static fn (int $programme): string => $programmes[$programme]->name ?? '';
        $found = [];
        foreach ($programmes as $p) {
            if (
                self::holds($words, "$p->name $p->purpose ".implode(' ', [...$p->tags ?? [], ...$p->purposes ?? []]))
            ) {
                $found[] = [
                    'kind' => 'programme',
                    'id' => $p->id,
                    'programme' => $p->id,
                    'title' => $p->name,
                    'under' => $p->purpose,
                ];
            }
        }
        $layers = Layer::query()
            ->whereIn('programme_id', $ids)
            ->with(['programme', 'visited', 'visitsLayer'])
            ->get()
            ->each(fn (Layer $l) => $l->setRelation('programme', $programmes[$l->programme_id]))
            // What is not there for somebody is not found by them, either.
            ->filter(fn (Layer $l): bool => LayerRights::of($this->user, $l)->maySee());
        foreach ($layers as $layer) {
            $design = $layer->design();
            if (
                self::holds(
                    $words,
                    "$layer->title $design->purpose ".
                        implode(' ', [...$design->info->tags, ...$layer->tags ?? [], ...$layer->purposes ?? []]),
                )
            ) {
                $found[] = [
                    'kind' => 'layer',
                    'id' => $layer->id,
                    'programme' => $layer->programme_id,
                    'title' => $layer->title,
                    'under' => $name($layer->programme_id),
                ];
            }
            foreach ($design->fields as $field) {
                if (self::holds($words, "$field->label $field->key")) {
                    $found[] = [
                        'kind' => 'field',
                        'id' => $field->key,
                        'programme' => $layer->programme_id,
                        'title' => $field->label,
                        'under' => "{$name($layer->programme_id)} · $layer->title",
                        'layer' => $layer->id,
                    ];
                }
            }
        }
        foreach (['map' => Map::class, 'board' => Board::class] as $kind => $class) {
            foreach (
                $class::query()->whereIn('programme_id', $ids)->where(self::titled($words))->get() as $thing
            ) {
                $thing->setRelation('programme', $programmes[$thing->programme_id]);
                if (! ShownTo::admits($thing, $this->user)) {
                    continue;
                }
                $found[] = [
                    'kind' => $kind,
                    'id' => $thing->id,
                    'programme' => $thing->programme_id,
                    'title' => $thing->title,
                    'under' => $name($thing->programme_id),
                ];
            }
        }
        foreach (['outing' => Outing::class, 'list' => ChoiceList::class] as $kind => $class) {
            foreach (
                $class::query()
                    ->whereIn('programme_id', $desk->keys()->all())
                    ->where(self::titled($words))
                    ->limit(self::OF_EACH)
                    ->get() as $thing
            ) {
                $found[] = [
                    'kind' => $kind,
                    'id' => $thing->id,
                    'programme' => $thing->programme_id,
                    'title' => $thing->title,
                    'under' => $name($thing->programme_id),
                ];
            }
        }
        foreach (
            DB::table('questions')
                ->whereIn('programme_id', $ids)
                ->get(['id', 'programme_id', 'text', 'note']) as $q
        ) {
            if (self::holds($words, "$q->text $q->note")) {
                $found[] = [
                    'kind' => 'question',
                    'id' => $q->id,
                    'programme' => $q->programme_id,
                    'title' => $q->text,
                    'under' => $name($q->programme_id),
                ];
            }
        }
        foreach ($layers as $layer) {
            array_push($found, ...$this->records($layer, $words, $name($layer->programme_id)));
        }

        return self::cut($found);
    }

    /**
     * @param  list<string>  $words
     * @return list<array{kind: 'record', id: string, programme: int, title: string, under: string, layer: int}>
     */
    private function records(Layer $layer, array $words, string $programme): array
    {
        $field = $layer->design()->nameField();
        if (
            $field === null ||
            ! $field->kind->isText() ||
            VisibleRecords::for($this->user, $layer)->count() > self::MOST_RECORDS
        ) {
            return [];
        }
        $query = VisibleRecords::for($this->user, $layer)->rows();
        foreach ($words as $word) {
            $query->where($field->column(), 'like', '%'.addcslashes($word, '%_\\').'%');
        }
        $found = [];
        foreach ($query->orderByDesc('change_number')->limit(self::OF_EACH)->get() as $row) {
            $found[] = [
                'kind' => 'record',
                'id' => RecordId::fromBytes($row->id)->text,
                'programme' => $layer->programme_id,
                'title' => (string) $row->{$field->column()},
                'under' => "$programme · $layer->title",
                'layer' => $layer->id,
            ];
        }

        return $found;
    }

    /** @param  list<string>  $words */
    private static function holds(array $words, string $text): bool
    {
        $text = mb_strtolower($text);
        foreach ($words as $word) {
            if (! str_contains($text, $word)) {
                return false;
            }
        }

        return true;
    }

    /**
     * @param  list<string>  $words
     * @return \Closure(Builder<covariant Model>): mixed
     */
    private static function titled(array $words): \Closure
    {
        return static function (Builder $query) use ($words): void {
            foreach ($words as $word) {
                $query->where('title', 'like', '%'.addcslashes($word, '%_\\').'%');
            }
        };
    }

    /**
     * @param  list<array{kind: string, id: int|string, programme: int, title: string, under: string, layer?: int,
     *     board?: int}>  $found
     * @return list<array{kind: string, id: int|string, programme: int, title: string, under: string, layer?: int,
     *     board?: int}>
     */
    private static function cut(array $found): array
    {
        $counts = [];

        return array_values(
            array_filter($found, static function (array $one) use (&$counts): bool {
                $counts[$one['kind']] = ($counts[$one['kind']] ?? 0) + 1;

                return $counts[$one['kind']] <= self::OF_EACH;
            }),
        );
    }
}
