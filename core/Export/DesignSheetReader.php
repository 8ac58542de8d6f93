<?php

declare(strict_types=1);

namespace PinYard\Export;

use PinYard\Design\FieldKind;
use PinYard\Design\KeyText;
use PinYard\Problem;
use PinYard\Refused;

/**
 * Reads design documents out of a spreadsheet, ours or one that a person drew up: heads by many names, a title above
 * them, a layer's name that stands only once, kinds in plain words. Whatever it made of something unclear it says.
 */
final class DesignSheetReader
{
    private const HEAD_ROWS = 12;

    private const FIELD_COLUMNS = [
        'layer',
        'field',
        'key',
        'kind',
        'required',
        'read_only',
        'unit',
        'decimals',
        'lowest',
        'highest',
        'outside',
        'most',
        'shape',
        'default',
        'show_when',
        'require_when',
        'formula',
        'choices',
        'hint',
    ];

    private const LAYER_COLUMNS = [
        'layer',
        'geometry',
        'visits_of',
        'named_by',
        'photos_least',
        'photos_most',
        'purpose',
    ];

    private const CHOICE_COLUMNS = ['layer', 'key', 'code', 'choice_label', 'retired', 'colour', 'mark'];

    /** @var list<Problem> corrections, each with its sheet and row */
    public array $notes = [];

    /** @var array<string, array<string, mixed>> documents by title, without their fields */
    private array $designs = [];

    /** @var array<string, list<array<string, mixed>>> */
    private array $fields = [];

    /** @var array<string, list<string>> */
    private array $keys = [];

    /**
     * @param  array<string, list<list<string>>>  $sheets  rows of cells by name of the sheet
     * @return list<array<string, mixed>> design documents, what is visited before its visits
     *
     * @throws Refused where no sheet holds fields
     */
    public function read(array $sheets, string $fallback): array
    {
        $choices = $this->choices($sheets);
        $any = false;
        foreach ($sheets as $name => $rows) {
            $head = $this->head($rows, self::FIELD_COLUMNS, ['field', 'kind']);
            if ($head === null) {
                continue;
            }
            $any = true;
            [$at, $columns] = $head;
            $layer = count($sheets) > 1 && ! isset($columns['layer']) ? $name : $fallback;
            foreach (array_slice($rows, $at + 1, null, true) as $i => $row) {
                $cell = static fn (string $column): string => isset($columns[$column])
                    ? trim($row[$columns[$column]] ?? '')
                    : '';
                // A merged cell holds its text once.
                $layer = $cell('layer') !== '' ? $cell('layer') : $layer;
                if ($cell('field') !== '' || $cell('key') !== '') {
                    $this->field($layer, $cell, "$name, row ".($i + 1), $choices);
                }
            }
        }
        if (! $any) {
            throw Refused::because('sheet_no_fields', 'file', null, ['known' => 'Field, Kind']);
        }
        $this->layers($sheets);
        $list = [];
        foreach ($this->designs as $title => $design) {
            $list[] = [...$design, 'fields' => $this->fields[$title] ?? []];
        }
        usort($list, static fn (array $a, array $b): int => isset($a['visits_of']) <=> isset($b['visits_of']));

        return $list;
    }

