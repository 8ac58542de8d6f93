<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Boards of many kinds of tiles, with pages; visitors pick only where that was opened. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('boards', function (Blueprint $table): void {
            $table->json('pages')->nullable()->comment('titles of its pages; null for one without');
            $table->boolean('visitors_pick')->default(false);
        });
        foreach (DB::table('boards')->get(['id', 'tiles']) as $board) {
            $tiles = array_map(self::anew(...), (array) json_decode((string) $board->tiles, true));
            DB::table('boards')->where('id', $board->id)->update(['tiles' => json_encode($tiles)]);
        }
    }

    /**
     * @param  array<string, mixed>  $tile
     * @return array<string, mixed>
     */
    private static function anew(array $tile): array
    {
        if (($tile['kind'] ?? null) === 'count') {
            $tile['kind'] = 'number';
        }
        if (($tile['kind'] ?? null) === 'breakdown' && isset($tile['field'])) {
            $tile['by'] = ['field' => $tile['field']];
        }
        unset($tile['field']);

        return array_filter($tile, static fn (mixed $v): bool => $v !== null && $v !== false);
    }

    public function down(): void
    {
        Schema::table('boards', function (Blueprint $table): void {
            $table->dropColumn(['pages', 'visitors_pick']);
        });
    }
};
