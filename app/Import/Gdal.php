<?php

declare(strict_types=1);

namespace App\Import;

use App\Processes\LimitedProcess;
use PinYard\Import\Projection;
use PinYard\Refused;
use Symfony\Component\Process\Process;

/**
 * GDAL's tools as child processes. What they read is not trusted: one driver allowed for each file, nothing fetched
 * from a network, limited time, memory and size of what they write.
 */
final class Gdal implements Projection
{
    private const SECONDS = 900;

    private const MEMORY_KB = 3_000_000;

    /** To look at a file, before anything of it is read. */
    private const LOOK_SECONDS = 60;

    /** Nothing of these may be asked of a network, and no file may name another. */
    private const ENVIRONMENT = [
        'CPL_CURL_ENABLE_VSIMEM' => 'NO',
        'GDAL_HTTP_TIMEOUT' => '1',
        'GDAL_HTTP_CONNECTTIMEOUT' => '1',
        'http_proxy' => 'http://127.0.0.1:9',
        'https_proxy' => 'http://127.0.0.1:9',
        'PROJ_NETWORK' => 'OFF',
        'GML_SKIP_RESOLVE_ELEMS' => 'ALL',
        'SHAPE_RESTORE_SHX' => 'YES',
        'OGR_GEOJSON_MAX_OBJ_SIZE' => '0',
        'LC_ALL' => 'C.UTF-8',
    ];

    /**
     * @param  list<string>  $words
     * @param  string|list<string>|null  $driver  that may read or write, beside that of CSV
     * @param  \Closure(): bool|null  $stop
     *
     * @throws Refused with what GDAL says of the file
     */
    public static function run(
        array $words,
        string|array|null $driver = null,
        ?\Closure $stop = null,
        mixed $input = null,
        int $seconds = self::SECONDS,
    ): string {
        $process = (new LimitedProcess($seconds, self::MEMORY_KB))->run(
            $words,
            self::ENVIRONMENT + ($driver === null ? [] : ['OGR_SKIP' => self::others(...(array) $driver)]),
            $stop,
            $input,
        );
        if (! $process->isSuccessful()) {
            throw Refused::because('intake_geo_unreadable', 'file', null, [
                'reason' => self::reason($process->getErrorOutput()),
            ]);
        }

        return $process->getOutput();
    }

    /**
     * @param  \Closure(): bool|null  $stop
     * @return list<array{name: string, geometry: string, rows: int, system: string|null, strange: bool,
     *     extent: array{float, float, float, float}|null}>
     */
    public static function tables(string $path, string $driver, ?\Closure $stop = null): array
    {
        $said = self::run(
            ['ogrinfo', '-ro', '-so', '-al', '-noextent', $path],
            $driver,
            $stop,
            null,
            self::LOOK_SECONDS,
        );
        $tables = [];
        foreach (preg_split('/^Layer name: /m', $said) ?: [] as $i => $part) {
            if ($i === 0) {
                continue;
            }
            preg_match('/^(.*)$/m', $part, $name);
            preg_match('/^Geometry: (.*)$/m', $part, $geometry);
            preg_match('/^Feature Count: (\d+)$/m', $part, $count);
            $tables[] = [
                'name' => $name[1] ?? '',
                'geometry' => trim($geometry[1] ?? 'None'),
                'rows' => (int) ($count[1] ?? 0),
                'system' => self::system($part),
                'strange' => self::isStrange($part),
                'extent' => null,
            ];
        }

        return $tables;
    }

    /**
     * @param  \Closure(): bool|null  $stop
     * @return array{float, float, float, float}|null
     */
    public static function extent(string $path, string $driver, string $table, ?\Closure $stop = null): ?array
    {
        $said = self::run(['ogrinfo', '-ro', '-so', $path, $table], $driver, $stop, null, self::LOOK_SECONDS);

        return preg_match('/^Extent: \(([-\d.e+]+), ([-\d.e+]+)\) - \(([-\d.e+]+), ([-\d.e+]+)\)/m', $said, $m) === 1
            ? [(float) $m[1], (float) $m[2], (float) $m[3], (float) $m[4]]
            : null;
    }

