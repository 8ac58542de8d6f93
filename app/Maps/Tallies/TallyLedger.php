<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use App\Records\VisibleRecords;
use PinYard\Carto\TallyState;
use PinYard\Geo\AreaCells;
use PinYard\Geo\PackedCells;

/**
 * What lies in areas of a large layer, kept current: only records that have changed since it was last asked are read.
 * What each of them brought before stands in a file ({@see MembersFile}) and, since that was written, beside the sums.
 * Everything that is kept belongs to one way of seeing, one set of areas and one thing measured; it can be made again.
 */
final class TallyLedger
{
    private const KIND = 'ledgers';

    /** So many records that have changed at once; of more, all are counted anew. */
    private const AT_ONCE = 20_000;

    /** So many changed records beside the file; more, and they are written into it. */
    private const BESIDE = 20_000;

    /** So many areas are counted anew for their least and most; more, and all are. */
    private const ANEW = 40;

    /** Value (not a number: none), whether it is in the share, its first area */
    private const ENTRY = 'evalue/Cshare/Varea';

    private const BYTES = 13;

    private const ID = 16;

    private const NO_AREA = 0xFFFFFFFF;

    /** @var array<string, string> what records bring that changed since the file was written, as {@see ENTRY} */
    private array $since = [];

    /** @var array<string, list<int>> the areas of those that lie in more than one */
    private array $several = [];

    /** @var array<int, TallyState> by the area's place in the list */
    private array $states = [];

    private int $upTo = 0;

    /** Names the files that belong to the sums: nobody's sums are taken with another's files. */
    private string $files = '';

    /** @var list<list<list<array{float, float}>>>|null */
    private ?array $rings = null;

    /**
     * @param  string  $name  of what is counted for whom, without the state of its records
     * @param  VisibleRecords  $seen  all records of the layer that the viewer may see
     * @param  int  $areas  how many areas there are
     * @param  \Closure(): list<list<list<array{float, float}>>>  $borders  the rings of each, where they are needed
     * @param  bool  $ends  whether the least and the most are told
     */
    public function __construct(
        private readonly string $name,
        private readonly VisibleRecords $seen,
        private readonly CountedRecords $counted,
        private readonly int $areas,
        private readonly \Closure $borders,
        private readonly bool $ends,
    ) {
    }

    /** @return list<TallyState> of each area, as of now */
    public function states(): array
    {
        $path = self::path($this->name);
        if (! is_dir(dirname($path))) {
            @mkdir(dirname($path), 0o700, true);
        }
        $lock = fopen("$path.lock", 'cb') ?: throw new \RuntimeException("cannot write $path");
        // Whoever asks at the same time waits, and finds it done.
        flock($lock, LOCK_EX);
        @touch("$path.lock");
        try {
            $members = $this->read("$path.now") ? MembersFile::open("$path.$this->files.members") : null;
            $cells = $members === null ? null : CellsFile::open("$path.$this->files.cells");
            $known = $this->upTo;
            if ($members === null || $cells === null || ! $this->bring($members, $cells)) {
                $this->build($path);
                $known = null;
            } elseif (count($this->since) > (int) config('app.tally_ledger_beside', self::BESIDE)) {
                $this->writeInto($members, $path);
            }
            // What is used is not cleared away.
            $known === $this->upTo ? @touch("$path.now") : $this->write("$path.now");
        } finally {
            fclose($lock);
        }

        return array_values($this->states);
    }

    private function build(string $path): void
    {
        // Whatever is written while the records are read is read once more next time, and comes to the same.
        $this->upTo = (int) $this->seen->withDeleted()->max('change_number');
        [$this->since, $this->several] = [[], []];
        $rings = $this->rings();
        $this->states = array_map(static fn (): TallyState => new TallyState, $rings);
        $cells = new AreaCells($rings);
        $before = $this->files;
        $this->files = bin2hex(random_bytes(8));
        CellsFile::write("$path.$this->files.cells", $cells);
        $members = new MembersFile;
        $states = $this->states;
        $this->counted->perCell(
            $cells,
            $rings,
            static function (string $id, int $area, ?float $value, bool $share) use ($members, $states): void {
                $states[$area]->add($value, $share);
                $members->put($id, $area, $value, $share);
            },
        );
        $members->write("$path.$this->files.members");
        if ($before !== '') {
            @unlink("$path.$before.members");
            @unlink("$path.$before.cells");
        }
    }

    /** What has changed beside the file comes into it: to read all records anew takes ten times as long. */
    private function writeInto(MembersFile $members, string $path): void
    {
        $ids = array_map(strval(...), array_keys($this->since));
        $all = $members->without($ids);
        foreach ($ids as $id) {
            [$areas, $value, $share] = $this->beside($id);
            foreach ($areas as $area) {
                $all->put($id, $area, $value, $share);
            }
        }
        $before = $this->files;
        $this->files = bin2hex(random_bytes(8));
        $all->write("$path.$this->files.members");
        // Killed from here on, the sums have no cells, and all is counted anew.
        @rename("$path.$before.cells", "$path.$this->files.cells");
        @unlink("$path.$before.members");
        [$this->since, $this->several] = [[], []];
    }