    /**
     * @param  \Closure(string): string  $cell
     * @param  array<string, list<array<string, mixed>>>  $lists
     */
    private function field(string $layer, \Closure $cell, string $where, array $lists): void
    {
        $label = $cell('field') !== '' ? $cell('field') : $cell('key');
        $kind = SheetTexts::kind($cell('kind'));
        if ($kind === null) {
            $kind =
                $cell('choices') !== ''
                    ? FieldKind::OneChoice
                    : ($cell('formula') !== ''
                        ? FieldKind::Calculated
                        : FieldKind::ShortText);
            $this->note('sheet_kind', $where, $cell('kind'), [
                'field' => $label,
                'kind' => SheetTexts::kindName($kind),
            ]);
        }
        $this->designs[$layer] ??= [
            'title' => mb_substr($layer, 0, 120),
            'purpose' => '',
            'geometry' => 'point',
            'photos' => ['allowed' => true],
        ];
        $key = KeyText::of($cell('key') !== '' ? $cell('key') : $label, $this->keys[$layer] ?? []);
        $this->keys[$layer][] = $key;
        if ($cell('key') !== '' && $key !== $cell('key')) {
            $this->note('sheet_key', $where, $cell('key'), ['field' => $label, 'key' => $key]);
        }
        $field = ['key' => $key, 'label' => $label, 'kind' => $kind->value];
        $required = SheetTexts::yes($cell('required'));
        if ($required === null) {
            $this->note('sheet_yes', $where, $cell('required'), ['field' => $label]);
        }
        $entered = $kind !== FieldKind::Calculated && $kind !== FieldKind::Heading;
        if ($required === true && $entered) {
            $field['required'] = true;
        }
        if ($kind->isNumber() || $kind->isTime()) {
            $limits = array_filter(
                ['lowest' => self::limit($cell('lowest'), $kind), 'highest' => self::limit($cell('highest'), $kind)],
                static fn (mixed $v): bool => $v !== null,
            );
            if ($limits !== []) {
                $field['limits'] = $limits + [
                    'outside' => trim(mb_strtolower($cell('outside'))) === 'ask' ? 'ask' : 'stop',
                ];
            }
        }
        foreach (
            [
                'hint' => true,
                'unit' => $kind->isNumber() || $kind === FieldKind::Calculated,
                'shape' => $kind === FieldKind::ShortText,
                'show_when' => true,
                'require_when' => $entered && ! isset($field['required']),
            ] as $part => $fits
        ) {
            if ($fits && $cell($part) !== '') {
                $field[$part] = $cell($part);
            }
        }
        if ($entered && SheetTexts::yes($cell('read_only')) === true) {
            $field['read_only'] = true;
        }
        if (
            ($kind === FieldKind::Decimal || $kind === FieldKind::Calculated) &&
            preg_match('/^\d+$/D', $cell('decimals')) === 1
        ) {
            $field['decimals'] = (int) $cell('decimals');
        }
        if ($kind->isText() && preg_match('/^\d+$/D', $cell('most')) === 1) {
            $field['most'] = (int) $cell('most');
        }
        if ($kind === FieldKind::Calculated) {
            $field['formula'] = ltrim($cell('formula'), '= ');
        }
        if ($kind->isChoice()) {
            $field['choices'] = $lists["$layer\0$key"] ?? ($lists["\0$key"] ?? self::inCell($cell('choices')));
        }
        if ($entered && $cell('default') !== '') {
            $field['default'] = self::value($cell('default'), $kind);
        }
        $this->fields[$layer][] = $field;
    }

    /** @param  array<string, list<list<string>>>  $sheets */
    private function layers(array $sheets): void
    {
        foreach ($sheets as $name => $rows) {
            $head = $this->head($rows, self::LAYER_COLUMNS, ['layer', 'geometry']);
            if ($head === null) {
                continue;
            }
            [$at, $columns] = $head;
            foreach (array_slice($rows, $at + 1, null, true) as $i => $row) {
                $cell = static fn (string $column): string => isset($columns[$column])
                    ? trim($row[$columns[$column]] ?? '')
                    : '';
                $title = $cell('layer');
                if ($title === '') {
                    continue;
                }
                $this->designs[$title] ??= [
                    'title' => mb_substr($title, 0, 120),
                    'purpose' => '',
                    'geometry' => 'point',
                ];
                $design = &$this->designs[$title];
                $geometry = match (rtrim(mb_strtolower($cell('geometry')), 's')) {
                    '', 'point', 'place' => 'point',
                    'line', 'polyline', 'linestring' => 'line',
                    'area', 'polygon' => 'area',
                    default => null,
                };
                if ($geometry === null) {
                    $this->note('sheet_geometry', "$name, row ".($i + 1), $cell('geometry'), ['layer' => $title]);
                }
                $design['geometry'] = $geometry ?? 'point';
                $design['purpose'] = $cell('purpose');
                if ($cell('visits_of') !== '') {
                    $design['visits_of'] = $cell('visits_of');
                }
                if (in_array($cell('named_by'), $this->keys[$title] ?? [], true)) {
                    $design['name_field'] = $cell('named_by');
                }
                $most = preg_match('/^\d+$/D', $cell('photos_most')) === 1 ? (int) $cell('photos_most') : 0;
                $design['photos'] =
                    $most > 0
                        ? ['allowed' => true, 'least' => min($most, (int) $cell('photos_least')), 'most' => $most]
                        : ['allowed' => false];
                unset($design);
            }
        }
    }

