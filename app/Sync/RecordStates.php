<?php

declare(strict_types=1);

namespace App\Sync;

use App\Formulas\FormulaContext;
use App\Layers\LayerRows;
use App\Layers\PlaceColumns;
use App\Layers\StoredRow;
use App\Models\Layer;
use App\Models\User;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;
use PinYard\Sync\Kind;
use PinYard\Sync\Operation;
use PinYard\Sync\RecordState;
use stdClass;

/** What the records are that a batch changes, read under the locks of their layers with few statements. */
final class RecordStates
{
    /** @var array<int, array<string, stdClass>> rows of the layers' tables, by layer and id (16 bytes) */
    public array $rows = [];

    /** @var array<int, array<string, RecordState>> by layer and id (text) */
    public array $states = [];

    /** @var array<string, true> records that came and are held, by id (text) */
    public array $held = [];

    /**
     * @param  array<int, Layer>  $layers
     * @param  array<int, Operation>  $operations
     */
    public static function of(User $user, array $layers, array $operations): self
    {
        $wanted = $devices = $visited = $deleted = [];
        foreach ($operations as $operation) {
            if (! $operation->kind->adds() && isset($layers[$operation->layer])) {
                $wanted[$operation->layer][$operation->record->text] = $operation->record->bytes();
                $devices[$operation->device->bytes()] = true;
                if ($operation->kind === Kind::Delete) {
                    $deleted[$operation->layer][] = $operation->record->bytes();
                }
            }
            if ($operation->visited !== null) {
                $visited[] = $operation->visited->bytes();
            }
        }
        $self = new self;
        foreach ($wanted as $id => $records) {
            $self->load(
                $layers[$id],
                array_values($records),
                $user,
                (string) array_key_first($devices),
                self::visitedAt($layers[$id], $deleted[$id] ?? [], $user),
            );
        }
        $self->heldAmong($visited, $user);

        return $self;
    }

    /**
     * The change number of somebody else's last visit to records that are to be deleted.
     *
     * @param  list<string>  $ids  16 bytes each
     * @return array<string, int> by id
     */
    private static function visitedAt(Layer $layer, array $ids, User $user): array
    {
        $visits = $ids === [] ? null : Layer::query()->where('visits_of', $layer->id)->first();

        return $visits === null
            ? []
            : LayerRows::all($visits)
                ->whereIn('parent', $ids)
                ->where('deleted', 0)
                ->where(static fn ($q) => $q->whereNull('created_by')->orWhere('created_by', '!=', $user->id))
                ->groupBy('parent')
                ->selectRaw('parent, max(change_number) as latest')
                ->pluck('latest', 'parent')
                ->map(static fn (mixed $number): int => (int) $number)
                ->all();
    }

    /**
     * @param  list<string>  $ids  16 bytes each
     * @param  array<string, int>  $visitedAt
     */
    private function load(Layer $layer, array $ids, User $user, string $device, array $visitedAt): void
    {
        // The model's own property costs more than the rest of a row.
        $by = $user->id;
        foreach (array_chunk($ids, 500) as $some) {
            $rows = LayerRows::all($layer)->whereIn('id', $some)->get()->keyBy('id')->all();
            $design = $layer->design();
            $around = FormulaContext::rows($layer, $design, $rows, $design->rules->visited());
            $made = DB::table('record_history')
                ->where('layer_id', $layer->id)
                ->whereIn('record_id', $some)
                ->groupBy('record_id')
                ->selectRaw(
                    'record_id, max(version) as latest, max(if(device is null or device <> ? or user_id <> ?, '
                        .'version, 0)) as others',
                    [$device, $by],
                )
                ->get()
                ->keyBy('record_id');
            $files = [];
            foreach (
                DB::table('attachments')
                    ->where('layer_id', $layer->id)
                    ->whereIn('record_id', $some)
                    ->where('state', '!=', 'removed')
                    ->get(['record_id', 'slot']) as $file
            ) {
                $files[$file->record_id][$file->slot ?? ''] = ($files[$file->record_id][$file->slot ?? ''] ?? 0) + 1;
            }
            foreach ($rows as $id => $row) {
                // A version that history does not know was made by a fill, or is one of many that were brought in.
                $latest = (int) ($made[$id]->latest ?? 0);
                $this->states[$layer->id][RecordId::fromBytes($id)->text] = new RecordState(
                    $row->version,
                    (bool) $row->deleted,
                    $row->created_by === $by,
                    $row->version > $latest ? $row->version : (int) ($made[$id]->others ?? 0),
                    StoredRow::values($design, $row),
                    PlaceColumns::shape($row, $design->geometry),
                    $row->altitude === null ? null : (float) $row->altitude,
                    $around->at($row),
                    $files[$id] ?? [],
                    $visitedAt[$id] ?? 0,
                );
                $this->rows[$layer->id][$id] = $row;
            }
            $missing = array_values(array_diff($some, array_map(strval(...), array_keys($rows))));
            $this->heldAmong($missing, $user);
        }
    }

    /** @param  list<string>  $ids  16 bytes each, of records that this person may have brought and that are held */
    private function heldAmong(array $ids, User $user): void
    {
        foreach (array_chunk($ids, 500) as $some) {
            $adds = DB::table('disputes')
                ->whereIn('record_id', $some)
                ->where('kind', 'held')
                ->whereNull('settled_at')
                ->where('user_id', $user->id)
                ->whereIn('operation->kind', ['add', 'visit']);
            foreach ($adds->pluck('record_id') as $id) {
                $this->held[RecordId::fromBytes($id)->text] = true;
            }
        }
    }
}
