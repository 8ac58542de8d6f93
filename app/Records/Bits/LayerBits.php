<?php

declare(strict_types=1);

namespace App\Records\Bits;

use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * Which file counts a layer by bits. A file is of one layer, one version of its design, one zone and one change of it,
 * and holds what nobody is given as it is; a new one is built where many records have changed since.
 */
final class LayerBits
{
    /** More changes than these are read beside the file by every answer for too long. */
    private const CHANGES = 2_000;

    /** While a layer is still being written it is built anew no oftener than so many minutes. */
    private const MINUTES = 10;

    public static function path(string $token): string
    {
        return storage_path("app/bits/$token.bits");
    }

    public static function find(int $layer): ?stdClass
    {
        return DB::table('layer_bits')->where('layer_id', $layer)->first();
    }

    /** @param  string|null  $token  null: it has too few records for a file */
    public static function point(Layer $layer, ?string $token): void
    {
        DB::table('layer_bits')->upsert([[
            'layer_id' => $layer->id,
            'token' => $token,
            'as_of' => $layer->change_number,
            'design_version' => $layer->design_version,
            'time_zone' => $layer->programme->time_zone,
            'seen' => $layer->change_number,
            'built_at' => now(),
        ]], ['layer_id']);
    }

    /** Has files built where they are wanted. Run every minute. */
    public static function renew(): void
    {
        $large = DB::table('layers as l')->join('programmes as p', 'p.id', '=', 'l.programme_id')
            ->leftJoin('layer_bits as b', 'b.layer_id', '=', 'l.id')
            ->whereNull('l.deleted_at')->whereNull('p.deleted_at')
            // There are no more records than there were changes.
            ->where('l.change_number', '>=', BuildBits::LEAST)
            ->get(['l.id', 'l.change_number', 'l.design_version', 'p.time_zone as zone', 'b.as_of', 'b.seen',
                'b.built_at', 'b.design_version as built_design', 'b.time_zone as built_zone']);
        foreach ($large as $one) {
            $fits = $one->as_of !== null && $one->built_design === $one->design_version
                && $one->built_zone === $one->zone && $one->change_number - $one->as_of <= self::CHANGES
                && $one->change_number >= $one->as_of;
            if ($fits) {
                continue;
            }
            $isQuiet = $one->seen === $one->change_number
                || $one->built_at < now()->subMinutes(self::MINUTES)->toDateTimeString();
            if ($one->as_of === null || $isQuiet) {
                BuildBits::dispatch($one->id);
            } else {
                DB::table('layer_bits')->where('layer_id', $one->id)->update(['seen' => $one->change_number]);
            }
        }
    }

    /** Files that no layer points at, of which nobody can be reading any more. */
    public static function forget(): void
    {
        $used = DB::table('layer_bits')->whereNotNull('token')->pluck('token')->flip();
        foreach (glob(storage_path('app/bits/*')) ?: [] as $file) {
            if (! isset($used[basename($file, '.bits')]) && (int) @filemtime($file) < time() - 86_400) {
                @unlink($file);
            }
        }
    }
}
