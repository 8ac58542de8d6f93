<?php

declare(strict_types=1);

namespace App\Records;

use App\Layers\LayerRows;
use App\Models\Layer;
use Illuminate\Database\Query\Builder;
use stdClass;

/** Records of a layer were written, and that is committed: what whoever listens is told ({@see RecordListener}). */
final readonly class RecordsChanged
{
    /**
     * @param  int  $from  the records have the change numbers after this one
     * @param  int  $to  up to this one
     * @param  array<string, int>|null  $records  id (16 bytes) to the version before, 0 for a new one; null where it is
     *     a range
     */
    public function __construct(
        public int $id,
        public Layer $layer,
        public Cause $cause,
        public ?int $user,
        public int $from,
        public int $to,
        public ?array $records,
    ) {
    }

    /**
     * @return Builder rows of the layer's table that were written and have not been since; of a fill they are in its
     *     own table
     */
    public function after(): Builder
    {
        $query = LayerRows::all($this->layer);

        return $this->records === null
            ? $query->where('change_number', '>', $this->from)->where('change_number', '<=', $this->to)
            : $query->whereIn('id', array_keys($this->records));
    }

    /**
     * A record as it was before. What was only worked out keeps its version: of that, `record_workings` has the values
     * before.
     *
     * @param  string  $record  16 bytes
     * @return stdClass|null as {@see Versions} gives it; null for a record that is new, or that a range does not name
     */
    public function before(string $record): ?stdClass
    {
        $version = $this->records[$record] ?? 0;

        return $version === 0 ? null : Versions::find($this->layer, $record, $version);
    }
}
