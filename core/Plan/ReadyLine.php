<?php

declare(strict_types=1);

namespace PinYard\Plan;

/** One line of the ready check; `fix` names the place where a line that does not hold is put right. */
final readonly class ReadyLine
{
    /**
     * @param  string  $code  key of its sentences, `ready.<code>` and `ready.<code>.why`
     * @param  'rights'|'photos'|'people'|'area'|'map'|'trial'|'layer'|'questions'|'pack'|'seen'|'check'|'info'  $fix
     * @param  array<string, scalar|null>  $params
     */
    public function __construct(
        public string $code,
        public bool $holds,
        public string $fix,
        public ?int $layer = null,
        public array $params = [],
    ) {
    }
}