    /** @return list<list<list<array{float, float}>>> */
    private function rings(): array
    {
        return $this->rings ??= ($this->borders)();
    }

    /** @return bool false where it is quicker to count all anew */
    private function bring(MembersFile $members, PackedCells $cells): bool
    {
        $changed = $this->seen->withDeleted()->where('change_number', '>', $this->upTo);
        $newest = (clone $changed)->selectRaw('count(*) as n, max(change_number) as last')->first();
        [$count, $last] = [(int) ($newest->n ?? 0), (int) ($newest->last ?? 0)];
        if ($count === 0) {
            return true;
        }
        if ($count > self::AT_ONCE) {
            return false;
        }
        $now = [];
        foreach ($this->counted->since($this->upTo) as [$id, $z, $lon, $lat, $value, $share, $number]) {
            // What came meanwhile is of the next time.
            if ($number <= $last) {
                $areas = abs($lat) < CountedRecords::POLAR
                    ? $cells->at($z, $lon, $lat)
                    : CountedRecords::polar($this->rings(), $lon, $lat);
                $now[$id] = [$areas, $value, $share];
            }
        }
        // Mostly all that changed are there. Whatever changes now has a later number, so as many are the same ones.
        $ids = count($now) === $count
            ? array_keys($now)
            : $changed->where('change_number', '<=', $last)->pluck('id')->all();
        $anew = [];
        foreach (array_map(strval(...), $ids) as $id) {
            [$areas, $value, $share] = isset($this->since[$id])
                ? $this->beside($id)
                : $members->find($id);
            foreach ($areas as $area) {
                if ($this->states[$area]->takeOut($value, $share)) {
                    $anew[$area] = true;
                }
            }
            // Deleted, or out of the slice: it brings nothing any more.
            [$areas, $value, $share] = $now[$id] ?? [[], null, false];
            $this->since[$id] = pack('eCV', $value ?? NAN, $share ? 1 : 0, $areas[0] ?? self::NO_AREA);
            unset($this->several[$id]);
            if (count($areas) > 1) {
                $this->several[$id] = $areas;
            }
            foreach ($areas as $area) {
                $this->states[$area]->add($value, $share);
            }
        }
        $this->upTo = $last;

        if (! $this->ends || $anew === []) {
            return true;
        }
        if (count($anew) > self::ANEW) {
            return false;
        }
        foreach (array_keys($anew) as $area) {
            $this->states[$area] = $this->anew($area);
        }

        return true;
    }

    /** @return array{list<int>, float|null, bool} */
    private function beside(string $id): array
    {
        /** @var array{value: float, share: int, area: int} $entry */
        $entry = unpack(self::ENTRY, $this->since[$id]);

        return [
            $this->several[$id] ?? ($entry['area'] === self::NO_AREA ? [] : [$entry['area']]),
            is_nan($entry['value']) ? null : $entry['value'],
            $entry['share'] === 1,
        ];
    }

    /** What went may have been its least or its most: it is counted anew. */
    private function anew(int $area): TallyState
    {
        $state = new TallyState;
        $rings = $this->rings()[$area];
        $this->counted->perArea(
            [$rings],
            static function (string $id, int $i, ?float $value, bool $share) use ($state): void {
                $state->add($value, $share);
            },
            AreaOutlines::box($rings),
        );

        return $state;
    }

    private function read(string $path): bool
    {
        $text = @file_get_contents($path);
        $kept = $text === false ? false : @unserialize($text, ['allowed_classes' => false]);
        if (
            ! is_array($kept) ||
            ! isset($kept['up_to'], $kept['files'], $kept['states'], $kept['ids'], $kept['entries'], $kept['several'])
            || count($kept['states']) !== $this->areas
            || strlen($kept['ids']) * self::BYTES !== strlen($kept['entries']) * self::ID
        ) {
            return false;
        }
        $this->upTo = $kept['up_to'];
        $this->files = $kept['files'];
        $this->states = array_map(TallyState::fromArray(...), $kept['states']);
        // Two texts of pieces of one length: some thousand are read in a tenth of the time that a list takes.
        $this->since = $kept['ids'] === ''
            ? []
            : array_combine(str_split($kept['ids'], self::ID), str_split($kept['entries'], self::BYTES));
        $this->several = $kept['several'];

        return true;
    }

    private function write(string $path): void
    {
        $text = serialize([
            'up_to' => $this->upTo,
            'files' => $this->files,
            'states' => array_map(static fn (TallyState $s): array => $s->toArray(), $this->states),
            'ids' => implode('', array_keys($this->since)),
            'entries' => implode('', $this->since),
            'several' => $this->several,
        ]);
        $new = "$path.".bin2hex(random_bytes(6));
        if (@file_put_contents($new, $text) !== strlen($text) || ! @rename($new, $path)) {
            // Without it all is counted anew next time.
            @unlink($new);
            @unlink($path);
        }
    }

    private static function path(string $name): string
    {
        $hash = hash('sha256', $name);

        return storage_path('app/kept/'.self::KIND.'/'.substr($hash, 0, 2)."/$hash");
    }
}
