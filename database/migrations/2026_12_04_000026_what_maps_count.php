<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * A part of a map reads the layer that it shows and, where it colours areas by records in them, the one that it counts.
 * A map may have a table beside it.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('map_layers', static function (Blueprint $table): void {
            $table->string('use', 8)->default('shown')->after('part');
            // The foreign key of the map needs an index while the primary one is made anew.
            $table->index('map_id', 'map_layers_map');
            $table->dropPrimary();
            $table->primary(['map_id', 'part', 'use']);
            $table->dropIndex('map_layers_map');
        });
        Schema::table('maps', static function (Blueprint $table): void {
            $table->json('beside')->nullable()->after('viewpoints');
        });
    }

    public function down(): void
    {
        Schema::table('maps', static fn (Blueprint $table) => $table->dropColumn('beside'));
        DB::table('map_layers')->where('use', '!=', 'shown')->delete();
        Schema::table('map_layers', static function (Blueprint $table): void {
            $table->index('map_id', 'map_layers_map');
            $table->dropPrimary();
            $table->primary(['map_id', 'part']);
            $table->dropIndex('map_layers_map');
            $table->dropColumn('use');
        });
    }
};
