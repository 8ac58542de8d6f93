<?php

declare(strict_types=1);

namespace App\Programmes;

use App\Layers\LayerTable;
use App\Models\Attachment;
use App\Models\Board;
use App\Models\Fill;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use Illuminate\Support\Facades\Storage;
use PinYard\Plan\TidyUp;

/** What has rested in the bin for its days goes for good: with its records, their history and files. */
final class EmptyBin
{
    /** @return int how many things went */
    public static function run(): int
    {
        $before = now()->subDays(TidyUp::DAYS_IN_BIN);
        $count = 0;
        foreach ([Map::class, Board::class] as $class) {
            foreach ($class::binned()->where('deleted_at', '<', $before)->get() as $thing) {
                $thing->forceDelete();
                $count++;
            }
        }
        foreach (Layer::binned()->where('deleted_at', '<', $before)->get()->sortBy(self::visitsFirst(...)) as $layer) {
            self::layer($layer);
            $count++;
        }
        foreach (Programme::binned()->where('deleted_at', '<', $before)->get() as $programme) {
            // A programme in the bin holds its things as they were; they go with it.
            foreach (
                Layer::withTrashed()->where('programme_id', $programme->id)->get()
                    ->sortBy(self::visitsFirst(...)) as $layer
            ) {
                self::layer($layer);
            }
            $programme->forceDelete();
            $count++;
        }

        return $count;
    }

    /** Visits go before what they are visits to. */
    private static function visitsFirst(Layer $layer): int
    {
        return $layer->visits_of === null ? 1 : 0;
    }

    private static function layer(Layer $layer): void
    {
        $disk = Storage::disk('attachments');
        Attachment::query()
            ->where('layer_id', $layer->id)
            ->chunkById(500, static function ($files) use ($disk): void {
                foreach ($files as $file) {
                    $disk->delete([$file->path(), $file->path('view'), $file->path('thumb')]);
                }
            });
        foreach (Fill::query()->where('layer_id', $layer->id)->get() as $fill) {
            Schema::dropIfExists($fill->table());
        }
        DB::table('sync_ledger')->where('layer_id', $layer->id)->delete();
        // Designs, history, slices, fills and attachments go with the layer's own row.
        // Maps that show nothing else lie in the bin, too; others go on and say that it is gone.
        Map::binned()
            ->showing($layer)
            ->whereDoesntHave('mapped', static fn ($q) => $q->withTrashed()->whereKeyNot($layer->id))
            ->get()
            ->each(static fn (Map $map) => $map->forceDelete());
        $layer->forceDelete();
        LayerTable::drop($layer);
    }
}
