<?php

declare(strict_types=1);

namespace PinYard\Board;

use PinYard\Design\Field;
use PinYard\Design\FieldKind;

/**
 * By what records are put together: the values of a field, the days, weeks, months or years of a date, crews, people,
 * or the areas of a layer that they lie in.
 */
final readonly class Grouping
{
    public const COLLECTED = 'collected_at';

    public const CREW = '@crew';

    public const PERSON = '@person';

    /** @param  int|null  $areas  number of the layer of areas */
    private function __construct(
        public string $key,
        public ?Field $field,
        public ?Step $step,
        public ?int $areas = null,
    ) {
    }

    /**
     * Reads `{field, step?}` or `{areas}`.
     *
     * @throws \PinYard\Refused
     */
    public static function read(mixed $in, int $layer, TileInput $tile, string $at): self
    {
        $in = is_array($in) ? $in : [];
        if (isset($in['areas'])) {
            return new self('@areas', null, null, $tile->areas($in['areas'], "$at/areas"));
        }
        $key = $in['field'] ?? null;
        if ($key === self::CREW || $key === self::PERSON) {
            return new self($key, null, null);
        }
        $field = is_string($key) ? $tile->design($layer)->field($key) : null;
        $kind = $field?->valueKind();
        if ($key === self::COLLECTED || $kind?->isDay() === true) {
            $step = is_string($in['step'] ?? null) ? Step::tryFrom($in['step']) : null;

            return new self((string) $key, $field, $step ?? Step::Day);
        }
        if ($field === null && is_string($key)) {
            throw $tile->refused('field_unknown', "$at/field", $key, ['key' => $key]);
        }
        if ($kind === null || ! self::parts($kind)) {
            throw $tile->refused(
                'grouping_field',
                "$at/field",
                $key,
                ['field' => $field->label ?? (is_string($key) ? $key : '')],
            );
        }

        return new self((string) $key, $field, null);
    }

    /** By the areas of a layer. */
    public static function areas(int $layer): self
    {
        return new self('@areas', null, null, $layer);
    }

    /** By the days, weeks, months or years of a date. */
    public static function time(string $key, Step $step, ?Field $field = null): self
    {
        return new self($key, $field, $step);
    }

    /** Whether records can be put together by values of a kind. */
    public static function parts(FieldKind $kind): bool
    {
        return $kind->isChoice() || $kind === FieldKind::YesNo || $kind === FieldKind::ShortText || $kind->isDay()
            || $kind === FieldKind::WholeNumber;
    }

    /** Whether there are only those groups that the design or the programme names. */
    public function isClosed(): bool
    {
        return $this->key === self::CREW || $this->field?->valueKind()->isChoice() === true
            || $this->field?->valueKind() === FieldKind::YesNo;
    }

    /** Whether one record can be in several groups, so that they do not add up to all. */
    public function overlaps(): bool
    {
        return $this->areas !== null || $this->field?->valueKind() === FieldKind::SeveralChoices;
    }

    public function isTime(): bool
    {
        return $this->step !== null;
    }

    public function withStep(Step $step): self
    {
        return new self($this->key, $this->field, $step);
    }

    /** Whether it tells who has been at work. */
    public function tellsPeople(): bool
    {
        return $this->key === self::CREW || $this->key === self::PERSON;
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return $this->areas !== null
            ? ['areas' => $this->areas]
            : array_filter(
                ['field' => $this->key, 'step' => $this->step?->value],
                static fn (mixed $v): bool => $v !== null,
            );
    }
}
