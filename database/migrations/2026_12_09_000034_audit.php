<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** What was done about rights, links, files and sign-ins. Nothing in it is ever changed; the database holds to it. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('audit', static function (Blueprint $table): void {
            $table->id();
            // No keys to other tables: what was done stays when they go.
            $table->unsignedBigInteger('programme_id')->nullable()->comment('null: of a person, in all of theirs');
            $table->unsignedBigInteger('user_id')->nullable();
            $table->string('who', 120)->comment('as they were called then');
            $table->string('kind', 40);
            $table->json('about');
            $table->dateTime('at', 3);
            $table->index(['programme_id', 'id']);
            $table->index(['user_id', 'id']);
        });
        foreach (['update', 'delete'] as $what) {
            DB::unprepared(
                "create trigger audit_no_$what before $what on audit for each row "
                    ."signal sqlstate '45000' set message_text = 'what was done is not changed'",
            );
        }
    }

    public function down(): void
    {
        Schema::dropIfExists('audit');
    }
};
