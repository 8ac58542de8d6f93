<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** Marks of one's own for looks. The token is in the design and in addresses: whoever sees a map sees its marks. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('marks', function (Blueprint $table): void {
            $table->char('token', 22)->charset('ascii')->collation('ascii_bin')->primary();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->string('name', 60);
            $table->string('type', 3);
            $table->char('sha256', 64);
            $table->unsignedBigInteger('created_by')->nullable();
            $table->timestamp('created_at')->useCurrent();
            $table->unique(['programme_id', 'sha256']);
        });
        DB::statement('alter table marks add column body mediumblob not null');
    }
};
