<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What the desk asks whoever made a record, and what came back. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('asked_back', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->binary('record_id', 16, true);
            $table->unsignedBigInteger('to_user')->comment('who made the record');
            $table->unsignedBigInteger('asked_by')->nullable();
            $table->string('text', 500);
            $table->timestamp('asked_at')->useCurrent();
            $table->string('answer', 1000)->nullable();
            $table->timestamp('answered_at')->nullable()->comment('when it was written on the phone');
            $table->timestamp('closed_at')->nullable();
            $table->index(['to_user', 'answered_at', 'closed_at']);
            $table->index(['layer_id', 'record_id']);
        });
    }
};
