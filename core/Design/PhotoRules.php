<?php

declare(strict_types=1);

namespace PinYard\Design;

/** Whether records of a layer carry photos, how many, and how large one may be (bytes). */
final readonly class PhotoRules
{
    public const MAX_BYTES = 26_214_400;

    /** More than this no design may allow. */
    public const MOST_BYTES = 104_857_600;

    public function __construct(
        public bool $allowed = false,
        public int $least = 0,
        public int $most = 6,
        public int $maxBytes = self::MAX_BYTES,
    ) {
    }

    /** @return array{allowed: bool, least: int, most: int, max_bytes: int} */
    public function toArray(): array
    {
        return [
            'allowed' => $this->allowed,
            'least' => $this->least,
            'most' => $this->most,
            'max_bytes' => $this->maxBytes,
        ];
    }
}
