<?php

declare(strict_types=1);

namespace App\Designs;

use App\Layers\StoredValue;
use App\Models\Layer;
use App\Records\RecordWriter;
use PinYard\Design\Conversion;
use PinYard\Design\DesignChange;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;

/**
 * Carries a decided design change out on the records: turned values, moved choices, filled gaps. Runs under the layer's
 * lock, in the transaction that makes the new version; each touched record gets a change number, so phones hear of it.
 */
final class DesignRollout
{
    private const ROWS = 1_000;

    private readonly Layer $layer;

    public function __construct(private readonly RecordWriter $writer)
    {
        $this->layer = $writer->layer;
    }

    public function run(DesignChange $change): void
    {
        foreach ($change->turned as [$from, $to]) {
            if ($to->kind !== FieldKind::Calculated) {
                $this->turn($from, $to);
            }
        }
        foreach ($change->moves as $key => $codes) {
            $this->move((string) $key, $this->layer->kindOf($key) === FieldKind::SeveralChoices, $codes);
        }
        foreach ($change->fills as $key => $value) {
            $kind = $this->layer->kindOf($key);
            if ($kind !== null) {
                $this->writer->update(
                    $this->writer->records()->whereNull($this->layer->columnOf($key)),
                    [$this->layer->columnOf($key) => StoredValue::toColumn($kind, $value)],
                    [(string) $key],
                );
            }
        }
    }

    private function turn(Field $from, Field $to): void
    {
        [$old, $new] = [
            Field::columnName($to->key, $this->layer->generationOf($to->key) - 1),
            $this->layer->columnOf($to->key),
        ];
        $last = '';
        do {
            $rows = $this->writer
                ->records()
                ->where('id', '>', $last)
                ->whereNotNull($old)
                ->orderBy('id')
                ->limit(self::ROWS)
                ->get();
            $turned = [];
            foreach ($rows as $row) {
                [, $value] = Conversion::of(StoredValue::fromColumn($from->valueKind(), $row->$old), $from, $to);
                $turned[] = [...(array) $row, $new => StoredValue::toColumn($to->valueKind(), $value)];
                $last = $row->id;
            }
            $this->writer->rework($turned, [$to->key]);
        } while ($rows->count() === self::ROWS);
    }

    /** @param  array<string, string>  $codes */
    private function move(string $key, bool $several, array $codes): void
    {
        $column = $this->layer->columnOf($key);
        if (! $several) {
            foreach ($codes as $from => $to) {
                $this->writer->update(
                    $this->writer->records()->where($column, (string) $from),
                    [$column => $to],
                    [$key],
                );
            }

            return;
        }
        // Few distinct lists stand for many records.
        foreach ($this->writer->records()->whereNotNull($column)->distinct()->pluck($column) as $list) {
            $moved = implode(
                ',',
                array_unique(array_map(static fn (string $c): string => $codes[$c] ?? $c, explode(',', $list))),
            );
            if ($moved !== $list) {
                $this->writer->update($this->writer->records()->where($column, $list), [$column => $moved], [$key]);
            }
        }
    }
}
