<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Choice lists that several fields of a programme share; each design keeps a copy, so that it stays whole. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('choice_lists', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->string('title', 120);
            $table->unsignedInteger('version')->default(1);
            $table->longText('choices');
            $table->timestamps();
        });
    }
};
