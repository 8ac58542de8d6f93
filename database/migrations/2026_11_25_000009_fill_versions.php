<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * A fill's own table (`fill_<n>`) says which version and which change number each record got by it and by its undo, so
 * neither history nor the index of change numbers need be written for every record. Fills from before wrote their
 * history; they name no versions and are left as they are.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('fills', function (Blueprint $table): void {
            $table->string('kind', 20)->nullable()->after('field')->comment('kind of the field when it was filled');
            $table->unsignedInteger('design_version')->nullable();
            $table->dateTime('written_at', 3)->nullable();
            $table->dateTime('undone_at', 3)->nullable();
            $table
                ->unsignedBigInteger('from_number')
                ->nullable()
                ->comment('its records count as changed with the numbers after this one, in the order of `seq`');
            $table->unsignedBigInteger('numbers')->default(0)->comment('how many it took of them, each time');
            $table->unsignedBigInteger('undone_from')->nullable()->comment('the same for the undo');
        });
        foreach (DB::table('fills')->pluck('id') as $id) {
            if (Schema::hasTable("fill_$id")) {
                Schema::table("fill_$id", function (Blueprint $table): void {
                    $table->unsignedInteger('after_version')->nullable();
                    $table->unsignedInteger('undone_version')->nullable();
                });
            }
        }
    }
};
