<?php

declare(strict_types=1);

namespace App\Intake;

use App\Models\Import;
use App\Models\Layer;
use App\Records\RecordEdit;
use App\Records\Versions;
use App\Storage\AreasLink;
use App\Storage\Records;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;
use PinYard\Refused;

/** Takes back a whole import. Records that someone has changed since stay, and are named. */
final class UndoImport
{
    private const NAMED = 20;

    /** @return array{deleted: int, restored: int, kept: int, names: list<string>, layer_binned: bool} */
    public static function run(Import $import): array
    {
        $layer = Layer::query()->with('programme')->find($import->layer_id) ?? throw Refused::because('intake_layer', 'layer');
        $restored = ($import->settings['mode'] ?? '') === 'attach' ? self::detach($import, $layer) : self::restore($import, $layer);
        $told = DB::transaction(static function () use ($import, $layer, $restored): array {
            $layer = Layer::query()->with('programme')->lockForUpdate()->findOrFail($layer->id);
            [$from, $to] = [$import->idOf(0), $import->prefix."\xFF\xFF\xFF\xFF\xFF\xFF"];
            $made = static fn () => DB::table($layer->table())->whereBetween('id', [$from, $to])->where('deleted', 0);
            DB::statement('set @n := ?', [$layer->change_number]);
            $deleted = DB::update("update {$layer->table()} set deleted = 1, version = version + 1, change_number = (@n := @n + 1) where id between ? and ? and deleted = 0 and version = 1 order by id", [$from, $to]);
            $layer->change_number += $deleted;
            $layer->save();
            $kept = $made()->count();
            $names = [];
            foreach ($made()->limit(self::NAMED)->get() as $row) {
                $names[] = Records::name($layer->design(), $row) ?? RecordId::fromBytes($row->id)->text;
            }
            DB::table('import_rows')->where('import_id', $import->id)->delete();
            $told = ['deleted' => $deleted, 'restored' => $restored[0], 'kept' => $kept + count($restored[1]), 'names' => array_slice([...$names, ...$restored[1]], 0, self::NAMED), 'layer_binned' => false];
            if ($import->made_layer && ! DB::table($layer->table())->where('deleted', 0)->exists()) {
                $layer->delete();
                $told['layer_binned'] = true;
            }
            $import->update(['state' => 'undone', 'counts' => ['undo' => $told] + (array) $import->counts]);

            return $told;
        });
        AreasLink::changed($layer->refresh());

        return $told;
    }

    /**
     * Photos that were put to records are taken away again; their bytes stay, as of any that is removed.
     *
     * @return array{int, list<string>}
     */
    private static function detach(Import $import, Layer $layer): array
    {
        return DB::transaction(static function () use ($import, $layer): array {
            $layer = Layer::query()->lockForUpdate()->findOrFail($layer->id);
            $hashes = [];
            foreach ((array) ($import->source['photos'] ?? []) as $path) {
                $hashes[] = (string) @hash_file('sha256', $import->folder((string) $path));
            }
            $count = 0;
            foreach (DB::table('import_changes')->where('import_id', $import->id)->pluck('record_id') as $record) {
                $count += DB::table('attachments')->where('layer_id', $layer->id)->where('record_id', $record)->whereIn('sha256', $hashes)->where('state', 'stored')->update(['state' => 'removed']);
                DB::table($layer->table())->where('id', $record)->update(['change_number' => ++$layer->change_number]);
            }
            $layer->save();
            DB::table('import_changes')->where('import_id', $import->id)->delete();

            return [$count, []];
        });
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
            $row = DB::table($layer->table())->where('id', $change->record_id)->first();
            if ($row === null || $row->deleted || $row->version !== $change->version || $import->user === null) {
                $kept[] = $row === null ? '–' : (Records::name($layer->design(), $row) ?? RecordId::fromBytes($change->record_id)->text);

                continue;
            }
            if (Versions::find($layer, $row->id, $change->version - 1) !== null) {
                (new RecordEdit($import->user, $layer->id))->restore(RecordId::fromBytes($row->id)->text, $change->version - 1);
                $count++;
            }
        }
        DB::table('import_changes')->where('import_id', $import->id)->delete();

        return [$count, $kept];
    }
}
