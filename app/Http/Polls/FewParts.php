<?php

declare(strict_types=1);

namespace App\Http\Polls;

use Illuminate\Config\Repository;
use Illuminate\Container\Container;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Connectors\ConnectionFactory;
use Illuminate\Database\DatabaseManager;
use Illuminate\Support\Facades\Facade;

/** Of the framework its settings, its database and its folders: what it takes to ask whether something has changed. */
final class FewParts extends Container
{
    /**
     * @param  array<string, mixed>  $config  all settings, as they are kept
     * @param  string  $storage  folder of what this copy keeps
     */
    private function __construct(array $config, private readonly string $storage)
    {
        $this->instance('config', new Repository($config));
        // It asks for parts by their keys alone, and so do facades.
        // @phpstan-ignore argument.type
        $this->instance('db', new DatabaseManager($this, new ConnectionFactory($this)));
    }

    /**
     * Does something with these parts in place of all of it, which is as it was before when that is done.
     *
     * @template T
     *
     * @param  array<string, mixed>  $config
     * @param  \Closure(self): T  $work
     * @return T
     */
    public static function in(array $config, string $storage, \Closure $work): mixed
    {
        /** @var Application|null $whole none yet where a request has just come */
        $whole = Facade::getFacadeApplication();
        $parts = new self($config, $storage);
        // As the framework sets it: what is told by the clock is told by the same.
        date_default_timezone_set((string) $parts->make('config')->get('app.timezone', 'UTC'));
        self::standIn($parts, $parts);
        try {
            return $work($parts);
        } finally {
            $parts->make('db')->purge();
            self::standIn($whole instanceof Container ? $whole : null, $whole);
        }
    }

    public function storagePath(string $path = ''): string
    {
        return $path === '' ? $this->storage : "$this->storage/$path";
    }

    public function publicPath(string $path = ''): string
    {
        return dirname(__DIR__, 3).'/public'.($path === '' ? '' : "/$path");
    }

    private static function standIn(?Container $container, mixed $facades): void
    {
        Container::setInstance($container);
        Facade::clearResolvedInstances();
        Facade::setFacadeApplication($facades);
    }
}
