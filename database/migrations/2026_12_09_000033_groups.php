<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\Schema;

/** Groups of people in a programme beside its crews, and who makes maps and boards without coordinating. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('groups', static function (Blueprint $table): void {
            $table->id();
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->string('name', 80);
            $table->boolean('may_change')->comment('whether its members may do what designs let crews do');
            $table->boolean('members_seen')->comment('whether they see who else is in it');
            $table->timestamps();
            $table->unique(['programme_id', 'name']);
        });
        Schema::create('group_members', static function (Blueprint $table): void {
            $table->foreignId('group_id')->constrained()->cascadeOnDelete();
            $table->foreignId('member_id')->constrained()->cascadeOnDelete();
            $table->primary(['group_id', 'member_id']);
            $table->index('member_id');
        });
        Schema::table('members', static function (Blueprint $table): void {
            $table->boolean('makes')->default(false)->comment('maps and boards, beside what the role says');
        });
        Schema::table('invitations', static function (Blueprint $table): void {
            $table->boolean('makes')->default(false);
            $table->json('groups')->nullable()->comment('numbers of the groups that they lead to');
        });
    }

    public function down(): void
    {
        Schema::table('invitations', static fn (Blueprint $table) => $table->dropColumn(['makes', 'groups']));
        Schema::table('members', static fn (Blueprint $table) => $table->dropColumn('makes'));
        Schema::dropIfExists('group_members');
        Schema::dropIfExists('groups');
    }
};
