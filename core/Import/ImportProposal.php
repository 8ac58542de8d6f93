<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Design\Choice;
use PinYard\Design\Field;
use PinYard\Design\FieldKind;
use PinYard\Design\KeyText;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;

/** What is proposed for a table before anyone has decided anything, and the design that comes of the decisions. */
final class ImportProposal
{
    /** Choices of a new list at the most. */
    private const MOST_CHOICES = ColumnTally::DISTINCT;

    /** What columns are called that hold what a record is called. */
    private const NAMES = '/^(name|title|label|titel|titre|título|titulo|nom|nombre|nome|naam|namn|navn|bezeichnung|nama)$/iu';

    /**
     * @param  list<string>  $names
     * @param  list<ColumnTally>  $tallies
     * @param  list<ColumnGuess>  $guesses
     * @param  bool  $geometry  whether the file itself says where each row is
     * @return array<string, mixed> settings as {@see ImportSettings::of()} reads them
     */
    public static function settings(
        string $title,
        array $names,
        array $tallies,
        array $guesses,
        bool $geometry,
        int $headRow,
        string $zone,
        string $table,
        ?Box $area = null,
    ): array {
        $location = $geometry ? ['way' => 'geometry'] : LocationGuess::of($names, $tallies, $area);
        $columns = [];
        $keys = [];
        $place = match ($location['way']) {
            'pair' => [$location['x'], $location['y']],
            'text' => $location['columns'],
            default => [],
        };
        foreach ($names as $i => $name) {
            $guess = $guesses[$i];
            $keys[] = $key = KeyText::of($name, $keys);
            $columns[] = [
                // What says where a row is need not be kept as a value too, but for names of places.
                'take' => ($tallies[$i]->filled > 0 || count($names) < 60) &&
                    ! ($location['way'] === 'pair' && in_array($i, $place, true)) &&
                    ! (
                        $location['way'] === 'text' &&
                        in_array($i, $place, true) &&
                        $tallies[$i]->filled < $tallies[$i]->could['place'] * 2 &&
                        $tallies[$i]->could['place'] === $tallies[$i]->filled
                    ),
                'key' => $key,
                'label' => $name,
                'kind' => $guess->kind->value,
                'order' => $guess->order ?? ($tallies[$i]->filled === 0 ? 'ymd' : null),
                'comma' => $guess->comma,
                'with' => null,
            ];
        }
        foreach ($guesses as $i => $guess) {
            // A date with a time beside it is most likely one moment.
            $next = $guesses[$i + 1] ?? null;
            if ($guess->kind === FieldKind::Date && $next?->kind === FieldKind::Time) {
                $columns[$i] = ['kind' => 'date_time', 'with' => $i + 1] + $columns[$i];
                $columns[$i + 1]['take'] = false;
            }
        }

        return [
            'title' => self::title($title),
            'mode' => 'new',
            'layer' => null,
            'table' => $table,
            'head_row' => $headRow,
            'zone' => $zone,
            'names' => $names,
            'columns' => $columns,
            'location' => [
                'way' => $location['way'],
                'columns' => $place,
                'system' => $location['way'] === 'pair' && ! $location['metres'] ? 'EPSG:4326' : '',
                'mend' => true,
                'match' => 0.85,
            ],
            'unfit' => 'wait',
            'empties' => 'leave',
            'conflicts' => 'wait',
            'key_column' => null,
            'new_choices' => false,
            'within' => 25,
            'shape' => null,
        ];
    }

    /** A file's name as a person would write it over a table. */
    private static function title(string $name): string
    {
        $plain = trim((string) preg_replace('/[_\s]+/u', ' ', $name));

        return $plain === ''
            ? 'Layer'
            : mb_substr(mb_strtoupper(mb_substr($plain, 0, 1)).mb_substr($plain, 1), 0, 120);
    }

