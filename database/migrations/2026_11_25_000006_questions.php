<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** The questions that a programme must answer. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('questions', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->unsignedSmallInteger('position');
            $table->string('text', 200);
            $table->string('note', 500);
            $table->json('fields')->comment('layer and key of each field that can answer it');
            $table->json('tile')->nullable()->comment('board and tile that show the answer');
        });
    }
};
