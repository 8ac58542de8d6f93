<?php

declare(strict_types=1);

namespace PinYard\Audience;

use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;

/**
 * What somebody may see of a layer: which records, how much of their place, which fields, whether photos. Whoever sees
 * it in several ways at once (their own as they are, all others as cells) sees of each record the widest of those that
 * admit it; of all together this then says what holds for every one.
 */
final readonly class Sight
{
    /**
     * @param  list<string>|null  $fields  keys; null for all of them
     * @param  Filter|null  $only  what the records must be
     * @param  Blur|null  $blur  which cells stand for their places
     * @param  int|null  $areas  number of the layer whose areas stand for their places
     * @param  string|null  $areasTitle  its title, where it is there
     * @param  list<self>  $ways  where there are several
     * @param  self|null  $figures  what is told in figures of many records at once, and not of single ones
     * @param  int  $least  of such: records that each figure must be of
     */
    private function __construct(
        public Rows $rows,
        public Sharpness $place,
        public ?array $fields,
        public bool $photos,
        public ?Filter $only = null,
        public ?Blur $blur = null,
        public ?int $areas = null,
        public ?string $areasTitle = null,
        public array $ways = [],
        public ?self $figures = null,
        public int $least = 1,
    ) {
    }

    /**
     * Of several only those count that admit a record, and of them the widest. Figures alone are told as by the one of
     * the smallest least count, unless all records are seen anyway.
     *
     * @param  list<self>  $sights
     */
    public static function together(array $sights): self
    {
        $seen = self::seen($sights);
        $figures = self::inFigures($sights);
        $all = $seen->rows === Rows::All && ! $seen->chooses();

        return $figures === null || $all ? $seen : $seen->with($figures);
    }

    /** @param  list<self>  $sights */
    private static function inFigures(array $sights): ?self
    {
        $figures = array_values(array_filter(array_map(static fn (self $s): ?self => $s->figures, $sights)));
        usort($figures, static fn (self $a, self $b): int => $a->least <=> $b->least);

        return $figures[0] ?? null;
    }

    /** The same without figures of what is not seen one by one. */
    public function withoutFigures(): self
    {
        return $this->figures === null ? $this : $this->with(null);
    }

    private function with(?self $figures): self
    {
        return new self(
            $this->rows,
            $this->place,
            $this->fields,
            $this->photos,
            $this->only,
            $this->blur,
            $this->areas,
            $this->areasTitle,
            $this->ways,
            $figures,
            $this->least,
        );
    }

    /** @param  list<self>  $sights */
    private static function seen(array $sights): self
    {
        $ways = [];
        foreach ($sights as $sight) {
            foreach ($sight->ways === [] ? [$sight] : $sight->ways as $way) {
                if ($way->rows !== Rows::None) {
                    $key = $way->admits();
                    $ways[$key] = isset($ways[$key]) ? $ways[$key]->widest($way) : $way;
                }
            }
        }
        // One that admits all records is a part of what each of the others lets through.
        $all = $ways[Rows::All->value] ?? null;
        $kept = $all === null ? [] : [$all];
        foreach ($ways as $key => $way) {
            if ($key !== Rows::All->value) {
                $wide = $all === null ? $way : $way->widest($all);
                if ($all === null || $wide->tells() !== $all->tells()) {
                    $kept[] = $wide;
                }
            }
        }
        if (count($kept) < 2) {
            return $kept[0] ?? self::nothing();
        }
        $dullest = $kept[0];
        foreach ($kept as $way) {
            $dullest = $dullest->isSharperThan($way) ? $way : $dullest;
        }

        return new self(
            self::any($kept, static fn (self $w): bool => $w->rows === Rows::All) ? Rows::All : Rows::Own,
            $dullest->place,
            self::allFields($kept),
            ! self::any($kept, static fn (self $w): bool => ! $w->photos),
            null,
            $dullest->blur,
            $dullest->areas,
            $dullest->areasTitle,
            $kept,
        );
    }

    /**
     * @param  list<self>  $sights
     * @param  \Closure(self): bool  $is
     */
    private static function any(array $sights, \Closure $is): bool
    {
        return array_filter($sights, $is) !== [];
    }

    /** Names the records that it admits. */
    private function admits(): string
    {
        return $this->rows->value.($this->only === null ? '' : ':'.md5((string) json_encode($this->only->toArray())));
    }

    /** Names what it tells of them. */
    private function tells(): string
    {
        return implode(':', [
            $this->place->value,
            $this->blur->metres ?? '-',
            $this->areas === null ? '-' : $this->areas.' '.md5((string) $this->areasTitle),
            $this->fields === null ? '*' : implode(',', $this->fields),
            $this->photos ? 'photos' : '-',
        ]);
    }

    private function widest(self $other): self
    {
        $sharper = $other->isSharperThan($this) ? $other : $this;

        return new self(
            $this->rows,
            $sharper->place,
            self::allFields([$this, $other]),
            $this->photos || $other->photos,
            $this->only,
            $sharper->blur,
            $sharper->areas,
            $sharper->areasTitle,
        );
    }

    /** Whether it tells more of a place than another does. */
    public function isSharperThan(self $other): bool
    {
        // A cell and an area are hard to compare: of the one its size is known.
        $order = [Sharpness::Exact, Sharpness::Cell, Sharpness::Area, Sharpness::None];
        $places = array_search($this->place, $order, true) <=> array_search($other->place, $order, true);

        return $places < 0 || ($places === 0 && match ($this->place) {
            Sharpness::Cell => $this->blur !== null && $this->blur->metres < $other->blur?->metres,
            Sharpness::Area => $this->areas < $other->areas,
            default => false,
        });
    }

    /**
     * @param  list<self>  $sights
     * @return list<string>|null
     */
    private static function allFields(array $sights): ?array
    {
        $fields = [];
        foreach ($sights as $sight) {
            if ($sight->fields === null) {
                return null;
            }
            $fields = [...$fields, ...$sight->fields];
        }
        $fields = array_values(array_unique($fields));
        sort($fields);

        return $fields;
    }

    /** The same records with all that there is of them: whoever may change them must see it. */
    public function whole(): self
    {
        return ($this->ways === []
            ? new self($this->rows, $this->rows === Rows::None ? Sharpness::None : Sharpness::Exact, null, true,
                $this->only)
            : self::together(array_map(static fn (self $w): self => $w->whole(), $this->ways)))->with($this->figures);
    }

    /** The same records with their places as they are, as whoever visits them must find them. */
    public function placed(): self
    {
        return ($this->ways === []
            ? new self(
                $this->rows,
                $this->rows === Rows::None ? Sharpness::None : Sharpness::Exact,
                $this->fields,
                $this->photos,
                $this->only,
            )
            : self::together(array_map(static fn (self $w): self => $w->placed(), $this->ways)))->with($this->figures);
    }

    /** Whether which records it admits depends on who looks. */
    public function isOnesOwn(): bool
    {
        return $this->rows === Rows::Own || self::any($this->ways, static fn (self $w): bool => $w->rows === Rows::Own);
    }

    /** Whether which records it admits depends on what is in them. */
    public function chooses(): bool
    {
        return $this->only !== null || self::any($this->ways, static fn (self $w): bool => $w->only !== null);
    }

    /**
     * @param  Filter|null  $slice  what the slice of the rule lets through
     * @param  string|null  $areas  title of the layer whose areas stand for places
     */
    public static function by(Rule $rule, ?Filter $slice, ?string $areas = null): self
    {
        $single = $rule->least === null;
        $sight = new self(
            $rule->rows,
            $rule->place,
            $rule->fields,
            $single && $rule->photos,
            $rule->accepted ? Filter::accepted($slice) : $slice,
            $rule->blur,
            $rule->areas,
            $areas,
            [],
            null,
            $rule->least ?? 1,
        );

        return $single ? $sight : self::nothing()->with($sight);
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
            $this->areas,
            $this->areasTitle,
            array_map(static fn (self $w): self => $w->narrowedTo($fields, $photos), $this->ways),
            $this->figures?->narrowedTo($fields),
            $this->least,
        );
    }

    /**
     * The fields of a design that are let through. A calculated field is one of its own: it may be seen though what it
     * is made of is hidden, but for one that tells more of a place than may be known.
     *
     * @return list<string> keys
     */
    public function fieldsOf(LayerDesign $design): array
    {
        $hidden = $this->place === Sharpness::Exact ? [] : $design->rules->placeReaders($this->areasTitle);
        $keys = array_map(static fn ($f): string => $f->key, $design->valueFields());

        return array_values(
            array_filter(
                $keys,
                fn (string $k): bool => ($this->fields === null || in_array($k, $this->fields, true)) &&
                    ! in_array($k, $hidden, true),
            ),
        );
    }

    /** Whether records of others are seen only once they have been accepted. */
    public function waitsForAcceptance(): bool
    {
        foreach ($this->ways === [] ? [$this] : $this->ways as $way) {
            if ($way->rows === Rows::All && $way->only?->asksForAccepted() !== true) {
                return false;
            }
        }

        return true;
    }

    /** Whether all that there is of a record is let through, so that nothing need be cut. */
    public function isWhole(): bool
    {
        return $this->ways === [] && $this->place === Sharpness::Exact && $this->fields === null && $this->photos
            && $this->least === 1;
    }

    /** Names what is let through; whoever made the record is not in it. */
    public function key(): string
    {
        $key = $this->seenKey().($this->least === 1 ? '' : ":least $this->least");

        return $this->figures === null ? $key : "$key+figures:{$this->figures->key()}";
    }

    private function seenKey(): string
    {
        if ($this->ways !== []) {
            return implode('|', array_map(static fn (self $w): string => $w->key(), $this->ways));
        }

        return $this->rows === Rows::None
            ? 'nothing'
            : implode(':', [
                $this->rows->value,
                $this->place->value,
                $this->fields === null ? '*' : implode(',', $this->fields),
                $this->photos ? 'photos' : '-',
                $this->only === null ? '*' : md5((string) json_encode($this->only->toArray())),
                $this->blur->metres ?? '-',
                $this->areas === null ? '-' : $this->areas.' '.md5((string) $this->areasTitle),
            ]);
    }
}
