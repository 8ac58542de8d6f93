<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Layer;
use App\Recalculation\Recalculate;
use App\Records\Cause;
use Illuminate\Console\Command;

/**
 * Works out anew what changes with the day, so that boards and filters count by today's values. Runs every hour: days
 * begin by each programme's clock.
 */
final class RefreshFormulas extends Command
{
    protected $signature = 'formulas:refresh';

    protected $description = 'Works out calculated fields that depend on the date';

    public function handle(): int
    {
        foreach (Layer::query()->with('programme')->lazyById(50) as $layer) {
            $keys = array_keys(array_filter($layer->design()->rules->formulas, static fn ($f): bool => $f->changes));
            if ($keys !== [] && (int) now($layer->programme->time_zone)->format('G') === 0) {
                Recalculate::dispatch($layer->id, array_map(strval(...), $keys), Cause::Day);
            }
        }

        return self::SUCCESS;
    }
}
