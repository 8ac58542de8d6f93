<?php

declare(strict_types=1);

use Illuminate\Routing\Route as OneRoute;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Route;
use PinYard\Design\LayerDesign;
use PinYard\Problem;
use PinYard\Refused;

// Each test makes an application of its own; its connection would stay open until the whole run ends.
pest()
    ->extend(Tests\TestCase::class)
    ->beforeEach(fn () => $this->beforeApplicationDestroyed(fn () => DB::disconnect()))
    ->in('Feature', 'Running');

/** The cases that PHP and TypeScript both run. */
function vectors(string $name): array
{
    return json_decode((string) file_get_contents(__DIR__."/vectors/$name.json"), true, flags: JSON_THROW_ON_ERROR);
}

/**
 * The codes with which something is refused, in order; empty where it is taken.
 *
 * @return list<string>
 */
function refusals(callable $try): array
{
    try {
        $try();
    } catch (Refused $e) {
        return array_map(static fn (Problem $p): string => $p->code, $e->problems);
    }

    return [];
}

/** The layer whose fields the formulas of the vectors read. */
function formulaDesign(): LayerDesign
{
    static $design;

    return $design ??= LayerDesign::fromArray(vectors('formulas')['design']);
}

/** @return list<string> "METHOD uri" of every route there is */
function allRoutes(): array
{
    $names = [];
    foreach (Route::getRoutes() as $route) {
        assert($route instanceof OneRoute);
        foreach (array_diff($route->methods(), count($route->methods()) > 1 ? ['HEAD'] : []) as $method) {
            $names[] = "$method {$route->uri()}";
        }
    }

    return $names;
}

/** @return array<string, string> the PHP code of a folder, by path within it */
function phpFiles(string $folder): array
{
    $root = (string) realpath(__DIR__."/../$folder");
    $files = [];
    foreach (
        new RecursiveIteratorIterator(new RecursiveDirectoryIterator($root, FilesystemIterator::SKIP_DOTS)) as $file
    ) {
        if (str_ends_with((string) $file, '.php')) {
            $files[substr((string) $file, strlen($root) + 1)] = (string) file_get_contents((string) $file);
        }
    }

    return $files;
}
