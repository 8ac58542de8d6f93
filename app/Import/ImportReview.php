<?php

declare(strict_types=1);

namespace App\Import;

use App\Layers\StoredRow;
use App\Layers\StoredValue;
use App\Models\Import;
use App\Models\Layer;
use App\Texts;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Position;
use PinYard\Import\ImportProposal;
use PinYard\Import\ImportSettings;
use PinYard\Problem;
use stdClass;

/**
 * Shows what would land, before anything is written: the first rows as they would arrive, what does not fit, and where
 * everything falls.
 *
 * @phpstan-type Compared array{stdClass|null, array<string, mixed>, array<string, mixed>|null, list<Problem>}
 */
final readonly class ImportReview
{
    /** Rows that are tried; what holds for them is told as such. */
    private const TRIED = 10_000;

    private const SHOWN = 40;

    private const POINTS = 3_000;

    private const BATCH = 500;

    /** @return array<string, mixed> */
    public static function of(Import $import): array
    {
        $settings = ImportSettings::of((array) $import->settings);
        $layer =
            $settings->mode === 'new' || $settings->mode === 'attach'
                ? null
                : Layer::query()
                    ->with('programme')
                    ->where('programme_id', $import->programme_id)
                    ->find($settings->layer);
        // What lands is tried by the design that it will land in.
        $design =
            ($layer !== null && $settings->newChoices ? NewChoices::designWith($layer, $import, $settings) : null) ??
            ($layer?->design() ??
                ($settings->mode === 'attach' ? AttachPhotos::design() : self::design($import, $settings)));
        $maker = new RowMapper($settings, $design, $import->programme);
        $seen = ['tried' => 0, 'ready' => 0, 'placed' => 0, 'wait' => 0];
        $unfit = array_fill_keys(array_keys($settings->columns), ['count' => 0, 'rows' => []]);
        $column = [];
        foreach ($settings->columns as $i => $c) {
            if ($c->take) {
                $column[$c->key] = $i;
            }
        }
        $why = $rows = $points = [];
        $update =
            $settings->mode === 'update' && $layer !== null
                ? ['changed' => 0, 'unchanged' => 0, 'added' => 0, 'unclear' => 0, 'shown' => []]
                : null;
        $updates = $update === null || $layer === null ? null : new UpdateRecords($import, $layer, $settings, $design);
        $table = new ImportRows($import);
        /** @param  array<int, array{list<string>, string|null}>  $batch */
        $one = function (array $batch) use (
            &$seen,
            &$unfit,
            &$why,
            &$rows,
            &$points,
            &$update,
            $maker,
            $column,
            $design,
            $updates,
        ): void {
            $numbers = array_keys($batch);
            $compared = [];
            if ($update !== null && $updates !== null) {
                $compared = $updates->compared($batch);
                foreach ($compared as [, , , $problems]) {
                    $update['unclear'] += count(
                        array_filter($problems, static fn (Problem $p): bool => $p->field === 'key'),
                    );
                }
                self::changes($update, $compared, $design);
            }
            foreach ($maker->make(array_values($batch)) as $i => [$values, $at, $problems]) {
                $number = $numbers[$i];
                // Of a record that is there a row need not say everything, nor where it lies.
                $known = isset($compared[$number]);
                $problems = $known ? $compared[$number][3] : $problems;
                $seen['tried']++;
                foreach ($problems as $p) {
                    $why[$p->code] = [($why[$p->code][0] ?? 0) + 1, $why[$p->code][1] ?? $p];
                    if (isset($column[$p->field])) {
                        $unfit[$column[$p->field]]['count']++;
                        if (count($unfit[$column[$p->field]]['rows'] ?? []) < 5) {
                            $unfit[$column[$p->field]]['rows'][] = ['row' => $number, 'value' => $p->value];
                        }
                    }
                }
                $ready = $problems === [] && ($known || $at->place !== null);
                $seen[$ready ? 'ready' : 'wait']++;
                if ($update !== null && $ready && ! $known) {
                    $update['added']++;
                }
                if ($at->place !== null) {
                    $seen['placed']++;
                    $point = $at->place instanceof Position ? $at->place : $at->place->place;
                    if (count($points) < self::POINTS) {
                        $points[] = [round($point->lon, 6), round($point->lat, 6), $at->how ?? ''];
                    }
                }
                if (count($rows) < self::SHOWN) {
                    $shown = [];
                    foreach ($maker->filled as $j => $key) {
                        $field = $design->field($key);
                        $shown[$key] =
                            $field === null
                                ? null
                                : StoredValue::shown($field, StoredValue::toColumn($field->valueKind(), $values[$j]));
                    }
                    $bad = [];
                    foreach ($problems as $p) {
                        if (isset($column[$p->field])) {
                            $bad[$column[$p->field]] = Texts::problems([$p])[0]['message'];
                        }
                    }
                    $rows[] = [
                        'row' => $number,
                        'cells' => array_map(
                            static fn (string $c): string => mb_substr(mb_scrub($c), 0, 80),
                            $batch[$number][0],
                        ),
                        'bad' => (object) $bad,
                        'values' => (object) $shown,
                        'place' => $at->place === null ? null : self::placeText($at->place),
                        'how' => $at->how,
                        'problems' => Texts::problems($problems),
                    ];
                }
            }
        };
        $batch = [];
        foreach ($table->rows($settings->headRow) as $number => $row) {
            $batch[$number] = $row;
            if (count($batch) === self::BATCH) {
                $one($batch);
                $batch = [];
                if ($seen['tried'] >= self::TRIED) {
                    break;
                }
            }
        }
        if ($batch !== []) {
            $one($batch);
        }

        return [
            'tried' => $seen['tried'],
            'ready' => $seen['ready'],
            'placed' => $seen['placed'],
            'waiting' => $seen['wait'],
            'corrections' => $maker->corrections,
            'rows' => $rows,
            'points' => $points,
            'geometry' => $design->geometry->value,
            'unfit' => $unfit,
            'why' => self::told($why),
            'fields' => array_map(
                static fn (string $key): array => ['key' => $key, 'label' => $design->field($key)->label ?? $key],
                $maker->filled,
            ),
            'update' => $update,
            'new_choices' => $layer === null ? (object) [] : (object) NewChoices::of($layer, $import, $settings),
            'undecided' => $settings->undecided(),
        ];
    }

    /**
     * @param  array<string, mixed>  $reading
     * @return list<array<int>> how often each value occurs, column by column
     */
    public static function distinct(array $reading): array
    {
        return array_map(
            static fn (array $c): array => array_map(intval(...), (array) ($c['distinct'] ?? [])),
            array_values((array) $reading['columns']),
        );
    }

    public static function design(Import $import, ImportSettings $settings): LayerDesign
    {
        $reading = (array) $import->reading;
        $kind =
            $settings->way === 'geometry'
                ? $settings->shape ?? GeometryKind::from((string) $reading['geometry'])
                : GeometryKind::Point;

        return ImportProposal::design(
            $settings,
            self::distinct($reading),
            $kind,
            '',
            ($import->source['kind'] ?? '') === 'photos',
        );
    }

    /**
     * @param  array{changed: int, unchanged: int, added: int, unclear: int, shown: list<array<string, mixed>>}  $update
     * @param  array<int, Compared>  $compared
     */
    private static function changes(array &$update, array $compared, LayerDesign $design): void
    {
        foreach ($compared as $number => [$row, $changes, $moved, $problems]) {
            if ($problems !== [] || $row === null) {
                continue;
            }
            $update[$changes === [] && $moved === null ? 'unchanged' : 'changed']++;
            if (($changes !== [] || $moved !== null) && count($update['shown']) < self::SHOWN) {
                $values = [];
                foreach ($changes as $key => $value) {
                    $field = $design->field($key);
                    if ($field !== null) {
                        $values[] = [
                            'label' => $field->label,
                            'before' => StoredValue::shown($field, $row->{$field->column()} ?? null),
                            'after' => StoredValue::shown(
                                $field,
                                StoredValue::toColumn(
                                    $field->valueKind(),
                                    match (true) {
                                        is_scalar($value) => $value,
                                        is_array($value) => array_map(strval(...), array_values($value)),
                                        default => null,
                                    },
                                ),
                            ),
                        ];
                    }
                }
                $update['shown'][] = [
                    'row' => $number,
                    'name' => StoredRow::name($design, $row),
                    'moved' => $moved !== null,
                    'values' => $values,
                ];
            }
        }
    }

    private static function placeText(Position|\PinYard\Geo\Shape $place): string
    {
        $at = $place instanceof Position ? $place : $place->place;

        return sprintf('%.5f, %.5f', $at->lat, $at->lon);
    }

    /**
     * @param  array<string, array{int, Problem}>  $why
     * @return list<array{code: string, count: int, message: string}>
     */
    private static function told(array $why): array
    {
        uasort($why, static fn (array $a, array $b): int => $b[0] <=> $a[0]);
        $told = [];
        foreach ($why as $code => [$count, $first]) {
            $told[] = ['code' => $code, 'count' => $count, 'message' => Texts::problems([$first])[0]['message']];
        }

        return $told;
    }
}
