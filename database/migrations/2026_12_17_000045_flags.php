<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** What speaks against records that wait to be looked at, and what they are flagged for. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('layer_flags', static function (Blueprint $table): void {
            $table->foreignId('layer_id')->primary()->constrained()->cascadeOnDelete();
            $table->json('rules')->nullable()->comment('null: the usual ones');
            $table->char('basis', 64)->charset('ascii')->default('')->comment('of all that flags are worked out by');
            $table->unsignedBigInteger('as_of')->default(0)->comment('change number of the layer');
            $table->json('fences')->nullable()->comment('where numbers are expected, by field');
            $table->unsignedBigInteger('fenced_as_of')->default(0)->comment('change number of the layer');
        });
        Schema::create('record_flags', static function (Blueprint $table): void {
            $table->unsignedBigInteger('layer_id');
            $table->binary('record_id', 16, true);
            $table->string('kind', 10)->charset('ascii');
            $table->string('about', 64)->charset('ascii')->collation('ascii_bin')->comment('key of a field or slot');
            $table->binary('other', 16, true)->nullable()->comment('record that it is compared with');
            $table->json('said');
            $table->primary(['layer_id', 'record_id', 'kind', 'about']);
            $table->index(['layer_id', 'kind']);
            $table->index(['layer_id', 'other']);
            $table->foreign('layer_id')->references('id')->on('layers')->cascadeOnDelete();
        });
    }

    public function down(): void
    {
        Schema::dropIfExists('record_flags');
        Schema::dropIfExists('layer_flags');
    }
};
