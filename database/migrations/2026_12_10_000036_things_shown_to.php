<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

return new class extends Migration
{
    public function up(): void
    {
        foreach (['maps', 'boards'] as $things) {
            Schema::table($things, static function (Blueprint $table): void {
                $table->json('shown_to')->nullable()->comment('names of audiences, of one that is shown to some');
            });
        }
    }

    public function down(): void
    {
        foreach (['maps', 'boards'] as $things) {
            Schema::table($things, static fn (Blueprint $table) => $table->dropColumn('shown_to'));
        }
    }
};
