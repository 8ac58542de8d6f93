<?php

declare(strict_types=1);

arch('the job knows nothing of Laravel, of SQL, of HTTP or of the application')
    ->expect('PinYard')
    ->not->toUse(['Illuminate', 'App', 'Demo', 'PDO', 'Symfony\Component\HttpFoundation', 'OpenApi', 'Intervention']);

arch('the job is strict and leaves nothing lying about')
    ->expect('PinYard')
    ->toUseStrictTypes()
    ->not->toUse(['dd', 'dump', 'var_dump', 'die', 'env', 'config', 'request']);

arch('controllers take in and hand on; rules, SQL and tables are elsewhere')
    ->expect('App\Http\Controllers')
    ->not->toUse([
        'PinYard\Record\ValueCheck',
        'PinYard\Sync\BatchDecider',
        'PinYard\Geo\ZOrder',
        'Illuminate\Support\Facades\Schema',
        'Illuminate\Database\Schema',
    ]);

arch('what a person or a link is told begins at the one reader')
    ->expect('App\Layers\LayerRows')
    ->not->toBeUsedIn([
        'App\Http',
        'App\Policies',
        'App\Boards',
        'App\Maps',
        'App\Publish',
        'App\Plan',
        'App\Programmes',
        'App\Export',
        'App\Files',
        'App\People',
        'App\Rights',
        'App\Trails',
    ]);

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

arch('models do not reach up')
    ->expect('App\Models')
    ->not->toUse(['App\Http', 'App\Sync', 'App\Boards', 'App\Publishing']);

arch('only the demo uses the demo')
    ->expect('Demo')
    ->toOnlyBeUsedIn(['Demo']);

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
