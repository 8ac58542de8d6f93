<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use App\Texts;
use PinYard\Problem;

/**
 * Imports whose worker was killed. Landing begins again: nothing of it has landed, for that is one transaction. Reading
 * does not: it may have been the file that ended the worker, and it would again; whoever brought it is told and may
 * try. Two that land the same import would wait for each other at the layer's lock; the second finds it done.
 */
final class StaleImports
{
    private const SILENT = 600;

    public static function goOn(): void
    {
        foreach (
            Import::query()
                ->whereIn('state', ['reading', 'landing'])
                ->get() as $import
        ) {
            if ($import->silence() > self::SILENT) {
                $import->progress(0);
                $import->state === 'reading'
                    ? $import->update([
                        'state' => 'failed',
                        'problems' => Texts::problems([new Problem('intake_died', 'file')]),
                    ])
                    : LandImport::dispatch($import->id);
            }
        }
    }
}
