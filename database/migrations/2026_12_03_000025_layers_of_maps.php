<?php

declare(strict_types=1);

use Illuminate\Database\Migrations\Migration;
use Illuminate\Database\Schema\Blueprint;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use PinYard\Carto\LayerOnMap;

/** A map shows several layers: what it says of each stands in its document, which they are in a table beside it. */
return new class extends Migration
{
    public function up(): void
    {
        Schema::table('maps', function (Blueprint $table): void {
            $table->longText('layers')->nullable()->after('title');
            $table->text('about')->nullable()->after('title');
        });
        Schema::create('map_layers', function (Blueprint $table): void {
            $table->foreignId('map_id')->constrained()->cascadeOnDelete();
            $table->foreignId('layer_id')->constrained()->cascadeOnDelete();
            $table->foreignId('slice_id')->nullable()->constrained()->nullOnDelete();
            $table->string('part', 16);
            $table->primary(['map_id', 'part']);
        });
        foreach (DB::table('maps')->get(['id', 'layer_id', 'look', 'card']) as $map) {
            $part = LayerOnMap::newId();
            DB::table('maps')
                ->where('id', $map->id)
                ->update([
                    'layers' => json_encode(
                        [
                            [
                                'id' => $part,
                                'layer' => $map->layer_id,
                                'title' => null,
                                'look' => json_decode((string) $map->look, true),
                                'card' => json_decode((string) $map->card, true),
                                'label' => null,
                                'slice' => null,
                                'opacity' => 1.0,
                                'zoom' => [0.0, 22.0],
                                'visible' => true,
                                'in_legend' => true,
                            ],
                        ],
                        JSON_PRESERVE_ZERO_FRACTION | JSON_UNESCAPED_UNICODE,
                    ),
                ]);
            DB::table('map_layers')->insert(['map_id' => $map->id, 'part' => $part, 'layer_id' => $map->layer_id]);
        }
        Schema::table('maps', function (Blueprint $table): void {
            $table->dropConstrainedForeignId('layer_id');
            $table->dropColumn(['look', 'card']);
        });
    }

    /** Of several layers the first stays. */
    public function down(): void
    {
        Schema::table('maps', function (Blueprint $table): void {
            $table->foreignId('layer_id')->nullable()->constrained()->cascadeOnDelete();
            $table->longText('look')->nullable();
            $table->longText('card')->nullable();
        });
        foreach (DB::table('maps')->get(['id', 'layers']) as $map) {
            $first = json_decode((string) $map->layers, true)[0] ?? null;
            if ($first === null || ! DB::table('layers')->where('id', $first['layer'])->exists()) {
                DB::table('maps')->delete($map->id);

                continue;
            }
            DB::table('maps')->where('id', $map->id)->update([
                'layer_id' => $first['layer'],
                'look' => json_encode($first['look']),
                'card' => json_encode($first['card']),
            ]);
        }
        Schema::drop('map_layers');
        Schema::table('maps', fn (Blueprint $table) => $table->dropColumn(['layers', 'about']));
    }
};
