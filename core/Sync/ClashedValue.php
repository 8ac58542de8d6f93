<?php

declare(strict_types=1);

namespace PinYard\Sync;

/** One thing that two people made different: what it was, what the record has, what came. */
final readonly class ClashedValue
{
    /** In place of a field's key: where the record is, whether it is deleted, how high it lies (metres). */
    public const PLACE = '@place';

    public const DELETED = '@deleted';

    public const ALTITUDE = '@altitude';

    /**
     * @param  string  $key  of a field, or one of the above
     * @param  mixed  $was  before both
     * @param  mixed  $theirs  what others made of it
     * @param  mixed  $mine  what the operation brings
     * @param  'theirs'|'mine'  $stands  which of them the record has until somebody decides
     */
    public function __construct(
        public string $key,
        public mixed $was,
        public mixed $theirs,
        public mixed $mine,
        public string $stands = 'theirs',
    ) {
    }

    /** @return array{key: string, was: mixed, theirs: mixed, mine: mixed, stands: string} */
    public function toArray(): array
    {
        return [
            'key' => $this->key,
            'was' => $this->was,
            'theirs' => $this->theirs,
            'mine' => $this->mine,
            'stands' => $this->stands,
        ];
    }
}
