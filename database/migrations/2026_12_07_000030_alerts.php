<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** When somebody is to be told, what is so of that now, and what was told to whom. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('alerts', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->string('name', 120);
            $table->json('plan');
            $table->boolean('paused')->default(false);
            $table->char('seen', 64)->nullable()->comment('names all that it was last worked out from');
            $table->boolean('waits')->default(false)->comment('has cases that were not told yet');
            $table->text('trouble')->nullable()->comment('why it cannot be worked out');
            $table->timestamps();
        });
        Schema::create('alert_watches', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('alert_id')->constrained()->cascadeOnDelete();
            $table->char('way', 64)->comment('a way of seeing');
            $table->longText('known');
            $table->longText('waiting');
            $table->timestamp('told_at')->nullable();
            $table->unique(['alert_id', 'way']);
        });
        Schema::create('notices', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('alert_id')->constrained()->cascadeOnDelete();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('layer_id')->nullable()->comment('whose records it tells of');
            $table->text('text');
            $table->json('records')->comment('the first of them: id and name');
            $table->string('path', 190)->comment('where at the desk it is seen');
            $table->timestamp('made_at')->useCurrent();
            $table->timestamp('read_at')->nullable();
            $table->boolean('on_phone');
            $table->string('mail', 4)->default('no')->comment('no, due, sent');
            $table->index(['user_id', 'read_at']);
            $table->index('mail');
        });
    }
};
