<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Files that are brought in, their rows that wait, places known by name, and files that go out. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('imports', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->foreignId('layer_id')->nullable()->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->nullable()->constrained()->nullOnDelete();
            $table
                ->string('state', 12)
                ->comment('sending, reading, review, landing, done, failed, cancelled or undone');
            $table->boolean('made_layer')->default(false);
            $table->json('files')->comment('name, bytes, sha256 of each');
            $table->json('source')->nullable()->comment('kind of file, its tables, its reference system');
            $table->json('reading')->nullable()->comment('columns as they were found');
            $table->json('settings')->nullable();
            $table->json('counts')->nullable();
            $table->json('problems')->nullable();
            $table
                ->binary('prefix', 10, true)
                ->nullable()
                ->comment('the ids of its records: this, and the number of the row in six bytes');
            $table->timestamp('landed_at')->nullable();
            $table->timestamps();
            $table->index(['layer_id', 'prefix']);
        });
        Schema::create('import_rows', function (Blueprint $table): void {
            $table->foreignId('import_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('row');
            $table->json('cells');
            $table->json('problems');
            $table->json('place')->nullable()->comment('places that may be meant, or the one that was chosen');
            $table->boolean('mended')->default(false);
            $table->primary(['import_id', 'row']);
        });
        Schema::create('import_changes', function (Blueprint $table): void {
            $table->foreignId('import_id')->constrained()->cascadeOnDelete();
            $table->binary('record_id', 16, true);
            $table->unsignedInteger('version')->comment('that the change made');
            $table->primary(['import_id', 'record_id']);
        });
        Schema::create('places', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->nullable()->constrained()->cascadeOnDelete();
            $table->string('source', 40)->comment('where it came from: world, demo, or a layer');
            $table->string('name', 160);
            $table->string('plain', 160)->comment('as PlaceName has it');
            $table->string('sound', 24)->comment('metaphone of it');
            $table->string('of', 160)->default('');
            $table->double('lon');
            $table->double('lat');
            $table->index(['plain']);
            $table->index(['sound']);
            $table->fullText(['plain']);
        });
        Schema::create('exports', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('state', 12)->comment('working, done, failed or cancelled');
            $table->json('settings');
            $table->string('name', 160);
            $table->unsignedBigInteger('records')->default(0);
            $table->unsignedBigInteger('bytes')->default(0);
            $table->timestamps();
        });
    }
};
