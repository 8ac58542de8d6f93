<?php

declare(strict_types=1);

namespace App\Export;

use App\Models\Layer;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Record\RecordId;
use stdClass;

/**
 * The columns of a file that goes out: what each is called, of what kind it is, and how a row of the layer's table
 * becomes its text.
 */
final readonly class ExportColumns
{
    /** Kinds as GDAL calls them in a .csvt file. */
    private const TYPES = [
        'whole_number' => 'Integer64',
        'decimal' => 'Real',
        'yes_no' => 'Integer(Boolean)',
        'date' => 'Date',
        'time' => 'Time',
        'date_time' => 'DateTime',
    ];

    /** Texts for codes that a statement may hold. */
    private const MOST_IN_SQL = 200;

    /**
     * @param  list<array{key: string, label: string, type: string,
     *     value: \Closure(stdClass): (string|int|float|bool|null), text: bool, sql: array{string, string,
     *     array<array-key, string>}|null}> $columns `sql` says how the database writes the same: as what, out of which
     *     column, with which texts for codes
     */
    private function __construct(public array $columns)
    {
    }

    /**
     * @param  array<int, string>  $authors  names by number
     * @param  'codes'|'labels'|'both'  $choices
     * @param  \DateTimeZone|null  $zone  for local times with their offset; null for UTC
     */
    public static function of(
        Layer $layer,
        array $authors,
        string $choices,
        ?\DateTimeZone $zone,
        bool $ids = true,
    ): self {
        $columns = [];
        $add = static function (
            string $key,
            string $label,
            string $type,
            \Closure $value,
            bool $text = false,
            ?array $sql = null,
        ) use (&$columns): void {
            $columns[] = [
                'key' => $key,
                'label' => $label,
                'type' => $type,
                'value' => $value,
                'text' => $text,
                'sql' => $sql,
            ];
        };
        if ($ids) {
            $add('id', 'id', 'String', static fn (stdClass $r): string => RecordId::fromBytes($r->id)->text, false, [
                'id',
                'id',
                [],
            ]);
        }
        foreach ($layer->design()->valueFields() as $field) {
            $column = $field->column();
            if ($field->kind->isChoice()) {
                if ($choices !== 'labels') {
                    $add(
                        $choices === 'both' ? "{$field->key}_code" : $field->key,
                        $choices === 'both' ? "$field->label (code)" : $field->label,
                        'String',
                        static fn (stdClass $r): ?string => $r->$column,
                        true,
                        ['text', $column, []],
                    );
                }
                if ($choices !== 'codes') {
                    $add(
                        $field->key,
                        $field->label,
                        'String',
                        self::labels($field, $column),
                        true,
                        $field->kind === FieldKind::OneChoice && count($field->choices) <= self::MOST_IN_SQL
                            ? ['labels', $column, $field->labels()]
                            : null,
                    );
                }

                continue;
            }
            $kind = $field->valueKind();
            $add(
                $field->key,
                $field->label,
                self::TYPES[$kind->value] ?? 'String',
                match ($kind) {
                    FieldKind::YesNo => static fn (stdClass $r): ?bool => $r->$column === null ? null : (bool) $r
                        ->$column,
                    FieldKind::DateTime => static fn (stdClass $r): ?string => $r->$column === null
                        ? null
                        : self::moment((string) $r->$column, $zone),
                    default => static fn (stdClass $r): string|int|float|null => $r->$column,
                },
                $kind->isText(),
                match (true) {
                    $kind->isText() => ['text', $column, []],
                    $kind === FieldKind::YesNo => ['yes_no', $column, []],
                    $kind === FieldKind::DateTime => $zone === null ? ['moment', $column, []] : null,
                    $kind->isNumber() => ['number', $column, []],
                    default => ['date', $column, []],
                },
            );
        }
        $add(
            'collected_at',
            'Collected',
            'DateTime',
            static fn (stdClass $r): string => self::moment((string) $r->collected_at, $zone),
            false,
            $zone === null ? ['moment', 'collected_at', []] : null,
        );
        $add(
            'author',
            'By',
            'String',
            static fn (stdClass $r): ?string => $authors[$r->created_by ?? 0] ?? null,
            true,
            count($authors) <= self::MOST_IN_SQL ? ['author', 'created_by', $authors] : null,
        );
        if ($layer->design()->fix->keep !== [] || $layer->design()->altitude !== null) {
            $add('accuracy', 'Accuracy (m)', 'Real', static fn (stdClass $r): ?float => $r->accuracy, false, [
                'number',
                'accuracy',
                [],
            ]);
            $add('altitude', 'Altitude (m)', 'Real', static fn (stdClass $r): ?float => $r->altitude, false, [
                'number',
                'altitude',
                [],
            ]);
        }

        /** @phpstan-ignore argument.type (it is filled through a reference, which PHPStan does not follow) */
        return new self($columns);
    }

    /** A moment of the database as RFC 3339. */
    public static function moment(string $utc, ?\DateTimeZone $zone): string
    {
        if ($zone === null) {
            return substr($utc, 0, 10).'T'.substr($utc, 11, 8).'Z';
        }

        return (new \DateTimeImmutable($utc, new \DateTimeZone('UTC')))->setTimezone($zone)->format('Y-m-d\TH:i:sP');
    }

    /** @return \Closure(stdClass): ?string */
    private static function labels(Field $field, string $column): \Closure
    {
        $labels = $field->labels();
        if ($field->kind === FieldKind::OneChoice) {
            return static fn (stdClass $r): ?string => $r->$column === null
                ? null
                : $labels[$r->$column] ?? $r->$column;
        }

        return static fn (
            stdClass $r,
        ): ?string => $r->$column === null || $r->$column === '' ? null
            : implode('; ', array_map(static fn (string $c): string => $labels[$c] ?? $c, explode(',', $r->$column)));
    }
}
