<?php

declare(strict_types=1);

namespace App\Designs;

use App\Layers\LayerRows;
use App\Layers\StoredValue;
use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use PinYard\Design\Conversion;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\RecordCounts;

/** Counts records for a design change; deleted ones count too, because they can come back. */
final readonly class LayerCounts implements RecordCounts
{
    public function __construct(private Layer $layer)
    {
    }

    public function any(): bool
    {
        return $this->records()->exists();
    }

    public function all(): int
    {
        return $this->records()->count();
    }

    public function withValue(string $key): int
    {
        return $this->records()->whereNotNull($this->layer->columnOf($key))->count();
    }

    public function withCodes(Field $field, array $codes): array
    {
        $column = $this->layer->columnOf($field->key);
        if ($field->kind === FieldKind::OneChoice) {
            return $this->records()
                ->whereIn($column, $codes)
                ->groupBy($column)
                ->selectRaw("$column as code, count(*) as n")
                ->pluck('n', 'code')
                ->map(static fn (mixed $n): int => (int) $n)
                ->all();
        }
        $counts = [];
        foreach ($codes as $code) {
            $counts[$code] = $this->records()
                ->whereRaw("find_in_set(?, $column) > 0", [$code])
                ->count();
        }

        return $counts;
    }

    public function outside(Field $field): int
    {
        $limit = static fn (int|float|string|null $end): int|float|string|null => in_array($end, ['today', 'now'], true)
            ? null
            : StoredValue::toColumn($field->kind, $end);
        [$lowest, $highest] = [$limit($field->lowest), $limit($field->highest)];

        return $lowest === null && $highest === null
            ? 0
            : $this->records()
                ->where(function (Builder $any) use ($field, $lowest, $highest): void {
                    if ($lowest !== null) {
                        $any->orWhere($this->layer->columnOf($field->key), '<', $lowest);
                    }
                    if ($highest !== null) {
                        $any->orWhere($this->layer->columnOf($field->key), '>', $highest);
                    }
                })
                ->count();
    }

    public function unturnable(Field $from, Field $to): int
    {
        $column = $this->layer->columnOf($from->key);
        $lost = 0;
        foreach (
            $this->records()
                ->whereNotNull($column)
                ->groupBy($column)
                ->selectRaw("$column as v, count(*) as n")
                ->cursor() as $row
        ) {
            [$turned] = Conversion::of(StoredValue::fromColumn($from->valueKind(), $row->v), $from, $to);
            $lost += $turned ? 0 : (int) $row->n;
        }

        return $lost;
    }

    private function records(): Builder
    {
        return LayerRows::all($this->layer);
    }
}
