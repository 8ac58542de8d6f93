<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;
use PinYard\Problem;

/**
 * Turns the cells of a row into the values of a record. Where the row lies is found apart from it ({@see PairReader}).
 */
final class RowReader
{
    /** @var list<array{int, string, ValueReader, int|null}> column, key, reader, column of the time */
    private array $readers = [];

    public function __construct(LayerDesign $design, ImportSettings $settings)
    {
        foreach ($settings->columns as $i => $c) {
            $field = $c->take ? $design->field($c->key) : null;
            if ($field !== null && $field->kind !== FieldKind::Calculated && $field->hasValue()) {
                $this->readers[] = [
                    $i,
                    $field->key,
                    new ValueReader($field, $c->order ?? 'dmy', $c->comma, $settings->zone),
                    $field->kind === FieldKind::DateTime ? $c->with : null,
                ];
            }
        }
    }

    /** @return list<string> the fields that it fills, in the order of {@see values()} */
    public function keys(): array
    {
        return array_column($this->readers, 1);
    }

    /** How many moments fell into an hour that a clock change skips or repeats. */
    public function odd(): int
    {
        return array_sum(array_map(static fn (array $r): int => $r[2]->odd, $this->readers));
    }

    /**
     * @param  list<string>  $cells
     * @param  list<Problem>  $problems  what does not fit is added, and its value left out
     * @return list<string|int|float|bool|list<string>|null>
     */
    public function values(array $cells, array &$problems): array
    {
        $values = [];
        foreach ($this->readers as [$i, , $reader, $with]) {
            $text = $cells[$i] ?? '';
            if ($with !== null && trim($text) !== '') {
                $time = trim($cells[$with] ?? '');
                if ($time === '' || in_array(strtolower($time), ColumnTally::MISSING, true)) {
                    // A day whose time nobody wrote down is not its midnight.
                    $problems[] = new Problem('intake_time_missing', $this->keys()[count($values)], $text, [
                        'value' => $text,
                    ]);
                    $values[] = null;

                    continue;
                }
                $text = trim($text)." $time";
            }
            $value = $text === '' ? null : $reader->read($text);
            if ($value instanceof Problem) {
                $problems[] = $value;
                $value = null;
            }
            $values[] = $value;
        }

        return $values;
    }
}
