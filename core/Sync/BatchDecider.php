<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\AltitudeRules;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Problem;
use PinYard\Record\ValueCheck;
use PinYard\Refused;

/**
 * Decides a batch of operations, one by one, so that a bad one never holds up the others. Pure: what exists already is
 * told to it, what is to be written it tells.
 */
final class BatchDecider
{
    /** @var array<string, true> ids of records and files that exist, with those that this batch adds */
    private array $taken;

    /**
     * @param  array<int, LayerRules>  $layers  by layer number; a layer that the person may not see is absent
     * @param  list<string>  $takenIds  those of the batch's record and file ids that exist already
     * @param  array<string, bool>  $visitable  records that the visits of this batch may belong to, and whether they
     *     are still there (false: deleted meanwhile); those that it adds join them
     * @param  array<int, array<string, RecordState>>  $states  records that the batch changes, by layer and id
     * @param  array<string, true>  $held  records that came and are held, so that they are not there yet
     */
    public function __construct(
        private readonly array $layers,
        array $takenIds,
        private array $visitable = [],
        private array $states = [],
        private array $held = [],
    ) {
        $this->taken = array_fill_keys($takenIds, true);
    }

    public function decide(Operation $op): Decision
    {
        $rules = $this->layers[$op->layer] ?? null;
        if ($rules === null) {
            return Decision::refused($op, [new Problem('layer_unknown', 'layer', $op->layer)]);
        }
        // The version that the form showed decides: what was valid when it was recorded stays valid.
        $design = $rules->designs[$op->design] ?? null;
        if ($design === null) {
            return Decision::refused($op, [
                new Problem('design_unknown', 'design', $op->design, ['current' => $rules->current]),
            ]);
        }
        $decision = $op->kind->adds() ? $this->added($op, $rules, $design) : $this->changed($op, $rules, $design);
        foreach ($decision->files as $file) {
            $this->taken[$file->id->text] = true;
        }

        return $decision;
    }

    private function changed(Operation $op, LayerRules $rules, LayerDesign $design): Decision
    {
        $id = $op->record->text;
        if (isset($this->held[$id])) {
            $files = FileCheck::of($design, $op->photos, fn (string $file): bool => isset($this->taken[$file]), []);

            return Decision::held($op, [new Problem('held_record', 'record', $id)], $files->files);
        }
        $state = $this->states[$op->layer][$id] ?? null;
        if ($state === null) {
            return Decision::refused($op, [new Problem('record_unknown', 'record', $id)]);
        }
        $decision = (new ChangeDecider($rules, $design, fn (string $file): bool => isset($this->taken[$file])))->decide(
            $op,
            $state,
        );
        if ($decision->after !== null) {
            $this->states[$op->layer][$id] = $decision->after;
        }

        return $decision;
    }

    private function added(Operation $op, LayerRules $rules, LayerDesign $design): Decision
    {
        $held = [];
        if (! $rules->now->add) {
            if (! $rules->wasAllowed($op, true)) {
                return Decision::refused($op, [new Problem('add_not_allowed', 'layer', $op->layer)]);
            }
            $held[] = new Problem('held_rights', 'layer');
        }
        if (isset($this->taken[$op->record->text])) {
            return Decision::refused($op, [new Problem('record_exists', 'record', $op->record->text)]);
        }

        $problems = $this->visitProblems($op, $rules);
        array_push($held, ...$this->visitedHeld($op));
        $shape = null;
        try {
            $shape = Shape::fromGeoJson($op->geometry, $design->geometry);
        } catch (Refused $e) {
            array_push($problems, ...$e->problems);
        }
        array_push($problems, ...self::altitudeProblems(true, $op->altitudeFor($design), $design));
        // By the clock of the moment when it was recorded: what was no future then is none now.
        $in = (new Surroundings([], $op->capturedAt, $rules->zone, areas: $rules->areas))->at(
            $shape,
            $op->altitudeFor($design),
        );
        $check = ValueCheck::against($design, $op->values, $in);
        $files = FileCheck::of($design, $op->photos, fn (string $id): bool => isset($this->taken[$id]));
        $problems = [...$check->problems, ...$problems, ...$files->problems];
        if ($problems !== [] || $shape === null) {
            return Decision::refused($op, $problems);
        }
        $this->taken[$op->record->text] = true;
        if ($op->design < $rules->current) {
            array_push($held, ...$this->held($op, $rules, $design, $shape, $check->values));
        }
        if ($held !== []) {
            $this->held[$op->record->text] = true;

            return Decision::held($op, $held, $files->files);
        }
        $this->visitable[$op->record->text] = true;
        $this->states[$op->layer][$op->record->text] = new RecordState(
            1,
            false,
            true,
            0,
            $rules->carried($op->design, $check->values, null)[0],
            $shape,
            $op->altitudeFor($design),
            $in,
            self::counts($files->files),
        );

        $visited = $op->visited?->text;
        $revives = $visited !== null && ($this->visitable[$visited] ?? true) === false;
        if ($revives) {
            $this->visitable[$visited] = true;
        }

        return Decision::applied($op, $check->values, $shape, $files->files, $revives);
    }

