<?php

declare(strict_types=1);

namespace PinYard\Filter;

/** One line of a filter: what it is about, a test, and a value that fits both. */
final readonly class Condition
{
    /**
     * @param  string|int|float|bool|array<array-key, mixed>|null  $value  by test: null where it says all by itself; a
     *     pair for *between*; `{layer, record}`, a polygon, `{lon, lat, metres}` for places
     */
    public function __construct(
        public Subject $subject,
        public Test $test,
        public string|int|float|bool|array|null $value,
    ) {
    }

    public function isAcceptance(): bool
    {
        return $this->subject->field === null && $this->subject->key === Subject::ACCEPTED && $this->value === true;
    }

    /** @return list<string|int|float|bool> of a test that takes several values */
    public function values(): array
    {
        return array_values(array_filter(is_array($this->value) ? $this->value : [$this->value], is_scalar(...)));
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            ...$this->subject->ofVisit ? ['of' => 'visit'] : [],
            'field' => $this->subject->key,
            'test' => $this->test->value,
            ...$this->test->isAlone() ? [] : ['value' => $this->value],
        ];
    }
}
