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
    public static function of(FaultMachine $machine, array $phones, Layer $layer, Layer $visits): array
    {
        $both = [$layer->id, $visits->id];

        return [
            ...self::outcomes($phones, $both),
            ...self::sameEverywhere($phones, $layer, ['code', 'note']),
            ...self::sameEverywhere($phones, $visits, ['seen']),
            ...self::nothingLost($machine, $both),
            ...self::histories($layer),
            ...self::histories($visits),
            ...self::files($machine, $layer),
            ...self::nothingOverwritten($machine, $layer),
            ...self::moments($phones, $both),
            ...self::visitsKept($machine, $layer, $visits),
        ];
    }

    /**
     * Every operation has exactly one outcome, the same on the phone and in the ledger, and under the name of who did
     * it.
     *
     * @param  list<Phone>  $phones
     * @param  list<int>  $layers
     * @return list<string>
     */
    private static function outcomes(array $phones, array $layers): array
    {
        $wrong = [];
        $ledger = DB::table('sync_ledger')
            ->whereIn('layer_id', $layers)
            ->get(['op', 'outcome', 'user_id'])
            ->keyBy('op')
            ->all();
        $count = 0;
        foreach ($phones as $phone) {
            foreach ($phone->outcomes as $op => $outcome) {
                $count++;
                $row = $ledger[RecordId::of($op)->bytes()] ?? null;
                $known = $row->outcome ?? 'nothing';
                if ($row !== null && $row->user_id !== $phone->person) {
                    $wrong[] = "$op of {$phone->name} was taken in under another name";
                }
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
     * @param  list<string>  $keys  of values
     * @return list<string>
     */
    private static function sameEverywhere(array $phones, Layer $layer, array $keys): array
    {
        $wrong = [];
        $there = [];
        foreach (DB::table($layer->table())->where('deleted', 0)->get() as $row) {
            $there[RecordId::fromBytes($row->id)->text] = [
                $row->version,
                array_map(static fn (string $key): mixed => $row->{"f_$key"}, $keys),
                (float) $row->lon,
                (float) $row->lat,
                $row->altitude === null ? null : (float) $row->altitude,
            ];
        }
        ksort($there);
        foreach ($phones as $phone) {
            $here = array_map(
                static fn (array $r): array => [
                    $r['version'],
                    array_map(static fn (string $key): mixed => $r['values'][$key] ?? null, $keys),
                    (float) $r['lon'],
                    (float) $r['lat'],
                    $r['altitude'] === null ? null : (float) $r['altitude'],
                ],
                $phone->records[$layer->id] ?? [],
            );
            ksort($here);
            if ($here !== $there) {
                $differ = array_filter(
                    $there,
                    static fn (array $r, string $id): bool => ($here[$id] ?? null) !== $r,
                    ARRAY_FILTER_USE_BOTH,
                );
                $wrong[] =
                    "{$phone->name} has ".
                    count($here).
                    ' records, the server '.
                    count($there).
                    '; '.
                    count($differ).
                    ' differ: '.
                    json_encode(array_slice($differ, 0, 2)).
                    ' / '.
                    json_encode(
                        array_map(
                            static fn (string $id): ?array => $here[$id] ?? null,
                            array_slice(array_keys($differ), 0, 2),
                        ),
                    );
            }
        }

        return $wrong;
    }

    /**
     * Every value ever saved is in a record's history or in what a person must decide.
     *
     * @param  list<int>  $layers
     * @return list<string>
     */
    private static function nothingLost(FaultMachine $machine, array $layers): array
    {
        $missing = $machine->saved;
        $seen = static function (?string $json) use (&$missing): void {
            preg_match_all('/w\d+-[0-9a-f]{6}/', (string) $json, $found);
            $missing = array_diff_key($missing, array_flip($found[0]));
        };
        foreach (
            DB::table('record_history')->whereIn('layer_id', $layers)->select('values', 'altitude')->cursor() as $row
        ) {
            $seen($row->values);
            unset($missing[FaultMachine::altitudeText((float) $row->altitude)]);
        }
        foreach (DB::table('disputes')->whereIn('layer_id', $layers)->select('operation')->cursor() as $row) {
            $seen($row->operation);
            unset($missing[FaultMachine::altitudeText((float) (json_decode($row->operation, true)['altitude'] ?? 0))]);
        }

        return $missing === []
            ? []
            : [
                count($missing).
                ' values are in no history and in no dispute: '.
                implode(', ', array_slice(array_keys($missing), 0, 5)),
            ];
    }

    /**
     * What a change replaced is what its maker had before their eyes, value by value.
     *
     * @return list<string>
     */
    private static function nothingOverwritten(FaultMachine $machine, Layer $layer): array
    {
        $wrong = [];
        $before = [];
        foreach (
            DB::table('record_history')
                ->where('layer_id', $layer->id)
                ->orderBy('version')
                ->get(['record_id', 'op', 'values', 'lon', 'lat', 'altitude']) as $row
        ) {
            $now = [
                ...(array) json_decode($row->values, true),
                '@altitude' => $row->altitude,
                '@place' => [$row->lon, $row->lat],
            ];
            [$was, $is] =
                $row->op === null ? [[], []] : $machine->changes[RecordId::fromBytes($row->op)->text] ?? [[], []];
            foreach ($is as $key => $value) {
                $there = $before[$row->record_id][$key] ?? null;
                if (! self::same($there, $now[$key] ?? null) && ! self::same($there, $was[$key] ?? null)) {
                    $wrong[] =
                        RecordId::fromBytes($row->record_id)->text.
                        ": $key was ".
                        json_encode($there).
                        ', and was made '.
                        json_encode($value).
                        ' by somebody who saw '.
                        json_encode($was[$key] ?? null);
                }
            }
            $before[$row->record_id] = $now;
        }

        return $wrong;
    }

    /** Places to six decimals, as the merge takes them. */
    private static function same(mixed $a, mixed $b): bool
    {
        return is_array($a) && is_array($b)
            ? array_map(static fn (float $n): float => round($n, 6), $a) ===
                    array_map(static fn (float $n): float => round($n, 6), $b)
            : $a == $b;
    }

    /** @return list<string> */
    private static function histories(Layer $layer): array
    {
        $wrong = [];
        $known = [];
        foreach (
            DB::table('record_history')
                ->where('layer_id', $layer->id)
                ->orderBy('version')
                ->get(['record_id', 'version']) as $row
        ) {
            $known[$row->record_id][] = $row->version;
        }
        $rows = DB::table($layer->table())->get(['id', 'version', 'change_number']);
        foreach ($rows as $row) {
            if (($known[$row->id] ?? []) !== range(1, $row->version)) {
                $wrong[] =
                    RecordId::fromBytes($row->id)->text.
                    ' has version '.
                    $row->version.
                    ', its history '.
                    json_encode($known[$row->id] ?? []);
            }
        }
        if (
            $rows->pluck('change_number')->unique()->count() !== $rows->count() ||
            $rows->max('change_number') > $layer->refresh()->change_number
        ) {
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

    /**
     * What history says of when a thing was done is so: within the rounds before and after, and where the clock tells
     * it at all, to the minute below which a difference of clocks is not spoken of.
     *
     * @param  list<Phone>  $phones
     * @param  list<int>  $layers
     * @return list<string>
     */
    private static function moments(array $phones, array $layers): array
    {
        $moments = array_merge(...array_map(static fn (Phone $p): array => $p->moments, $phones));
        $wrong = [];
        foreach (['record_history', 'disputes'] as $table) {
            foreach (
                DB::table($table)
                    ->whereIn('layer_id', $layers)
                    ->whereNotNull('op')
                    ->select('op', 'captured_at', 'received_at')
                    ->cursor() as $row
            ) {
                $moment = $moments[RecordId::fromBytes($row->op)->text] ?? null;
                if ($moment === null) {
                    continue;
                }
                $said = (float) (new \DateTimeImmutable($row->captured_at, new \DateTimeZone('UTC')))->format('U.v');
                $received = (float) (new \DateTimeImmutable($row->received_at, new \DateTimeZone('UTC')))->format(
                    'U.v',
                );
                $within = $said <= $received + 61 && ($moment->heard === null || $said >= $moment->heard - 61);
                if (! $within || ($moment->canBeKnown() && abs($said - $moment->at) > 61)) {
                    $wrong[] = 'something done at '
                        ."{$moment->at} is said to have been done at "
                            ."$said (heard {$moment->heard}, received $received)";
                }
            }
        }

        return $wrong;
    }

    /**
     * A record with a visit that its deleter had not heard of is there; somebody must decide.
     *
     * @return list<string>
     */
    private static function visitsKept(FaultMachine $machine, Layer $layer, Layer $visits): array
    {
        $wrong = [];
        $gone = DB::table("{$visits->table()} as v")
            ->join("{$layer->table()} as r", 'r.id', '=', 'v.parent')
            ->where('r.deleted', 1)
            ->where('v.deleted', 0)
            ->leftJoin(
                'record_history as h',
                static fn ($on) => $on
                    ->on('h.record_id', '=', 'r.id')
                    ->on('h.version', '=', 'r.version')
                    ->where('h.layer_id', $layer->id),
            )
            ->get(['r.id', 'v.created_by', 'v.change_number', 'h.op', 'h.user_id', 'h.kind']);
        foreach ($gone as $row) {
            $known = $row->op === null ? null : $machine->visitsKnown[RecordId::fromBytes($row->op)->text] ?? null;
            if (
                $row->kind !== 'delete' ||
                ($row->created_by !== $row->user_id && ($known === null || $row->change_number > $known))
            ) {
                $wrong[] =
                    RecordId::fromBytes($row->id)->text.
                    ' is deleted, with a visit that nobody had told its deleter of';
            }
        }

        return $wrong;
    }
}
