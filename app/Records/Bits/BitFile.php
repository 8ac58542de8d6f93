<?php

declare(strict_types=1);

namespace App\Records\Bits;

use PinYard\Bits\ChoiceSlots;
use PinYard\Bits\NotByBits;
use PinYard\Bits\NumberSlots;
use PinYard\Bits\Slots;

/**
 * What is counted of a layer by bits, as of one of its changes, in one file: the ids of its records in ascending
 * order, which gives each its slot, then sets of slots. Only what is asked for is read. It holds all there is of all
 * records; who may be told what is decided where it is read (VisibleRecords).
 */
final class BitFile
{
    private const LENGTH = 8;

    private const ID = 16;

    private ?string $ids = null;

    /**
     * @param  resource  $file
     * @param  array<string, array<string, mixed>>  $columns
     * @param  array<int, array{int, int}>  $parts  where each set stands, and how long it is
     */
    private function __construct(
        private $file,
        public readonly int $slots,
        private array $columns,
        private array $parts,
    ) {
    }

    /**
     * Whole or not at all.
     *
     * @param  resource  $ids  the ids, one behind the other
     * @param  array<string, NumberSlots|ChoiceSlots>  $columns
     */
    public static function write(string $path, $ids, int $slots, array $columns): void
    {
        if (! is_dir(dirname($path))) {
            @mkdir(dirname($path), 0o700, true);
        }
        $new = "$path.".bin2hex(random_bytes(6));
        $file = @fopen($new, 'wb') ?: throw new \RuntimeException("cannot write $path");
        $parts = $said = [];
        $at = $slots * self::ID;
        rewind($ids);
        $good = stream_copy_to_stream($ids, $file) === $at;
        $put = static function (\GMP $set) use (&$parts, &$at, &$good, $file): int {
            $bytes = Slots::toBytes($set);
            $good = $good && fwrite($file, $bytes) === strlen($bytes);
            $parts[] = [$at, strlen($bytes)];
            $at += strlen($bytes);

            return count($parts) - 1;
        };
        foreach ($columns as $key => $column) {
            $said[$key] = $column instanceof NumberSlots
                ? [
                    'there' => $put($column->there),
                    'places' => array_map($put, $column->places),
                    'least' => $column->least,
                    'decimals' => $column->decimals,
                ]
                : [
                    'codes' => array_map(strval(...), array_keys($column->sets)),
                    'sets' => array_map($put, array_values($column->sets)),
                    'several' => $column->several,
                ];
        }
        $head = json_encode(['slots' => $slots, 'columns' => $said, 'parts' => $parts], JSON_THROW_ON_ERROR);
        $good = $good && fwrite($file, $head.pack('P', strlen($head))) === strlen($head) + self::LENGTH;
        if (! fclose($file) || ! $good || ! @rename($new, $path)) {
            @unlink($new);
            throw new \RuntimeException("cannot write $path");
        }
    }

    /** @return self|null null where there is no such file, or it was cut */
    public static function open(string $path): ?self
    {
        $file = @fopen($path, 'rb');
        if ($file === false || fseek($file, -self::LENGTH, SEEK_END) !== 0) {
            return null;
        }
        $end = (int) ftell($file);
        $length = unpack('P', (string) fread($file, self::LENGTH))[1] ?? 0;
        if ($length < 1 || $length > $end || fseek($file, $end - $length) !== 0) {
            return null;
        }
        $head = json_decode((string) fread($file, $length), true);

        return is_array($head) && is_int($head['slots'] ?? null)
            ? new self($file, $head['slots'], (array) ($head['columns'] ?? []), (array) ($head['parts'] ?? []))
            : null;
    }

    /** @throws NotByBits where it is not kept */
    public function column(string $key): NumberSlots|ChoiceSlots
    {
        $said = $this->columns[$key] ?? throw new NotByBits($key);

        return isset($said['codes'])
            ? new ChoiceSlots(
                array_combine($said['codes'], array_map($this->set(...), $said['sets'])),
                $said['several'],
            )
            : new NumberSlots(
                $this->set($said['there']),
                array_map($this->set(...), array_values($said['places'])),
                $said['least'],
                $said['decimals'],
            );
    }

    private function set(int $part): \GMP
    {
        [$at, $length] = $this->parts[$part];

        return Slots::ofBytes($this->read($at, $length));
    }

    private function read(int $at, int $length): string
    {
        $bytes = $length === 0 || fseek($this->file, $at) !== 0
            ? ''
            : (string) stream_get_contents($this->file, $length);

        return strlen($bytes) === $length ? $bytes : throw new NotByBits('a file that was cut');
    }

    /** @param  string  $id  16 bytes; null where it has no slot here */
    public function slotOf(string $id): ?int
    {
        $this->ids ??= $this->read(0, $this->slots * self::ID);
        for ($low = 0, $high = $this->slots - 1; $low <= $high;) {
            $at = ($low + $high) >> 1;
            $order = strcmp(substr($this->ids, $at * self::ID, self::ID), $id);
            if ($order === 0) {
                return $at;
            }
            $order < 0 ? $low = $at + 1 : $high = $at - 1;
        }

        return null;
    }

    /** @return string 16 bytes */
    public function idIn(int $slot): string
    {
        return $this->read($slot * self::ID, self::ID);
    }
}
