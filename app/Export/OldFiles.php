<?php

declare(strict_types=1);

namespace App\Export;

use App\Import\IncomingFiles;
use App\Models\Export;
use App\Models\Import;

/**
 * Files that nobody will ask for any more: exports after a week, what was never landed after a month. The record of an
 * import stays.
 */
final class OldFiles
{
    public static function forget(): void
    {
        foreach (Export::query()->where('created_at', '<', now()->subWeek())->get() as $export) {
            @unlink($export->path());
            $export->delete();
        }
        foreach (
            Import::query()
                ->whereIn('state', ['sending', 'review', 'failed', 'cancelled', 'undone'])
                ->where('updated_at', '<', now()->subMonth())
                ->get() as $import
        ) {
            IncomingFiles::forget($import);
            $import->update(['state' => 'cancelled']);
        }
    }
}
