<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Models\Export;
use App\Models\Import;
use App\Models\Layer;
use App\Models\Programme;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\File;
use PinYard\Problem;
use PinYard\Refused;
use Symfony\Component\Finder\SplFileInfo;

/**
 * How much disk a programme takes: files of records, what was brought in, what was taken out; and how much it may
 * (PINYARD_QUOTA_GB).
 */
final class Usage
{
    /** Bytes that stay free, so that the database can still write. */
    public const RESERVE = 500_000_000;

    /** @return array{files: int, brought: int, taken_out: int, used: int, quota: int, free: int} bytes */
    public static function of(Programme $programme): array
    {
        $layers = Layer::withTrashed()->where('programme_id', $programme->id)->pluck('id')->all();
        $files = (int) DB::table('attachments')
            ->whereIn('layer_id', $layers)
            ->where('state', '!=', 'refused')
            ->sum('bytes');
        $brought = 0;
        /** @var Import $import */
        foreach (
            Import::query()->where('programme_id', $programme->id)->where('state', '!=', 'cancelled')->get() as $import
        ) {
            $brought += self::size($import->folder());
        }
        $out = (int) Export::query()->whereIn('layer_id', $layers)->sum('bytes');

        return [
            'files' => $files,
            'brought' => $brought,
            'taken_out' => $out,
            'used' => $files + $brought + $out,
            'quota' => (int) config('app.quota'),
            'free' => self::free(),
        ];
    }

    /**
     * @param  int  $bytes  that are to come
     *
     * @throws Refused where the programme, or the disk, has no room for them
     */
    public static function allow(Programme $programme, int $bytes): void
    {
        if (self::free() < $bytes + self::RESERVE) {
            throw Refused::for([new Problem('disk_full', 'files')]);
        }
        ['used' => $used, 'quota' => $quota] = self::of($programme);
        if ($used + $bytes > $quota) {
            throw Refused::because('quota_full', 'files', null, [
                'used' => round($used / 1e9, 1),
                'quota' => round($quota / 1e9, 1),
            ]);
        }
    }

    public static function free(): int
    {
        return (int) @disk_free_space(storage_path());
    }

    private static function size(string $folder): int
    {
        return is_dir($folder)
            ? (int) array_sum(
                array_map(static fn (SplFileInfo $f): int => (int) $f->getSize(), File::allFiles($folder, true)),
            )
            : 0;
    }
}
