<?php

declare(strict_types=1);

namespace App\Sync;

use App\Models\Layer;
use App\Models\User;
use App\Rights\LayerRights;
use App\Storage\Records;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/** What has changed in a layer since a cursor, in pages. */
final class News
{
    public const PAGE = 500;

    /**
     * @return array{cursor: int, more: bool, design: int, records: list<array<string, mixed>>, gone: list<string>}
     */
    public static function of(User $user, Layer $layer, int $since): array
    {
        if ($since > $layer->change_number) {
            // The server was put back to an earlier state than this phone has seen: begin again.
            $since = 0;
        }
        $query = DB::table($layer->table())->where('change_number', '>', $since);
        if (! LayerRights::of($user, $layer)->seesAll()) {
            $query->where('created_by', $user->id);
        }
        $rows = $query->orderBy('change_number')->limit(self::PAGE + 1)->get()->all();
        $more = count($rows) > self::PAGE;
        $rows = array_slice($rows, 0, self::PAGE);
        $here = array_values(array_filter($rows, static fn (object $r): bool => ! $r->deleted));
        $gone = array_filter($rows, static fn (object $r): bool => (bool) $r->deleted);

        return [
            // The last page ends at the layer's own number, so that an unchanged layer is recognised by it.
            'cursor' => $more ? (int) end($rows)->change_number : $layer->change_number,
            'more' => $more,
            'design' => $layer->design_version,
            'records' => Records::present($layer, $layer->design(), $here),
            'gone' => array_values(array_map(static fn (object $r): string => RecordId::fromBytes($r->id)->text, $gone)),
        ];
    }
}
