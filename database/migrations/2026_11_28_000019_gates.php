<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Viewpoints of maps, and the front door of a programme. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('maps', function (Blueprint $table): void {
            $table->json('viewpoints')->nullable()->comment('list of id, title, extent');
        });
        Schema::create('gates', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->unique()->constrained()->cascadeOnDelete();
            $table->json('design')->comment('title, about, colour, what hangs in the gallery');
            $table->boolean('open')->default(false);
            $table->string('link_token', 22)->unique();
            $table->timestamps();
        });
    }
};
