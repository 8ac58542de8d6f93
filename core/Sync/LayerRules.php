<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\LayerDesign;

/**
 * What a batch needs to know of one layer: its designs, what this person may do, whether its records are visits, which
 * areas a place lies in.
 */
final readonly class LayerRules
{
    /**
     * @param  array<int, LayerDesign>  $designs  by version: today's, and those that the batch names
     * @param  Allowed  $now  what this person may do today
     * @param  array<int, Allowed>  $then  what the same person might do by earlier designs; by version
     * @param  \DateTimeImmutable|null  $left  when the person left the programme
     * @param  (\Closure(int, array<string, mixed>, ?RecordState): array{array<string, mixed>,
     *     list<string>})|null $carry  values of an earlier design by today's, and the keys of those that could not be
     *     turned
     * @param  \Closure|null  $areas  as {@see \PinYard\Formula\Surroundings} takes it
     */
    public function __construct(
        public array $designs,
        public int $current,
        public Allowed $now,
        public \DateTimeZone $zone = new \DateTimeZone('UTC'),
        public bool $visits = false,
        public ?\Closure $areas = null,
        public array $then = [],
        public ?\DateTimeImmutable $left = null,
        public ?\Closure $carry = null,
    ) {
    }

    /** Whether something that is not allowed today was when it was captured. */
    public function wasAllowed(Operation $op, bool $mine): bool
    {
        return ($this->left === null || $op->capturedAt < $this->left) &&
            ($this->then[$op->design] ?? new Allowed)->may($op->kind, $mine);
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array{array<string, mixed>, list<string>}
     */
    public function carried(int $version, array $values, ?RecordState $state): array
    {
        return $version === $this->current || $this->carry === null
            ? [$values, []]
            : ($this->carry)($version, $values, $state);
    }
}
