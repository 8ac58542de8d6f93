<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/** How a layer is drawn: one peg for all, one for each choice of a field, or one for each class of its numbers. */
final readonly class Look
{
    /**
     * @param  array<array-key, Peg>  $classes  by choice code, in the order of the choice list; by number of the class
     * @param  NumberClasses|null  $numbers  where the field is a number
     * @param  SizeBy|null  $size  how large each is drawn; null: all alike
     */
    private function __construct(
        public ?Field $field,
        public array $classes,
        public Peg $other,
        public GeometryKind $geometry,
        public ?NumberClasses $numbers = null,
        public ?SizeBy $size = null,
    ) {
    }

    /** More marks than these nobody tells apart at a glance. */
    private const FEW = 12;

    /** A sensible first look: by the field named, else by the first list of few choices, else one peg. */
    public static function suggest(LayerDesign $design, ?string $fieldKey = null): self
    {
        $field = $fieldKey === null ? self::firstOfFew($design) : $design->field($fieldKey);
        if ($field === null || $field->kind !== FieldKind::OneChoice) {
            return new self(null, [], Peg::nth(0), $design->geometry);
        }
        $classes = [];
        foreach ($field->choices as $i => $choice) {
            $classes[$choice->code] = Peg::forChoice($choice, $i);
        }

        return new self($field, $classes, Peg::other(), $design->geometry);
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
        return $field !== null && $field->hasValue() && $field->valueKind()->isNumber();
    }

    /** Discs of a scheme's colours, one for each class. */
    public static function byNumbers(Field $field, NumberClasses $numbers, GeometryKind $geometry): self
    {
        $classes = array_map(
            static fn (string $colour): Peg => Peg::of('disc', $colour),
            $numbers->scheme->colours(count($numbers->breaks) + 1),
        );

        return new self($field, $classes, Peg::missing(), $geometry, $numbers);
    }

    /**
     * @param  array<mixed>  $in  `{kind: 'classes', field, method, scheme, breaks, classes: [{head, colour, label?}],
     *     other}`; a class that is not named has the scheme's colour
     *
     * @throws Refused
     */
    private static function readNumbers(array $in, LayerDesign $design): self
    {
        $key = $in['field'] ?? null;
        $field = is_string($key) ? $design->field($key) : null;
        if ($field === null || ! self::countsBy($field)) {
            throw Refused::because('look_field', 'look/field', is_scalar($key) ? $key : null);
        }
        $look = self::byNumbers($field, NumberClasses::read($in), $design->geometry);
        $classes = $look->classes;
        foreach (is_array($in['classes'] ?? null) ? array_values($in['classes']) : [] as $i => $class) {
            $classes[$i] = Peg::read($class, "look/classes/$i");
        }

        return new self(
            $field,
            $classes,
            isset($in['other']) ? Peg::read($in['other'], 'look/other') : $look->other,
            $design->geometry,
            $look->numbers,
        );
    }

    /** @return float|null 0 to 1, how large a record is drawn; null where it has no size, or all are alike */
    public function sizeOf(string|int|float|null $stored): ?float
    {
        return $this->size?->of($stored, $this->geometry);
    }

    /** @return string|null by which class a value is drawn; null: by the mark for what is missing */
    public function classOf(string|int|float|null $stored): ?string
    {
        return $this->numbers === null
            ? ($stored === null ? null : (string) $stored)
            : $this->numbers->codeOf($stored);
    }

    /** @return list<string> keys of the fields that it goes by */
    public function fields(): array
    {
        return array_values(array_unique(array_filter([$this->field?->key, $this->size?->field->key])));
    }

    public function sizedBy(?SizeBy $size): self
    {
        return new self($this->field, $this->classes, $this->other, $this->geometry, $this->numbers, $size);
    }

    /**
     * Reads `{kind: 'single', peg}`, `{kind: 'category', field, classes: [{code, head, colour}], other}` or one by
     * classes of numbers; each with `size: {field, most}` where records differ in size, too. A choice that the look
     * does not name (it may have been added since) gets the next free peg.
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design): self
    {
        $look = self::readMarks($in, $design);

        return is_array($in) && isset($in['size']) ? $look->sizedBy(SizeBy::read($in['size'], $design)) : $look;
    }

    /** @throws Refused */
    private static function readMarks(mixed $in, LayerDesign $design): self
    {
        if (! is_array($in)) {
            throw Refused::because('must_be_object', 'look');
        }
        if (($in['kind'] ?? null) === 'single') {
            return new self(
                null,
                [],
                isset($in['peg']) ? Peg::read($in['peg'], 'look/peg') : Peg::nth(0),
                $design->geometry,
            );
        }
        if (($in['kind'] ?? null) === 'classes') {
            return self::readNumbers($in, $design);
        }
        $key = $in['field'] ?? null;
        $field = is_string($key) ? $design->field($key) : null;
        if (($in['kind'] ?? null) !== 'category' || $field === null || $field->kind !== FieldKind::OneChoice) {
            throw Refused::because('look_field', 'look/field', is_scalar($key) ? $key : null);
        }
        $named = [];
        foreach (is_array($in['classes'] ?? null) ? $in['classes'] : [] as $i => $class) {
            $code = is_array($class) ? $class['code'] ?? null : null;
            if (is_string($code)) {
                $named[$code] = Peg::read($class, "look/classes/$i");
            }
        }
        $classes = [];
        foreach ($field->choices as $i => $choice) {
            $classes[$choice->code] = $named[$choice->code] ?? Peg::forChoice($choice, $i);
        }

        return new self(
            $field,
            $classes,
            isset($in['other']) ? Peg::read($in['other'], 'look/other') : Peg::other(),
            $design->geometry,
        );
    }

    /**
     * Classes whose marks have the same shape and can hardly be told apart: of numbers those that are neighbours, of
     * choices any two.
     *
     * @return list<array{string, string}> their codes; '' for the mark of what has no value
     */
    public function alike(): array
    {
        $pegs = $this->classes;
        $codes = array_keys($pegs);
        $pairs = [];
        foreach ($codes as $i => $one) {
            foreach ($this->numbers === null ? array_slice($codes, $i + 1) : array_slice($codes, $i + 1, 1) as $other) {
                $pairs[] = [(string) $one, (string) $other, $pegs[$one], $pegs[$other]];
            }
            $pairs[] = [(string) $one, '', $pegs[$one], $this->other];
        }
        $alike = [];
        foreach ($pairs as [$one, $other, $a, $b]) {
            // Sizes are sizes of circles, whatever the heads.
            if (
                ($a->head === $b->head || $this->size !== null) &&
                ColourDifference::least($a->colour, $b->colour) < ColourDifference::CLOSE
            ) {
                $alike[] = [$one, $other];
            }
        }

        return $alike;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return $this->marks() + ($this->size === null ? [] : ['size' => $this->size->toArray()]);
    }

    /** @return array<string, mixed> */
    private function marks(): array
    {
        if ($this->field === null) {
            return ['kind' => 'single', 'peg' => $this->other->toArray()];
        }
        if ($this->numbers !== null) {
            return [
                'kind' => 'classes',
                'field' => $this->field->key,
                'method' => $this->numbers->method->value,
                'scheme' => $this->numbers->scheme->value,
                'breaks' => $this->numbers->breaks,
                'classes' => array_map(
                    static fn (Peg $peg, ?string $label): array => $peg->toArray() +
                        ($label === null ? [] : ['label' => $label]),
                    array_values($this->classes),
                    $this->numbers->labels,
                ),
                'other' => $this->other->toArray(),
            ];
        }
        $classes = [];
        foreach ($this->classes as $code => $peg) {
            $classes[] = ['code' => (string) $code] + $peg->toArray();
        }

        return [
            'kind' => 'category',
            'field' => $this->field->key,
            'classes' => $classes,
            'other' => $this->other->toArray(),
        ];
    }

    /**
     * The legend that always matches: one line for each class, with its number of records.
     *
     * @param  array<array-key, int>  $counts  records by code; '' counts those without a value
     * @return list<array{code: string|null, label: string|null, head: string, colour: string, count: int,
     *     geometry?: string, plain?: true, from?: float|null, to?: float|null}>  `from` and `to` of a class of numbers
     */
    public function legend(array $counts): array
    {
        $kind = $this->geometry === GeometryKind::Point ? [] : ['geometry' => $this->geometry->value];
        if ($this->size !== null && $kind === []) {
            // Circles have no heads.
            $kind = ['plain' => true];
        }
        if ($this->field === null) {
            // Of a single class lines and areas are drawn without a head.
            return [
                ['code' => null, 'label' => null] +
                $this->other->toArray() + ['count' => array_sum($counts)] +
                $kind + ($kind === [] ? [] : ['plain' => true]),
            ];
        }
        $lines = [];
        foreach ($this->numbers->labels ?? [] as $i => $label) {
            [$from, $to] = $this->numbers?->rangeOf($i) ?? [null, null];
            $lines[] =
                ['code' => (string) $i, 'label' => $label] +
                $this->classes[$i]->toArray() + ['count' => $counts[$i] ?? 0] +
                $kind + ['from' => $from, 'to' => $to];
            unset($counts[$i]);
        }
        foreach ($this->field->choices as $choice) {
            $count = $counts[$choice->code] ?? 0;
            unset($counts[$choice->code]);
            if ($count > 0 || ! $choice->retired) {
                $lines[] =
                    ['code' => $choice->code, 'label' => $choice->label] +
                    $this->classes[$choice->code]->toArray() + ['count' => $count] +
                    $kind;
            }
        }
        if (array_sum($counts) > 0) {
            $lines[] =
                ['code' => null, 'label' => null] + $this->other->toArray() + ['count' => array_sum($counts)] + $kind;
        }

        return $lines;
    }
}
