<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Models\Board;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\User;
use App\Rights\LayerRights;
use App\Rights\ShownTo;
use Illuminate\Support\Facades\DB;
use PinYard\Plan\TidyUp;
use stdClass;

/** Everything that people keep in order, whatever it is. */
final class Catalogue
{
    public const KINDS = [
        'programme' => Programme::class,
        'layer' => Layer::class,
        'map' => Map::class,
        'board' => Board::class,
    ];

    /**
     * All layers, maps and boards of a programme, or those of it that lie in the bin.
     *
     * @return list<array<string, mixed>>
     */
    public static function of(Programme $programme, User $viewer, bool $binned): array
    {
        $stars = self::stars($viewer);
        $things = [];
        foreach (['layer' => Layer::class, 'map' => Map::class, 'board' => Board::class] as $kind => $class) {
            foreach (
                ($binned ? $class::binned() : $class::query())
                    ->where('programme_id', $programme->id)
                    ->with('owner')
                    ->get() as $thing
            ) {
                $thing->setRelation('programme', $programme);
                $sees = $thing instanceof Layer
                    ? LayerRights::of($viewer, $thing)->maySee()
                    : ShownTo::admits($thing, $viewer);
                if ($sees) {
                    $things[] = self::present($kind, $thing, $stars);
                }
            }
        }
        usort($things, static fn (array $a, array $b): int => strcasecmp($a['title'], $b['title']));

        return $things;
    }

    /**
     * @param  array<string, true>  $stars
     * @return array<string, mixed>
     */
    public static function present(string $kind, Programme|Layer|Map|Board $thing, array $stars): array
    {
        return [
            'kind' => $kind,
            'id' => $thing->id,
            'programme' => $thing instanceof Programme ? $thing->id : $thing->programme_id,
            'title' => $thing instanceof Programme ? $thing->name : $thing->title,
            'shelf' => $thing instanceof Programme ? null : $thing->shelf_id,
            'tags' => $thing->tags ?? [],
            'purposes' => $thing->purposes ?? [],
            'starred' => isset($stars["$kind:$thing->id"]),
            'owner' => $thing->owner?->name,
            'shared' => ($thing instanceof Map || $thing instanceof Board) && $thing->audience->value === 'link',
            'changed_at' => $thing->updated_at?->toIso8601ZuluString(),
            'deleted_at' => $thing->deleted_at?->toIso8601ZuluString(),
            'gone_on' => $thing->deleted_at?->copy()->addDays(TidyUp::DAYS_IN_BIN)->toDateString(),
        ];
    }

    /** @return array<string, true> */
    public static function stars(User $user): array
    {
        return array_fill_keys(
            DB::table('favourites')
                ->where('user_id', $user->id)
                ->get()
                ->map(static fn (stdClass $f): string => "$f->kind:$f->thing_id")
                ->all(),
            true,
        );
    }
}