    /**
     * What today's design would not take of a record that an earlier one took: values that its fields no longer hold,
     * limits that have been drawn narrower. What the earlier form did not ask for is nobody's fault, so it is no
     * reason.
     *
     * @param  array<string, mixed>  $values
     * @return list<Problem>
     */
    private function held(Operation $op, LayerRules $rules, LayerDesign $design, Shape $shape, array $values): array
    {
        $today = $rules->designs[$rules->current];
        // A point in a layer that is drawn today is one that has not been drawn yet, as those are that were there
        // before.
        if ($shape->kind !== $today->geometry && $shape->kind !== GeometryKind::Point) {
            return [new Problem('held_shape', 'geometry')];
        }
        [$carried, $unfit] = $rules->carried($op->design, $values, null);
        $held = array_map(
            static fn (string $key): Problem => new Problem('held_value', $key, null, [
                'label' => $design->field($key)->label ?? $key,
            ]),
            $unfit,
        );
        $known = [];
        foreach ($today->valueFields() as $field) {
            $known[$field->key] = $carried[$field->key] ?? null;
        }
        $in = (new Surroundings([], $op->capturedAt, $rules->zone, areas: $rules->areas))->at(
            $shape,
            $op->altitudeFor($today),
        );
        foreach (ValueCheck::against($today, $known, $in, $known)->problems as $problem) {
            if ($problem->code !== 'required' && ! in_array($problem->field, $unfit, true)) {
                $held[] = $problem;
            }
        }

        return $held;
    }

    /**
     * @param  list<DeclaredFile>  $files
     * @return array<string, int>
     */
    private static function counts(array $files): array
    {
        return array_count_values(array_map(static fn (DeclaredFile $f): string => $f->slot ?? '', $files));
    }

    /**
     * A visit to what is held itself is somebody's morning all the same. One to what has been deleted meanwhile brings
     * it back.
     *
     * @return list<Problem>
     */
    private function visitedHeld(Operation $op): array
    {
        $visited = $op->visited?->text;

        return $visited !== null && isset($this->held[$visited])
            ? [new Problem('held_record', 'visited', $visited)]
            : [];
    }

    /** @return list<Problem> */
    private function visitProblems(Operation $op, LayerRules $rules): array
    {
        if (! $rules->visits) {
            return $op->visited === null ? [] : [new Problem('visit_not_here', 'visited', $op->visited->text)];
        }

        return match (true) {
            $op->visited === null => [new Problem('visit_of_what', 'visited')],
            ! isset($this->visitable[$op->visited->text]) && ! isset($this->held[$op->visited->text]) => [
                new Problem('visit_unknown', 'visited', $op->visited->text),
            ],
            default => [],
        };
    }

    /**
     * @internal shared with {@see ChangeDecider}
     *
     * @param  bool  $given  whether anything was said of the altitude
     * @return list<Problem>
     */
    public static function altitudeProblems(bool $given, ?float $altitude, LayerDesign $design): array
    {
        if (! $given) {
            return [];
        }
        if ($altitude === null) {
            return $design->altitude?->required ? [new Problem('altitude_required', 'altitude')] : [];
        }

        return $altitude < AltitudeRules::LOWEST || $altitude > AltitudeRules::HIGHEST
            ? [
                new Problem('altitude_range', 'altitude', $altitude, [
                    'value' => $altitude,
                    'lowest' => AltitudeRules::LOWEST,
                    'highest' => AltitudeRules::HIGHEST,
                ]),
            ]
            : [];
    }
}
