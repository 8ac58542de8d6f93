<?php

declare(strict_types=1);

namespace PinYard\Design;

/** What crew members may do with a layer: add records, and see everyone's or just their own. */
final readonly class CrewRights
{
    public function __construct(public bool $add = true, public bool $seeAll = true)
    {
    }

    /** @return array{add: bool, see: 'all'|'own'} */
    public function toArray(): array
    {
        return ['add' => $this->add, 'see' => $this->seeAll ? 'all' : 'own'];
    }
}
