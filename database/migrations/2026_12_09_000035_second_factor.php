<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('users', static function (Blueprint $table): void {
            $table->text('totp_secret')->nullable()->comment('of the authenticator app, encrypted');
            $table->timestamp('totp_since')->nullable()->comment('null: begun, and not proved yet');
            $table->unsignedBigInteger('totp_last')->default(0)->comment('step of the last code that was taken');
            $table->json('recovery_codes')->nullable()->comment('hashes of those that are left');
        });
    }

    public function down(): void
    {
        Schema::table('users', static fn (Blueprint $table) => $table->dropColumn([
            'totp_secret', 'totp_since', 'totp_last', 'recovery_codes',
        ]));
    }
};
