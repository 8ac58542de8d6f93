<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Import;
use App\Models\Layer;
use App\Storage\Records;
use App\Storage\StoredValue;
use App\Texts;
use PinYard\Design\GeometryKind;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Position;
use PinYard\Intake\IntakeSettings;
use PinYard\Intake\Proposal;
use PinYard\Problem;

/** Shows what would land, before anything is written: the first rows as they would arrive, what does not fit, and where everything falls. */
final readonly class Review
{
    /** Rows that are tried; what holds for them is told as such. */
    private const TRIED = 10_000;

    private const SHOWN = 40;

    private const POINTS = 3_000;

    private const BATCH = 500;

    /** @return array<string, mixed> */
    public static function of(Import $import): array
    {
        $settings = IntakeSettings::of((array) $import->settings);
        $layer = $settings->mode === 'new' || $settings->mode === 'attach' ? null : Layer::query()->with('programme')->where('programme_id', $import->programme_id)->find($settings->layer);
        $design = $layer?->design() ?? ($settings->mode === 'attach' ? AttachPhotos::design() : self::design($import, $settings));
        $maker = new Maker($settings, $design, $import->programme);
        $seen = ['tried' => 0, 'ready' => 0, 'placed' => 0, 'wait' => 0];
        $unfit = array_fill_keys(array_keys($settings->columns), ['count' => 0, 'rows' => []]);
        $column = [];
        foreach ($settings->columns as $i => $c) {
            if ($c->take) {
                $column[$c->key] = $i;
            }
        }
        $why = $rows = $points = [];
        $update = $settings->mode === 'update' && $layer !== null ? ['changed' => 0, 'unchanged' => 0, 'added' => 0, 'shown' => []] : null;
        $table = new Table($import);
        /** @param  array<int, array{list<string>, string|null}>  $batch */
        $one = function (array $batch) use (&$seen, &$unfit, &$why, &$rows, &$points, &$update, $maker, $column, $design, $layer, $import, $settings): void {
            $numbers = array_keys($batch);
            if ($update !== null && $layer !== null) {
                $compared = (new UpdateRecords($import, $layer, $settings))->compared($batch);
                self::changes($update, $compared, $design);
                $update['added'] += count($batch) - count($compared);
            }
            foreach ($maker->make(array_values($batch)) as $i => [$values, $at, $problems]) {
                $number = $numbers[$i];
                $seen['tried']++;
                foreach ($problems as $p) {
                    $why[$p->code] = [($why[$p->code][0] ?? 0) + 1, $why[$p->code][1] ?? $p];
                    if (isset($column[$p->field])) {
                        $unfit[$column[$p->field]]['count']++;
                        if (count($unfit[$column[$p->field]]['rows']) < 5) {
                            $unfit[$column[$p->field]]['rows'][] = ['row' => $number, 'value' => $p->value];
                        }
                    }
                }
                $seen[$problems === [] && $at->place !== null ? 'ready' : 'wait']++;
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
                        $shown[$key] = $field === null ? null : StoredValue::shown($field, StoredValue::toColumn($field->valueKind(), $values[$j]));
                    }
                    $bad = [];
                    foreach ($problems as $p) {
                        if (isset($column[$p->field])) {
                            $bad[$column[$p->field]] = Texts::problems([$p])[0]['message'];
                        }
                    }
                    $rows[] = ['row' => $number, 'cells' => array_map(static fn (string $c): string => mb_substr(mb_scrub($c), 0, 80), $batch[$number][0]), 'bad' => (object) $bad, 'values' => $shown, 'place' => $at->place === null ? null : self::placeText($at->place), 'how' => $at->how, 'problems' => Texts::problems($problems)];
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
            'tried' => $seen['tried'], 'ready' => $seen['ready'], 'placed' => $seen['placed'], 'waiting' => $seen['wait'], 'corrections' => $maker->corrections, 'rows' => $rows, 'points' => $points, 'geometry' => $design->geometry->value,
            'unfit' => $unfit, 'why' => self::told($why), 'fields' => array_map(static fn (string $key): array => ['key' => $key, 'label' => $design->field($key)->label ?? $key], $maker->filled), 'update' => $update,
            'new_choices' => $layer === null ? (object) [] : (object) NewChoices::of($layer, $import, $settings),
            'undecided' => $settings->undecided(),
        ];
    }

    public static function design(Import $import, IntakeSettings $settings): LayerDesign
    {
        $reading = (array) $import->reading;
        $kind = $settings->way === 'geometry' ? ($settings->shape ?? GeometryKind::from((string) $reading['geometry'])) : GeometryKind::Point;

        return Proposal::design($settings, array_map(static fn (array $c): array => (array) ($c['distinct'] ?? []), (array) $reading['columns']), $kind, '', ($import->source['kind'] ?? '') === 'photos');
    }

    /**
     * @param  array{changed: int, unchanged: int, added: int, shown: list<array<string, mixed>>}  $update
     * @param  array<int, array{object, array<string, mixed>, array<string, mixed>|null, list<Problem>}>  $compared
     */
    private static function changes(array &$update, array $compared, LayerDesign $design): void
    {
        foreach ($compared as $number => [$row, $changes, $moved, $problems]) {
            if ($problems !== []) {
                continue;
            }
            $update[$changes === [] && $moved === null ? 'unchanged' : 'changed']++;
            if (($changes !== [] || $moved !== null) && count($update['shown']) < self::SHOWN) {
                $values = [];
                foreach ($changes as $key => $value) {
                    $field = $design->field($key);
                    if ($field !== null) {
                        $values[] = ['label' => $field->label, 'before' => StoredValue::shown($field, $row->{$field->column()} ?? null), 'after' => StoredValue::shown($field, StoredValue::toColumn($field->valueKind(), is_scalar($value) || is_array($value) ? $value : null))];
                    }
                }
                $update['shown'][] = ['row' => $number, 'name' => Records::name($design, $row), 'moved' => $moved !== null, 'values' => $values];
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
