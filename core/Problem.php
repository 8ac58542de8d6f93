<?php

declare(strict_types=1);

namespace PinYard;

/**
 * One thing that is wrong with an input: which rule, where, with what value. The sentence for people is made from
 * `code` and `params` by the text catalogue (`problem.<code>`).
 */
final readonly class Problem
{
    /**
     * @param  string  $code  key of the sentence, such as `below_lowest`
     * @param  string|null  $field  key of the field, or a JSON pointer into a document
     * @param  mixed  $value  the value as it came in
     * @param  array<string, scalar|null>  $params  what the sentence names
     */
    public function __construct(
        public string $code,
        public ?string $field = null,
        public mixed $value = null,
        public array $params = [],
    ) {
    }
}
