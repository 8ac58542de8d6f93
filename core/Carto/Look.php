<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/** How a layer is drawn: one peg for all, or one for each choice of a field. */
final readonly class Look
{
    /** @param  array<array-key, Peg>  $classes by choice code, in the order of the choice list */
    private function __construct(
        public ?Field $field,
        public array $classes,
        public Peg $other,
        public GeometryKind $geometry,
    ) {
    }

    /** A sensible first look: by the field named, else by the first choice field, else one peg. */
    public static function suggest(LayerDesign $design, ?string $fieldKey = null): self
    {
        $field = $fieldKey === null ? $design->choiceFields()[0] ?? null : $design->field($fieldKey);
        if ($field === null || $field->kind !== FieldKind::OneChoice) {
            return new self(null, [], Peg::nth(0), $design->geometry);
        }
        $classes = [];
        foreach ($field->choices as $i => $choice) {
            $classes[$choice->code] = Peg::forChoice($choice, $i);
        }

        return new self($field, $classes, Peg::other(), $design->geometry);
    }

    /**
     * Reads `{kind: 'single', peg}` or `{kind: 'category', field, classes: [{code, head, colour}], other}`.
     * A choice that the look does not name (it may have been added since) gets the next free peg.
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design): self
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

    /** @return array<string, mixed> */
    public function toArray(): array
    {
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
     *     geometry?: string}>
     */
    public function legend(array $counts): array
    {
        $kind = $this->geometry === GeometryKind::Point ? [] : ['geometry' => $this->geometry->value];
        if ($this->field === null) {
            return [
                ['code' => null, 'label' => null] + $this->other->toArray() + ['count' => array_sum($counts)] + $kind,
            ];
        }
        $lines = [];
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
