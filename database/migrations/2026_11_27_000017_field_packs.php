<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** How large photos leave the phones of a programme; and places are found by where they are, for packs. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('programmes', function (Blueprint $table): void {
            $table
                ->unsignedSmallInteger('photo_edge')
                ->nullable()
                ->default(2560)
                ->comment('longest edge in pixels; null: as they were taken');
        });
        Schema::table('places', function (Blueprint $table): void {
            $table->index(['lat', 'lon']);
        });
    }
};
