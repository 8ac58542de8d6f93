<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Planned pieces of field work: who goes, where, when, for what. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('outings', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->foreignId('crew_id')->nullable()->constrained()->nullOnDelete();
            $table->string('title', 120);
            $table->text('note');
            $table->date('starts_on');
            $table->date('ends_on');
            $table->json('area')->nullable()->comment('west, south, east, north; null for the whole programme');
            $table->json('layers');
            $table->string('target', 10)->comment('none, records or visits');
            $table->unsignedInteger('count')->nullable()->comment('records wanted');
            $table->json('checklist');
            $table->timestamps();
        });
    }
};
