<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Where crews have been, if they share it, and where each was last. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('trail_points', function (Blueprint $table): void {
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('user_id');
            $table->dateTime('at', 3);
            $table->binary('device', 16, true);
            $table->double('lon');
            $table->double('lat');
            $table->float('accuracy')->nullable()->comment('metres');
            // The same point twice is one point: a phone may send again what it does not know to have arrived.
            $table->primary(['programme_id', 'user_id', 'at', 'device']);
        });
        Schema::table('members', function (Blueprint $table): void {
            $table->double('last_lon')->nullable();
            $table->double('last_lat')->nullable();
            $table->dateTime('last_place_at')->nullable();
            $table->unsignedTinyInteger('battery')->nullable()->comment('per cent, if the phone tells');
        });
    }
};
