<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Which file counts a large layer by bits, and as of which of its changes. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('layer_bits', static function (Blueprint $table): void {
            $table->foreignId('layer_id')->primary()->constrained()->cascadeOnDelete();
            // Drawn anew each time, so that no database ever comes upon the file of another, or of another day of it.
            $table->char('token', 32)->charset('ascii')->nullable()->comment('null: too few records for it');
            $table->unsignedBigInteger('as_of')->comment('change number of the layer');
            $table->unsignedInteger('design_version');
            $table->string('time_zone', 64);
            $table->unsignedBigInteger('seen')->comment('change number when last looked at');
            $table->dateTime('built_at');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('layer_bits');
    }
};
