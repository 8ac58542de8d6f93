<?php

declare(strict_types=1);

namespace App\Console;

use App\Models\Programme;
use App\Models\Role;
use App\Models\User;

/** Whom and what benches measure with, and how they tell it. */
trait BenchYard
{
    /** @return array{Programme, User} a programme of its own, and who coordinates it */
    private function yard(string $name): array
    {
        $user = User::query()->firstOrCreate(
            ['email' => 'bench@example.test'],
            ['name' => 'Bench', 'password' => bin2hex(random_bytes(8))],
        );
        $programme = Programme::query()->create([
            'name' => $name,
            'purpose' => '',
            'time_zone' => 'UTC',
            'west' => -12,
            'south' => -15,
            'east' => -11,
            'north' => -14,
        ]);
        $programme->members()->create(['user_id' => $user->id, 'role' => Role::Coordinator]);

        return [$programme, $user];
    }

    private function tell(string $what, float $ours, float $raw, float|string|null $limit): void
    {
        $this->line(sprintf(
            '%-66s %8.3f s %8.3f s %6.3f×%s',
            $what,
            $ours,
            $raw,
            $ours / max($raw, 1e-6),
            $limit === null ? '' : " (at most $limit)",
        ));
    }
}
