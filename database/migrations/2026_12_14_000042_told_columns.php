<?php

declare(strict_types=1);

use App\Layers\LayerTable;
use App\Layers\ToldColumns;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What blurred places are made of is kept beside each record; they are told where they were told before. */
return new class extends Migration
{
    public function up(): void
    {
        foreach (DB::table('layers')->pluck('id') as $id) {
            $name = "records_$id";
            if (Schema::hasTable($name) && ! Schema::hasColumn($name, ToldColumns::HASH)) {
                LayerTable::inOne($name, static fn (Blueprint $table) => ToldColumns::add($table, (int) $id));
            }
        }
        // All that a list or a box of places asks for, so that rows are found in the order in which they are told.
        if (! Schema::hasIndex('told_places', 'in_order')) {
            Schema::table('told_places', static function (Blueprint $table): void {
                $table->index(['of_layer', 'of_way', 'told_z', 'told_lon', 'told_lat', 'of_change'], 'in_order');
            });
        }
    }
};
