<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\BulkInsert;
use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;
use stdClass;

/**
 * The one who writes records. Whatever changes a row of a layer's table does it through this, for one reason and one
 * person, while the layer is locked: each row gets a change number of its own, so phones, boards and lists hear of it
 * in order; history gets its rows, or a range stands for them; records that were visited follow their visits; and
 * whoever listens is told after the commit.
 */
final class RecordWriter
{
    /** Beyond so many, a change names no records one by one. */
    private const NAMED = 2_000;

    private int $number;

    private readonly int $from;

    /** @var array<string, int>|null id (16 bytes) to the version before, 0 for a new one; null for a range */
    private ?array $named = [];

    /** @var array<string, true> ids of visited records, 16 bytes each */
    private array $parents = [];

    /** @var array<string, true> keys of fields that were worked out or moved */
    private array $fields = [];

    /**
     * @param  Layer  $layer  locked
     * @param  Layer|null  $visited  locked, where this is a layer of visits
     * @param  int|null  $run  the same for all parts of one long work
     */
    private function __construct(
        public readonly Layer $layer,
        private readonly ?Layer $visited,
        private readonly Cause $cause,
        private readonly ?int $user,
        private readonly ?int $run,
    ) {
        $this->from = $this->number = $layer->change_number;
    }

    /**
     * In a transaction of its own, under the locks it takes; all of it is tried again where the database says that it
     * must be.
     *
     * @template T
     *
     * @param  \Closure(self): T  $do
     * @return T
     */
    public static function locked(
        int $layer,
        Cause $cause,
        ?int $user,
        \Closure $do,
        int $attempts = 5,
        ?int $run = null,
    ): mixed {
        // Read before: an unlocked read inside would fix what the transaction sees to a moment before it holds the
        // lock.
        $visits = Layer::withTrashed()->where('id', $layer)->value('visits_of');

        return DB::transaction(static function () use ($layer, $visits, $cause, $user, $do, $run): mixed {
            // What is visited first, as a sync round does.
            $visited =
                $visits === null
                    ? null
                    : Layer::withTrashed()->with('programme')->lockForUpdate()->whereKey($visits)->firstOrFail();
            $locked = Layer::withTrashed()->with('programme')->lockForUpdate()->findOrFail($layer);
            if ($visited !== null) {
                $locked->setRelation('visited', $visited);
            }
            $writer = new self($locked, $visited, $cause, $user, $run);
            $result = $do($writer);
            $writer->close();

            return $result;
        }, max(1, $attempts));
    }

    /** For who holds the locks of several layers at once; {@see close()} ends it, in the same transaction. */
    public static function on(Layer $locked, ?Layer $visited, Cause $cause, ?int $user): self
    {
        return new self($locked, $visited, $cause, $user, null);
    }

    /**
     * The next change number, for a row that is put together elsewhere; also for a change of the layer that touches no
     * record.
     */
    public function next(): int
    {
        return ++$this->number;
    }

    /**
     * Rows that were put together elsewhere, with their numbers ({@see next()}).
     *
     * @param  list<array<string, mixed>>  $new
     * @param  list<array<string, mixed>>  $changed  whole rows
     * @param  list<stdClass>  $before  those of the changed that were in the table, as they were
     * @param  list<array<string, mixed>>  $history
     */
    public function write(array $new, array $changed, array $before, array $history): void
    {
        FirstHistory::keep($this->layer, $before);
        $versions = array_column($before, 'version', 'id');
        [$new, $changed] = $this->checked($new, $changed, $versions);
        BulkInsert::into($this->layer->table(), self::sameColumns($new));
        BulkInsert::over($this->layer->table(), self::sameColumns($changed));
        BulkInsert::into('record_history', self::sameColumns($history));
        foreach ($new as $row) {
            $this->name($row['id'], 0, $row['parent'] ?? null);
        }
        foreach ($changed as $row) {
            $this->name($row['id'], $versions[$row['id']] ?? 0, $row['parent'] ?? null);
        }
    }

    /**
     * What coordinators bring is accepted with it, and what they change stays as it was; whatever others bring or
     * change is to be looked at first.
     *
     * @param  list<array<string, mixed>>  $new
     * @param  list<array<string, mixed>>  $changed  whole rows
     * @param  array<string, int>  $versions  before, by id
     * @return array{list<array<string, mixed>>, list<array<string, mixed>>}
     */
    private function checked(array $new, array $changed, array $versions): array
    {
        if ($new === [] && $changed === []) {
            return [$new, $changed];
        }
        if ($this->isCoordinators()) {
            $accepted = self::acceptance(self::now(), $this->user);

            return [array_map(static fn (array $row): array => [...$row, ...$accepted], $new), $changed];
        }
        foreach ($changed as $i => $row) {
            // Some are written for their number alone: who sent them hears what stands.
            if (($versions[$row['id']] ?? 0) !== $row['version']) {
                $changed[$i] = [...$row, ...self::acceptance(null, $this->user)];
            }
        }

        return [$new, $changed];
    }

    private function isCoordinators(): bool
    {
        return $this->user !== null && $this->layer->programme->isCoordinatedBy($this->user);
    }

    /**
     * By whom it was accepted last stays with a record that is to be looked at again: whoever sees accepted ones alone
     * may have seen it.
     *
     * @return array{accepted_at: string|null, accepted_by?: int|null}
     */
    private static function acceptance(?string $at, ?int $by): array
    {
        return $at === null ? ['accepted_at' => null] : ['accepted_at' => $at, 'accepted_by' => $by];
    }

    private static function now(): string
    {
        return now()->format('Y-m-d H:i:s.v');
    }

