<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\Peg;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** A mark for each choice of a field, in the order of its list. */
final readonly class ByChoice extends Marks
{
    /** @param  array<array-key, Peg>  $classes  by the code of the choice */
    private function __construct(public Field $field, array $classes, Peg $other)
    {
        parent::__construct($classes, $other);
    }

    /**
     * @param  array<string, Peg>  $named  marks that are not the choices' own
     * @param  LayerDesign|null  $among  whose fields each have marks of their own, so that two that stand on one page
     *     are never taken for each other
     */
    public static function of(
        Field $field,
        array $named = [],
        ?Peg $other = null,
        ?LayerDesign $among = null,
    ): self {
        $first = 0;
        foreach ($among?->choiceFields() ?? [] as $before) {
            if ($before->key === $field->key) {
                break;
            }
            $first += count($before->choices);
        }
        $classes = [];
        foreach ($field->choices as $i => $choice) {
            // One that is not named, it may have been added since, gets the next free peg.
            $classes[$choice->code] = $named[$choice->code] ?? Peg::forChoice($choice, $first + $i);
        }

        return new self($field, $classes, $other ?? Peg::other());
    }

    /**
     * Reads `{field, classes: [{code, head, colour}], other}`.
     *
     * @param  array<mixed>  $in
     *
     * @throws Refused
     */
    public static function read(array $in, LayerDesign $design): self
    {
        $key = $in['field'] ?? null;
        $field = is_string($key) ? $design->field($key) : null;
        if ($field === null || $field->kind !== FieldKind::OneChoice) {
            throw Refused::because('look_field', 'look/field', is_scalar($key) ? $key : null);
        }
        $named = [];
        foreach (is_array($in['classes'] ?? null) ? $in['classes'] : [] as $i => $class) {
            $code = is_array($class) ? $class['code'] ?? null : null;
            if (is_string($code)) {
                $named[$code] = Peg::read($class, "look/classes/$i");
            }
        }

        return self::of(
            $field,
            $named,
            isset($in['other']) ? Peg::read($in['other'], 'look/other') : null,
            $design,
        );
    }

    public function fields(): array
    {
        return [$this->field->key];
    }

    public function classOf(callable $stored): ?string
    {
        $value = $stored($this->field->key);

        return $value === null ? null : (string) $value;
    }

    public function carries(): array
    {
        return ['by' => $this->field->key];
    }

    public function toArray(): array
    {
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

    public function legend(array $counts, array $drawn): array
    {
        $lines = [];
        foreach ($this->field->choices as $choice) {
            $count = $counts[$choice->code] ?? 0;
            unset($counts[$choice->code]);
            if ($count > 0 || ! $choice->retired) {
                $lines[] =
                    ['code' => $choice->code, 'label' => $choice->label] +
                    $this->classes[$choice->code]->toArray() + ['count' => $count] +
                    $drawn;
            }
        }

        return [...$lines, ...$this->rest($counts, $drawn)];
    }
}
