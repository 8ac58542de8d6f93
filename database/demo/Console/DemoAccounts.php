<?php

declare(strict_types=1);

namespace Demo\Console;

use App\Models\Board;
use App\Models\Map;
use App\Models\Programme;
use Demo\NestPatrol;
use Illuminate\Console\Command;

final class DemoAccounts extends Command
{
    protected $signature = 'demo:accounts';

    protected $description = 'Print the addresses and accounts of the demo';

    public function handle(): int
    {
        $programme = Programme::query()->where('name', NestPatrol::NAME)->first();
        if ($programme === null) {
            return self::SUCCESS;
        }
        $url = config('app.url');
        $map = Map::query()->whereBelongsTo($programme)->whereNotNull('link_token')->orderBy('id')->first();
        $board = Board::query()->whereBelongsTo($programme)->whereNotNull('link_token')->orderBy('id')->first();
        $this->line("  Desk        $url/desk     ".NestPatrol::COORDINATOR);
        $this->line("  Field app   $url/field    ".NestPatrol::CREW);
        $this->line('  Password of both: '.NestPatrol::PASSWORD);
        $this->line("  Public map  $url/m/{$map?->link_token}");
        $this->line("  Board       $url/b/{$board?->link_token}");
        $this->line("  Parts       $url/kit");
        $this->line('');

        return self::SUCCESS;
    }
}
