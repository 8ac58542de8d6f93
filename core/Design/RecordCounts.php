<?php

declare(strict_types=1);

namespace PinYard\Design;

/** What a design change must know of the records that there are. */
interface RecordCounts
{
    /** Whether there is a record at all; cheap, however many there are. */
    public function any(): bool;

    public function all(): int;

    /** Records with a value in the column of this key. */
    public function withValue(string $key): int;

    /**
     * Records for each of these codes, of one choice or of several.
     *
     * @param  list<string>  $codes
     * @return array<array-key, int>
     */
    public function withCodes(Field $field, array $codes): array;

    /** Records whose value lies outside the new limits of a field that keeps its kind. */
    public function outside(Field $field): int;

    /** Records whose value cannot be turned into the new kind. */
    public function unturnable(Field $from, Field $to): int;
}
