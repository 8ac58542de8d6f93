<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/**
 * Layers, their designs, and what all of them share: history, ledger, attachments, uploads. The records themselves live
 * in one typed table for each layer (App\Layers\LayerTable).
 */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('layers', function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->string('title', 120);
            $table->unsignedInteger('design_version')->default(0);
            $table->json('columns')->comment('field key to kind, for every column that the table has ever got');
            $table
                ->unsignedBigInteger('change_number')
                ->default(0)
                ->comment('handed out under this row\'s lock, so in commit order');
            $table->timestamps();
        });
        Schema::create('layer_designs', function (Blueprint $table): void {
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->unsignedInteger('version');
            $table->longText('document');
            $table->foreignId('created_by')->nullable()->constrained('users')->nullOnDelete();
            $table->timestamp('created_at')->useCurrent();
            $table->primary(['layer_id', 'version']);
        });
        Schema::create('record_history', function (Blueprint $table): void {
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->binary('record_id', 16, true);
            $table->unsignedInteger('version');
            $table->binary('op', 16, true)->nullable();
            $table->unsignedBigInteger('user_id')->nullable();
            $table->unsignedInteger('design_version');
            $table->dateTime('captured_at', 3);
            $table->dateTime('received_at', 3);
            $table->double('lon');
            $table->double('lat');
            $table->longText('values');
            $table->primary(['layer_id', 'record_id', 'version']);
        });
        Schema::create('sync_ledger', function (Blueprint $table): void {
            $table->binary('op', 16, true)->primary();
            $table->unsignedBigInteger('layer_id')->nullable()->index();
            $table->unsignedBigInteger('user_id');
            $table->binary('device', 16, true);
            $table->unsignedBigInteger('seq');
            $table->string('outcome', 12);
            $table->longText('answer');
            $table->dateTime('received_at', 3);
        });
        Schema::create('attachments', function (Blueprint $table): void {
            $table->binary('id', 16, true)->primary();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->binary('record_id', 16, true);
            $table->unsignedSmallInteger('position');
            $table->string('name', 120);
            $table->string('type', 40);
            $table->unsignedBigInteger('bytes');
            $table->char('sha256', 64);
            $table->string('state', 12)->comment('on_way, stored or refused');
            $table->string('reason', 60)->nullable();
            $table->unsignedInteger('width')->nullable();
            $table->unsignedInteger('height')->nullable();
            $table->unsignedBigInteger('created_by')->nullable();
            $table->dateTime('created_at', 3);
            $table->index(['layer_id', 'record_id']);
        });
        Schema::create('uploads', function (Blueprint $table): void {
            $table->uuid('id')->primary();
            $table->binary('attachment_id', 16, true)->index();
            $table->foreignId('user_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('length');
            $table->timestamp('expires_at')->index();
            $table->timestamps();
        });
    }
};
