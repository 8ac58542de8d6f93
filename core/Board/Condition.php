<?php

declare(strict_types=1);

namespace PinYard\Board;

/** One line of a filter: a field, a comparison, a value that fits both. */
final readonly class Condition
{
    /**
     * @param  string  $field  a field key, or `collected_at`
     * @param  'is'|'has'|'one_of'|'at_least'|'at_most'|'since'|'until'|'last_days'  $test
     * @param  string|int|float|bool|list<string>  $value
     */
    public function __construct(public string $field, public string $test, public string|int|float|bool|array $value)
    {
    }

    /** @return array{field: string, test: string, value: string|int|float|bool|list<string>} */
    public function toArray(): array
    {
        return ['field' => $this->field, 'test' => $this->test, 'value' => $this->value];
    }
}
