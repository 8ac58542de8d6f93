<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Refused;

/** What a card tells of the visits to its record: when they were, and perhaps one number of theirs, over time. */
final readonly class CardVisits
{
    /** @param  string|null  $field  key of a number of the visits; null: none */
    private function __construct(public ?string $field)
    {
    }

    /**
     * Reads `{field: key|null}`. Visits have a design of their own, which may change: a key that is no number of theirs
     * draws nothing.
     *
     * @throws Refused
     */
    public static function read(mixed $in, string $at): self
    {
        $field = is_array($in) ? $in['field'] ?? null : 0;

        return $field === null || is_string($field) && mb_strlen($field) <= 64
            ? new self($field)
            : throw Refused::because('card_visits', $at);
    }

    public static function stored(mixed $in): ?self
    {
        return $in === null ? null : self::read($in, 'card/visits');
    }

    /** @return array{field: string|null} */
    public function toArray(): array
    {
        return ['field' => $this->field];
    }
}
