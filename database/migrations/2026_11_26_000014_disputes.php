<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/**
 * What phones brought that a person must decide: clashes with what others did, and what is held because today's design
 * or rights would not take it. History knows the phone of each version and how wrong its clock was. Who left a
 * programme is remembered, so that work done before then is not turned away.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('disputes', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->binary('record_id', 16, true);
            $table->binary('op', 16, true)->unique();
            $table->unsignedBigInteger('user_id')->nullable()->comment('who did it on the phone');
            $table->string('kind', 6)->comment('clash or held');
            $table->json('operation')->comment('whole, as it came');
            $table->json('clashes')->nullable()->comment('value by value: what it was, theirs, mine, which stands');
            $table->json('reasons')->nullable()->comment('problems, of what is held');
            $table->dateTime('captured_at', 3);
            $table->dateTime('received_at', 3);
            $table->unsignedBigInteger('settled_by')->nullable();
            $table->dateTime('settled_at', 3)->nullable();
            $table->json('settlement')->nullable();
            $table->index(['layer_id', 'settled_at']);
            $table->index(['layer_id', 'record_id']);
        });
        Schema::create('former_members', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('crew_id')->nullable();
            $table->string('role', 20);
            $table->dateTime('left_at', 3);
            $table->index(['programme_id', 'user_id']);
        });
        // At the end of the row, so that no row is touched: a layer may have millions.
        DB::statement(
            'alter table record_history add column device binary(16) null, add column clock_off int null comment '
                .'\'seconds that the phone was behind\', algorithm=instant',
        );
    }
};
