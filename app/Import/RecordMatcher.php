<?php

declare(strict_types=1);

namespace App\Import;

use App\Layers\LayerRows;
use App\Layers\StoredValue;
use App\Models\Layer;
use PinYard\Design\Field;
use PinYard\Import\ImportSettings;
use PinYard\Import\ValueReader;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;
use stdClass;

/**
 * Finds the records that rows of a table are about, by a column whose values name them: of a field, or the ids that we
 * write out. Goes through a table once, from its first row on: a key that comes twice is known when it comes again.
 */
final class RecordMatcher
{
    /** @var array<int, int> hash of a key => row that had it first; a million of them must fit */
    private array $rows = [];

    private readonly ?Field $field;

    private readonly ?ValueReader $reader;

    public function __construct(private readonly Layer $layer, private readonly ImportSettings $settings)
    {
        $column = $settings->keyColumn === null ? null : $settings->columns[$settings->keyColumn];
        $this->field = $column === null || $settings->byId() ? null : $layer->design()->field($column->key);
        $this->reader =
            $column === null || $this->field === null
                ? null
                : new ValueReader($this->field, $column->order ?? 'ymd', $column->comma, $settings->zone);
    }

    /**
     * @param  array<int, array{list<string>, string|null}>  $rows  the next of the table, by number
     * @return array{array<int, stdClass>, array<int, Problem>} rows of the layer's table; and why nobody can tell which
     *     is meant, or whether
     */
    public function next(array $rows): array
    {
        $wanted = $problems = [];
        foreach ($rows as $number => [$cells]) {
            $text = trim($cells[$this->settings->keyColumn ?? 0] ?? '');
            $key = $this->key($text);
            if ($key === null) {
                $problems[$number] =
                    $text === ''
                        ? new Problem('intake_key_empty', 'key')
                        : new Problem('intake_key_value', 'key', mb_substr($text, 0, 60), [
                            'value' => mb_substr($text, 0, 60),
                        ]);

                continue;
            }
            $hash = (crc32($key) << 24) ^ crc32(strrev($key));
            if (isset($this->rows[$hash]) && $this->rows[$hash] !== $number) {
                $problems[$number] = new Problem('intake_key_twice', 'key', mb_substr($text, 0, 60), [
                    'value' => mb_substr($text, 0, 60),
                    'row' => $this->rows[$hash],
                ]);
            }
            $this->rows[$hash] ??= $number;
            $wanted[$number] = $key;
        }
        [$found, $doubled] = $this->among(array_values(array_unique($wanted)));
        $records = [];
        foreach ($wanted as $number => $key) {
            if (isset($found[$key])) {
                $records[$number] = $found[$key];
            }
            if (isset($doubled[$key])) {
                $problems[$number] ??= new Problem('intake_key_records', 'key', null, ['count' => $doubled[$key]]);
            }
        }

        return [$records, $problems];
    }

    /** What a cell names a record by; null where that is nothing. */
    private function key(string $text): ?string
    {
        if ($this->settings->byId()) {
            try {
                return RecordId::of($text)->bytes();
            } catch (Refused) {
                return null;
            }
        }
        $value = $this->reader?->read($text);

        return $this->field === null || $value === null || $value instanceof Problem || is_array($value)
            ? null
            : mb_strtolower((string) StoredValue::toColumn($this->field->kind, $value));
    }

    /**
     * @param  list<string>  $keys
     * @return array{array<string, stdClass>, array<string, int>} the records by key; how many have the same
     */
    private function among(array $keys): array
    {
        $column = $this->settings->byId() ? 'id' : $this->field?->column();
        $found = $doubled = [];
        if ($column === null) {
            return [$found, $doubled];
        }
        foreach (array_chunk($keys, 1_000) as $some) {
            foreach (
                LayerRows::all($this->layer)->whereIn($column, $some)->where('deleted', 0)->orderBy('id')->get() as $row
            ) {
                $key = $column === 'id' ? (string) $row->id : mb_strtolower((string) $row->{$column});
                if (isset($found[$key])) {
                    $doubled[$key] = ($doubled[$key] ?? 1) + 1;
                }
                // Of several with the same value the first made counts, if a person says that the file counts.
                $found[$key] ??= $row;
            }
        }

        return [$found, $doubled];
    }
}
