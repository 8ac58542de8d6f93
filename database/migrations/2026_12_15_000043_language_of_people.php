<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** In which language a person reads; nobody has chosen one yet, and whoever signs in next has that of the browser. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('users', static fn (Blueprint $t) => $t->string('language', 8)->nullable());
    }

    public function down(): void
    {
        Schema::table('users', static fn (Blueprint $t) => $t->dropColumn('language'));
    }
};
