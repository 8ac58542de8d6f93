<?php

declare(strict_types=1);

namespace PinYard\Design;

/** What crew members may do with a layer: add records, see, change and delete them, everyone's or just their own. */
final readonly class CrewRights
{
    /**
     * @param  'all'|'own'|'none'  $change
     * @param  'all'|'own'|'none'  $delete
     */
    public function __construct(
        public bool $add = true,
        public bool $seeAll = true,
        public string $change = 'own',
        public string $delete = 'none',
    ) {
    }

    /** @return array{add: bool, see: 'all'|'own', change: 'all'|'own'|'none', delete: 'all'|'own'|'none'} */
    public function toArray(): array
    {
        return [
            'add' => $this->add,
            'see' => $this->seeAll ? 'all' : 'own',
            'change' => $this->change,
            'delete' => $this->delete,
        ];
    }
}
