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
    ->not->toUse(['PinYard\Record\ValueCheck', 'PinYard\Sync\BatchDecider', 'PinYard\Geo\ZOrder', 'Illuminate\Support\Facades\Schema', 'Illuminate\Database\Schema']);

arch('models do not reach up')->expect('App\Models')->not->toUse(['App\Http', 'App\Sync', 'App\Boards', 'App\Publishing']);

arch('only the demo uses the demo')->expect('Demo')->toOnlyBeUsedIn(['Demo', 'App\Console']);

it('has no decision of PHP in TypeScript: screens neither pick looks nor check designs', function (): void {
    $found = [];
    foreach (new RecursiveIteratorIterator(new RecursiveDirectoryIterator(__DIR__.'/../../resources/ts', FilesystemIterator::SKIP_DOTS)) as $file) {
        $code = (string) file_get_contents((string) $file);
        // Styles of records come from the server whole; only the backdrop is styled here.
        if (str_contains($code, "'match', ['get', 'class']") || str_contains($code, 'interleave')) {
            $found[] = (string) $file;
        }
    }
    expect($found)->toBe([]);
});
