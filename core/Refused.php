<?php

declare(strict_types=1);

namespace PinYard;

/**
 * An input that cannot be accepted, with every problem that was found in it. Where somebody acts on what could not be
 * done, it has a class of its own ({@see Overtaken}, {@see Geo\EnclosesNothing}, {@see Formula\WrongType}): nobody
 * reads codes to find out.
 */
class Refused extends \DomainException
{
    /** @param  list<Problem>  $problems */
    final private function __construct(public readonly array $problems)
    {
        parent::__construct(implode(', ', array_map(
            static fn (Problem $p): string => $p->field === null ? $p->code : "{$p->field}: {$p->code}",
            $problems,
        )));
    }

    /** @param  array<string, scalar|null>  $params */
    public static function because(string $code, ?string $field = null, mixed $value = null, array $params = []): static
    {
        return new static([new Problem($code, $field, $value, $params)]);
    }

    /** @param  list<Problem>  $problems */
    public static function for(array $problems): static
    {
        return new static($problems);
    }
}
