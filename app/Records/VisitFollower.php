<?php

declare(strict_types=1);

namespace App\Records;

/** Brings records up to date when visits to them have changed, within the transaction that changed the visits. */
interface VisitFollower
{
    /** @param  list<string>  $records  ids of visited records, 16 bytes each */
    public function follow(RecordWriter $writer, array $records): void;
}
