<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Formula\Neighbours;
use PinYard\Geo\GeometryKind;
use PinYard\Refused;

/**
 * Reads a design document and says everything that is wrong with it at once.
 *
 * The shape is that of `layer-design.schema.json`; this reader also checks what a schema cannot say
 * (doubled keys and codes, limits upside down).
 *
 * @internal use {@see LayerDesign::fromArray()}
 */
final class DesignReader
{
    public const MOST_FIELDS = 200;

    private DocumentReader $in;

    private function __construct()
    {
        $this->in = new DocumentReader;
    }

    /**
     * @param  array<mixed>  $document
     *
     * @throws Refused
     */
    public static function read(array $document, Neighbours $visits): LayerDesign
    {
        $reader = new self;
        $design = $reader->design($document, $visits);
        if ($reader->in->problems !== []) {
            throw Refused::for($reader->in->problems);
        }

        return $design;
    }

    /** @param  array<mixed>  $d */
    private function design(array $d, Neighbours $visits): LayerDesign
    {
        $this->in->noOthers(
            $d,
            [
                '$schema',
                'title',
                'purpose',
                'geometry',
                'visits_of',
                'name_field',
                'fields',
                'photos',
                'slots',
                'rights',
                'fix',
                'altitude',
                'info',
            ],
            '',
        );
        $title = $this->in->text($d, 'title', '', 1, 120);
        $purpose = $this->in->text($d, 'purpose', '', 0, 2000);
        $geometry = is_string($d['geometry'] ?? null) ? GeometryKind::tryFrom($d['geometry']) : null;
        if ($geometry === null) {
            $this->in->off('geometry_unknown', '/geometry', $d['geometry'] ?? null);
        }
        $visitsOf = isset($d['visits_of']) ? $this->in->text($d, 'visits_of', '', 1, 120) : null;
        if ($visitsOf !== null && $geometry !== null && $geometry !== GeometryKind::Point) {
            // A visit is made at a place; what is visited may well be a line or an area.
            $this->in->off('visits_point', '/geometry', $geometry->value);
        }

        [$fields, $rules] = $this->fields($d, $visits);
        $name = $d['name_field'] ?? null;
        $nameable = array_filter($fields, static fn (Field $f): bool => $f->hasValue());
        if (
            $name !== null &&
            (! is_string($name) || ! in_array($name, array_map(static fn (Field $f): string => $f->key, $nameable),
                true))
        ) {
            $this->in->off('name_field_unknown', '/name_field', $name);
            $name = null;
        }
        $files = new AttachmentReader($this->in);
        $rights = new RightsReader($this->in);

        return new LayerDesign(
            title: $title,
            purpose: $purpose,
            fields: $fields,
            photos: $files->photos($d),
            crew: $rights->crew($d),
            nameField: $name,
            rules: $rules,
            fix: $this->fix($d),
            info: $this->info($d),
            geometry: $geometry ?? GeometryKind::Point,
            slots: $files->slots($d),
            crews: $rights->crews($d),
            publicSees: $rights->publicSees($d),
            altitude: $this->altitude($d),
            neighbours: $visits,
            visitsOf: $visitsOf,
        );
    }

    /**
     * @param  array<mixed>  $d
     * @return array{list<Field>, FieldRules}
     */
    private function fields(array $d, Neighbours $visits): array
    {
        $fields = [];
        $reader = new FieldReader($this->in);
        foreach ($this->in->list($d, 'fields', self::MOST_FIELDS) as $i => $one) {
            if (is_array($one)) {
                $fields[] = $reader->field($one, "/fields/$i");
            } else {
                $this->in->off('must_be_object', "/fields/$i", $one);
            }
        }
        $this->in->noDoubles($fields, static fn (Field $f): string => $f->key, 'key_doubled', '/fields', '/key');
        $this->in->noDoubles(
            $fields,
            static fn (Field $f): string => mb_strtolower($f->label),
            'label_doubled',
            '/fields',
            '/label',
        );
        $rules = new RuleReader($fields, $visits);
        $read = $rules->read();
        array_push($this->in->problems, ...$rules->problems);

        return $read;
    }

    /** @param  array<mixed>  $d */
    private function fix(array $d): FixRules
    {
        $fix = $this->in->part($d, 'fix', '', ['warn_above', 'refuse_above', 'keep']);
        if ($fix === null) {
            return new FixRules;
        }
        [$warn, $refuse] = array_map(
            fn (string $end): ?int => isset($fix[$end]) ? $this->in->whole($fix, $end, '/fix', 1, 10_000, 100) : null,
            ['warn_above', 'refuse_above'],
        );
        if ($warn !== null && $refuse !== null && $warn > $refuse) {
            $this->in->off('limits_upside_down', '/fix', null, ['lowest' => $warn, 'highest' => $refuse]);
        }
        $keep = [];
        foreach ($this->in->list($fix, 'keep', 10, '/fix') as $i => $detail) {
            if (! is_string($detail) || ! in_array($detail, FixRules::DETAILS, true)) {
                $this->in->off('fix_detail', "/fix/keep/$i", is_scalar($detail) ? $detail : null, [
                    'known' => implode(', ', FixRules::DETAILS),
                ]);
            } else {
                $keep[] = $detail;
            }
        }

        return new FixRules($warn, $refuse, array_values(array_unique($keep)));
    }

    /** @param  array<mixed>  $d */
    private function altitude(array $d): ?AltitudeRules
    {
        if (! isset($d['altitude'])) {
            return null;
        }
        $altitude = $this->in->part($d, 'altitude', '', ['unit', 'required']);
        $unit = $altitude['unit'] ?? 'm';
        if ($altitude !== null && $unit !== 'm' && $unit !== 'ft') {
            $this->in->off('altitude_unit', '/altitude/unit', is_scalar($unit) ? $unit : null);
        }

        return new AltitudeRules(
            $unit === 'ft' ? 'ft' : 'm',
            $altitude !== null && $this->in->flag($altitude, 'required', '/altitude', false),
        );
    }

    /** @param  array<mixed>  $d */
    private function info(array $d): LayerInfo
    {
        $info = $this->in->part($d, 'info', '', ['description', 'tags', 'credits', 'terms', 'source']);
        if ($info === null) {
            return new LayerInfo;
        }
        $tags = [];
        foreach ($this->in->list($info, 'tags', 30, '/info') as $i => $tag) {
            if (! is_string($tag) || trim($tag) === '' || mb_strlen($tag) > 40) {
                $this->in->off('tag_shape', "/info/tags/$i", is_scalar($tag) ? $tag : null);
            } else {
                $tags[] = trim($tag);
            }
        }

        return new LayerInfo(
            $this->in->text($info, 'description', '/info', 0, 5000),
            array_values(array_unique($tags)),
            $this->in->text($info, 'credits', '/info', 0, 500),
            $this->in->text($info, 'terms', '/info', 0, 2000),
            $this->in->text($info, 'source', '/info', 0, 500),
        );
    }
}
