<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Questions that whoever looks at a map can ask of it. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('maps', static function (Blueprint $table): void {
            $table->json('searches')->nullable()->after('viewpoints');
        });
    }

    public function down(): void
    {
        Schema::table('maps', static fn (Blueprint $table) => $table->dropColumn('searches'));
        DB::table('map_layers')->whereNotIn('use', ['shown', 'counted', 'share'])->delete();
    }
};
