<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/**
 * How a layer is drawn: one peg for all, one for each choice of a field, or one for each class of numbers: of a field,
 * or of what is told of the records in each area.
 */
final readonly class Look
{
    /**
     * @param  array<array-key, Peg>  $classes  by choice code, in the order of the choice list; by number of the class
     * @param  NumberClasses|null  $numbers  where it goes by numbers
     * @param  SizeBy|null  $size  how large each is drawn; null: all alike
     * @param  Tally|null  $tally  of areas: what of the records in them; then there is no field
     */
    private function __construct(
        public ?Field $field,
        public array $classes,
        public Peg $other,
        public GeometryKind $geometry,
        public ?NumberClasses $numbers = null,
        public ?SizeBy $size = null,
        public ?Tally $tally = null,
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
    public static function byNumbers(Field|Tally $of, NumberClasses $numbers, GeometryKind $geometry): self
    {
        $classes = array_map(
            static fn (string $colour): Peg => Peg::of('disc', $colour),
            $numbers->scheme->colours(count($numbers->breaks) + 1),
        );

        return new self(
            $of instanceof Field ? $of : null,
            $classes,
            Peg::missing(),
            $geometry,
            $numbers,
            tally: $of instanceof Tally ? $of : null,
        );
    }

    /**
     * @param  array<mixed>  $in  `{method, scheme, breaks, classes: [{head, colour, label?}], other}`; a class that is
     *     not named has the scheme's colour
     *
     * @throws Refused
     */
    private static function readNumbers(array $in, Field|Tally $of, LayerDesign $design): self
    {
        $look = self::byNumbers($of, NumberClasses::read($in), $design->geometry);
        $classes = $look->classes;
        foreach (is_array($in['classes'] ?? null) ? array_values($in['classes']) : [] as $i => $class) {
            $classes[$i] = Peg::read($class, "look/classes/$i");
        }

        return new self(
            $look->field,
            $classes,
            isset($in['other']) ? Peg::read($in['other'], 'look/other') : $look->other,
            $design->geometry,
            $look->numbers,
            tally: $look->tally,
        );
    }

    /** @throws Refused */
    private static function numberField(mixed $key, LayerDesign $design): Field
    {
        $field = is_string($key) ? $design->field($key) : null;

        return $field !== null && self::countsBy($field)
            ? $field
            : throw Refused::because('look_field', 'look/field', is_scalar($key) ? $key : null);
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

    /**
     * By which class an area is drawn; null: by the mark for what has no value.
     *
     * @param  float|null  $by  what the area has of what a rate is told by
     */
    public function classOfArea(TallyState $state, ?float $by): ?string
    {
        return $this->tally?->isFew($state) === true
            ? Tally::FEW
            : $this->numbers?->codeOf($this->tally?->valueOf($state, $by));
    }

    /** @return list<string> keys of the fields that it goes by */
    public function fields(): array
    {
        return array_values(
            array_unique(
                array_filter([$this->field?->key, $this->size?->field->key, $this->tally?->by?->key]),
            ),
        );
    }

    /** One mark for all. */
    public function uncoloured(): self
    {
        return new self(null, [], $this->other, $this->geometry);
    }

    public function sizedBy(?SizeBy $size): self
    {
        return new self(
            $this->field,
            $this->classes,
            $this->other,
            $this->geometry,
            $this->numbers,
            $size,
            $this->tally,
        );
    }

    /**
     * Reads `{kind: 'single', peg}`, `{kind: 'category', field, classes: [{code, head, colour}], other}`, one by
     * classes of numbers (`kind: 'classes', field`) or by those of what lies in areas (`kind: 'inside', of`); each
     * with `size: {field, most}` where records differ in size, too. A choice that the look does not name (it may have
     * been added since) gets the next free peg.
     *
     * @param  (callable(int): ?LayerDesign)|null  $others  designs of the layers that it may count, by number
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design, ?callable $others = null): self
    {
        $look = self::readMarks($in, $design, $others ?? static fn (int $layer): ?LayerDesign => null);

        return is_array($in) && isset($in['size']) ? $look->sizedBy(SizeBy::read($in['size'], $design)) : $look;
    }

    /**
     * @param  callable(int): ?LayerDesign  $others
     *
     * @throws Refused
     */
    private static function readMarks(mixed $in, LayerDesign $design, callable $others): self
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
            return self::readNumbers($in, self::numberField($in['field'] ?? null, $design), $design);
        }
        if (($in['kind'] ?? null) === 'inside') {
            return self::readNumbers($in, Tally::read($in['of'] ?? null, $design, $others), $design);
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
        if ($this->numbers !== null) {
            return [
                ...$this->tally === null
                    ? ['kind' => 'classes', 'field' => $this->field?->key]
                    : ['kind' => 'inside', 'of' => $this->tally->toArray()],
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
        if ($this->field === null) {
            return ['kind' => 'single', 'peg' => $this->other->toArray()];
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
     *     geometry?: string, plain?: true, filled?: true, hatched?: true, from?: float|null, to?: float|null}>  `from`
     *     and `to` of a class of numbers
     */
    public function legend(array $counts): array
    {
        $kind = $this->geometry === GeometryKind::Point ? [] : ['geometry' => $this->geometry->value];
        if ($this->size !== null && $kind === []) {
            // Circles have no heads.
            $kind = ['plain' => true];
        }
        if ($this->numbers !== null && $this->geometry === GeometryKind::Area) {
            $kind['plain'] = true;
        }
        if ($this->field === null && $this->numbers === null) {
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
                $kind + (isset($kind['geometry']) && isset($kind['plain']) ? ['filled' => true] : []) +
                ['from' => $from, 'to' => $to];
            unset($counts[$i]);
        }
        if ($this->tally !== null && $this->tally->least > 0) {
            $lines[] =
                ['code' => Tally::FEW, 'label' => null] +
                $this->other->toArray() + ['count' => $counts[Tally::FEW] ?? 0] +
                $kind + ['hatched' => true];
            unset($counts[Tally::FEW]);
        }
        foreach ($this->field->choices ?? [] as $choice) {
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
