<?php

declare(strict_types=1);

namespace App\Records;

use App\Models\Layer;
use Illuminate\Support\Facades\DB;

/**
 * Tells whoever listens of what was written ({@see RecordWriter}). Each change is put down in the transaction that
 * makes it, so a process that is killed after its commit leaves it here, and it is told by the next sweep.
 */
final class ChangeOutbox
{
    /** Seconds after which nobody can be telling it any more: longer than a request may take. */
    private const LATE = 120;

    private const KEPT_DAYS = 30;

    /** @return list<RecordListener> */
    private static function listeners(): array
    {
        $listeners = [];
        foreach (app()->tagged(RecordListener::class) as $one) {
            $listeners[] = $one instanceof RecordListener ? $one : throw new \LogicException('no listener of records');
        }

        return $listeners;
    }

    /**
     * Within the transaction that wrote the records.
     *
     * @param  array<string, int>|null  $records  id (16 bytes) to the version before; null for a range
     * @param  list<string>  $fields
     */
    public static function put(
        Layer $layer,
        Cause $cause,
        ?int $user,
        int $from,
        int $to,
        ?array $records,
        array $fields,
        ?int $run,
    ): void {
        $wanted =
            array_filter(
                self::listeners(),
                static fn (RecordListener $l): bool => $l->wants($layer, $cause, $records === null),
            ) !== [];
        $now = now()->format('Y-m-d H:i:s.v');
        $named =
            $records === null || ! $wanted
                ? null
                : array_combine(array_map(bin2hex(...), array_keys($records)), $records);
        $id = DB::table('record_changes')->insertGetId([
            'layer_id' => $layer->id,
            'from_number' => $from,
            'to_number' => $to,
            'cause' => $cause->value,
            'user_id' => $user,
            'design_version' => $layer->design_version,
            'run' => $run,
            'is_range' => $records === null,
            'fields' => $fields === [] ? null : json_encode($fields),
            'records' => $named === null ? null : json_encode($named),
            'made_at' => $now,
            'heard_at' => $wanted ? null : $now,
        ]);
        if ($wanted) {
            // The records stand, whatever becomes of this: what fails here is tried again by the sweep.
            DB::afterCommit(static fn () => rescue(static fn () => self::tell($id)));
        }
    }

    /** What was written and, for a kill in between, never told. */
    public static function tellLate(): void
    {
        foreach (
            DB::table('record_changes')
                ->whereNull('heard_at')
                ->where('made_at', '<', now()->subSeconds(self::LATE))
                ->orderBy('id')
                ->limit(500)
                ->pluck('id') as $id
        ) {
            rescue(static fn () => self::tell((int) $id));
        }
    }

    /** What was told long ago and stands for no history. */
    public static function forget(): void
    {
        // Which numbers there were on which day is kept: past days are told by it.
        DB::table('record_changes')
            ->whereNotNull('records')
            ->where('heard_at', '<', now()->subDays(self::KEPT_DAYS))
            ->update(['records' => null]);
    }

    private static function tell(int $id): void
    {
        $row = DB::table('record_changes')->where('id', $id)->whereNull('heard_at')->first();
        $layer = $row === null ? null : Layer::withTrashed()->with('programme')->whereKey($row->layer_id)->first();
        if ($row === null || $layer === null) {
            return;
        }
        $records = $row->records === null ? null : (array) json_decode($row->records, true);
        $changed = new RecordsChanged(
            $id,
            $layer,
            Cause::from($row->cause),
            $row->user_id,
            (int) $row->from_number,
            (int) $row->to_number,
            $records === null
                ? null
                : array_combine(
                    array_map(
                        static fn (string|int $hex): string => (string) hex2bin((string) $hex),
                        array_keys($records),
                    ),
                    $records,
                ),
        );
        foreach (self::listeners() as $listener) {
            if ($listener->wants($layer, $changed->cause, $records === null)) {
                $listener->hear($changed);
            }
        }
        DB::table('record_changes')
            ->where('id', $id)
            ->update(['heard_at' => now()->format('Y-m-d H:i:s.v')]);
    }
}
