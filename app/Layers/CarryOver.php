<?php

declare(strict_types=1);

namespace App\Layers;

use App\Models\DesignVersion;
use App\Models\Layer;
use PinYard\Design\Conversion;
use PinYard\Design\FieldKind;
use PinYard\Formula\Surroundings;
use PinYard\Record\ValueCheck;

/**
 * Brings values that were collected under an earlier design to the columns of today's: choices that were moved, kinds
 * that changed. What cannot be turned stays whole in the record's history; a field that left the design still gets its
 * column.
 */
final class CarryOver
{
    /** @var array<int, array<string, array<string, string>>> moves of choices, by the version that made them */
    private ?array $moves = null;

    /** @var array<int, array<string, array{string, FieldKind}|null>> column and kind by key, by version */
    private array $places = [];

    private readonly int $current;

    public function __construct(private readonly Layer $layer)
    {
        $this->current = $layer->design_version;
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @return array<string, string|int|float|null> column to what it holds
     */
    public function columns(int $version, array $values, Surroundings $in): array
    {
        if ($version < $this->current) {
            $values = $this->carried($version, $values, $in);
        }
        $places = &$this->places[$version];
        $columns = [];
        foreach ($values as $key => $value) {
            if (! isset($places[$key]) && ! array_key_exists($key, $places ?? [])) {
                $places[$key] = $this->place($version, $key);
            }
            if ($places[$key] !== null) {
                [$column, $kind] = $places[$key];
                $columns[$column] = StoredValue::toColumn($kind, $value);
            }
        }

        return $columns;
    }

    /** @return array{string, FieldKind}|null the column that holds the value of a form's version, if one does */
    private function place(int $version, string $key): ?array
    {
        $kind = $this->layer->kindOf($key);

        return $kind !== null &&
            ($this->layer->design()->field($key) !== null ||
                $version >= $this->current ||
                $this->layer->design($version)->field($key)?->valueKind() === $kind)
            ? [$this->layer->columnOf($key), $kind]
            : null;
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @return array<string, string|int|float|bool|list<string>|null>
     */
    public function carried(int $version, array $values, Surroundings $in): array
    {
        [$then, $now] = [$this->layer->design($version), $this->layer->design()];
        $values = $this->moved($version, $values);
        $known = [];
        foreach ($now->valueFields() as $field) {
            $was = $then->field($field->key);
            if ($field->kind !== FieldKind::Calculated && $was !== null && $was->valueKind() !== $field->valueKind()) {
                [, $values[$field->key]] = Conversion::of($values[$field->key] ?? null, $was, $field);
            }
            $known[$field->key] = $values[$field->key] ?? null;
        }
        // Only what is calculated is taken from today's rules; the rest stands as it was accepted.
        $worked = ValueCheck::against($now, $known, $in)->values;
        foreach ($now->valueFields() as $field) {
            if ($field->kind === FieldKind::Calculated) {
                $values[$field->key] = $worked[$field->key] ?? null;
            }
        }

        return $values;
    }

    /**
     * Single values by today's design, where only some were changed.
     *
     * @param  array<string, mixed>  $values
     * @return array{array<string, mixed>, list<string>} the values, and the keys of those that today's fields cannot
     *     hold
     */
    public function changes(int $version, array $values): array
    {
        [$then, $now] = [$this->layer->design($version), $this->layer->design()];
        $unfit = [];
        foreach ($this->moved($version, $values) as $key => $value) {
            [$was, $is] = [$then->field($key), $now->field($key)];
            if ($was === null || $is?->kind === FieldKind::Calculated) {
                unset($values[$key]);

                continue;
            }
            $values[$key] = $value;
            if ($is !== null && $is->valueKind() !== $was->valueKind()) {
                $values[$key] = Conversion::of($value, $was, $is)[1];
            }
            // A field that left the design still has its column, if it was of that kind.
            if (
                ($is === null && $this->layer->kindOf($key) !== $was->valueKind()) ||
                ($value !== null && $values[$key] === null)
            ) {
                unset($values[$key]);
                $unfit[] = $key;
            }
        }

        return [$values, $unfit];
    }

    /**
     * @param  array<string, mixed>  $values
     * @return array<string, mixed> with choices as later versions moved them
     */
    private function moved(int $version, array $values): array
    {
        foreach ($this->moves() as $by => $moves) {
            foreach ($by > $version ? array_intersect_key($moves, $values) : [] as $key => $codes) {
                $value = $values[$key];
                $values[$key] = is_array($value)
                    ? array_values(array_unique(array_map(static fn (string $c): string => $codes[$c] ?? $c, $value)))
                    : (is_string($value)
                        ? $codes[$value] ?? $value
                        : $value);
            }
        }

        return $values;
    }

    /** @return array<int, array<string, array<string, string>>> */
    private function moves(): array
    {
        return $this->moves ??= $this->layer
            ->designs()
            ->whereNotNull('moves')
            ->orderBy('version')
            ->get()
            ->mapWithKeys(static fn (DesignVersion $d): array => [$d->version => $d->moves ?? []])
            ->all();
    }
}