    /**
     * @param  array<string, list<list<string>>>  $sheets
     * @return array<string, list<array<string, mixed>>> by layer and field key
     */
    private function choices(array $sheets): array
    {
        $lists = [];
        foreach ($sheets as $rows) {
            $head = $this->head($rows, self::CHOICE_COLUMNS, ['key', 'code', 'choice_label']);
            if ($head === null) {
                continue;
            }
            [$at, $columns] = $head;
            [$layer, $key] = ['', ''];
            foreach (array_slice($rows, $at + 1) as $row) {
                $cell = static fn (string $column): string => isset($columns[$column])
                    ? trim($row[$columns[$column]] ?? '')
                    : '';
                $layer = $cell('layer') !== '' ? $cell('layer') : $layer;
                $key = $cell('key') !== '' ? $cell('key') : $key;
                if ($cell('code') !== '' || $cell('choice_label') !== '') {
                    $label = $cell('choice_label') !== '' ? $cell('choice_label') : $cell('code');
                    $lists["$layer\0$key"][] = array_filter(
                        [
                            'code' => $cell('code') !== '' ? $cell('code') : KeyText::of($label, []),
                            'label' => $label,
                            'retired' => SheetTexts::yes($cell('retired')) === true ? true : null,
                            'colour' => $cell('colour') !== '' ? $cell('colour') : null,
                            'mark' => $cell('mark') !== '' ? $cell('mark') : null,
                        ],
                        static fn (mixed $v): bool => $v !== null,
                    );
                }
            }
        }

        return $lists;
    }

    /**
     * The row of heads: the first in which all that is needed is named. Titles and merged cells may stand above it.
     *
     * @param  list<list<string>>  $rows
     * @param  list<string>  $known
     * @param  list<string>  $needed
     * @return array{int, array<string, int>}|null its row, and the columns by name
     */
    private function head(array $rows, array $known, array $needed): ?array
    {
        foreach (array_slice($rows, 0, self::HEAD_ROWS) as $i => $row) {
            $columns = [];
            foreach ($row as $j => $cell) {
                $name = SheetTexts::column($cell, $known);
                if ($name !== null) {
                    $columns[$name] ??= $j;
                }
            }
            if (array_diff($needed, array_keys($columns)) === []) {
                return [$i, $columns];
            }
        }

        return null;
    }

    /**
     * @return list<array{code: string, label: string}> `code = label; …`, or labels alone, parted by semicolons, new
     *     lines or commas
     */
    private static function inCell(string $text): array
    {
        $by = str_contains($text, ';')
            ? ';'
            : (str_contains($text, "\n")
                ? "\n"
                : (str_contains($text, '|')
                    ? '|'
                    : ','));
        $choices = [];
        foreach (explode($by, $text) as $part) {
            $part = trim($part);
            if ($part === '') {
                continue;
            }
            [$code, $label] = str_contains($part, '=') ? array_map(trim(...), explode('=', $part, 2)) : ['', $part];
            $codes = array_column($choices, 'code');
            $choices[] = [
                'code' => preg_match('/^[A-Za-z0-9_.-]{1,40}$/D', $code) === 1 ? $code : KeyText::of($label, $codes),
                'label' => $label,
            ];
        }

        return $choices;
    }

    private static function limit(string $text, FieldKind $kind): int|float|string|null
    {
        if ($text === '') {
            return null;
        }

        return $kind->isNumber() ? self::number($text) ?? $text : $text;
    }

    private static function number(string $text): int|float|null
    {
        $text = str_replace(',', '.', $text);

        return is_numeric($text) ? (preg_match('/^[+-]?\d{1,15}$/D', $text) === 1 ? (int) $text : (float) $text) : null;
    }

    /** @return string|int|float|bool|list<string> */
    private static function value(string $text, FieldKind $kind): string|int|float|bool|array
    {
        return match (true) {
            $kind->isNumber() => self::number($text) ?? $text,
            $kind === FieldKind::YesNo => SheetTexts::yes($text) ?? $text,
            $kind === FieldKind::SeveralChoices => array_values(
                array_filter(array_map(trim(...), explode(',', $text))),
            ),
            default => $text,
        };
    }

    /** @param  array<string, string>  $params */
    private function note(string $code, string $where, string $value, array $params): void
    {
        $this->notes[] = new Problem(
            $code,
            $where,
            $value,
            ['where' => $where, 'value' => mb_substr($value, 0, 40)] + $params,
        );
    }
}
