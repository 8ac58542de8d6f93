<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::create('address_changes', static function (Blueprint $table): void {
            $table->char('token_hash', 64)->primary();
            $table->foreignId('user_id')->unique()->constrained()->cascadeOnDelete();
            $table->string('email', 190);
            $table->timestamp('expires_at');
        });
        Schema::table('programmes', static function (Blueprint $table): void {
            $table->boolean('second_factor')->default(false)->comment('whether it is demanded of who coordinates');
        });
        Schema::table('users', static function (Blueprint $table): void {
            $table->json('unwanted_mails')->nullable()->comment('kinds of mails that they do not want');
            $table->boolean('second_demanded')->default(false)->comment('by a programme that they coordinate');
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('address_changes');
        Schema::table('programmes', static fn (Blueprint $table) => $table->dropColumn('second_factor'));
        Schema::table('users', static fn (Blueprint $table) => $table->dropColumn([
            'second_demanded', 'unwanted_mails',
        ]));
    }
};