    /** All drivers but the one that is allowed to read, and the one that writes what it read. */
    private static function others(string ...$drivers): string
    {
        static $all;
        $all ??=
            preg_match_all(
                '/^  (.+?) -[\w, ]*vector[\w, ]*- /m',
                (new Process(['ogrinfo', '--formats']))->mustRun()->getOutput(),
                $m,
            ) > 0
                ? $m[1]
                : [];

        return implode(',', array_diff($all, [...$drivers, 'CSV']));
    }

    /** What a reference system is called; null where GDAL does not know it. */
    public static function systemName(string $system): ?string
    {
        try {
            $said = self::run(['gdalsrsinfo', '-o', 'wkt1', $system]);
        } catch (Refused) {
            return null;
        }

        return preg_match('/(?:PROJCS|GEOGCS|COMPD_CS)\["([^"]+)"/', $said, $m) === 1
            ? str_replace('_', ' ', $m[1])
            : null;
    }

    public function degrees(array $pairs, string $system): array
    {
        if ($pairs === []) {
            return [];
        }
        $input = '';
        foreach ($pairs as [$x, $y]) {
            $input .= sprintf("%.12g %.12g\n", $x, $y);
        }
        $process = new Process(
            ['gdaltransform', '-s_srs', $system, '-t_srs', 'OGC:CRS84', '-output_xy'],
            null,
            self::ENVIRONMENT,
            $input,
            120,
        );
        $process->run();
        $lines = explode("\n", rtrim($process->getOutput(), "\n"));
        if (! $process->isSuccessful() || count($lines) !== count($pairs)) {
            // A place outside the system's world stops the tool's output from matching; then they are asked one by one.
            return count($pairs) === 1
                ? [null]
                : array_merge(
                    $this->degrees(array_slice($pairs, 0, intdiv(count($pairs), 2)), $system),
                    $this->degrees(array_slice($pairs, intdiv(count($pairs), 2)), $system),
                );
        }

        return array_map(static function (string $line): ?array {
            $numbers = explode(' ', trim($line));

            return count($numbers) >= 2 &&
                is_numeric($numbers[0]) &&
                is_numeric($numbers[1]) &&
                is_finite((float) $numbers[0]) &&
                is_finite((float) $numbers[1])
                ? [(float) $numbers[0], (float) $numbers[1]]
                : null;
        }, $lines);
    }

    /**
     * Whether a file names a system that has no place on earth: of an engineer's own, or without any name that tells.
     */
    private static function isStrange(string $part): bool
    {
        return preg_match('/^Layer SRS WKT:\n\s*(?:ENGCRS|ENGINEERINGCRS|LOCAL_CS)\[/m', $part) === 1 ||
            (preg_match(
                '/^Layer SRS WKT:\n\s*(?:PROJCRS|GEOGCRS|PROJCS|GEOGCS|BOUNDCRS|COMPOUNDCRS)\['
                    .'"(?:unknown|unnamed|undefined|unspecified'
                    .'|undefined geographic srs|undefined cartesian srs)[^"]*"/mi',
                $part,
            ) === 1 &&
                preg_match('/ID\["EPSG",\d+\]\]\s*\n(?:Data axis|[A-Za-z_0-9 ]+ ?[:=])/', $part) !== 1);
    }

    private static function system(string $part): ?string
    {
        if (self::isStrange($part)) {
            return null;
        }
        if (
            preg_match('/^Layer SRS WKT:\n(.*?)\n(?:Data axis|[A-Za-z_0-9 ]+ ?[:=])/ms', $part, $m) !== 1 ||
            str_starts_with(trim($m[1]), '(unknown)') ||
            trim($m[1]) === ''
        ) {
            return null;
        }
        preg_match('/(?:PROJCRS|GEOGCRS|PROJCS|GEOGCS|BOUNDCRS|COMPOUNDCRS|ENGCRS|LOCAL_CS)\["([^"]+)"/', $m[1], $name);

        return str_replace('_', ' ', $name[1] ?? 'unnamed');
    }

    /** The first thing it complains of, without paths of this machine. */
    private static function reason(string $errors): string
    {
        foreach (explode("\n", $errors) as $line) {
            $line = trim(
                (string) preg_replace(['/^(ERROR|FAILURE|Warning) ?\d*:\s*/', '#(/[\w.-]+){2,}/?#'], ['', ''], $line),
            );
            if ($line !== '') {
                return mb_substr(mb_scrub($line), 0, 160);
            }
        }

        return '';
    }
}
