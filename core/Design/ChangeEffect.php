<?php

declare(strict_types=1);

namespace PinYard\Design;

/** What one part of a design change does to existing records. */
final readonly class ChangeEffect
{
    /**
     * @param  string  $code  key of the sentence, `effect.<code>`
     * @param  'kept'|'converted'|'decide'  $outcome
     * @param  array<string, scalar|null>  $params
     * @param  'choice'|'fill'|null  $asks  which decision is needed
     * @param  list<string>  $options  codes that can be chosen from
     */
    public function __construct(
        public string $code,
        public string $field,
        public string $outcome,
        public int $count,
        public array $params = [],
        public ?string $asks = null,
        public array $options = [],
    ) {
    }
}
