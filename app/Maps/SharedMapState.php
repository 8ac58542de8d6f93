<?php

declare(strict_types=1);

namespace App\Maps;

use App\Backdrops;
use App\Models\Audience;
use Illuminate\Support\Facades\DB;

/** What everything that a shared map tells is made of, read with one query: pages ask whether something has changed. */
final class SharedMapState
{
    /** @return string|null null where there is no such map, or it is not open */
    public static function of(string $token): ?string
    {
        $row = DB::table('maps as m')
            ->join('programmes as p', 'p.id', '=', 'm.programme_id')
            ->join('layers as l', 'l.id', '=', 'm.layer_id')
            ->where('m.link_token', $token)
            ->where('m.audience', Audience::Link->value)
            ->whereNull('m.deleted_at')
            ->whereNull('p.deleted_at')
            ->whereNull('l.deleted_at')
            ->first([
                'm.*',
                'p.name as programme_name',
                'p.designs as programme_designs',
                'l.change_number as layer_change_number',
                'l.design_version as layer_design_version',
                'l.updated_at as layer_updated_at',
            ]);

        return $row === null ? null : hash('sha256', serialize($row)).'|'.Backdrops::version();
    }
}
