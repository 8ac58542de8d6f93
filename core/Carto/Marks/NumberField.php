<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Refused;

/** Fields whose numbers a look can go by. */
final class NumberField
{
    public static function is(?Field $field): bool
    {
        return $field !== null && $field->hasValue() && $field->valueKind()->isNumber();
    }

    /** @throws Refused */
    public static function of(mixed $key, LayerDesign $design, string $at = 'look/field'): Field
    {
        $field = is_string($key) ? $design->field($key) : null;

        return $field !== null && self::is($field)
            ? $field
            : throw Refused::because('look_field', $at, is_scalar($key) ? $key : null);
    }
}
