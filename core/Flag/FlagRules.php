<?php

declare(strict_types=1);

namespace PinYard\Flag;

use PinYard\Design\DocumentReader;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/** What records of a layer are flagged for. What a layer cannot have (two places close by, of areas) is off. */
final readonly class FlagRules
{
    /** Steps between records that are farther apart in time tell of no speed. */
    public const STEP_HOURS = 6;

    /** About the accuracy of two fixes under an open sky, and half a day (common practice, no source). */
    private const METRES = 10;

    private const HOURS = 12;

    /** A car on an open road (common practice, no source). */
    private const SPEED = 130;

    /**
     * @param  int|null  $areas  number of a layer of areas: outside is also what lies in none of them
     * @param  int|null  $fix  metres of accuracy, above which a fix is poor; null: none is
     * @param  array{metres: int, hours: int}|null  $double  so close together in both; null: not looked for
     * @param  int|null  $speed  kilometres in an hour
     * @param  list<string>  $without  keys of fields that are not looked at
     */
    public function __construct(
        public bool $outside,
        public ?int $areas,
        public ?int $fix,
        public ?array $double,
        public bool $outlier,
        public bool $files,
        public ?int $speed,
        public bool $future,
        public array $without,
    ) {
    }

    /** Those of a layer for which nobody has said anything. */
    public static function usual(LayerDesign $design): self
    {
        $single = self::areSinglePlaces($design);

        return new self(
            true,
            null,
            $design->fix->warnAbove ?? $design->fix->refuseAbove,
            $single ? ['metres' => self::METRES, 'hours' => self::HOURS] : null,
            true,
            true,
            $design->geometry === GeometryKind::Point ? self::SPEED : null,
            true,
            // What is planned lies ahead.
            self::planned($design),
        );
    }

    /**
     * As a coordinator has said them.
     *
     * @param  mixed  $document  as {@see toArray()} gives it
     * @param  list<int>  $areas  numbers of the programme's layers of areas
     *
     * @throws Refused
     */
    public static function read(mixed $document, LayerDesign $design, array $areas): self
    {
        if (! is_array($document)) {
            throw Refused::because('must_be_object', 'rules');
        }
        $in = new DocumentReader;
        $known = ['outside', 'areas', 'fix', 'double', 'outlier', 'files', 'speed', 'future', 'without'];
        $in->noOthers($document, $known, '/rules');
        $double = isset($document['double']) ? $in->part($document, 'double', '/rules', ['metres', 'hours']) : null;
        $whole = static fn (string $key, int $highest): ?int => isset($document[$key])
            ? $in->whole($document, $key, '/rules', 1, $highest, 1)
            : null;
        $rules = new self(
            $in->flag($document, 'outside', '/rules', true),
            $whole('areas', PHP_INT_MAX),
            $whole('fix', 10_000),
            $double === null ? null : [
                'metres' => $in->whole($double, 'metres', '/rules/double', 1, 1_000, self::METRES),
                'hours' => $in->whole($double, 'hours', '/rules/double', 1, 744, self::HOURS),
            ],
            $in->flag($document, 'outlier', '/rules', true),
            $in->flag($document, 'files', '/rules', true),
            $whole('speed', 2_000),
            $in->flag($document, 'future', '/rules', true),
            array_values(array_filter(
                $in->list($document, 'without', 1_000, '/rules'),
                // A field that is no more needs no leaving out.
                static fn (mixed $key): bool => is_string($key) && $design->field($key) !== null,
            )),
        );
        if ($rules->areas !== null && ! in_array($rules->areas, $areas, true)) {
            $in->off('flag_areas', '/rules/areas', $rules->areas);
        }
        if ($rules->double !== null && ! self::areSinglePlaces($design)) {
            $in->off('flag_double', '/rules/double');
        }
        if ($in->problems !== []) {
            throw Refused::for($in->problems);
        }

        return $rules;
    }

    /** Hours after a record within which others are compared with it. */
    public function reach(): int
    {
        return max($this->double['hours'] ?? 0, $this->speed === null ? 0 : self::STEP_HOURS);
    }

    /** @return array<string, mixed> */
    public function toArray(): array
    {
        return [
            'outside' => $this->outside,
            'areas' => $this->areas,
            'fix' => $this->fix,
            'double' => $this->double,
            'outlier' => $this->outlier,
            'files' => $this->files,
            'speed' => $this->speed,
            'future' => $this->future,
            'without' => $this->without,
        ];
    }

    /** Visits are made where others were made before, and of lines and areas one place tells little. */
    public static function areSinglePlaces(LayerDesign $design): bool
    {
        return $design->geometry === GeometryKind::Point && $design->visitsOf === null;
    }

    /** @return list<string> fields whose limits say that they lie ahead */
    private static function planned(LayerDesign $design): array
    {
        $planned = [];
        foreach ($design->valueFields() as $field) {
            if (in_array($field->lowest, ['today', 'now'], true)) {
                $planned[] = $field->key;
            }
        }

        return $planned;
    }
}
