<?php

declare(strict_types=1);

namespace PinYard\Audience;

use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;

/**
 * What one way of seeing a layer lets through: which records, how much of their place, which fields, whether photos.
 */
final readonly class Sight
{
    /**
     * @param  list<string>|null  $fields  keys; null for all of them
     * @param  Filter|null  $only  what the records must be
     * @param  Blur|null  $blur  which cells stand for their places
     */
    private function __construct(
        public Rows $rows,
        public Sharpness $place,
        public ?array $fields,
        public bool $photos,
        public ?Filter $only = null,
        public ?Blur $blur = null,
    ) {
    }

    /** @param  Filter|null  $slice  what the slice of the rule lets through */
    public static function by(Rule $rule, ?Filter $slice): self
    {
        return new self($rule->rows, $rule->place, $rule->fields, $rule->photos, $slice, $rule->blur);
    }

    public static function everything(): self
    {
        return new self(Rows::All, Sharpness::Exact, null, true);
    }

    public static function own(): self
    {
        return new self(Rows::Own, Sharpness::Exact, null, true);
    }

    public static function nothing(): self
    {
        return new self(Rows::None, Sharpness::None, [], false);
    }

    /**
     * What a map, a board or a file shows of it: never more than before.
     *
     * @param  list<string>  $fields  keys
     */
    public function narrowedTo(array $fields, bool $photos = false): self
    {
        $fields = array_values(
            array_unique($this->fields === null ? $fields : array_intersect($fields, $this->fields)),
        );
        sort($fields);

        return new self(
            $this->rows,
            $this->place,
            $fields,
            $this->photos && $photos,
            $this->only,
            $this->blur,
        );
    }

    /**
     * The fields of a design that are let through. A calculated field is one of its own: it may be seen though what it
     * is made of is hidden, but for one that tells of a place that may not be seen.
     *
     * @return list<string> keys
     */
    public function fieldsOf(LayerDesign $design): array
    {
        $hidden = $this->place === Sharpness::Exact ? [] : $design->rules->placeReaders();
        $keys = array_map(static fn ($f): string => $f->key, $design->valueFields());

        return array_values(
            array_filter(
                $keys,
                fn (string $k): bool => ($this->fields === null || in_array($k, $this->fields, true)) &&
                    ! in_array($k, $hidden, true),
            ),
        );
    }

    /** Whether all that there is of a record is let through, so that nothing need be cut. */
    public function isWhole(): bool
    {
        return $this->place === Sharpness::Exact && $this->fields === null && $this->photos;
    }

    /** Names what is let through; whoever made the record is not in it. */
    public function key(): string
    {
        return $this->rows === Rows::None
            ? 'nothing'
            : implode(':', [
                $this->rows->value,
                $this->place->value,
                $this->fields === null ? '*' : implode(',', $this->fields),
                $this->photos ? 'photos' : '-',
                $this->only === null ? '*' : md5((string) json_encode($this->only->toArray())),
                $this->blur->metres ?? '-',
            ]);
    }
}
