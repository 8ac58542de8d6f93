<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        // What is told of places where that can't be asked of the database: worked out from records, and kept.
        Schema::create('told_places', static function (Blueprint $table): void {
            $table->unsignedBigInteger('of_layer');
            $table->string('of_way', 24)->charset('ascii')->comment('cells of so many metres, areas of which layer');
            $table->binary('of_record', 16, true);
            $table->unsignedBigInteger('of_change')->comment('change number of the record that it was worked out from');
            $table->double('told_lon')->nullable();
            $table->double('told_lat')->nullable();
            $table->bigInteger('told_z')->nullable();
            $table->geometry('told_shape')->nullable();
            $table->primary(['of_layer', 'of_way', 'of_record']);
            $table->foreign('of_layer')->references('id')->on('layers')->cascadeOnDelete();
        });
        Schema::create('told_places_until', static function (Blueprint $table): void {
            $table->unsignedBigInteger('of_layer');
            $table->string('of_way', 24)->charset('ascii');
            $table->unsignedBigInteger('until')->comment('change number of the layer');
            $table->string('areas', 60)->charset('ascii')->comment('as of which state of the areas');
            $table->primary(['of_layer', 'of_way']);
            $table->foreign('of_layer')->references('id')->on('layers')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('told_places_until');
        Schema::dropIfExists('told_places');
    }
};
