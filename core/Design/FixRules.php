<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * From how many metres of accuracy on a fix is warned about, or refused, in the field.
 * A record without a fix (placed by the crosshair, or at the desk) is never refused for it.
 */
final readonly class FixRules
{
    public function __construct(public ?int $warnAbove = null, public ?int $refuseAbove = null)
    {
    }

    /** @return array{warn_above?: int, refuse_above?: int} */
    public function toArray(): array
    {
        return array_filter(['warn_above' => $this->warnAbove, 'refuse_above' => $this->refuseAbove], static fn (?int $v): bool => $v !== null);
    }
}
