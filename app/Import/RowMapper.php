<?php

declare(strict_types=1);

namespace App\Import;

use App\Formulas\AreaLookup;
use App\Models\Import;
use App\Models\Programme;
use PinYard\Design\Field;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Import\ImportSettings;
use PinYard\Import\Locator;
use PinYard\Import\RowPlace;
use PinYard\Import\RowReader;
use PinYard\Problem;
use PinYard\Record\ValueCheck;

/**
 * Makes of the rows of a table what records would be made of them: values, place, and what stands against it. Writes
 * nothing.
 */
final class RowMapper
{
    private readonly RowReader $reader;

    private readonly Locator $locator;

    /** @var list<string> */
    public readonly array $keys;

    /**
     * @var list<string> fields whose values are made: those of the table, or all where the design has rules of its own
     */
    public readonly array $filled;

    private readonly bool $ruled;

    private readonly Surroundings $around;

    /** @var array<string, int> what was put right, and values that were left empty */
    public array $corrections = [
        'swapped' => 0,
        'sign' => 0,
        'outside' => 0,
        'matched' => 0,
        'emptied' => 0,
        'clock' => 0,
    ];

    public function __construct(
        private readonly ImportSettings $settings,
        private readonly LayerDesign $design,
        Programme $programme,
    ) {
        $this->reader = new RowReader($design, $settings);
        $this->locator = new Locator(
            $settings,
            $design->geometry,
            $programme->area(),
            new PlaceTable($programme),
            new Gdal,
        );
        $this->keys = $this->reader->keys();
        $this->ruled =
            $design->rules->show !== [] ||
            $design->rules->require !== [] ||
            $design->rules->formulas !== [] ||
            array_filter(
                $design->fields,
                static fn (Field $f): bool => $f->required ||
                    $f->readOnly ||
                    $f->default !== null ||
                    $f->lowest !== null ||
                    $f->highest !== null,
            ) !== [];
        $this->filled = $this->ruled
            ? array_values(array_map(static fn (Field $f): string => $f->key, $design->valueFields()))
            : $this->keys;
        $this->around = new Surroundings(
            [],
            now()->toDateTimeImmutable(),
            new \DateTimeZone($programme->time_zone),
            $design->rules->labels,
            areas: AreaLookup::in($programme),
        );
    }

    public static function for(Import $import, LayerDesign $design): self
    {
        return new self(ImportSettings::of((array) $import->settings), $design, $import->programme);
    }

    /**
     * @param  list<array{list<string>, string|null}>  $rows
     * @return list<array{list<mixed>, RowPlace, list<Problem>}> values in the order of `filled`, place, problems
     */
    public function make(array $rows): array
    {
        $located = $this->locator->locate($rows);
        $made = [];
        foreach ($rows as $i => [$cells]) {
            $at = $located[$i];
            $problems = [];
            $values = $this->reader->values($cells, $problems);
            if ($problems !== [] && $this->settings->unfit === 'empty') {
                $this->corrections['emptied'] += count($problems);
                $problems = [];
            }
            if ($this->ruled) {
                $values = $this->judged($values, $at, $problems);
            }
            if ($at->problem !== null) {
                $problems[] = $at->problem;
            } elseif ($at->how !== null) {
                $this->corrections[$at->how]++;
            }
            $made[] = [$values, $at, $problems];
        }
        $this->corrections['clock'] = $this->reader->odd();

        return $made;
    }

    public function place(string $text): RowPlace
    {
        return $this->locator->read($text);
    }

    /**
     * @param  list<string|int|float|bool|list<string>|null>  $values
     * @param  list<Problem>  $problems
     * @return list<mixed>
     */
    private function judged(array $values, RowPlace $at, array &$problems): array
    {
        $byKey = array_combine($this->keys, $values);
        foreach ($this->design->fields as $field) {
            // What the table says nothing of begins as it would in the form; limits that move are left to whoever fills
            // it in.
            if (
                ! array_key_exists($field->key, $byKey) &&
                $field->default !== null &&
                $field->default !== 'today' &&
                $field->default !== 'now'
            ) {
                $byKey[$field->key] = $field->default;
            }
        }
        $shape = $at->place instanceof Position ? Shape::point($at->place) : $at->place;
        $check = ValueCheck::against($this->design, $byKey, $this->around->at($shape), $byKey);
        if ($this->settings->unfit === 'wait') {
            $known = array_column(array_map(static fn (Problem $p): array => [$p->field], $problems), 0);
            array_push(
                $problems,
                ...array_values(
                    array_filter($check->problems, static fn (Problem $p): bool => ! in_array($p->field, $known, true)),
                ),
            );
        } else {
            $this->corrections['emptied'] += count($check->problems);
            foreach ($check->problems as $p) {
                // A value outside the limits goes; what is required and missing cannot be made up.
                $p->code === 'required' ? ($problems[] = $p) : ($byKey[$p->field] = null);
            }
            $check =
                $check->problems === []
                    ? $check
                    : ValueCheck::against($this->design, $byKey, $this->around->at($shape), $byKey);
        }

        return array_map(static fn (string $key): mixed => $check->values[$key] ?? null, $this->filled);
    }
}
