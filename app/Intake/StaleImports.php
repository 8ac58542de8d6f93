<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Import;

/**
 * Imports whose worker was killed: nothing of theirs has landed, for that is one transaction, so they begin again.
 * Two that land the same import would wait for each other at the layer's lock; the second finds it done.
 */
final class StaleImports
{
    private const SILENT = 600;

    public static function goOn(): void
    {
        foreach (Import::query()->whereIn('state', ['reading', 'landing'])->get() as $import) {
            if ($import->silence() > self::SILENT) {
                $import->progress(0);
                $import->state === 'reading' ? ReadImport::dispatch($import->id) : LandImport::dispatch($import->id);
            }
        }
    }
}
