<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * One-off fills of a field by a formula; what each changed is kept in a table of its own (`fill_<n>`), so that it can
 * be undone.
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('fills', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->string('field', 40);
            $table->text('formula');
            $table->foreignId('slice_id')->nullable()->constrained()->nullOnDelete();
            $table->foreignId('user_id')->nullable()->constrained()->nullOnDelete();
            $table->string('state', 12)->comment('working, done, undone or failed');
            $table->unsignedBigInteger('changed')->default(0);
            $table->unsignedBigInteger('skipped')->default(0);
            $table->unsignedBigInteger('kept')->default(0)->comment('changed since, and so left alone by the undo');
            $table->timestamps();
        });
    }
};
