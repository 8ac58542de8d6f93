<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Shelves, tags, purposes, owners, favourites, and the bin. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('shelves', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->string('name', 80);
            $table->timestamps();
            $table->unique(['programme_id', 'name']);
        });
        foreach (['programmes', 'layers', 'maps', 'boards'] as $kept) {
            Schema::table($kept, function (Blueprint $table) use ($kept): void {
                if ($kept !== 'programmes') {
                    $table->foreignId('shelf_id')->nullable()->constrained('shelves')->nullOnDelete();
                }
                $table->foreignId('owner_id')->nullable()->constrained('users')->nullOnDelete();
                $table->json('tags')->nullable();
                $table->json('purposes')->nullable();
                $table->softDeletes();
                $table->unsignedBigInteger('deleted_by')->nullable();
            });
        }
        Schema::create('favourites', function (Blueprint $table): void {
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->string('kind', 10);
            $table->unsignedBigInteger('thing_id');
            $table->primary(['user_id', 'kind', 'thing_id']);
        });
    }
};
