<?php

declare(strict_types=1);

namespace App\Conflicts;

use App\Formulas\AreaLookup;
use App\Layers\CarryOver;
use App\Layers\LayerRows;
use App\Models\Attachment;
use App\Models\Conflict;
use App\Models\Layer;
use App\Models\User;
use App\Records\Cause;
use App\Records\RecordEdit;
use App\Sync\BatchWriter;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use PinYard\Formula\Surroundings;
use PinYard\Geo\Shape;
use PinYard\Record\RecordId;
use PinYard\Record\ValueCheck;
use PinYard\Refused;
use PinYard\Sync\ClashedValue;
use PinYard\Sync\Decision;
use PinYard\Sync\Operation;
use stdClass;

/**
 * A coordinator decides what phones brought in dispute: a clash value by value, something that is held as a whole.
 * What is decided makes a new version, which all phones hear of; what is not taken stays in the dispute for good.
 */
final readonly class ConflictResolution
{
    public function __construct(private User $by)
    {
    }

    /**
     * @param  array<mixed>  $choose  'mine' (what the phone brought) or 'theirs', by key
     *
     * @throws Refused
     */
    public function clash(Conflict $dispute, array $choose): void
    {
        $clashes = $dispute->clashes ?? [];
        foreach ($clashes as $clash) {
            if (! in_array($choose[$clash['key']] ?? null, ['mine', 'theirs'], true)) {
                throw Refused::because('dispute_choose', $clash['key'], null, [
                    'label' => $dispute->layer->design()->field($clash['key'])->label ?? $clash['key'],
                ]);
            }
        }
        $this->settle(
            $dispute,
            ['choose' => array_intersect_key($choose, array_flip(array_column($clashes, 'key')))],
            function (Conflict $dispute) use ($clashes, $choose): void {
                $record = RecordId::fromBytes($dispute->record_id)->text;
                $edit = new RecordEdit($this->by, $dispute->layer_id, cause: Cause::Conflict);
                $values = [];
                $geometry = $altitude = null;
                $row = fn (): stdClass => LayerRows::all($dispute->layer)->where('id', $dispute->record_id)->first() ??
                    throw Refused::because('record_unknown', 'record');
                foreach ($clashes as $clash) {
                    $taken = $clash[$choose[$clash['key']] === 'mine' ? 'mine' : 'theirs'];
                    if ($clash['key'] === ClashedValue::DELETED) {
                        if ($taken && ! $row()->deleted) {
                            $edit->delete($record);
                        } elseif (! $taken && $row()->deleted) {
                            $edit->restore($record, null);
                        }
                    } elseif ($clash['key'] === ClashedValue::PLACE) {
                        $geometry = $choose[$clash['key']] === 'mine' ? $taken : null;
                    } elseif ($clash['key'] === ClashedValue::ALTITUDE) {
                        $altitude = $choose[$clash['key']] === 'mine' ? [$taken] : null;
                    } elseif ($choose[$clash['key']] === 'mine') {
                        $values[$clash['key']] = $taken;
                    }
                }
                if (($values !== [] || $geometry !== null || $altitude !== null) && ! $row()->deleted) {
                    $edit->change($record, $row()->version, $values, $geometry, $altitude);
                }
            },
        );
    }

    /**
     * Lets in what is held, or sets it aside. With a record that was added, everything that was done to it afterwards
     * goes the same way.
     *
     * @throws Refused
     */
    public function held(Conflict $dispute, bool $take): void
    {
        $this->settle($dispute, ['take' => $take], function (Conflict $dispute) use ($take): void {
            $op = self::operation($dispute);
            if ($dispute->settled_at !== null) {
                $this->takeUp($dispute, $op);

                return;
            }
            if (! $op->kind->adds()) {
                if ($take) {
                    $this->apply($dispute, $op);
                } else {
                    // Its files came with it, and go with it; like all that is removed they can be put back.
                    self::dropFiles($op);
                }

                return;
            }
            $this->add($dispute, $op);
            $later = Conflict::query()
                ->where('layer_id', $dispute->layer_id)
                ->where('record_id', $dispute->record_id)
                ->whereNull('settled_at')
                ->where('id', '!=', $dispute->id)
                ->orderBy('id')
                ->get();
            foreach ($later as $other) {
                if ($take) {
                    $this->apply($other, self::operation($other));
                }
                $other->update($this->settled(['take' => $take]));
            }
            if (! $take) {
                // It lies in the history as a deleted record: phones that still show it hear that it is gone, and it
                // can be brought back.
                (new RecordEdit($this->by, $dispute->layer_id, cause: Cause::Conflict))->delete($op->record->text);
            }
        });
    }

    /**
     * What was set aside can be taken up again, with all that was set aside with it.
     *
     * @throws Refused
     */
    private function takeUp(Conflict $dispute, Operation $op): void
    {
        self::bringFilesBack($op);
        if (! $op->kind->adds()) {
            $this->apply($dispute, $op);

            return;
        }
        $edit = new RecordEdit($this->by, $dispute->layer_id, cause: Cause::Conflict);
        $edit->bringBack($op->record->text);
        foreach (
            Conflict::query()
                ->where('layer_id', $dispute->layer_id)
                ->where('record_id', $dispute->record_id)
                ->where('kind', 'held')
                ->where('id', '!=', $dispute->id)
                ->orderBy('id')
                ->get() as $other
        ) {
            if (($other->settlement['take'] ?? null) === false) {
                self::bringFilesBack(self::operation($other));
                $this->apply($other, self::operation($other));
                $other->update($this->settled(['take' => true]));
            }
        }
    }

    /** @param  array<string, mixed>  $settlement  the new one */
    private static function wasSetAside(Conflict $dispute, array $settlement): bool
    {
        return $dispute->kind === 'held' &&
            ($dispute->settlement['take'] ?? null) === false &&
            ($settlement['take'] ?? null) === true;
    }

    private static function bringFilesBack(Operation $op): void
    {
        foreach ($op->photos as $photo) {
            $file = Attachment::query()
                ->whereKey(RecordId::of(is_array($photo) ? $photo['id'] ?? null : null)->bytes())
                ->where('state', 'removed')
                ->first();
            $file?->update(['state' => Storage::disk('attachments')->exists($file->path()) ? 'stored' : 'on_way']);
        }
    }

    private static function dropFiles(Operation $op): void
    {
        foreach ($op->photos as $photo) {
            Attachment::query()
                ->whereKey(RecordId::of(is_array($photo) ? $photo['id'] ?? null : null)->bytes())
                ->where('state', '!=', 'refused')
                ->update(['state' => 'removed']);
        }
    }

    private static function operation(Conflict $dispute): Operation
    {
        return Operation::read($dispute->operation, $dispute->operation['device'] ?? null);
    }

    private function apply(Conflict $dispute, Operation $op): void
    {
        $layer = $dispute->layer;
        $edit = new RecordEdit($this->by, $layer->id, User::query()->find($dispute->user_id), Cause::Conflict);
        match ($op->kind->value) {
            'delete' => $edit->delete($op->record->text),
            'restore' => $edit->restore($op->record->text, null),
            default => $edit->letIn(
                $op->record->text,
                (new CarryOver($layer))->changes($op->design, $op->values)[0],
                $op->geometry === null
                    ? null
                    : Shape::fromGeoJson($op->geometry, $layer->design($op->design)->geometry),
            ),
        };
    }

    private function add(Conflict $dispute, Operation $op): void
    {
        $layer = Layer::query()->with('programme')->lockForUpdate()->findOrFail($dispute->layer_id);
        $visited =
            $layer->visits_of === null
                ? null
                : Layer::query()->with('programme')->lockForUpdate()->findOrFail($layer->visits_of);
        if (
            $visited !== null &&
            $op->visited !== null &&
            ! LayerRows::all($visited)->where('id', $op->visited->bytes())->exists()
        ) {
            // What it is a visit to is held itself: that comes first.
            throw Refused::because('held_first', 'visited');
        }
        $design = $layer->design($op->design);
        $shape = Shape::fromGeoJson($op->geometry, $design->geometry);
        $in = (new Surroundings(
            [],
            $op->capturedAt,
            new \DateTimeZone($layer->programme->time_zone),
            areas: AreaLookup::in($layer->programme),
        ))->at($shape, $op->altitudeFor($design));
        // What the layer no longer draws keeps its place.
        $shape = $shape->kind === $layer->design()->geometry ? $shape : Shape::point($shape->place);
        $writer = new BatchWriter(User::query()->find($dispute->user_id), cause: Cause::Conflict);
        // Its files are here already, or on their way.
        $writer->add(Decision::applied($op, ValueCheck::against($design, $op->values, $in)->values, $shape, []));
        $writer->write([$layer->id => $layer] + ($visited === null ? [] : [$visited->id => $visited]));
    }

    /**
     * @param  array<string, mixed>  $settlement
     * @param  \Closure(Conflict): void  $do
     */
    private function settle(Conflict $dispute, array $settlement, \Closure $do): void
    {
        DB::transaction(function () use ($dispute, $settlement, $do): void {
            // The layer first, as everything does that changes its records.
            Layer::query()->lockForUpdate()->findOrFail($dispute->layer_id);
            $dispute = Conflict::query()->lockForUpdate()->findOrFail($dispute->id);
            if ($dispute->settled_at !== null && ! self::wasSetAside($dispute, $settlement)) {
                throw Refused::because('dispute_settled', 'dispute');
            }
            $do($dispute);
            $dispute->update($this->settled($settlement));
        }, 5);
    }

    /**
     * @param  array<string, mixed>  $settlement
     * @return array<string, mixed>
     */
    private function settled(array $settlement): array
    {
        return [
            'settled_by' => $this->by->id,
            'settled_at' => now()->format('Y-m-d H:i:s.v'),
            'settlement' => $settlement,
        ];
    }
}
