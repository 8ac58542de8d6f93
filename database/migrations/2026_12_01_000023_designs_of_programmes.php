<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * A number that is drawn anew whenever a design of a programme becomes another: what is kept of designs is kept under
 * it. And an index by author in every layer's table, for those who see their own records alone.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('programmes', function (Blueprint $table): void {
            $table->unsignedBigInteger('designs')->default(0);
        });
        DB::statement('update programmes set designs = 1 + floor(rand() * 4611686018427387904)');
        foreach (DB::table('layers')->pluck('id') as $id) {
            if (Schema::hasTable("records_$id") && ! Schema::hasIndex("records_$id", 'own')) {
                Schema::table(
                    "records_$id",
                    fn (Blueprint $table) => $table->index(['created_by', 'change_number'], 'own'),
                );
            }
        }
    }
};
