<?php

declare(strict_types=1);

use App\Models\Programme;
use App\Trails\TrailDays;
use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;

/** How far and how long each person walked on each day. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::create('trail_days', function (Blueprint $table): void {
            $table->foreignId('programme_id')->constrained()->cascadeOnDelete();
            $table->unsignedBigInteger('user_id');
            $table->date('day');
            $table->double('metres');
            $table->double('seconds');
            $table->primary(['programme_id', 'user_id', 'day']);
        });
        foreach (DB::table('trail_points')->distinct()->pluck('programme_id') as $id) {
            $programme = (new Programme)->newFromBuilder(
                (array) DB::table('programmes')->where('id', $id)->first(['id', 'time_zone']),
            );
            TrailDays::refresh($programme);
        }
    }

    public function down(): void
    {
        Schema::drop('trail_days');
    }
};
