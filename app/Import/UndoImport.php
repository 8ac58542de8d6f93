<?php

declare(strict_types=1);

namespace App\Import;

use App\Layers\LayerRows;
use App\Layers\StoredRow;
use App\Models\Import;
use App\Models\Layer;
use App\Models\User;
use App\Records\Cause;
use App\Records\RecordEdit;
use App\Records\RecordWriter;
use App\Records\Versions;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** Takes back a whole import. Records that someone has changed since stay, and are named. */
final class UndoImport
{
    private const NAMED = 20;

    /** @return array{deleted: int, restored: int, kept: int, names: list<string>, layer_binned: bool} */
    public static function run(Import $import, ?User $by): array
    {
        $layer =
            Layer::query()->with('programme')->find($import->layer_id) ??
            throw Refused::because('intake_layer', 'layer');
        $restored =
            ($import->settings['mode'] ?? '') === 'attach'
                ? self::detach($import, $layer, $by)
                : self::restore($import, $layer);
        $told = RecordWriter::locked(
            $layer->id,
            Cause::ImportUndone,
            $by?->id,
            static function (RecordWriter $writer) use ($import, $restored): array {
                $layer = $writer->layer;
                [$from, $to] = [$import->idOf(0), $import->prefix."\xFF\xFF\xFF\xFF\xFF\xFF"];
                $made = static fn () => $writer
                    ->records()
                    ->whereBetween('id', [$from, $to])
                    ->where('deleted', 0);
                // Those that are as they came, or as a further row of the same file left them.
                $whole = $writer
                    ->records()
                    ->whereBetween('id', [$from, $to])
                    ->where('deleted', 0)
                    ->where(
                        static fn (Builder $as) => $as->where('version', 1)->orWhereExists(
                            static fn (Builder $left) => $left
                                ->from('import_changes')
                                ->where('import_id', $import->id)
                                ->whereColumn('record_id', $layer->table().'.id')
                                ->whereColumn('import_changes.version', $layer->table().'.version'),
                        ),
                    )
                    ->orderBy('id');
                $deleted = $writer->update($whole, ['deleted' => 1, 'version' => DB::raw('version + 1')], []);
                DB::table('import_changes')->where('import_id', $import->id)->delete();
                $kept = $made()->count();
                $names = [];
                foreach ($made()->limit(self::NAMED)->get() as $row) {
                    $names[] = StoredRow::name($layer->design(), $row) ?? RecordId::fromBytes($row->id)->text;
                }
                DB::table('import_rows')->where('import_id', $import->id)->delete();
                $told = [
                    'deleted' => $deleted,
                    'restored' => $restored[0],
                    'kept' => $kept + count($restored[1]),
                    'names' => array_slice([...$names, ...$restored[1]], 0, self::NAMED),
                    'layer_binned' => false,
                ];
                if ($import->made_layer && ! $writer->records()->where('deleted', 0)->exists()) {
                    $told['layer_binned'] = true;
                }
                $import->update(['state' => 'undone', 'counts' => ['undo' => $told] + (array) $import->counts]);

                return $told;
            },
            1,
        );
        if ($told['layer_binned']) {
            $layer->refresh()->delete();
        }

        return $told;
    }

    /**
     * Photos that were put to records are taken away again; their bytes stay, as of any that is removed.
     *
     * @return array{int, list<string>}
     */
    private static function detach(Import $import, Layer $layer, ?User $by): array
    {
        return RecordWriter::locked(
            $layer->id,
            Cause::ImportUndone,
            $by?->id,
            static function (RecordWriter $writer) use ($import): array {
                $layer = $writer->layer;
                $hashes = [];
                foreach ((array) ($import->source['photos'] ?? []) as $path) {
                    $hashes[] = (string) @hash_file('sha256', $import->folder((string) $path));
                }
                $count = 0;
                foreach (DB::table('import_changes')->where('import_id', $import->id)->pluck('record_id') as $record) {
                    $count += DB::table('attachments')
                        ->where('layer_id', $layer->id)
                        ->where('record_id', $record)
                        ->whereIn('sha256', $hashes)
                        ->where('state', 'stored')
                        ->update(['state' => 'removed']);
                    $writer->touch([$record]);
                }
                DB::table('import_changes')->where('import_id', $import->id)->delete();

                return [$count, []];
            },
            1,
        );
    }

    /**
     * Records that the import changed get back the version before.
     *
     * @return array{int, list<string>} how many, and the names of those that were changed since
     */
    private static function restore(Import $import, Layer $layer): array
    {
        $count = 0;
        $kept = [];
        foreach (DB::table('import_changes')->where('import_id', $import->id)->get() as $change) {
            if (str_starts_with($change->record_id, (string) $import->prefix)) {
                continue;
            }
            $row = LayerRows::all($layer)->where('id', $change->record_id)->first();
            if ($row === null || $row->deleted || $row->version !== $change->version || $import->user === null) {
                $kept[] =
                    $row === null
                        ? '–'
                        : StoredRow::name($layer->design(), $row) ?? RecordId::fromBytes($change->record_id)->text;

                continue;
            }
            if (Versions::find($layer, $row->id, $change->base) !== null) {
                (new RecordEdit($import->user, $layer->id, cause: Cause::ImportUndone))->restore(
                    RecordId::fromBytes($row->id)->text,
                    $change->base,
                );
                $count++;
            }
        }

        return [$count, $kept];
    }
}
