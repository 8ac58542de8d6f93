<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Design\AltitudeRules;
use PinYard\Design\LayerDesign;
use PinYard\Formula\Surroundings;
use PinYard\Geo\Shape;
use PinYard\Problem;
use PinYard\Record\ValueCheck;
use PinYard\Refused;

/**
 * Decides a batch of operations, one by one, so that a bad one never holds up the others.
 * Pure: what exists already is told to it, what is to be written it tells.
 */
final class BatchDecider
{
    /** @var array<string, true> ids of records and files that exist, with those that this batch adds */
    private array $taken;

    /**
     * @param  array<int, LayerRules>  $layers  by layer number; a layer that the person may not see is absent
     * @param  list<string>  $takenIds  those of the batch's record and file ids that exist already
     * @param  array<string, true>  $visitable  records that the visits of this batch may belong to; those that it adds join them
     */
    public function __construct(private readonly array $layers, array $takenIds, private array $visitable = [])
    {
        $this->taken = array_fill_keys($takenIds, true);
    }

    public function decide(Operation $op): Decision
    {
        $rules = $this->layers[$op->layer] ?? null;
        if ($rules === null) {
            return Decision::refused($op, [new Problem('layer_unknown', 'layer', $op->layer)]);
        }
        if (! $rules->mayAdd) {
            return Decision::refused($op, [new Problem('add_not_allowed', 'layer', $op->layer)]);
        }
        // The version that the form showed decides: what was valid when it was recorded stays valid.
        $design = $rules->designs[$op->design] ?? null;
        if ($design === null) {
            return Decision::refused($op, [new Problem('design_unknown', 'design', $op->design, ['current' => $rules->current])]);
        }
        if (isset($this->taken[$op->record->text])) {
            return Decision::refused($op, [new Problem('record_exists', 'record', $op->record->text)]);
        }

        $problems = $this->visitProblems($op, $rules);
        $shape = null;
        try {
            $shape = Shape::fromGeoJson($op->geometry, $design->geometry);
        } catch (Refused $e) {
            array_push($problems, ...$e->problems);
        }
        array_push($problems, ...self::altitudeProblems($op, $design));
        // By the clock of the moment when it was recorded: what was no future then is none now.
        $in = (new Surroundings([], $op->capturedAt, $rules->zone, areas: $rules->areas))->at($shape, $op->altitudeFor($design));
        $check = ValueCheck::against($design, $op->values, $in);
        $files = FileCheck::of($design, $op->photos, fn (string $id): bool => isset($this->taken[$id]));
        $problems = [...$check->problems, ...$problems, ...$files->problems];
        if ($problems !== [] || $shape === null) {
            return Decision::refused($op, $problems);
        }
        $this->taken[$op->record->text] = true;
        $this->visitable[$op->record->text] = true;
        foreach ($files->files as $file) {
            $this->taken[$file->id->text] = true;
        }

        return Decision::applied($op, $check->values, $shape, $files->files);
    }

    /** @return list<Problem> */
    private function visitProblems(Operation $op, LayerRules $rules): array
    {
        if (! $rules->visits) {
            return $op->visited === null ? [] : [new Problem('visit_not_here', 'visited', $op->visited->text)];
        }

        return match (true) {
            $op->visited === null => [new Problem('visit_of_what', 'visited')],
            ! isset($this->visitable[$op->visited->text]) => [new Problem('visit_unknown', 'visited', $op->visited->text)],
            default => [],
        };
    }

    /** @return list<Problem> */
    private static function altitudeProblems(Operation $op, LayerDesign $design): array
    {
        $altitude = $op->altitudeFor($design);
        if ($altitude === null) {
            return $design->altitude?->required ? [new Problem('altitude_required', 'altitude')] : [];
        }

        return $altitude < AltitudeRules::LOWEST || $altitude > AltitudeRules::HIGHEST
            ? [new Problem('altitude_range', 'altitude', $altitude, ['value' => $altitude, 'lowest' => AltitudeRules::LOWEST, 'highest' => AltitudeRules::HIGHEST])] : [];
    }
}
