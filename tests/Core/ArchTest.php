<?php

declare(strict_types=1);

use Tests\UsedNames;

/**
 * Which files of a folder name something that they may not.
 *
 * @param  list<string>  $names  classes, namespaces and functions
 * @return list<string>
 */
function naming(string $folder, array $names): array
{
    $found = [];
    foreach (phpFiles($folder) as $file => $code) {
        foreach (UsedNames::of($code) as $used) {
            foreach ($names as $name) {
                if ($used === $name || str_starts_with($used, $name.'\\')) {
                    $found[] = "$folder/$file: $used";
                }
            }
        }
    }

    return $found;
}

it('reads what a file names', function (): void {
    $code = <<<'PHP'
        <?php
        namespace App\Maps;
        use Illuminate\Support\Facades\DB;
        use PinYard\Geo\{Box, Point as Spot};
        use function PinYard\Geo\metres;
        /** {@see \App\Hidden\Never} */
        final class Drawn extends Sheets\Sheet {
            use Quietly;
            public function &dump(Spot $at): \App\Layers\Layer
            {
                $this->die(); Spot::env(1); new request();
                return config('a');
            }
        }
        exit(1);
        PHP;
    expect(UsedNames::of($code))->toEqualCanonicalizing([
        'Illuminate\Support\Facades\DB',
        'PinYard\Geo\Box',
        'PinYard\Geo\Point',
        'PinYard\Geo\metres',
        'Sheets\Sheet',
        'Quietly',
        'App\Layers\Layer',
        'config',
        'exit',
    ]);
});

it('lets no room name what is above it or beside the way', function (string $folder, array $names): void {
    $gone = array_filter($names, static fn (string $name): bool => preg_match('/^(App|PinYard)\\\\/', $name) === 1
        && ! class_exists($name)
        && ! is_dir(__DIR__.'/../../'.strtr($name, ['App\\' => 'app/', 'PinYard\\' => 'core/', '\\' => '/'])));
    // What has another name by now could not be found.
    expect($gone)->toBe([])->and(naming($folder, $names))->toBe([]);
})->with([
    'the job knows nothing of Laravel, of SQL, of HTTP or of the application' => [
        'core',
        ['Illuminate', 'App', 'Demo', 'PDO', 'Symfony\Component\HttpFoundation', 'OpenApi', 'Intervention'],
    ],
    'the job leaves nothing lying about' => [
        'core',
        ['dd', 'dump', 'var_dump', 'die', 'exit', 'env', 'config', 'request'],
    ],
    'controllers take in and hand on; rules, SQL and tables are elsewhere' => [
        'app/Http/Controllers',
        [
            'PinYard\Record\ValueCheck',
            'PinYard\Sync\BatchDecider',
            'PinYard\Geo\ZOrder',
            'Illuminate\Support\Facades\Schema',
            'Illuminate\Database\Schema',
        ],
    ],
    'models do not reach up' => ['app/Models', ['App\Http', 'App\Sync', 'App\Boards', 'App\Publish']],
    'only the demo uses the demo: the application' => ['app', ['Demo']],
    'only the demo uses the demo: stand-ins' => ['stand-ins', ['Demo']],
    ...array_map(
        // What a person or a link is told begins at the one reader.
        static fn (string $room): array => ["app/$room", ['App\Layers\LayerRows']],
        ['Http', 'Policies', 'Boards', 'Maps', 'Publish', 'Plan', 'Programmes', 'Export', 'Files', 'People', 'Rights',
            'Trails'],
    ),
]);

it('is strict wherever the job is worked out', function (): void {
    $loose = array_filter(
        phpFiles('core'),
        static fn (string $code): bool => ! str_contains($code, 'declare(strict_types=1);'),
    );
    expect(array_keys($loose))->toBe([]);
});

