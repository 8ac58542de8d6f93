<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('invitations', static function (Blueprint $table): void {
            $table->unsignedSmallInteger('most')->nullable()->comment('people that it is for; none: the one named');
            $table->unsignedSmallInteger('used')->default(0)->comment('how many have come by it');
            $table->char('code_hash', 64)->nullable()->unique()->comment('of the code that can be typed');
        });
    }

    public function down(): void
    {
        Schema::table('invitations', static fn (Blueprint $table) => $table->dropColumn(['most', 'used', 'code_hash']));
    }
};
