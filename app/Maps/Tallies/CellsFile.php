<?php

declare(strict_types=1);

namespace App\Maps\Tallies;

use PinYard\Geo\AreaCells;
use PinYard\Geo\PackedCells;

/** The quarters of areas, kept in a file. */
final class CellsFile
{
    /** Whole or not at all. */
    public static function write(string $path, AreaCells $cells): void
    {
        [$starts, $body] = $cells->packed();
        $head = '';
        foreach ($starts as $bits => $of) {
            $head .= pack('VV', $bits, count($of)).pack('P*', ...array_keys($of)).pack('V*', ...array_values($of));
        }
        $text = pack('V', strlen($head)).$head.$body;
        $new = "$path.".bin2hex(random_bytes(6));
        if (@file_put_contents($new, $text) !== strlen($text) || ! @rename($new, $path)) {
            @unlink($new);
            throw new \RuntimeException("cannot write $path");
        }
    }

    public static function open(string $path): ?PackedCells
    {
        $text = @file_get_contents($path);
        [, $bytes] = is_string($text) && strlen($text) > 4 ? unpack('V', $text) ?: [0, 0] : [0, 0];
        // A file that was cut is not read.
        $starts = is_string($text) && $bytes > 0 && strlen($text) >= 4 + $bytes
            ? self::starts($text, 4, 4 + $bytes)
            : null;
        if (! is_string($text) || $starts === null) {
            return null;
        }
        // What is used is not cleared away.
        @touch($path);

        return new PackedCells($starts, $text, 4 + $bytes);
    }

    /**
     * Numbers in rows: a million of them are unpacked in the time in which some thousand lists are read.
     *
     * @return array<int, array<int, int>>|null null where it is no such file
     */
    private static function starts(string $text, int $at, int $end): ?array
    {
        $starts = [];
        while ($at < $end) {
            $of = $at + 8 <= $end ? unpack('Vbits/Vcount', $text, $at) : false;
            if ($of === false || $of['count'] < 1 || $at + 8 + 12 * $of['count'] > $end) {
                return null;
            }
            $keys = unpack("P{$of['count']}", $text, $at + 8) ?: [];
            $values = unpack("V{$of['count']}", $text, $at + 8 + 8 * $of['count']) ?: [];
            $starts[$of['bits']] = array_combine($keys, $values);
            $at += 8 + 12 * $of['count'];
        }

        return $starts;
    }
}
