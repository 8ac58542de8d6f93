<?php

declare(strict_types=1);

namespace PinYard\Sync;

use PinYard\Formula\Surroundings;
use PinYard\Geo\Position;
use PinYard\Problem;
use PinYard\Record\ValueCheck;
use PinYard\Refused;

/**
 * Decides a batch of operations, one by one, so that a bad one never holds up the others.
 * Pure: what exists already is told to it, what is to be written it tells.
 */
final class BatchDecider
{
    /** @var array<string, true> ids of records and photos that exist, with those that this batch adds */
    private array $taken;

    /**
     * @param  array<int, LayerRules>  $layers  by layer number; a layer that the person may not see is absent
     * @param  list<string>  $takenIds  those of the batch's record and photo ids that exist already
     */
    public function __construct(private readonly array $layers, array $takenIds)
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

        $problems = [];
        $position = null;
        try {
            $position = Position::fromGeoJson($op->geometry);
        } catch (Refused $e) {
            array_push($problems, ...$e->problems);
        }
        // By the clock of the moment when it was recorded: what was no future then is none now.
        $check = ValueCheck::against($design, $op->values, new Surroundings([], $op->capturedAt, $rules->zone, [], $position?->lon, $position?->lat));
        array_unshift($problems, ...$check->problems);
        $photos = [];
        if ($op->photos !== [] && ! $design->photos->allowed) {
            $problems[] = new Problem('photos_not_allowed', 'photos', count($op->photos));
        } elseif (count($op->photos) > $design->photos->most || $design->photos->allowed && count($op->photos) < $design->photos->least) {
            $problems[] = new Problem('photos_count', 'photos', count($op->photos), [
                'count' => count($op->photos), 'least' => $design->photos->least, 'most' => $design->photos->most,
            ]);
        } else {
            foreach ($op->photos as $one) {
                try {
                    $photo = DeclaredPhoto::read($one, $design->photos);
                    if (isset($this->taken[$photo->id->text])) {
                        throw Refused::because('photo_exists', 'photos', $photo->id->text);
                    }
                    $photos[$photo->id->text] = $photo;
                } catch (Refused $e) {
                    array_push($problems, ...$e->problems);
                }
            }
        }
        if ($problems !== [] || $position === null) {
            return Decision::refused($op, $problems);
        }
        $this->taken[$op->record->text] = true;
        foreach ($photos as $id => $_) {
            $this->taken[$id] = true;
        }

        return Decision::applied($op, $check->values, $position, array_values($photos));
    }
}
