<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;

/**
 * Something that every record of a layer has or lacks and that can be measured: a field, or what is known of each
 * without one. Keys of the latter begin with `@`.
 */
final readonly class Quantity
{
    /** Metres along a line or around an area. */
    public const LENGTH = '@length';

    /** Square metres of an area. */
    public const AREA = '@area';

    /** How many visits it had. */
    public const VISITS = '@visits';

    /** How many photos it has. */
    public const PHOTOS = '@photos';

    /** Who made it. */
    public const PERSON = '@person';

    private function __construct(public string $key, public ?Field $field, public ?string $unit)
    {
    }

    /** @return self|null null where records of this layer have no such thing */
    public static function of(string $key, LayerDesign $design, bool $hasVisits): ?self
    {
        $field = $design->field($key);
        if ($field !== null) {
            return $field->hasValue() ? new self($key, $field, $field->unit) : null;
        }

        return match (true) {
            $key === self::LENGTH && $design->geometry !== GeometryKind::Point => new self($key, null, 'm'),
            $key === self::AREA && $design->geometry === GeometryKind::Area => new self($key, null, 'm²'),
            $key === self::VISITS && $hasVisits,
            $key === self::PHOTOS && $design->photos->allowed,
            $key === self::PERSON => new self($key, null, null),
            default => null,
        };
    }

    public function isNumber(): bool
    {
        return $this->field === null ? $this->key !== self::PERSON : $this->field->valueKind()->isNumber();
    }

    public function isDay(): bool
    {
        return $this->field?->valueKind() === FieldKind::Date;
    }

    /** Whether a measure can be told of it. */
    public function has(MeasureKind $kind): bool
    {
        return match ($kind) {
            MeasureKind::Distinct => true,
            MeasureKind::Least, MeasureKind::Most => $this->isNumber() || $this->isDay(),
            default => $this->isNumber(),
        };
    }

    /** Decimals that its values are shown with; null: as many as they have. */
    public function decimals(): ?int
    {
        return $this->field === null || $this->field->valueKind() === FieldKind::WholeNumber
            ? 0
            : $this->field->decimals;
    }
}
