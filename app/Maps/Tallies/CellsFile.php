<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use PinYard\Geo\AreaCells;
use PinYard\Geo\PackedCells;

/** The quarters of areas, kept in a file of which only an index is read at once. */
final class CellsFile
{
    /** Begins such a file, so that no other is taken for one. */
    private const MARK = "cells 2\n";

    /** Whole or not at all. */
    public static function write(string $path, AreaCells $cells): void
    {
        [$index, $body] = PackedCells::pack($cells);
        $text = self::MARK.pack('VV', strlen($index), strlen($body)).$index.$body;
        $new = "$path.".bin2hex(random_bytes(6));
        if (@file_put_contents($new, $text) !== strlen($text) || ! @rename($new, $path)) {
            @unlink($new);
            throw new \RuntimeException("cannot write $path");
        }
    }

    public static function open(string $path): ?PackedCells
    {
        $file = @fopen($path, 'rb');
        $head = $file === false ? '' : (string) fread($file, strlen(self::MARK) + 8);
        if ($file === false || strlen($head) < strlen(self::MARK) + 8 || ! str_starts_with($head, self::MARK)) {
            return null;
        }
        [1 => $long, 2 => $rest] = unpack('V2', $head, strlen(self::MARK)) ?: [1 => 0, 2 => 0];
        // Each quarter is one short read elsewhere: what PHP would read ahead is thrown away.
        stream_set_read_buffer($file, 0);
        $index = $long < 1 ? '' : (string) fread($file, $long);
        $start = strlen($head) + $long;
        // A file that was cut is not read.
        if (strlen($index) !== $long || ((fstat($file) ?: [])['size'] ?? 0) !== $start + $rest) {
            return null;
        }
        // What is used is not cleared away.
        @touch($path);

        return PackedCells::of($index, static function (int $at, int $bytes) use ($file, $start): string {
            fseek($file, $start + $at);

            return (string) fread($file, max(1, $bytes));
        });
    }
}
