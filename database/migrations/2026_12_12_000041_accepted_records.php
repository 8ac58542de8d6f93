<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * Who accepted a record as it is, and when. What is there already has been looked at, as far as anybody can say: only
 * what comes from now on waits for somebody.
 */
return new class extends Migration
{
    public function up(): void
    {
        foreach (DB::table('layers')->pluck('id') as $id) {
            $name = "records_$id";
            if (! Schema::hasTable($name) || Schema::hasColumn($name, 'accepted_at')) {
                continue;
            }
            Schema::table($name, static function (Blueprint $table): void {
                $table->dateTime('accepted_at', 3)->nullable()->comment('missing: to be looked at');
                $table->unsignedBigInteger('accepted_by')->nullable()->comment('0: nobody in person');
            });
            DB::statement("update $name set accepted_at = received_at, accepted_by = 0");
        }
        // Files of bits do not know it; they are built anew.
        DB::table('layer_bits')->delete();
    }
};