    /**
     * Says of records that they may stand as they are, or that they are to be looked at again. Nothing else of them
     * changes, so they keep their versions.
     *
     * @param  Builder  $which  over the layer's table
     * @param  string|null  $at  when they were accepted (UTC, as the database has it); null: they are to be looked at
     * @return int how many
     */
    public function accept(Builder $which, ?string $at): int
    {
        // Among themselves they stay in the order in which lists have them.
        return $this->update($which->orderBy('change_number'), self::acceptance($at, $this->user), []);
    }

    /**
     * Records of which something changed that is not in their table, as their files.
     *
     * @param  list<string>  $ids  16 bytes each
     */
    public function touch(array $ids): void
    {
        foreach ($ids as $id) {
            $number = $this->next();
            $version = $this->records()->where('id', $id)->value('version');
            // Of what is held there is no record yet; whoever looks hears of the layer's number all the same.
            if ($version !== null) {
                $this->records()->where('id', $id)->update([
                    'change_number' => $number,
                    // A photo that came after somebody looked has been looked at by nobody.
                    ...$this->isCoordinators() ? [] : self::acceptance(null, $this->user),
                ]);
                $this->name($id, (int) $version, null);
            }
        }
    }

    /**
     * Calculated values of single records, which keep their versions: nobody changed them.
     *
     * @param  list<array{stdClass, array<string, mixed>, array<string, mixed>}>  $rows  the row as it is, columns that
     *     become different, values before by key
     */
    public function work(array $rows): void
    {
        $now = now()->format('Y-m-d H:i:s.v');
        $changed = $workings = [];
        foreach ($rows as [$row, $set, $was]) {
            $number = $this->next();
            $changed[] = [...(array) $row, ...$set, 'change_number' => $number];
            $workings[] = [
                'layer_id' => $this->layer->id,
                'record_id' => $row->id,
                'change_number' => $number,
                'cause' => $this->cause->value,
                'user_id' => $this->user,
                'was' => json_encode((object) $was, JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR),
                'made_at' => $now,
            ];
            $this->name($row->id, $row->version, null);
        }
        BulkInsert::over($this->layer->table(), $changed);
        BulkInsert::into('record_workings', $workings);
    }

    /**
     * Calculated values of many records, a range of which stands for their history.
     *
     * @param  list<array<string, mixed>>  $rows  whole rows
     * @param  list<string>  $fields  keys that were worked out
     */
    public function rework(array $rows, array $fields): void
    {
        foreach ($rows as $i => $row) {
            $rows[$i]['change_number'] = $this->number + $i + 1;
        }
        BulkInsert::over($this->layer->table(), $rows);
        $this->range(count($rows), $fields);
    }

    /**
     * The same change to all records of a query, however many; a range stands for their history.
     *
     * @param  Builder  $which  over the layer's table
     * @param  array<string, mixed>  $set  column to value or expression
     * @param  list<string>  $fields  keys that this changes
     * @return int how many
     */
    public function update(Builder $which, array $set, array $fields): int
    {
        // Numbers must differ, so that a page of news never ends between two alike.
        DB::statement("set @change_number := $this->number");
        $rows = $which->update([...$set, 'change_number' => DB::raw('(@change_number := @change_number + 1)')]);
        $this->range($rows, $fields);

        return $rows;
    }

    /** The records, to choose among for {@see update()}. */
    public function records(): Builder
    {
        return DB::table($this->layer->table());
    }

    /**
     * Rows that get their numbers by a statement of the caller's own, or whose numbers stand in a table of its own.
     *
     * @param  \Closure(int): int  $write  is told the number before the first, gives how many it took
     * @param  list<string>  $fields
     * @return int the number before the first
     */
    public function many(\Closure $write, array $fields = []): int
    {
        $from = $this->number;
        $this->range($write($from), $fields);

        return $from;
    }

    /**
     * Puts down what was written, within the transaction. Of several layers, those that are visited are closed first.
     */
    public function close(): void
    {
        if ($this->number === $this->from) {
            return;
        }
        $this->layer->change_number = $this->number;
        $this->layer->save();
        ChangeOutbox::put(
            $this->layer,
            $this->cause,
            $this->user,
            $this->from,
            $this->number,
            $this->named,
            array_keys($this->fields),
            $this->run,
        );
        if ($this->visited !== null && $this->parents !== []) {
            $writer = new self($this->visited, null, Cause::Visits, $this->user, null);
            app(VisitFollower::class)->follow($writer, array_map(strval(...), array_keys($this->parents)));
            $writer->close();
        }
    }

    /** @param  list<string>  $fields */
    private function range(int $rows, array $fields): void
    {
        if ($rows > 0) {
            $this->number += $rows;
            $this->named = null;
            $this->fields += array_fill_keys($fields, true);
        }
    }

    private function name(string $id, int $before, ?string $parent): void
    {
        if ($this->named !== null) {
            // Of a record that was changed twice, what counts is how it was before the first time.
            $this->named[$id] ??= $before;
            if (count($this->named) > self::NAMED) {
                $this->named = null;
            }
        }
        if ($parent !== null) {
            $this->parents[$parent] = true;
        }
    }

    /**
     * Rows of different design versions carry different fields; one statement needs the same columns in all of them.
     *
     * @param  list<array<string, mixed>>  $rows
     * @return list<array<string, mixed>>
     */
    private static function sameColumns(array $rows): array
    {
        if (count($rows) < 2) {
            return $rows;
        }
        $first = array_keys($rows[0]);
        foreach ($rows as $row) {
            if (array_keys($row) !== $first) {
                $all = array_fill_keys(array_keys(array_merge(...$rows)), null);

                return array_map(static fn (array $row): array => [...$all, ...$row], $rows);
            }
        }

        return $rows;
    }
}
