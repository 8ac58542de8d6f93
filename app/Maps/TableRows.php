<?php

declare(strict_types=1);

namespace App\Maps;

use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Maps\Tallies\AreaTallies;
use App\Records\VisibleRecords;
use App\Texts;
use Illuminate\Database\Query\Builder;
use PinYard\Carto\Look;
use PinYard\Carto\MapTable;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Geo\Box;
use stdClass;

/** The rows of the table beside a map, asked over all records and not over those that happen to be drawn. */
final class TableRows
{
    private readonly bool $named;

    /** @param  VisibleRecords  $records  showing the columns of the table and the fields of the look */
    public function __construct(
        private readonly MapTable $table,
        private readonly VisibleRecords $records,
        private readonly Look $look,
        private readonly ?AreaTallies $tallies,
    ) {
        $name = (string) $records->layer->design()->nameField()?->key;
        $this->named = in_array($name, $table->fields(), true) && $records->shows($name);
    }

    /** @return array<string, mixed> */
    public function answer(TableAsked $asked): array
    {
        $within = $this->within($asked->box);
        $found = $this->ofClass($within->clone(), $asked->class);
        $rows = $this->page($found->clone(), $asked);
        $picked = $asked->pick === null ? null : $found->clone()->where('id', $asked->pick)->first();

        return [
            'columns' => array_map($this->column(...), $this->table->columns),
            'rows' => array_map($this->row(...), $rows),
            // Whoever picks on the map sees it here, wherever it would stand.
            'picked' => $picked === null ? null : $this->row($picked),
            'found' => $found->count(),
            'counts' => (object) $this->counts($asked->box),
        ];
    }

    private function within(?Box $box): Builder
    {
        return $box === null ? $this->records->rows() : $this->records->rowsIn($box);
    }

    /** Only the records of one class of the look; '' for those of none. */
    private function ofClass(Builder $rows, ?string $class): Builder
    {
        if ($class === null) {
            return $rows;
        }
        if ($this->tallies !== null) {
            $tallies = $this->tallies;
            $ids = array_filter(
                $rows->clone()->pluck('id')->all(),
                fn (string $id): bool => ($tallies->classOf($this->look, $id) ?? '') === $class,
            );

            return $rows->whereIn('id', $ids);
        }

        return ClassSql::of($this->look->marks, $this->records)?->only($rows, $this->look->marks, $class) ?? $rows;
    }

    /** @return list<stdClass> */
    private function page(Builder $rows, TableAsked $asked): array
    {
        $sort = $asked->sort ?? $this->table->sort;
        $down = $asked->sort === null ? $this->table->down : $asked->down;
        if ($sort === MapTable::TALLY) {
            return $this->byTally($rows, $down, $asked->limit);
        }
        $field = $sort === MapTable::COLLECTED ? null : $this->records->design()->field($sort);
        $column = $field === null ? 'collected_at' : $field->column();
        // What is missing comes last, whichever way.
        $rows->orderByRaw("$column is null");
        $choices = $field?->kind === FieldKind::OneChoice ? array_column($field->choices, 'code') : [];
        $choices === []
            ? $rows->orderBy($column, $down ? 'desc' : 'asc')
            // As the list has them, and not by their codes.
            : $rows->orderByRaw(
                'field('.$column.str_repeat(', ?', count($choices)).')'.($down ? ' desc' : ''),
                $choices,
            );

        return array_values($rows->orderBy('id')->limit($asked->limit)->get()->all());
    }

    /** @return list<stdClass> */
    private function byTally(Builder $rows, bool $down, int $limit): array
    {
        $values = [];
        foreach ($rows->clone()->pluck('id') as $id) {
            $values[(string) $id] = $this->tallies?->valueOf((string) $id);
        }
        uksort(
            $values,
            static fn (string $a, string $b): int => [$values[$a] === null, ($down ? -1 : 1) * $values[$a], $a] <=> [
                $values[$b] === null,
                ($down ? -1 : 1) * $values[$b],
                $b,
            ],
        );
        $ids = array_map(strval(...), array_slice(array_keys($values), 0, $limit));
        $found = $rows->whereIn('id', $ids)->get()->keyBy('id');

        return array_values(array_filter(array_map(static fn (string $id): ?stdClass => $found[$id] ?? null, $ids)));
    }

    /** @return array<array-key, int> */
    private function counts(?Box $box): array
    {
        $rows = $this->within($box);

        return $this->tallies?->counts($this->look, $rows) ??
            ClassSql::of($this->look->marks, $this->records)?->countsByLine($rows, $this->look->marks) ??
            [];
    }

    /** @return array{key: string, label: string, number: bool} */
    private function column(string $key): array
    {
        $field = $this->records->design()->field($key);

        return [
            'key' => $key,
            'label' => match ($key) {
                MapTable::TALLY => $this->tallies?->text() ?? '',
                MapTable::COLLECTED => Texts::of('table.collected'),
                default => $field->label ?? $key,
            },
            'number' => $key === MapTable::TALLY || ($field?->valueKind()->isNumber() ?? false),
        ];
    }

    /** @return array<string, mixed> */
    private function row(stdClass $row): array
    {
        $design = $this->records->design();
        $id = (string) $row->id;

        return [
            'id' => $this->records->viewer->idOf($id),
            'name' => $this->named ? StoredRow::name($design, $row) : null,
            'lon' => isset($row->lon) ? round((float) $row->lon, 6) : null,
            'lat' => isset($row->lat) ? round((float) $row->lat, 6) : null,
            'class' => $this->tallies === null
                ? $this->classOf($row)
                : $this->tallies->classOf($this->look, $id),
            // What an area is coloured by, as a number: bars are drawn by it.
            'value' => $this->tallies?->valueOf($id),
            'said' => $this->tallies?->textOf($id),
            'cells' => array_map(fn (string $key): ?string => $this->cell($key, $row), $this->table->columns),
        ];
    }

    private function classOf(stdClass $row): ?string
    {
        $marks = $this->look->marks;
        if (ClassSql::of($marks, $this->records) === null) {
            return null;
        }
        $design = $this->records->design();

        return $marks->classOf(
            static fn (string $key): mixed => $row->{(string) $design->field($key)?->column()} ?? null,
        );
    }

    private function cell(string $key, stdClass $row): ?string
    {
        $field = $this->records->design()->field($key);

        return match (true) {
            $key === MapTable::TALLY => $this->tallies?->textOf((string) $row->id),
            // The screens say moments in the reader's own way.
            $key === MapTable::COLLECTED => StoredRow::instant($row->collected_at),
            $field instanceof Field => StoredValue::shown($field, $row->{$field->column()} ?? null),
            default => null,
        };
    }
}
