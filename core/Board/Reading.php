<?php

declare(strict_types=1);

namespace PinYard\Board;

/** Which records are read: those of a layer, in a slice, within a span of days by one of its dates. */
final readonly class Reading
{
    /**
     * @param  string|null  $by  key of the date that the days are of
     * @param  string|null  $from  first day; `$to` the last, both counted in
     */
    public function __construct(
        public int $layer,
        public ?int $slice = null,
        public ?string $by = null,
        public ?string $from = null,
        public ?string $to = null,
    ) {
    }

    public function within(string $by, ?string $from, ?string $to): self
    {
        return new self($this->layer, $this->slice, $by, $from, $to);
    }

    /** @return array{all: list<array<string, mixed>>}|null the span as a filter; null where there is none */
    public function span(): ?array
    {
        return match (true) {
            $this->by === null || ($this->from === null && $this->to === null) => null,
            $this->from === null => ['all' => [['field' => $this->by, 'test' => 'until', 'value' => $this->to]]],
            $this->to === null => ['all' => [['field' => $this->by, 'test' => 'since', 'value' => $this->from]]],
            default => ['all' => [['field' => $this->by, 'test' => 'between', 'value' => [$this->from, $this->to]]]],
        };
    }
}
