<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Who may see what of a layer is the programme's rule, beside the design. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('layers', static function (Blueprint $table): void {
            $table->json('seen_by')->nullable()->comment('rules by audience; none: what the design says');
        });
    }

    public function down(): void
    {
        Schema::table('layers', static function (Blueprint $table): void {
            $table->dropColumn('seen_by');
        });
    }
};
