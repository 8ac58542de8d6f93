<?php

declare(strict_types=1);

namespace PinYard\Carto;

use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Formula;
use PinYard\Refused;

/** What stands beside a record on a map, put together from its values and words between them. */
final readonly class Label
{
    public const MOST_PARTS = 12;

    public const LONGEST_TEXT = 40;

    public const SMALLEST = 9;

    public const LARGEST = 28;

    /** Stands for a value that is missing. */
    private const MISSING = '–';

    /**
     * @param  non-empty-list<array{field?: string, text?: string, formula?: string, tally?: true}>  $parts  each one
     *     of these; fields by their keys
     * @param  array<array-key, Formula>  $formulas  by their texts
     */
    private function __construct(
        public array $parts,
        public int $size,
        public ZoomRange $zoom,
        private array $formulas,
    ) {
    }

    /**
     * Reads `{parts: [{field: key} | {text: words} | {formula} | {tally: true}], size: pixels, zoom: [from, to]}`;
     * size and zoom may be left out. A formula is worked out for the label alone, as in Build. `tally` is what areas
     * are coloured by, where they are coloured by records in them.
     *
     * @throws Refused
     */
    public static function read(mixed $in, LayerDesign $design, string $at): self
    {
        $given = is_array($in) ? $in['parts'] ?? null : null;
        if (! is_array($in) || ! is_array($given) || ! array_is_list($given) || count($given) > self::MOST_PARTS) {
            throw Refused::because('label_parts', $at, null, ['most' => self::MOST_PARTS]);
        }
        $parts = $formulas = [];
        foreach ($given as $i => $part) {
            $key = is_array($part) ? $part['field'] ?? null : null;
            $text = is_array($part) ? $part['text'] ?? null : null;
            if (is_string($key)) {
                if ($design->field($key)?->hasValue() !== true) {
                    throw Refused::because('label_field', "$at/parts/$i", $key);
                }
                $parts[] = ['field' => $key];
            } elseif (
                is_array($part) &&
                is_string($formula = $part['formula'] ?? null) &&
                mb_strlen($formula) <= RecordFormula::LONGEST
            ) {
                $formulas[$formula] = RecordFormula::read($formula, $design, "$at/parts/$i");
                $parts[] = ['formula' => $formula];
            } elseif (is_array($part) && ($part['tally'] ?? null) === true) {
                $parts[] = ['tally' => true];
            } elseif (is_string($text) && mb_strlen($text) <= self::LONGEST_TEXT) {
                $parts[] = ['text' => $text];
            } else {
                throw Refused::because('label_text', "$at/parts/$i", is_scalar($text) ? $text : null, [
                    'most' => self::LONGEST_TEXT,
                ]);
            }
        }
        $told = array_filter($parts, static fn (array $part): bool => ! isset($part['text']));
        if ($parts === [] || $told === []) {
            throw Refused::because('label_empty', $at);
        }
        $size = $in['size'] ?? 13;
        if (! is_int($size) || $size < self::SMALLEST || $size > self::LARGEST) {
            throw Refused::because('label_size', "$at/size", is_scalar($size) ? $size : null, [
                'least' => self::SMALLEST,
                'most' => self::LARGEST,
            ]);
        }

        return new self(
            $parts,
            $size,
            isset($in['zoom']) ? ZoomRange::read($in['zoom'], "$at/zoom") : ZoomRange::all(),
            $formulas,
        );
    }

    /** @return list<string> keys of the fields that it says, each once */
    public function said(): array
    {
        return array_values(array_unique(array_column($this->parts, 'field')));
    }

    /** @return list<string> keys of the fields that it says or works with, each once */
    public function fields(): array
    {
        $keys = $this->said();
        foreach ($this->formulas as $formula) {
            array_push($keys, ...$formula->fields);
        }

        return array_values(array_unique($keys));
    }

    /** @return array<array-key, list<mixed>> portable trees of its formulas, by their texts */
    public function trees(): array
    {
        return array_map(static fn (Formula $f): array => $f->tree, $this->formulas);
    }

    /** Whether it moves with the clock. */
    public function changes(): bool
    {
        return in_array(true, array_map(static fn (Formula $f): bool => $f->changes, $this->formulas), true);
    }

    /**
     * @param  callable(string): ?string  $shown  the value of a field as people read it, by its key
     * @param  callable(Formula): ?string  $worked  what a formula comes to, as people read it
     * @param  (callable(): ?string)|null  $tallied  what an area is coloured by, as people read it
     * @return string|null null where the record has none of the values
     */
    public function textOf(callable $shown, callable $worked, ?callable $tallied = null): ?string
    {
        $text = '';
        $any = false;
        foreach ($this->parts as $part) {
            $value = match (true) {
                isset($part['field']) => $shown($part['field']),
                isset($part['formula']) => $worked($this->formulas[$part['formula']]),
                isset($part['tally']) && $tallied !== null => $tallied(),
                default => null,
            };
            $any = $any || $value !== null && $value !== '';
            $text .= $part['text'] ?? ($value === null || $value === '' ? self::MISSING : $value);
        }

        return $any ? trim($text) : null;
    }

    /** @return array{parts: list<array<string, string|true>>, size: int, zoom: array{float, float}} */
    public function toArray(): array
    {
        return ['parts' => $this->parts, 'size' => $this->size, 'zoom' => $this->zoom->toArray()];
    }
}
