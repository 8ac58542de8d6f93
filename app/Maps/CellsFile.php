<?php

declare(strict_types=1);

namespace App\Maps;

use PinYard\Geo\AreaCells;
use PinYard\Geo\PackedCells;

/** The quarters of areas, kept in a file. */
final class CellsFile
{
    /** Whole or not at all. */
    public static function write(string $path, AreaCells $cells): void
    {
        [$starts, $body] = $cells->packed();
        $head = serialize($starts);
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
        $starts = is_string($text) && $bytes > 0
            ? @unserialize(substr($text, 4, $bytes), ['allowed_classes' => false])
            : null;
        if (! is_string($text) || ! is_array($starts)) {
            return null;
        }
        // What is used is not cleared away.
        @touch($path);

        return new PackedCells($starts, $text, 4 + $bytes);
    }
}
