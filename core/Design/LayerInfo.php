<?php

declare(strict_types=1);

namespace PinYard\Design;

/** What others need to know of a layer before they use it. */
final readonly class LayerInfo
{
    /** @param  list<string>  $tags */
    public function __construct(
        public string $description = '',
        public array $tags = [],
        public string $credits = '',
        public string $terms = '',
        public string $source = '',
    ) {
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return array_filter(
            [
                'description' => $this->description,
                'tags' => $this->tags,
                'credits' => $this->credits,
                'terms' => $this->terms,
                'source' => $this->source,
            ],
            static fn (mixed $v): bool => $v !== '' && $v !== [],
        );
    }
}
