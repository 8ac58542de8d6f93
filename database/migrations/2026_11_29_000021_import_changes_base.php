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
        Schema::table('import_changes', static function (Blueprint $table): void {
            // The version before the import came, whatever number of its rows changed the record.
            $table->unsignedInteger('base')->default(0)->after('record_id');
        });
        DB::table('import_changes')->update(['base' => DB::raw('greatest(version, 1) - 1')]);
    }

    public function down(): void
    {
        Schema::table('import_changes', static fn (Blueprint $table) => $table->dropColumn('base'));
    }
};
