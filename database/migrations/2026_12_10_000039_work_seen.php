<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        Schema::table('programmes', static function (Blueprint $table): void {
            $table->json('work_seen')->nullable()->comment('who is told of all trails, crews now and outings');
        });
    }

    public function down(): void
    {
        Schema::table('programmes', static fn (Blueprint $table) => $table->dropColumn('work_seen'));
    }
};
