<?php

declare(strict_types=1);

namespace PinYard\Alert;

/**
 * What an alert knows of its cases, for one way of seeing: those that are so, and of them those that were not told yet.
 * A case is told once; one that ended and begins again is another.
 */
final readonly class Watched
{
    /**
     * @param  list<string>  $known  keys of cases
     * @param  list<string>  $waiting  those of them that were not told
     */
    public function __construct(public array $known, public array $waiting = [])
    {
    }

    /**
     * What is so now.
     *
     * @param  list<string>  $now  keys of cases
     */
    public function after(array $now): self
    {
        $waiting = array_intersect_key(array_flip($this->waiting), array_flip($now));
        $begun = array_diff_key(array_flip($now), array_flip($this->known));

        return new self($now, array_map(strval(...), array_keys($waiting + $begun)));
    }

    public function told(): self
    {
        return new self($this->known);
    }
}
