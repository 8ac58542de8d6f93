<?php

declare(strict_types=1);

namespace StandIns\Phones;

use App\Models\Layer;
use Illuminate\Support\Facades\DB;
use PinYard\Record\RecordId;

/** What must be true after a run of the fault machine, whatever happened in it. */
final class Verdict
{
    /**
     * @param  list<Phone>  $phones
     * @return list<string> what is not as it must be; empty when all is
     */
    public static function of(FaultMachine $machine, array $phones, Layer $layer): array
    {
        return [...self::outcomes($phones, $layer), ...self::sameEverywhere($phones, $layer), ...self::nothingLost($machine, $layer), ...self::histories($layer), ...self::files($machine, $layer)];
    }

    /**
     * Every operation has exactly one outcome, the same on the phone and in the ledger.
     *
     * @param  list<Phone>  $phones
     * @return list<string>
     */
    private static function outcomes(array $phones, Layer $layer): array
    {
        $wrong = [];
        $ledger = DB::table('sync_ledger')->where('layer_id', $layer->id)->pluck('outcome', 'op')->all();
        $count = 0;
        foreach ($phones as $phone) {
            foreach ($phone->outcomes as $op => $outcome) {
                $count++;
                $known = $ledger[RecordId::of($op)->bytes()] ?? 'nothing';
                if (explode(' ', $outcome)[0] !== $known) {
                    $wrong[] = "{$phone->name} heard $outcome of $op, the ledger has $known";
                }
            }
        }
        if ($count !== count($ledger)) {
            $wrong[] = "$count outcomes on phones, ".count($ledger).' in the ledger';
        }

        return $wrong;
    }

    /**
     * @param  list<Phone>  $phones
     * @return list<string>
     */
    private static function sameEverywhere(array $phones, Layer $layer): array
    {
        $wrong = [];
        $there = [];
        foreach (DB::table($layer->table())->where('deleted', 0)->get() as $row) {
            $there[RecordId::fromBytes($row->id)->text] = [$row->version, $row->f_code, $row->f_note, (float) $row->lon, (float) $row->lat];
        }
        ksort($there);
        foreach ($phones as $phone) {
            $here = array_map(static fn (array $r): array => [$r['version'], $r['values']['code'] ?? null, $r['values']['note'] ?? null, (float) $r['lon'], (float) $r['lat']], $phone->records[$layer->id] ?? []);
            ksort($here);
            if ($here !== $there) {
                $differ = array_filter($there, static fn (array $r, string $id): bool => ($here[$id] ?? null) !== $r, ARRAY_FILTER_USE_BOTH);
                $wrong[] = "{$phone->name} has ".count($here).' records, the server '.count($there).'; '.count($differ).' differ: '.json_encode(array_slice($differ, 0, 2)).' / '.json_encode(array_map(static fn (string $id): ?array => $here[$id] ?? null, array_slice(array_keys($differ), 0, 2)));
            }
        }

        return $wrong;
    }

    /**
     * Every value ever saved is in a record's history or in what a person must decide.
     *
     * @return list<string>
     */
    private static function nothingLost(FaultMachine $machine, Layer $layer): array
    {
        $missing = $machine->saved;
        $seen = static function (?string $json) use (&$missing): void {
            preg_match_all('/w\d+-[0-9a-f]{6}/', (string) $json, $found);
            $missing = array_diff_key($missing, array_flip($found[0]));
        };
        foreach (DB::table('record_history')->where('layer_id', $layer->id)->select('values')->cursor() as $row) {
            $seen($row->values);
        }
        foreach (DB::table('disputes')->where('layer_id', $layer->id)->select('operation')->cursor() as $row) {
            $seen($row->operation);
        }

        return $missing === [] ? [] : [count($missing).' values are in no history and in no dispute: '.implode(', ', array_slice(array_keys($missing), 0, 5))];
    }

    /** @return list<string> */
    private static function histories(Layer $layer): array
    {
        $wrong = [];
        $known = [];
        foreach (DB::table('record_history')->where('layer_id', $layer->id)->orderBy('version')->get(['record_id', 'version']) as $row) {
            $known[$row->record_id][] = $row->version;
        }
        $rows = DB::table($layer->table())->get(['id', 'version', 'change_number']);
        foreach ($rows as $row) {
            if (($known[$row->id] ?? []) !== range(1, $row->version)) {
                $wrong[] = RecordId::fromBytes($row->id)->text.' has version '.$row->version.', its history '.json_encode($known[$row->id] ?? []);
            }
        }
        if ($rows->pluck('change_number')->unique()->count() !== $rows->count() || $rows->max('change_number') > $layer->refresh()->change_number) {
            $wrong[] = 'change numbers are given twice, or beyond the layer\'s own';
        }

        return $wrong;
    }

    /** @return list<string> */
    private static function files(FaultMachine $machine, Layer $layer): array
    {
        $wrong = [];
        $files = \App\Models\Attachment::query()->where('layer_id', $layer->id)->get();
        if ($files->count() !== $machine->files) {
            $wrong[] = "{$files->count()} files on the server, {$machine->files} were taken";
        }
        foreach ($files as $file) {
            $disk = \Illuminate\Support\Facades\Storage::path($file->path());
            if ($file->state !== 'stored' || ! is_file($disk) || hash_file('sha256', $disk) !== $file->sha256) {
                $wrong[] = "file {$file->text()} is {$file->state}, or its bytes are others";
            }
        }

        return $wrong;
    }
}
