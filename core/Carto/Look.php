<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Carto\Marks\ByChoice;
use PinYard\Carto\Marks\ByClasses;
use PinYard\Carto\Marks\ByTally;
use PinYard\Carto\Marks\Crossed;
use PinYard\Carto\Marks\Density;
use PinYard\Carto\Marks\Marks;
use PinYard\Carto\Marks\NumberField;
use PinYard\Carto\Marks\OneMark;
use PinYard\Carto\Marks\Shades;
use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/**
 * How a layer is drawn: by what its marks differ, how large they are, whether points are gathered, whether photos stand
 * for records.
 */
final readonly class Look
{
    /** More marks than these nobody tells apart at a glance. */
    private const FEW = 12;

    /** Pixels of the widest line. */
    private const WIDEST = 12;

    /**
     * @param  SizeBy|null  $size  how large each is drawn; null: all alike
     * @param  Gathering|null  $gather  how points that lie close together are drawn; null: each by itself
     * @param  int|null  $width  pixels of lines and of the outlines of areas; 0: no outline; null: as it first comes
     * @param  bool  $photos  whether a record's first photo stands for it, from near
     */
    private function __construct(
        public Marks $marks,
        public GeometryKind $geometry,
        public ?SizeBy $size = null,
        public ?Gathering $gather = null,
        public ?int $width = null,
        public bool $photos = false,
    ) {
    }

    /** A sensible first look: by the field named, else by the first list of few choices, else one peg. */
    public static function suggest(LayerDesign $design, ?string $fieldKey = null): self
    {
        $field = $fieldKey === null ? self::firstOfFew($design) : $design->field($fieldKey);

        return new self(
            $field === null || $field->kind !== FieldKind::OneChoice
                ? new OneMark(Peg::nth(0))
                : ByChoice::of($field, [], null, $design),
            $design->geometry,
        );
    }

    private static function firstOfFew(LayerDesign $design): ?Field
    {
        foreach ($design->choiceFields() as $field) {
            if (self::inUse($field) <= self::FEW) {
                return $field;
            }
        }

        return null;
    }

    private static function inUse(Field $field): int
    {
        return count(array_filter($field->choices, static fn (Choice $c): bool => ! $c->retired));
    }

    /**
     * Why a layer is drawn as {@see suggest()} proposes.
     *
     * @return array{code: 'few'|'many'|'none', field?: string, count?: int, most?: int}
     */
    public static function reason(LayerDesign $design): array
    {
        $few = self::firstOfFew($design);
        $many = $design->choiceFields()[0] ?? null;

        return match (true) {
            $few !== null => ['code' => 'few', 'field' => $few->label, 'count' => self::inUse($few)],
            $many !== null => [
                'code' => 'many',
                'field' => $many->label,
                'count' => self::inUse($many),
                'most' => self::FEW,
            ],
            default => ['code' => 'none'],
        };
    }

    /** Whether a look can go by the numbers of a field. */
    public static function countsBy(?Field $field): bool
    {
        return NumberField::is($field);
    }

    /** By certain marks. */
    public static function by(Marks $marks, GeometryKind $geometry): self
    {
        return new self($marks, $geometry);
    }

    /** Discs of a scheme's colours, one for each class. */
    public static function byNumbers(Field|Tally $of, NumberClasses $numbers, GeometryKind $geometry): self
    {
        return new self(
            $of instanceof Field ? ByClasses::of($of, $numbers) : ByTally::of($of, $numbers),
            $geometry,
        );
    }

    /** What is drawn: cells are areas, whatever lies in them. */
    public function drawnAs(): GeometryKind
    {
        return $this->marks instanceof Density ? GeometryKind::Area : $this->geometry;
    }

    /** What of the records in areas, where it goes by that. */
    public function tally(): ?Tally
    {
        return $this->marks->tally();
    }

    /** @return float|null 0 to 1, how large a record is drawn; null where it has no size, or all are alike */
    public function sizeOf(string|int|float|null $stored): ?float
    {
        return $this->size?->of($stored, $this->geometry);
    }

    /**
     * By which class an area is drawn by the records in it; null: by the mark for what has no value.
     *
     * @param  float|null  $by  what the area has of what a rate is told by
     */
    public function classOfArea(TallyState $state, ?float $by): ?string
    {
        return $this->marks instanceof ByTally ? $this->marks->classOfArea($state, $by) : null;
    }

    /** @return list<string> keys of the fields that it goes by */
    public function fields(): array
    {
        return array_values(array_unique(array_filter([
            ...$this->marks->fields(),
            $this->size?->field->key,
            $this->gather?->field?->key,
        ])));
    }

    /** Of areas that are coloured by records: with at least so many of them to each. */
    public function withLeast(int $least): self
    {
        return $this->marks instanceof ByTally ? new self($this->marks->withLeast($least), $this->geometry) : $this;
    }

    /** One mark for all. */
    public function uncoloured(): self
    {
        return new self(new OneMark($this->marks->other), $this->geometry);
    }

    /** @return list<Peg> its marks, the first to know it by */
    public function pegs(): array
    {
        return $this->marks->classes === [] ? [$this->marks->other] : array_values($this->marks->classes);
    }

    /**
     * Reads marks (`{kind: 'single', peg}`, `{kind: 'category', field, …}` and so on, each as its class in Marks reads
     * it) with `size: {field, most}` where records differ in size, too, `gather` where points are gathered, `width` of
     * lines and outlines, `photos`.
     *
     * @param  (callable(int): ?LayerDesign)|null  $others  designs of the layers that it may count, by number
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design, ?callable $others = null): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object', 'look');
        }
        $marks = self::readMarks($in, $design, $others ?? static fn (int $layer): ?LayerDesign => null);
        $width = $in['width'] ?? null;
        if ($width !== null && (! is_int($width) || $width < 0 || $width > self::WIDEST)) {
            throw Refused::because('look_width', 'look/width', is_scalar($width) ? $width : null, [
                'most' => self::WIDEST,
            ]);
        }
        // Cells are drawn and not records, so there is nothing to size or to gather.
        $cells = $marks instanceof Density;
        $points = $design->geometry === GeometryKind::Point && ! $cells;

        return new self(
            $marks,
            $design->geometry,
            isset($in['size']) && ! $cells ? SizeBy::read($in['size'], $design) : null,
            isset($in['gather']) && ! $cells ? Gathering::read($in['gather'], $design, $marks) : null,
            $points ? null : $width,
            $points && ($in['photos'] ?? false) === true,
        );
    }

    /**
     * @param  array<mixed>  $in
     * @param  callable(int): ?LayerDesign  $others
     *
     * @throws Refused
     */
    private static function readMarks(array $in, LayerDesign $design, callable $others): Marks
    {
        return match ($in['kind'] ?? null) {
            'single' => new OneMark(isset($in['peg']) ? Peg::read($in['peg'], 'look/peg') : Peg::nth(0)),
            'classes' => ByClasses::read($in, $design),
            'shades' => Shades::read($in, $design),
            'crossed' => Crossed::read($in, $design),
            'density' => Density::read($in, $design),
            'inside' => ByTally::read($in, $design, $others),
            'category' => ByChoice::read($in, $design),
            default => throw Refused::because(
                'look_field',
                'look/field',
                is_scalar($in['field'] ?? null) ? $in['field'] : null,
            ),
        };
    }

    /**
     * Classes whose marks can hardly be told apart.
     *
     * @return list<array{string, string}> their codes; '' for the mark of what has no value
     */
    public function alike(): array
    {
        // Sizes are sizes of circles, whatever the heads.
        return $this->marks->alike($this->size !== null);
    }

    /**
     * What features depend on; looks that differ in colours alone carry the same.
     *
     * @return array<string, mixed>
     */
    public function carries(): array
    {
        return [
            'marks' => $this->marks->carries(),
            'size' => $this->size === null ? null : [$this->size->field->key, $this->size->most],
            'gather' => $this->gather?->carries(),
            'photos' => $this->photos,
        ];
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return $this->marks->toArray() +
            ($this->size === null ? [] : ['size' => $this->size->toArray()]) +
            ($this->gather === null ? [] : ['gather' => $this->gather->toArray()]) +
            ($this->width === null ? [] : ['width' => $this->width]) +
            ($this->photos ? ['photos' => true] : []);
    }

    /**
     * The legend that always matches: one line for each class, with its number of records.
     *
     * @param  array<array-key, int>  $counts  records by code; '' counts those without a value
     * @return list<array<string, mixed>>  `{code, label, head, colour, count}`, with how it is drawn; `from` and `to`
     *     of a class of numbers
     */
    public function legend(array $counts): array
    {
        $as = $this->drawnAs();
        $drawn = $as === GeometryKind::Point ? [] : ['geometry' => $as->value];
        if ($this->size !== null && $drawn === []) {
            // Circles have no heads.
            $drawn = ['plain' => true];
        }
        if ($this->marks->fills() && $as === GeometryKind::Area) {
            $drawn['plain'] = true;
        }

        return $this->marks->legend($counts, $drawn);
    }
}
