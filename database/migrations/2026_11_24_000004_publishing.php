<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Slices, maps and boards. Audience: `programme`, or `link` for anyone who has it. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('slices', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->string('name', 190);
            $table->longText('filter');
            $table->timestamps();
        });
        Schema::create('maps', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->string('title', 120);
            $table->longText('look');
            $table->longText('card');
            $table->json('extent');
            $table->string('audience', 20);
            $table->string('link_token', 40)->nullable()->unique();
            $table->timestamps();
        });
        Schema::create('boards', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->string('title', 120);
            $table->longText('tiles');
            $table->string('audience', 20);
            $table->string('link_token', 40)->nullable()->unique();
            $table->timestamps();
        });
    }
};
