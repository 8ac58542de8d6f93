<?php

declare(strict_types=1);

namespace PinYard\Export;

use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\LayerDesign;

/**
 * All designs of a programme as the rows of a spreadsheet: layers, fields, choices. {@see DesignSheetReader} takes them
 * back.
 */
final class DesignSheet
{
    /** Longer lists stand in the sheet of choices alone; a cell of a spreadsheet holds 32,767 characters. */
    private const CHOICES_IN_CELL = 40;

    /**
     * @param  list<LayerDesign>  $designs
     * @return array{Layers: list<list<string|int|float|null>>, Fields: list<list<string|int|float|null>>,
     *     Choices: list<list<string|int|float|null>>} rows by sheet, heads first
     */
    public static function of(array $designs): array
    {
        $sheets = [
            'Layers' => [SheetTexts::LAYERS],
            'Fields' => [SheetTexts::FIELDS],
            'Choices' => [SheetTexts::CHOICES],
        ];
        foreach ($designs as $design) {
            $photos = $design->photos;
            $sheets['Layers'][] = [
                $design->title,
                $design->geometry->value,
                $design->visitsOf,
                $design->nameField,
                $photos->allowed ? $photos->least : null,
                $photos->allowed ? $photos->most : null,
                $design->purpose,
            ];
            foreach ($design->fields as $field) {
                $sheets['Fields'][] = self::field($design->title, $field);
                foreach (self::inCell($field) ? [] : $field->choices as $choice) {
                    $sheets['Choices'][] = [
                        $design->title,
                        $field->key,
                        $choice->code,
                        $choice->label,
                        $choice->retired ? 'yes' : null,
                        $choice->colour,
                        $choice->mark,
                    ];
                }
            }
        }

        return $sheets;
    }

    /** @return list<string|int|float|null> */
    private static function field(string $layer, Field $f): array
    {
        $default = is_array($f->default)
            ? implode(', ', $f->default)
            : (is_bool($f->default)
                ? ($f->default
                    ? 'yes'
                    : 'no')
                : $f->default);

        return [
            $layer,
            $f->label,
            $f->key,
            SheetTexts::kindName($f->kind),
            $f->required ? 'yes' : null,
            $f->readOnly ? 'yes' : null,
            $f->unit,
            $f->decimals,
            $f->lowest,
            $f->highest,
            $f->lowest === null && $f->highest === null ? null : ($f->asks ? 'ask' : 'stop'),
            $f->most,
            $f->shape,
            $default,
            $f->showWhen,
            $f->requireWhen,
            $f->formula,
            self::inCell($f)
                ? implode('; ', array_map(static fn (Choice $c): string => "$c->code = $c->label", $f->choices))
                : null,
            $f->hint === '' ? null : $f->hint,
        ];
    }

    /**
     * Choices with nothing but code and label, and few of them, fit a cell; a separator inside a label would part it.
     */
    private static function inCell(Field $f): bool
    {
        if (
            ($f->kind !== FieldKind::OneChoice && $f->kind !== FieldKind::SeveralChoices) ||
            count($f->choices) > self::CHOICES_IN_CELL
        ) {
            return false;
        }
        foreach ($f->choices as $c) {
            if ($c->retired || $c->colour !== null || $c->mark !== null || strpbrk($c->label, ";=\n") !== false) {
                return false;
            }
        }

        return true;
    }
}
