<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * History says what was done: add, change, delete, restore. A design keeps which choices it moved, for phones that are
 * still out.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('record_history', function (Blueprint $table): void {
            $table->string('kind', 10)->default('add')->after('version');
        });
        Schema::table('layer_designs', function (Blueprint $table): void {
            $table->json('moves')->nullable()->comment('choices that this version moved, by field key: code to code');
        });
    }
};
