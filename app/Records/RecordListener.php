<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Layer;

/**
 * Whoever must know what was written to records: told after the commit, at least once, in the order of change numbers.
 */
interface RecordListener
{
    /** Whether it wants to be told at all; asked before the commit, so it must be cheap. */
    public function wants(Layer $layer, Cause $cause, bool $isRange): bool;

    /** The same may come twice, where a process was killed: what it does must then come to the same. */
    public function hear(RecordsChanged $changed): void;
}
