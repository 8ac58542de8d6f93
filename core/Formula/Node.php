<?php

declare(strict_types=1);

namespace PinYard\Formula;

/** One part of a formula as it was written, with its place, before its types are known. */
final readonly class Node
{
    /**
     * @param  'number'|'text'|'word'|'name'|'list'|'call'  $kind  `word`: true, false, null
     * @param  string|float|bool|null  $value  the literal, the field key, or the function or operator
     * @param  list<Node>  $parts
     * @param  int  $at  first byte of its text, from 0
     */
    public function __construct(
        public string $kind,
        public string|float|bool|null $value,
        public array $parts,
        public int $at,
        public int $length,
        public bool $operator = false,
    ) {
    }
}
