<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('users', function (Blueprint $table): void {
            $table
                ->timestamp('email_verified_at')
                ->nullable()
                ->comment('since when it is proved that the person has this address');
        });
        Schema::table('invitations', function (Blueprint $table): void {
            $table
                ->char('mail_token_hash', 64)
                ->nullable()
                ->unique()
                ->comment('of the link that was mailed, and shown to nobody else');
        });
        Schema::create('password_resets', function (Blueprint $table): void {
            $table->char('token_hash', 64)->primary();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->timestamp('expires_at');
        });
        Schema::create('mail_box', function (Blueprint $table): void {
            $table->id();
            $table->string('to', 190);
            $table->string('subject', 190);
            $table->text('text');
            $table->timestamp('sent_at');
        });
        // Who stays signed in does so by a session of their own, which can be ended; a token that all devices share
        // cannot.
        DB::table('users')->update(['remember_token' => null]);
        // Sessions that belong to nobody are not stored any more.
        DB::table('sessions')->whereNull('user_id')->delete();
    }
};
