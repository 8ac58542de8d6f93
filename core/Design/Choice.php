<?php

declare(strict_types=1);

namespace PinYard\Design;

/** One entry of a choice list. A retired choice is no longer offered, but records keep it. */
final readonly class Choice
{
    /**
     * @param  string|null  $colour  `#RRGGBB`
     * @param  string|null  $mark  the head of its peg
     */
    public function __construct(
        public string $code,
        public string $label,
        public bool $retired = false,
        public ?string $colour = null,
        public ?string $mark = null,
    ) {
    }

    /** @return array{code: string, label: string, retired?: true, colour?: string, mark?: string} */
    public function toArray(): array
    {
        return ['code' => $this->code, 'label' => $this->label]
            + ($this->retired ? ['retired' => true] : [])
            + ($this->colour === null ? [] : ['colour' => $this->colour])
            + ($this->mark === null ? [] : ['mark' => $this->mark]);
    }
}
