<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * What was written to a layer's records, in the transaction that wrote it: the change numbers it took, why and by whom.
 * Whoever listens hears of each, though the process was killed right after the commit; and it stands for the history of
 * what changed very many records at once. Beside it, what became of the calculated values of single records.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('record_changes', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('from_number')->comment('its records have the change numbers after this one');
            $table->unsignedBigInteger('to_number');
            $table->string('cause', 16);
            $table->unsignedBigInteger('user_id')->nullable();
            $table->unsignedInteger('design_version');
            $table->unsignedBigInteger('run')->nullable()->comment('the same for all parts of one long work');
            $table->boolean('is_range')->comment('too many records to name, or all of them');
            $table->json('fields')->nullable()->comment('keys of the fields that were worked out or moved');
            $table
                ->mediumText('records')
                ->nullable()
                ->comment('JSON: record to the version that it had; 0 for a new one');
            $table->dateTime('made_at', 3);
            $table->dateTime('heard_at', 3)->nullable()->index();
            $table->index(['layer_id', 'is_range', 'to_number']);
        });
        Schema::create('record_workings', function (Blueprint $table): void {
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->binary('record_id', 16, true);
            $table->unsignedBigInteger('change_number');
            $table->string('cause', 16);
            $table->unsignedBigInteger('user_id')->nullable();
            $table->json('was')->comment('calculated values before, by key');
            $table->dateTime('made_at', 3);
            $table->primary(['layer_id', 'record_id', 'change_number']);
        });
    }
};
