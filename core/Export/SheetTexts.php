<?php

declare(strict_types=1);

namespace PinYard\Export;

use PinYard\Design\FieldKind;

/** The words of a design sheet: column heads and kinds of fields, with what people write instead of them. */
final class SheetTexts
{
    /** Columns of the sheet "Fields", in order. */
    public const FIELDS = [
        'Layer',
        'Field',
        'Key',
        'Kind',
        'Required',
        'Read only',
        'Unit',
        'Decimals',
        'Lowest',
        'Highest',
        'Outside',
        'Most characters',
        'Written as',
        'Begins with',
        'Shown when',
        'Needed when',
        'Formula',
        'Choices',
        'Hint',
    ];

    public const LAYERS = [
        'Layer',
        'Records are',
        'Visits to',
        'Named by',
        'Photos at least',
        'Photos at most',
        'Purpose',
    ];

    public const CHOICES = ['Layer', 'Field key', 'Code', 'Label', 'Retired', 'Colour', 'Mark'];

    /** Other words for a column, in small letters. */
    private const HEADS = [
        'layer' => ['layer', 'table', 'form', 'sheet'],
        'field' => ['field', 'label', 'question', 'name', 'field name', 'title'],
        'key' => ['key', 'id', 'variable', 'field key', 'column'],
        'kind' => ['kind', 'type', 'field type', 'data type'],
        'required' => ['required', 'mandatory', 'needed', 'obligatory'],
        'unit' => ['unit', 'units'],
        'read_only' => ['read only', 'readonly', 'locked'],
        'decimals' => ['decimals', 'precision'],
        'lowest' => ['lowest', 'minimum', 'min', 'from', 'at least'],
        'highest' => ['highest', 'maximum', 'max', 'to', 'at most'],
        'outside' => ['outside', 'outside these'],
        'most' => ['most characters', 'length', 'max length', 'characters'],
        'shape' => ['written as', 'pattern', 'format', 'mask'],
        'default' => ['begins with', 'default', 'default value'],
        'show_when' => ['shown when', 'condition', 'show when', 'relevant'],
        'require_when' => ['needed when', 'required when'],
        'formula' => ['formula', 'calculation'],
        'choices' => ['choices', 'values', 'options', 'list', 'codes', 'domain'],
        'hint' => ['hint', 'help', 'description', 'note', 'notes', 'remark', 'remarks', 'guidance'],
        'code' => ['code', 'value'],
        'choice_label' => ['label', 'meaning', 'text'],
        'retired' => ['retired'],
        'colour' => ['colour', 'color'],
        'mark' => ['mark'],
        'geometry' => ['records are', 'geometry', 'geometry type'],
        'visits_of' => ['visits to'],
        'named_by' => ['named by'],
        'photos_least' => ['photos at least'],
        'photos_most' => ['photos at most', 'photos'],
        'purpose' => ['purpose'],
    ];

    private const KINDS = [
        'short_text' => ['short text', 'text', 'string', 'varchar', 'character'],
        'long_text' => ['long text', 'memo', 'paragraph', 'text area', 'comment'],
        'whole_number' => ['whole number', 'integer', 'int', 'count', 'whole'],
        'decimal' => ['decimal', 'number', 'numeric', 'float', 'double', 'real'],
        'yes_no' => ['yes or no', 'yes/no', 'boolean', 'bool', 'checkbox', 'logical'],
        'date' => ['date', 'day'],
        'time' => ['time of day', 'time'],
        'date_time' => ['date and time', 'datetime', 'timestamp', 'date/time'],
        'one_choice' => [
            'one choice',
            'choice',
            'single choice',
            'select one',
            'list',
            'dropdown',
            'category',
            'domain',
        ],
        'several_choices' => [
            'several choices',
            'multiple choice',
            'select multiple',
            'choices',
            'checkboxes',
            'multi select',
        ],
        'calculated' => ['calculated', 'formula', 'computed', 'calculation'],
        'heading' => ['heading', 'section', 'title', 'group'],
    ];

    /**
     * Which of these columns a head stands for.
     *
     * @param  list<string>  $wanted  names of this class, such as `field` or `show_when`
     */
    public static function column(string $head, array $wanted): ?string
    {
        $head = trim(mb_strtolower(rtrim($head, ' :*')));
        foreach ($wanted as $name) {
            if (in_array($head, self::HEADS[$name] ?? [], true)) {
                return $name;
            }
        }

        return null;
    }

    public static function kind(string $word): ?FieldKind
    {
        $word = trim(mb_strtolower($word));
        foreach (self::KINDS as $kind => $words) {
            if ($word === $kind || in_array($word, $words, true)) {
                return FieldKind::from($kind);
            }
        }

        return null;
    }

    public static function kindName(FieldKind $kind): string
    {
        return ucfirst(self::KINDS[$kind->value][0]);
    }

    /** Yes, whatever it is called; null where it is neither. */
    public static function yes(string $word): ?bool
    {
        return match (trim(mb_strtolower($word))) {
            'yes', 'y', 'true', '1', 'x', '✓' => true,
            '', 'no', 'n', 'false', '0', '-', '–' => false,
            default => null,
        };
    }
}
