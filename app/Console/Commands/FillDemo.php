<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\Programme;
use Demo\NestPatrol;
use Illuminate\Console\Command;

final class FillDemo extends Command
{
    protected $signature = 'demo:fill';

    protected $description = 'Fill the demo: the Halcyon Cays and their Nest Patrol (does nothing where it is there already)';

    public function handle(): int
    {
        if (! Programme::query()->where('name', NestPatrol::NAME)->exists()) {
            $this->line('· filling the demo');
            NestPatrol::fill();
        }

        return self::SUCCESS;
    }
}
