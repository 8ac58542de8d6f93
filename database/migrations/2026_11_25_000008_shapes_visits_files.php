<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * Lines and areas in history, layers of visits, slots for files, and what a receiver told, in layers that there are
 * already.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('layers', function (Blueprint $table): void {
            $table->foreignId('visits_of')->nullable()->after('programme_id')->constrained('layers')->cascadeOnDelete();
            $table->boolean('is_area')->default(false)->comment('its records are areas today');
            $table->boolean('has_shapes')->default(false)->comment('its table has room for lines and areas');
        });
        Schema::table('record_history', function (Blueprint $table): void {
            $table->double('altitude')->nullable()->after('lat');
        });
        DB::statement('alter table record_history add column shape mediumblob null after altitude');
        Schema::table('attachments', function (Blueprint $table): void {
            $table->string('slot', 40)->nullable()->after('position')->comment('null for photos at large');
        });
        foreach (DB::table('layers')->pluck('id') as $id) {
            Schema::table("records_$id", function (Blueprint $table): void {
                $table->double('altitude')->nullable()->comment('metres');
                $table->unsignedSmallInteger('satellites')->nullable();
                $table->string('fix_type', 10)->nullable();
                $table->dateTime('fix_at')->nullable();
            });
        }
    }
};
