<?php

declare(strict_types=1);

namespace App\Processes;

use Illuminate\Support\Facades\File;

/**
 * The application's own commands, for a process of their own. What is compiled of them is kept in files, for such a
 * process does little and ends: most of its time would go into reading the framework.
 */
final class OwnCommand
{
    /**
     * @param  list<string>  $words  the command and what comes after it
     * @param  list<string>  $settings  of PHP, such as `memory_limit=256M`
     * @return list<string>
     */
    public static function words(array $words, array $settings = []): array
    {
        $kept = storage_path('framework/code');
        File::ensureDirectoryExists($kept, 0o700);
        // PHP does not begin at all with a folder that it can't write to.
        $cache = is_writable($kept) ? ["opcache.file_cache=$kept"] : [];
        // Alone they are quicker, but what compiles further (JIT) needs the memory too. It keeps nothing by itself, and
        // finds what others have kept.
        if ($cache !== [] && preg_grep('/^opcache\.jit/', $settings) === []) {
            $cache[] = 'opcache.file_cache_only=1';
        }
        $all = [];
        foreach (['opcache.enable_cli=1', ...$cache, ...$settings] as $setting) {
            array_push($all, '-d', $setting);
        }

        return [self::php(), ...$all, base_path('artisan'), ...$words];
    }

    /** PHP for a process of its own, also where this one is php-fpm's. */
    private static function php(): string
    {
        return PHP_SAPI === 'cli' ? PHP_BINARY : 'php';
    }
}
