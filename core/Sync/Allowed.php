<?php

declare(strict_types=1);

namespace PinYard\Sync;

/** What one person may do with the records of one layer. */
final readonly class Allowed
{
    /**
     * @param  'all'|'own'|'none'  $change
     * @param  'all'|'own'|'none'  $delete
     */
    public function __construct(
        public bool $add = false,
        public bool $seeAll = false,
        public string $change = 'none',
        public string $delete = 'none',
    ) {
    }

    public static function everything(): self
    {
        return new self(true, true, 'all', 'all');
    }

    /** @param  bool  $mine  whether the person made the record */
    public function may(Kind $kind, bool $mine): bool
    {
        if ($kind->adds()) {
            return $this->add;
        }
        $whose = $kind === Kind::Delete || $kind === Kind::Restore ? $this->delete : $this->change;

        return $this->sees($mine) && ($whose === 'all' || ($whose === 'own' && $mine));
    }

    public function sees(bool $mine): bool
    {
        return $this->seeAll || ($mine && ($this->add || $this->change !== 'none' || $this->delete !== 'none'));
    }
}
