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

    /** What is allowed by either. */
    public function with(self $other): self
    {
        $wider = static fn (string $a, string $b): string => match (true) {
            in_array('all', [$a, $b], true) => 'all',
            in_array('own', [$a, $b], true) => 'own',
            default => 'none',
        };

        return new self(
            $this->add || $other->add,
            $this->seeAll || $other->seeAll,
            $wider($this->change, $other->change),
            $wider($this->delete, $other->delete),
        );
    }

    public static function none(): self
    {
        return new self(false, false, 'none', 'none');
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
