<?php

declare(strict_types=1);

namespace PinYard\Design;

/**
 * From how many metres of accuracy on a fix is warned about, or refused, in the field, and what of a fix is kept beside
 * it. A record without a fix (placed by the crosshair, or at the desk) is never refused for it.
 */
final readonly class FixRules
{
    /** What a receiver can tell beside the place and its accuracy. */
    public const DETAILS = ['altitude', 'satellites', 'type', 'time'];

    /** @param  list<string>  $keep  of {@see DETAILS} */
    public function __construct(
        public ?int $warnAbove = null,
        public ?int $refuseAbove = null,
        public array $keep = [],
    ) {
    }

    public function keeps(string $detail): bool
    {
        return in_array($detail, $this->keep, true);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return array_filter(
            [
                'warn_above' => $this->warnAbove,
                'refuse_above' => $this->refuseAbove,
                'keep' => $this->keep === [] ? null : $this->keep,
            ],
            static fn (mixed $v): bool => $v !== null,
        );
    }
}