    /**
     * The columns of a table, each guessed to be the field of a layer with the same label or key.
     *
     * @param  array<string, mixed>  $settings
     * @return array<string, mixed>
     */
    public static function into(array $settings, LayerDesign $design): array
    {
        $plain = static fn (string $t): string => (string) preg_replace('/[^\p{L}\p{N}]+/u', '', mb_strtolower($t));
        $taken = [];
        $fields = array_filter($design->valueFields(), static fn (Field $f): bool => $f
            ->kind !== FieldKind::Calculated);
        /** @var list<array{label: string, with: int|null}> $columns */
        $columns = is_array($settings['columns'] ?? null) ? array_values($settings['columns']) : [];
        foreach ($columns as $i => $column) {
            $found = null;
            foreach ($fields as $field) {
                if (
                    ! isset($taken[$field->key]) &&
                    in_array($plain($column['label']), [$plain($field->label), $plain($field->key)], true)
                ) {
                    $found = $field;
                    break;
                }
            }
            if ($found === null) {
                $columns[$i]['take'] = false;
                if ($plain($column['label']) === 'id') {
                    // What we wrote out says of each row which record it is.
                    $columns[$i]['key'] = ImportSettings::ID;
                    $settings = ['mode' => 'update', 'key_column' => $i] + $settings;
                }

                continue;
            }
            $taken[$found->key] = true;
            $columns[$i] =
                [
                    'take' => true,
                    'key' => $found->key,
                    'kind' => $found->kind->value,
                    'with' => $found->kind === FieldKind::DateTime ? $column['with'] : null,
                ] + $column;
        }

        // Without ids it is rows to add, until a person says otherwise.
        return [
            'columns' => $columns,
            'mode' => ($settings['mode'] ?? 'new') === 'new' ? 'append' : $settings['mode'],
        ] + $settings;
    }

    /**
     * The design of a new layer.
     *
     * @param  list<array<array-key, int>>  $distinct  values of each column and how often, for choice lists
     */
    public static function design(
        ImportSettings $s,
        array $distinct,
        GeometryKind $geometry,
        string $source,
        bool $photos,
    ): LayerDesign {
        $fields = [];
        foreach ($s->columns as $i => $c) {
            if (! $c->take) {
                continue;
            }
            $field = ['key' => $c->key, 'label' => mb_substr($c->label, 0, 120), 'kind' => $c->kind->value];
            if ($c->kind->isChoice()) {
                $field['choices'] = array_map(
                    static fn (Choice $choice): array => $choice->toArray(),
                    self::choices($distinct[$i] ?? [], $c->kind === FieldKind::SeveralChoices),
                );
            }
            $fields[] = $field;
        }
        $texts = array_values(
            array_filter($fields, static fn (array $f): bool => $f['kind'] === FieldKind::ShortText->value),
        );
        $called = array_values(
            array_filter($texts, static fn (array $f): bool => preg_match(self::NAMES, trim($f['label'])) === 1),
        );
        $name = $called[0]['key'] ?? ($texts[0]['key'] ?? null);

        return LayerDesign::fromArray(
            array_filter(
                [
                    'title' => $s->title,
                    'purpose' => '',
                    'geometry' => $geometry->value,
                    'fields' => $fields,
                    'name_field' => $name,
                    'photos' => ['allowed' => true] + ($photos ? ['least' => 0, 'most' => 10] : []),
                    'info' => ['source' => mb_substr($source, 0, 200)],
                ],
                static fn (mixed $v): bool => $v !== null,
            ),
        );
    }

    /**
     * @param  array<array-key, int>  $distinct
     * @return list<Choice>
     */
    public static function choices(array $distinct, bool $several): array
    {
        $labels = [];
        foreach (array_keys($distinct) as $text) {
            $text = (string) $text;
            foreach ($several ? (array) preg_split('/[;|,]/', trim($text, '[]')) : [$text] as $one) {
                $one = trim((string) $one, " \t\"'");
                if ($one !== '') {
                    $labels[mb_strtolower($one)] ??= $one;
                }
            }
        }
        ksort($labels, SORT_NATURAL);
        $choices = [];
        $codes = [];
        foreach (array_slice($labels, 0, self::MOST_CHOICES) as $label) {
            // What is a code already stays as it is.
            $codes[] = $code =
                preg_match('/^[A-Za-z0-9_.-]{1,12}$/D', $label) === 1 && ! in_array($label, $codes, true)
                    ? $label
                    : KeyText::of($label, $codes);
            $choices[] = new Choice($code, mb_substr($label, 0, 120));
        }

        return $choices;
    }
}
