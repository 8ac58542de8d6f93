<?php

declare(strict_types=1);

namespace App\Answers;

/**
 * Texts that can be made again, kept as files of this machine: read without asking the database, never shared with
 * another node. Whoever keeps something under a name puts everything into that name by which it could be different.
 */
final class KeptFiles
{
    /** Days after which a file that was not written anew goes. */
    private const DAYS = 2;

    public static function get(string $kind, string $name): ?string
    {
        $text = @file_get_contents(self::path($kind, $name));

        return $text === false ? null : $text;
    }

    /** Whole or not at all: whoever reads meanwhile gets what was there before. */
    public static function put(string $kind, string $name, string $text): void
    {
        $path = self::path($kind, $name);
        if (! is_dir(dirname($path))) {
            @mkdir(dirname($path), 0o700, true);
        }
        $new = "$path.".bin2hex(random_bytes(6));
        // A disk that is full keeps nobody from an answer.
        if (@file_put_contents($new, $text) !== strlen($text) || ! @rename($new, $path)) {
            @unlink($new);
        }
    }

    /** @return int how many went */
    public static function forgetOld(): int
    {
        $gone = 0;
        foreach (glob(storage_path('app/kept/*/*/*')) ?: [] as $file) {
            if ((int) @filemtime($file) < time() - self::DAYS * 86_400 && @unlink($file)) {
                $gone++;
            }
        }

        return $gone;
    }

    private static function path(string $kind, string $name): string
    {
        $hash = hash('sha256', $name);

        return storage_path("app/kept/$kind/".substr($hash, 0, 2)."/$hash");
    }
}
