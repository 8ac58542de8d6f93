<?php

declare(strict_types=1);

namespace Demo\Console;

use App\Console\Commands\FirstAccount;
use App\Models\Programme;
use App\Models\User;
use Demo\NestPatrol;
use Illuminate\Console\Command;

final class FillDemo extends Command
{
    protected $signature = 'demo:fill';

    protected $description = 'Fill the demo (does nothing where it is there already)';

    public function handle(): int
    {
        if (! Programme::query()->where('name', NestPatrol::NAME)->exists()) {
            if (
                User::query()->where('email', 'not like', '%@example.test')->exists() ||
                User::query()->where('email', FirstAccount::EMAIL)->exists()
            ) {
                $this->error(
                    'This copy holds people of its own. The demo has accounts with a password that everybody '
                        .'knows, so it is never put beside them: use another folder (PINYARD_VAR).',
                );

                return self::FAILURE;
            }
            $this->line('· filling the demo');
            NestPatrol::fill();
        }

        return self::SUCCESS;
    }
}
