<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Models\User;
use Illuminate\Console\Command;
use Illuminate\Support\Str;

/** An empty yard needs one person who can sign in; the password is made up and shown once. */
final class FirstAccount extends Command
{
    public const EMAIL = 'coordinator@example.test';

    protected $signature = 'demo:first-account';

    protected $description = 'Make the first account of an empty yard';

    public function handle(): int
    {
        if (User::query()->where('email', config('app.demo_coordinator'))->exists()) {
            $this->error(
                'This copy holds the demo, with accounts that everybody knows. bin/reset-demo throws it away; or '
                    .'use another folder (PINYARD_VAR).',
            );

            return self::FAILURE;
        }
        if (! User::query()->exists()) {
            $password = Str::password(16, symbols: false);
            User::query()->create(['name' => 'Coordinator', 'email' => self::EMAIL, 'password' => $password]);
            $this->line('First account: '.self::EMAIL.", password $password (shown this once)");
        }

        return self::SUCCESS;
    }
}
