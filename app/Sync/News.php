<?php

declare(strict_types=1);

namespace App\Sync;

use App\Models\Fill;
use App\Models\Layer;
use App\Models\User;
use App\Records\RecordView;
use App\Records\VisibleRecords;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Audience\Rows;
use PinYard\Geo\Box;
use PinYard\Record\RecordId;
use stdClass;

/** What has changed in a layer since a cursor, in pages. */
final class News
{
    public const PAGE = 500;

    /**
     * @param  Box|null  $area  only what lies in it, and what this person made; visits go with their records wherever
     *     one stood
     * @param  bool  $filling  the phone has nothing of the layer yet, so what lies outside need not be named
     * @return array{cursor: int, more: bool, design: int, scope: string, again?: true,
     *     records: list<array<string, mixed>>,
     *     gone: list<string>, outside: list<string>}
     */
    public static function of(User $user, Layer $layer, int $since, ?Box $area = null, bool $filling = false): array
    {
        if ($since > $layer->change_number) {
            // The server was put back to an earlier state than this phone has seen: begin again.
            $since = 0;
        }
        $area = $layer->visits_of === null ? $area : null;
        $visible = VisibleRecords::for($user, $layer);
        $sight = $visible->sight;
        // Who sees their own alone, and who is shown but some of them or some of each; what else they see is not theirs
        // to count.
        $own = $sight->rows !== Rows::All;
        $scope = match (true) {
            $sight->isWhole() && ! $sight->chooses() => $own ? 'own' : 'all',
            default => 'some:'.substr(md5($visible->key()), 0, 12),
        };
        $again = $since > 0 && $sight->chooses() && $visible->someLeft($since);
        $filling = $filling || $since === 0;
        $narrow = static fn (Builder $query, string $author): Builder => $area === null || ! $filling
            ? $query
            : $query->where(
                static fn (Builder $any) => $any
                    ->where($author, $user->id)
                    ->orWhere(static fn (Builder $in) => $visible->within($in, $area)),
            );
        $query = $narrow(
            $visible
                ->withDeleted()
                ->select('*')
                ->selectRaw('change_number as news_number')
                ->where('change_number', '>', $since),
            'created_by',
        );
        foreach (self::fills($layer, $since) as [$table, $from, $undone]) {
            $query->unionAll(
                $narrow(
                    DB::table("$table as f")
                        ->joinSub($visible->withDeleted(), 'r', 'r.id', '=', 'f.id')
                        ->select('r.*')
                        ->selectRaw("$from + f.seq as news_number")
                        ->where('f.seq', '>', $since - $from)
                        ->when($undone, static fn (Builder $q) => $q->whereNotNull('f.undone_version')),
                    'r.created_by',
                ),
            );
        }
        $rows = $query
            ->orderBy('news_number')
            ->limit(self::PAGE + 1)
            ->get()
            ->all();
        $more = count($rows) > self::PAGE;
        $rows = array_slice($rows, 0, self::PAGE);
        // Nothing is done in the field with what has no place.
        $here = array_values(
            array_filter($rows, static fn (stdClass $r): bool => ! $r->deleted && $r->lon !== null),
        );
        $gone = array_filter($rows, static fn (stdClass $r): bool => (bool) $r->deleted);
        $outside = $area === null || $filling ? [] : self::outside($user, $visible, $here, $area);
        $here = array_values(array_filter($here, static fn (stdClass $r): bool => ! isset($outside[$r->id])));

        return [
            // The last page ends at the layer's own number, so that an unchanged layer is recognised by it. Whoever
            // sees their own
            // records alone is not told how often those of others change.
            'cursor' => ($more || $own) && ($last = end($rows)) !== false
                    ? (int) $last->news_number
                    : ($own
                        ? $since
                        : $layer->change_number),
            'more' => $more,
            'design' => $layer->design_version,
            'scope' => $scope,
            // A record has left those that are shown: what the phone has is to be fetched anew.
            ...$again ? ['again' => true] : [],
            'records' => array_map(
                static fn (array $record, stdClass $row): array => [
                    ...$record,
                    'mine' => $row->created_by === $user->id,
                ],
                RecordView::present($layer, $layer->design(), $here, $user),
                $here,
            ),
            'gone' => array_values(array_map(static fn (stdClass $r): string => RecordId::fromBytes($r->id)->text,
                $gone)),
            'outside' => array_map(
                static fn (string $id): string => RecordId::fromBytes($id)->text,
                array_map(strval(...), array_keys($outside)),
            ),
        ];
    }

    /**
     * @param  list<stdClass>  $rows
     * @return array<string, true> by id: those that do not lie in the area, or no longer
     */
    private static function outside(User $user, VisibleRecords $visible, array $rows, Box $area): array
    {
        $others = array_map(
            static fn (stdClass $r): string => $r->id,
            array_filter($rows, static fn (stdClass $r): bool => $r->created_by !== $user->id),
        );
        $inside =
            $others === []
                ? []
                : $visible
                    ->within($visible->withDeleted()->whereIn('id', $others), $area)
                    ->pluck('id')
                    ->all();

        return array_fill_keys(array_diff($others, $inside), true);
    }

    /**
     * Fills whose records a phone may not have heard of: their change numbers are in their own tables.
     *
     * @return list<array{string, int, bool}> table, number before the first, whether it is the undo
     */
    private static function fills(Layer $layer, int $since): array
    {
        $told = [];
        foreach (Fill::query()->where('layer_id', $layer->id)->whereNotNull('from_number')->get() as $fill) {
            foreach ([[$fill->from_number, false], [$fill->undone_from, true]] as [$from, $undone]) {
                if ($from !== null && $since < $from + $fill->numbers) {
                    $told[] = [$fill->table(), $from, $undone];
                }
            }
        }

        return $told;
    }
}
