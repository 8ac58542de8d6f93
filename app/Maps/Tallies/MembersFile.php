<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

/**
 * Which records lie in which areas and with what value, as they were at one moment: a file that is written once, in
 * which a record is found by two reads. Records are put into buckets by the end of their ids, which is random.
 */
final class MembersFile
{
    private const BUCKETS = 65_536;

    private const TOGETHER = 1_024;

    /** id, area, value (not a number: none), whether it is in the share */
    private const ENTRY = 'a16id/Varea/evalue/Cshare';

    private const BYTES = 29;

    private const ID = 16;

    /** @var array<int, string> entries by bucket */
    private array $buckets = [];

    /** @var resource|null */
    private $file = null;

    private string $index = '';

    /** The greatest id: those made later are greater, for they begin with the time. */
    private string $last = '';

    public function put(string $id, int $area, ?float $value, bool $share): void
    {
        $bucket = self::bucketOf($id);
        $this->last = strcmp($id, $this->last) > 0 ? $id : $this->last;
        $entry = $id.pack('VeC', $area, $value ?? NAN, $share ? 1 : 0);
        $this->buckets[$bucket] = ($this->buckets[$bucket] ?? '').$entry;
    }

    /** Writes what was put. Whole or not at all. */
    public function write(string $path): void
    {
        $new = "$path.".bin2hex(random_bytes(6));
        $out = fopen($new, 'wb') ?: throw new \RuntimeException("cannot write $new");
        $offsets = '';
        $at = 0;
        for ($i = 0; $i <= self::BUCKETS; $i++) {
            $offsets .= pack('V', $at);
            $at += intdiv(strlen($this->buckets[$i] ?? ''), self::BYTES);
        }
        fwrite($out, str_pad($this->last, self::ID, "\0").$offsets);
        for ($i = 0; $i < self::BUCKETS; $i++) {
            if (isset($this->buckets[$i])) {
                fwrite($out, $this->buckets[$i]);
            }
        }
        $good = fclose($out) && rename($new, $path);
        [$this->buckets, $this->last] = [[], ''];
        if (! $good) {
            @unlink($new);
            throw new \RuntimeException("cannot write $path");
        }
    }

    /**
     * What an open file holds, as a new one that is not written yet, without some records.
     *
     * @param  list<string>  $ids  of 16 bytes
     */
    public function without(array $ids): self
    {
        $gone = [];
        foreach ($ids as $id) {
            $gone[self::bucketOf($id)][] = $id;
        }
        $left = new self;
        $left->last = $this->last;
        [$start, $body] = [0, ''];
        /** @var array<int, int> $ends  counted from one */
        $ends = unpack('V*', $this->index) ?: [];
        for ($i = 0; $i < self::BUCKETS; $i++) {
            // Some at once, and not all: of many records that would be memory twice over.
            if ($i % self::TOGETHER === 0) {
                $start = $ends[$i + 1];
                $body = $this->entries($start, $ends[$i + 1 + self::TOGETHER]);
            }
            [$from, $to] = [$ends[$i + 1] - $start, $ends[$i + 2] - $start];
            $entries = substr($body, $from * self::BYTES, ($to - $from) * self::BYTES);
            foreach ($gone[$i] ?? [] as $id) {
                $entries = self::cut($entries, $id);
            }
            if ($entries !== '') {
                $left->buckets[$i] = $entries;
            }
        }

        return $left;
    }

    private static function cut(string $entries, string $id): string
    {
        $left = '';
        foreach ($entries === '' ? [] : str_split($entries, self::BYTES) as $entry) {
            $left .= str_starts_with($entry, $id) ? '' : $entry;
        }

        return $left;
    }

    public static function open(string $path): ?self
    {
        $handle = @fopen($path, 'rb');
        $long = self::ID + 4 * (self::BUCKETS + 1);
        $head = $handle === false ? '' : (string) fread($handle, $long);
        if ($handle === false || strlen($head) !== $long) {
            return null;
        }
        [1 => $entries] = unpack('V', $head, $long - 4) ?: [1 => 0];
        // A file that was cut is not read.
        if (((fstat($handle) ?: [])['size'] ?? 0) !== $long + $entries * self::BYTES) {
            return null;
        }
        // Each find is one read of some hundred bytes elsewhere: what PHP would read ahead is thrown away.
        stream_set_read_buffer($handle, 0);
        $file = new self;
        [$file->file, $file->last, $file->index] = [$handle, substr($head, 0, self::ID), substr($head, self::ID)];
        // What is used is not cleared away.
        @touch($path);

        return $file;
    }

    /**
     * @param  string  $id  16 bytes
     * @return array{list<int>, float|null, bool} its areas, its value, whether it was in the share
     */
    public function find(string $id): array
    {
        if (strcmp($id, $this->last) > 0) {
            return [[], null, false];
        }
        $bucket = self::bucketOf($id);
        /** @var array{1: int, 2: int} $ends */
        $ends = unpack('V2', $this->index, 4 * $bucket);
        [1 => $from, 2 => $to] = $ends;
        $entries = $this->entries($from, $to);
        $found = [[], null, false];
        for ($at = 0, $end = strlen($entries); $at < $end; $at += self::BYTES) {
            if (substr_compare($entries, $id, $at, 16) === 0) {
                $entry = unpack(self::ENTRY, $entries, $at) ?: [];
                $found[0][] = (int) $entry['area'];
                $found[1] = is_nan($entry['value']) ? null : (float) $entry['value'];
                $found[2] = $entry['share'] === 1;
            }
        }

        return $found;
    }

    /** Those from one on, before another. */
    private function entries(int $from, int $to): string
    {
        return $to <= $from || $this->file === null
            ? ''
            : (string) stream_get_contents(
                $this->file,
                ($to - $from) * self::BYTES,
                self::ID + strlen($this->index) + $from * self::BYTES,
            );
    }

    private static function bucketOf(string $id): int
    {
        return (ord($id[14]) << 8) | ord($id[15]);
    }
}
