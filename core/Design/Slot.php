<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Device\FileKind;

/** A named place for files of one kind ("Tag close-up"), with how many and how large (bytes). */
final readonly class Slot
{
    public function __construct(
        public string $key,
        public string $label,
        public FileKind $kind,
        public string $hint,
        public int $least,
        public int $most,
        public int $maxBytes,
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return array_filter(
            [
                'key' => $this->key,
                'label' => $this->label,
                'kind' => $this->kind->value,
                'hint' => $this->hint === '' ? null : $this->hint,
                'least' => $this->least,
                'most' => $this->most,
                'max_bytes' => $this->maxBytes,
            ],
            static fn (mixed $v): bool => $v !== null,
        );
    }
}
