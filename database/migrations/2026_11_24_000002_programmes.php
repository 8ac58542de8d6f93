<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Programmes, their crews and people, and the links by which people join. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('programmes', function (Blueprint $table): void {
            $table->id();
            $table->string('name', 120);
            $table->text('purpose');
            $table->string('time_zone', 64);
            $table->double('west');
            $table->double('south');
            $table->double('east');
            $table->double('north');
            $table->timestamps();
        });
        Schema::create('crews', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->string('name', 80);
            $table->timestamps();
            $table->unique(['programme_id', 'name']);
        });
        Schema::create('members', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->foreignId('crew_id')->nullable()->constrained()->nullOnDelete();
            $table->string('role', 20);
            $table->timestamp('last_heard_at')->nullable();
            $table->unsignedInteger('waiting')->default(0)->comment('outbox of the phone, as it last told');
            $table->timestamps();
            $table->unique(['programme_id', 'user_id']);
        });
        Schema::create('invitations', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->foreignId('crew_id')->nullable()->constrained()->nullOnDelete();
            $table->char('token_hash', 64)->unique();
            $table->string('name', 120);
            $table->string('email', 190);
            $table->string('role', 20);
            $table->timestamp('expires_at');
            $table->timestamp('accepted_at')->nullable();
            $table->timestamps();
        });
    }
};
