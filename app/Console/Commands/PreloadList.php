<?php

declare(strict_types=1);

namespace App\Console\Commands;

use Illuminate\Console\Command;
use Illuminate\Contracts\Http\Kernel;
use Illuminate\Http\Request;

/**
 * Writes down which files of libraries the busiest requests need, for bootstrap/preload.php. They are found by asking,
 * as a stranger, without a database.
 */
final class PreloadList extends Command
{
    protected $signature = 'preload:list';

    protected $description = 'Write down which files of libraries php-fpm has ready before a request comes';

    private const ASKED = ['/health', '/api/v1/me', '/api/v1/open/boards/x', '/api/v1/open/maps/x'];

    /** What is for tests or consoles, has no class in it, or hangs on a package that may be another one elsewhere. */
    private const NOT = '#/(composer|phpunit|pestphp|myclabs|phpstan|nunomaduro|nesbot|config)/'
        .'|unctions?\.php|helpers\.php|autoload|/Console/|Carbon#';

    public function handle(Kernel $kernel): int
    {
        foreach (self::ASKED as $path) {
            rescue(static fn () => $kernel->handle(Request::create($path, 'GET', server: [
                'HTTP_ACCEPT' => 'application/json',
            ])), report: false);
        }
        $vendor = base_path('vendor/');
        $files = array_filter(
            get_included_files(),
            static fn (string $f): bool => str_starts_with($f, $vendor) && preg_match(self::NOT, $f) !== 1,
        );
        $var = getenv('PINYARD_VAR') ?: base_path('var/demo');
        file_put_contents("$var/cache/preload.txt", implode("\n", $files)."\n");
        $this->info(count($files).' files');

        return self::SUCCESS;
    }
}
