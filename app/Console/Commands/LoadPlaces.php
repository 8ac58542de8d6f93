<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Import\LoadWorldPlaces;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;

/** The world's towns for the gazetteer; loaded once, in the background. */
final class LoadPlaces extends Command
{
    protected $signature = 'places:load {--again : even if they are there}';

    protected $description = 'Fill the gazetteer with the towns of the world';

    public function handle(): int
    {
        if ($this->option('again') || ! DB::table('places')->where('source', 'world')->exists()) {
            LoadWorldPlaces::dispatch()->onQueue('slow');
        }

        return self::SUCCESS;
    }
}
