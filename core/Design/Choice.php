<?php

declare(strict_types=1);

namespace PinYard\Design;

/** One entry of a choice list. A retired choice is no longer offered, but records keep it. */
final readonly class Choice
{
    public function __construct(
        public string $code,
        public string $label,
        public bool $retired = false,
    ) {
    }

    /** @return array{code: string, label: string, retired?: true} */
    public function toArray(): array
    {
        return ['code' => $this->code, 'label' => $this->label] + ($this->retired ? ['retired' => true] : []);
    }
}
