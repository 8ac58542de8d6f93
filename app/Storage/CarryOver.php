<?php

declare(strict_types=1);

namespace App\Storage;

use App\Models\DesignVersion;
use App\Models\Layer;
use PinYard\Design\Conversion;
use PinYard\Design\FieldKind;
use PinYard\Formula\Surroundings;
use PinYard\Record\ValueCheck;

/**
 * Brings values that were collected under an earlier design to the columns of today's: choices that were moved, kinds that changed.
 * What cannot be turned stays whole in the record's history; a field that left the design still gets its column.
 */
final class CarryOver
{
    /** @var array<int, array<string, array<string, string>>> moves of choices, by the version that made them */
    private ?array $moves = null;

    public function __construct(private readonly Layer $layer)
    {
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @return array<string, string|int|float|null> column to what it holds
     */
    public function columns(int $version, array $values, Surroundings $in): array
    {
        $now = $this->layer->design();
        if ($version < $this->layer->design_version) {
            $values = $this->carried($version, $values, $in);
        }
        $columns = [];
        foreach ($values as $key => $value) {
            $kind = $this->layer->kindOf($key);
            if ($kind !== null && ($now->field($key) !== null || $version >= $this->layer->design_version || $this->layer->design($version)->field($key)?->valueKind() === $kind)) {
                $columns[$this->layer->columnOf($key)] = StoredValue::toColumn($kind, $value);
            }
        }

        return $columns;
    }

    /**
     * @param  array<string, string|int|float|bool|list<string>|null>  $values
     * @return array<string, string|int|float|bool|list<string>|null>
     */
    public function carried(int $version, array $values, Surroundings $in): array
    {
        [$then, $now] = [$this->layer->design($version), $this->layer->design()];
        foreach ($this->moves() as $by => $moves) {
            foreach ($by > $version ? $moves : [] as $key => $codes) {
                $value = $values[$key] ?? null;
                $values[$key] = is_array($value)
                    ? array_values(array_unique(array_map(static fn (string $c): string => $codes[$c] ?? $c, $value)))
                    : (is_string($value) ? ($codes[$value] ?? $value) : $value);
            }
        }
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

    /** @return array<int, array<string, array<string, string>>> */
    private function moves(): array
    {
        return $this->moves ??= $this->layer->designs()->whereNotNull('moves')->orderBy('version')->get()
            ->mapWithKeys(static fn (DesignVersion $d): array => [$d->version => $d->moves ?? []])->all();
    }
}