it('has one writer of records: nobody else names a layer’s table in a statement that changes it', function (): void {
    // Its own files; making tables; conditions, which change nothing; landing a file and filling a field, which write
    // by a statement of their own within the writer.
    $allowed = [
        'Records/RecordWriter.php',
        'Layers/LayerTable.php',
        'Layers/LayerRows.php',
        'Layers/VisitSql.php',
        'Layers/FilterSql.php',
        'Import/LandImport.php',
        'Import/UndoImport.php',
        'Fills/RunFill.php',
        'Recalculation/AreasInBulk.php',
        'Console/Commands/Bench.php',
        'Console/Commands/BenchExchange.php',
        'Console/Commands/BenchBoards.php',
        'Console/Commands/BenchMaps.php',
        'Console/Commands/BenchSync.php',
    ];
    $found = [];
    foreach (phpFiles('app') as $file => $code) {
        $tables =
            preg_match(
                '/(?<!fill)(?<!changes)->table\(\)/',
                preg_replace('/\$(fill|changes|this->fill)->table\(\)|upload->table\(\)/', '', $code),
            ) === 1;
        $writes =
            preg_match(
                '/LayerRows::\w+\([^;]*->(insert|insertOrIgnore|update|upsert|delete|increment|decrement|truncate)\(/',
                $code,
            ) === 1;
        $numbers = preg_match('/->change_number\s*(\+\+|\+=|=[^=>])|\+\+\$\w+->change_number/', $code) === 1;
        if (($tables || $writes || $numbers) && ! in_array($file, $allowed, true)) {
            $found[] = $file;
        }
    }
    expect($found)->toBe([]);
    // What those few do stands within the writer, which hands out the numbers.
    foreach (
        ['Import/LandImport.php', 'Import/UndoImport.php', 'Fills/RunFill.php',
            'Recalculation/AreasInBulk.php'] as $file
    ) {
        expect(file_get_contents(__DIR__."/../../app/$file"))->toMatch(
            '/RecordWriter::locked|RecordWriter \$writer/',
        );
    }
});

it(
    'makes, alters and drops tables of layers in one place, which refuses to do it within a transaction',
    function (): void {
        $found = array_keys(
            array_filter(
                phpFiles('app'),
                static fn (string $code): bool => preg_match(
                    '/Schema::(create|table|drop|dropIfExists|rename)\(/',
                    $code,
                ) === 1,
            ),
        );
        sort($found);
        // A fill has a table of its own, which it makes before it takes any lock.
        expect($found)
            ->toBe([
                'Console/Commands/Bench.php',
                'Fills/RunFill.php',
                'Layers/LayerTable.php',
                'Programmes/EmptyBin.php',
            ])
            ->and(
                substr_count(
                    (string) file_get_contents(__DIR__.'/../../app/Layers/LayerTable.php'),
                    'self::outsideOfTransactions();',
                ),
            )
            ->toBe(4);
    },
);

it('has no circles between its rooms', function (string $folder, string $prefix): void {
    $uses = [];
    foreach (phpFiles($folder) as $file => $code) {
        $room = str_contains($file, '/') ? explode('/', $file)[0] : '';
        preg_match_all(
            '/\b'.preg_quote($prefix, '/').'([A-Z]\w*)\\\\[A-Z]/',
            (string) preg_replace('#/\*\*.*?\*/#s', '', $code),
            $found,
        );
        foreach ($found[1] as $other) {
            if ($other !== $room && $room !== '') {
                $uses[$room][$other] = true;
            }
        }
    }
    // Models know what is kept of designs; who provides for all others may know all others.
    unset($uses['Providers']);
    $reaches = static function (string $from, string $to, array $seen = []) use (&$reaches, $uses): bool {
        foreach (array_keys($uses[$from] ?? []) as $next) {
            if ($next === $to || (! isset($seen[$next]) && $reaches($next, $to, $seen + [$next => true]))) {
                return true;
            }
        }

        return false;
    };
    $circles = array_values(
        array_filter(array_keys($uses), static fn (string $room): bool => $reaches($room, $room, [$room => true])),
    );
    expect($circles)->toBe([]);
})->with([['app', 'App\\'], ['core', 'PinYard\\']]);

it('has no decision of PHP in TypeScript: screens neither pick looks nor check designs', function (): void {
    $found = [];
    foreach (
        new RecursiveIteratorIterator(
            new RecursiveDirectoryIterator(__DIR__.'/../../resources/ts', FilesystemIterator::SKIP_DOTS),
        ) as $file
    ) {
        $code = (string) file_get_contents((string) $file);
        // Styles of records come from the server whole; only the backdrop is styled here.
        if (str_contains($code, "'match', ['get', 'class']") || str_contains($code, 'interleave')) {
            $found[] = (string) $file;
        }
    }
    expect($found)->toBe([]);
});
