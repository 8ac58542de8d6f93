<?php

declare(strict_types=1);

namespace PinYard\Bits;

/** Of a field with choices: which slots have which code. A slot may have several, or none. */
final readonly class ChoiceSlots
{
    /** @param  array<string|int, \GMP>  $sets  by code */
    public function __construct(public array $sets, public bool $several)
    {
    }

    public function with(string|int $code): \GMP
    {
        return $this->sets[$code] ?? Slots::none();
    }

    /** @param  iterable<mixed>  $codes */
    public function withAny(iterable $codes): \GMP
    {
        $any = Slots::none();
        foreach ($codes as $code) {
            $any |= $this->with(is_int($code) ? $code : (is_scalar($code) ? (string) $code : ''));
        }

        return $any;
    }

    /** Slots that have one at all. */
    public function there(): \GMP
    {
        return $this->withAny(array_keys($this->sets));
    }

    /**
     * The same with slots that come after them.
     *
     * @param  int  $slots  how many are here
     * @param  \GMP  $keep  those of them that still hold
     */
    public function followedBy(int $slots, \GMP $keep, self $more): self
    {
        $sets = array_map(static fn (\GMP $set): \GMP => $set & $keep, $this->sets);
        foreach ($more->sets as $code => $set) {
            $sets[$code] = ($sets[$code] ?? Slots::none()) | ($set << $slots);
        }

        return new self($sets, $this->several);
    }
}
