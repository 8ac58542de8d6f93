<?php

declare(strict_types=1);

namespace PinYard\Audience;

use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;
use PinYard\Filter\Subject;
use PinYard\Refused;

/**
 * What one audience may see of a layer: which records, which place, which fields, whether photos; or no single record,
 * but figures of so many at least.
 */
final readonly class Rule
{
    /**
     * @param  int|null  $slice  number of the slice whose records alone are seen
     * @param  list<string>|null  $fields  keys; null: all, also those to come
     * @param  int|null  $least  records that a figure must be of, where figures alone are told
     * @param  int|null  $areas  number of the layer whose areas stand for the places in them
     * @param  bool  $accepted  whether records are seen only once a coordinator has accepted them as they are
     */
    private function __construct(
        public Rows $rows,
        public ?int $slice,
        public Sharpness $place,
        public ?Blur $blur,
        public ?array $fields,
        public bool $photos,
        public ?int $least = null,
        public ?int $areas = null,
        public bool $accepted = false,
    ) {
    }

    public static function everything(): self
    {
        return new self(Rows::All, null, Sharpness::Exact, null, null, true);
    }

    /** What they made themselves, and no more. */
    public static function own(): self
    {
        return new self(Rows::Own, null, Sharpness::Exact, null, null, true);
    }

    public static function nothing(): self
    {
        return new self(Rows::None, null, Sharpness::None, null, [], false);
    }

    /**
     * Reads `{rows: all|slice|own|none, slice?, accepted?, place: exact|cell|area|none, metres?, areas?,
     * fields: [keys]|null, photos, least?}`.
     *
     * @param  array<int, Filter>  $slices  of the layer, by number
     * @param  list<int>  $areas  numbers of the layers whose areas can stand for places
     * @param  bool  $goesOut  whether those of whom it is said bring records, so that there can be their own
     * @param  bool  $mayPart  whether they make boards, and group records as they like
     *
     * @throws Refused
     */
    public static function read(
        mixed $in,
        LayerDesign $design,
        array $slices,
        array $areas = [],
        bool $goesOut = false,
        bool $mayPart = false,
    ): self {
        $in = is_array($in) ? $in : [];
        $rows = $in['rows'] ?? null;
        if ($rows === 'none') {
            return self::nothing();
        }
        if ($rows === 'own' && $goesOut) {
            return self::own();
        }
        $slice = $rows === 'slice' ? $in['slice'] ?? null : null;
        if ($rows !== 'all' && ! (is_int($slice) && isset($slices[$slice]))) {
            throw Refused::because($rows === 'slice' ? 'slice_unknown' : 'audience_rows', 'rows');
        }
        $accepted = $in['accepted'] ?? false;
        if (! is_bool($accepted)) {
            // Taken for no, it would open more than was meant.
            throw Refused::because('audience_accepted', 'accepted', is_scalar($accepted) ? $accepted : null);
        }
        $place = Sharpness::tryFrom(is_string($in['place'] ?? null) ? $in['place'] : '')
            ?? throw Refused::because('audience_place', 'place');
        $metres = $place === Sharpness::Cell ? self::metres($in['metres'] ?? null) : null;
        $of = $place === Sharpness::Area ? $in['areas'] ?? null : null;
        if ($place === Sharpness::Area && ! in_array($of, $areas, true)) {
            throw Refused::because('audience_areas', 'areas', is_scalar($of) ? $of : null);
        }
        if ($place !== Sharpness::Exact && is_int($slice) && self::tellsPlace($slices[$slice])) {
            // Which records are in it would tell where they are.
            throw Refused::because('audience_slice_place', 'slice');
        }

        $least = self::leastOf($in['least'] ?? null, $mayPart);

        return new self(
            Rows::All,
            is_int($slice) ? $slice : null,
            $place,
            $metres === null ? null : Blur::of($metres),
            self::fields($in['fields'] ?? null, $design),
            $least === null && ($in['photos'] ?? null) === true,
            $least,
            is_int($of) ? $of : null,
            $accepted,
        );
    }

    /** @throws Refused */
    private static function metres(mixed $metres): int
    {
        return is_int($metres) && $metres >= Blur::LEAST && $metres <= Blur::MOST
            ? $metres
            : throw Refused::because('audience_metres', 'metres', is_scalar($metres) ? $metres : null, [
                'least' => Blur::LEAST, 'most' => Blur::MOST,
            ]);
    }

    /** @throws Refused */
    private static function leastOf(mixed $least, bool $mayPart): ?int
    {
        if ($least === null) {
            return null;
        }
        if ($mayPart) {
            // Who puts groups together as they like takes one figure from another until single records are left.
            throw Refused::because('audience_least_makers', 'least');
        }
        if (! is_int($least) || $least < SmallCounts::LEAST || $least > SmallCounts::MOST) {
            throw Refused::because('audience_least', 'least', is_scalar($least) ? $least : null, [
                'least' => SmallCounts::LEAST, 'most' => SmallCounts::MOST,
            ]);
        }

        return $least;
    }

    /** @return list<string>|null */
    private static function fields(mixed $in, LayerDesign $design): ?array
    {
        if ($in === null) {
            return null;
        }
        if (! is_array($in)) {
            throw Refused::because('audience_fields', 'fields');
        }
        $fields = [];
        foreach ($in as $i => $key) {
            $field = is_string($key) ? $design->field($key) : null;
            if ($field === null || ! $field->hasValue()) {
                throw Refused::because('field_unknown', "fields/$i", null, ['key' => is_string($key) ? $key : '']);
            }
            $fields[$field->key] = true;
        }

        return array_keys($fields);
    }

    /** Whether it says to the metre where records are. */
    public function tellsPlaces(): bool
    {
        return $this->rows !== Rows::None && $this->place === Sharpness::Exact && $this->least === null;
    }

    /** Whether who is let through by a filter depends on where they are. */
    public static function tellsPlace(Filter $filter): bool
    {
        foreach ($filter->conditions() as $condition) {
            if ($condition->subject->key === Subject::PLACE && $condition->subject->field === null) {
                return true;
            }
        }

        return false;
    }

    /**
     * As it was stored: rules are read at every request, so what takes long to work out is stored with them.
     *
     * @param  array{rows: string, slice: int|null, place: string, metres: int|null, fields: list<string>|null,
     *     photos: bool, bands: list<array{int, int, int}>|null, least?: int|null, areas?: int|null,
     *     accepted?: bool, ...<mixed>}  $stored  as {@see toStored()} gave it
     */
    public static function stored(array $stored): self
    {
        return new self(
            Rows::from($stored['rows']),
            $stored['slice'],
            Sharpness::from($stored['place']),
            $stored['metres'] === null ? null : Blur::known($stored['metres'], $stored['bands'] ?? []),
            $stored['fields'],
            $stored['photos'],
            $stored['least'] ?? null,
            $stored['areas'] ?? null,
            $stored['accepted'] ?? false,
        );
    }

    /** @return array<string, mixed> */
    public function toStored(): array
    {
        return ['rows' => $this->rows->value, 'slice' => $this->slice, 'bands' => $this->blur?->bands()]
            + $this->toArray();
    }

    /** @return array<string, mixed> as it is read */
    public function toArray(): array
    {
        return [
            'rows' => $this->slice === null ? $this->rows->value : 'slice',
            'slice' => $this->slice,
            'accepted' => $this->accepted,
            'place' => $this->place->value,
            'metres' => $this->blur?->metres,
            'areas' => $this->areas,
            'fields' => $this->fields,
            'photos' => $this->photos,
            'least' => $this->least,
        ];
    }

    /** @param  Filter|null  $slice  what its slice lets through */
    public function sight(?Filter $slice): Sight
    {
        return Sight::by($this, $slice);
    }
}
