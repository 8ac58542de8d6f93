<?php

declare(strict_types=1);

namespace App\Import;

use App\Designs\DesignStore;
use App\Layers\LayerRows;
use App\Layers\LayerTable;
use App\Models\Import;
use App\Models\Layer;
use App\Processes\OwnCommand;
use App\Recalculation\Recalculate;
use App\Records\Cause;
use App\Records\RecordWriter;
use App\Texts;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use Illuminate\Support\Facades\DB;
use PinYard\Geo\GeometryKind;
use PinYard\Import\ImportProposal;
use PinYard\Import\ImportSettings;
use PinYard\Problem;
use PinYard\Record\RecordId;
use PinYard\Refused;
use Symfony\Component\Process\Process;

/**
 * Lands an import: all of it in one transaction, or nothing. A process of its own reads the rows and writes them into a
 * pipe; this one loads them from there. Whoever kills either of them leaves the layer as it was, and it can be landed
 * again.
 */
final class LandImport implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    public int $timeout = 7_000;

    public int $tries = 1;

    public function __construct(private readonly int $import)
    {
        $this->onQueue('landing');
    }

    public function handle(): void
    {
        $import = Import::query()->with('programme')->find($this->import);
        if ($import === null || $import->state !== 'landing') {
            return;
        }
        try {
            $this->land($import);
        } catch (\Throwable $e) {
            $import->refresh();
            if ($import->state !== 'landing') {
                // Somebody else has landed it meanwhile.
                return;
            }
            self::forgetLayer($import);
            DB::table('import_rows')->where('import_id', $import->id)->delete();
            $stopped = $import->wantsStop();
            $problems = $e instanceof Refused ? $e->problems : [new Problem('intake_failed', 'file')];
            $import->update([
                'state' => $stopped ? 'cancelled' : 'review',
                'made_layer' => false,
                'layer_id' => null,
                'problems' => $stopped ? null : Texts::problems($problems),
            ]);
            if (! $stopped && ! $e instanceof Refused) {
                throw $e;
            }
        }
    }

    private function land(Import $import): void
    {
        $settings = ImportSettings::of((array) $import->settings);
        if ($settings->undecided() !== []) {
            throw Refused::because('intake_order_open', 'columns/'.$settings->undecided()[0]);
        }
        DB::table('import_rows')->where('import_id', $import->id)->delete();
        // Of an earlier landing that was killed.
        self::forgetLayer($import);
        $layer = $this->layer($import, $settings);
        // Ids of this import share their first ten bytes; the number of the row is the rest (RFC 9562, section 6.2, a
        // counter).
        $import->update([
            'prefix' => substr(RecordId::make()->bytes(), 0, 10),
            'layer_id' => $layer->id,
            'counts' => null,
        ]);
        $import->progress(0);
        if ($settings->mode === 'attach') {
            (new AttachPhotos($import, $layer, $settings))->run();

            return;
        }
        if ($settings->mode === 'update') {
            (new UpdateRecords($import, $layer, $settings))->run();
        }
        $counts = $this->load($import, $layer);
        $calculated = array_map(strval(...), array_keys($layer->design()->rules->formulas));
        if (
            $layer->visits_of === null &&
            $calculated !== [] &&
            ! $import->made_layer &&
            $counts['made'] > 0 &&
            $layer->design()->rules->changes()
        ) {
            Recalculate::soon($layer->refresh(), $calculated, Cause::Import, $import->user_id);
        }
    }

    /** A layer that a landing made which did not come to its end has nothing in it. */
    private static function forgetLayer(Import $import): void
    {
        $layer = $import->made_layer ? Layer::query()->find($import->layer_id) : null;
        if ($layer !== null && LayerRows::all($layer)->doesntExist()) {
            $import->update(['made_layer' => false, 'layer_id' => null]);
            $layer->forceDelete();
            LayerTable::drop($layer);
        }
    }

    private function layer(Import $import, ImportSettings $settings): Layer
    {
        if ($settings->mode !== 'new') {
            $layer =
                Layer::query()
                    ->with('programme')
                    ->where('programme_id', $import->programme_id)
                    ->find($settings->layer) ?? throw Refused::because('intake_layer', 'layer');
            if ($layer->visits_of !== null) {
                throw Refused::because('intake_visits', 'layer');
            }
            if ($settings->newChoices) {
                $layer = NewChoices::add($layer, $import, $settings);
            }

            return $layer;
        }
        $reading = (array) $import->reading;
        $kind =
            $settings->way === 'geometry'
                ? $settings->shape ?? GeometryKind::from((string) $reading['geometry'])
                : GeometryKind::Point;
        $design = ImportProposal::design(
            $settings,
            ImportReview::distinct($reading),
            $kind,
            implode(', ', array_column($import->files, 'name')),
            ($import->source['kind'] ?? '') === 'photos',
        );
        $layer = DesignStore::createLayer($import->programme, $design, $import->user);
        $import->update(['made_layer' => true, 'layer_id' => $layer->id]);

        return Layer::query()->with('programme')->findOrFail($layer->id);
    }

    /** @return array<string, mixed> */
    private function load(Import $import, Layer $layer): array
    {
        $pipe = $import->folder('pipe');
        array_map(static fn (string $f): bool => ! file_exists($f) || unlink($f),
            [$pipe, "$pipe.ready", "$pipe.counts"]);
        posix_mkfifo($pipe, 0o600);

        return RecordWriter::locked(
            $layer->id,
            Cause::Import,
            $import->user_id,
            function (RecordWriter $records) use ($import, $pipe): array {
                $layer = $records->layer;
                if (Import::query()->whereKey($import->id)->value('state') !== 'landing') {
                    throw Refused::because('intake_state', 'import', 'done', ['state' => 'done']);
                }
                $before = $layer->change_number;
                $writer = new Process(
                    OwnCommand::words(
                        ['import:rows', (string) $import->id, (string) $layer->id, (string) $before, $pipe],
                        ['opcache.jit=tracing', 'opcache.jit_buffer_size=64M'],
                    ),
                    base_path(),
                    null,
                    null,
                    7_000,
                );
                $writer->start();
                while (! file_exists("$pipe.ready") && $writer->isRunning()) {
                    usleep(10_000);
                }
                $loaded = 0;
                if (file_exists("$pipe.ready")) {
                    $maker = RowMapper::for($import, $layer->design());
                    $set = implode(', ', [
                        'id = unhex(@id)',
                        'version = 1',
                        "design_version = $layer->design_version",
                        'created_by = '.($import->user_id ?? 'null'),
                        'collected_at = utc_timestamp(3)',
                        'received_at = utc_timestamp(3)',
                        // Who brings them in coordinates, and has looked at them.
                        'accepted_at = utc_timestamp(3)',
                        'accepted_by = '.($import->user_id ?? 0),
                        ...$layer->has_shapes
                            ? [
                                $layer->design()->geometry === GeometryKind::Point
                                    ? 'shape = point(lon, lat)'
                                    : 'shape = unhex(@shape)',
                            ]
                            : [],
                    ]);
                    $loaded = (int) DB::connection()
                        ->getPdo()
                        ->exec(
                            'load data local infile '.
                                DB::connection()->getPdo()->quote($pipe).
                                " into table `{$layer->table()}` character set utf8mb4 (".
                                RowWriter::columns($layer, $maker).
                                ") set $set",
                        );
                }
                $writer->wait();
                $counts = json_decode((string) @file_get_contents("$pipe.counts"), true);
                if (! $writer->isSuccessful() || ! is_array($counts)) {
                    throw new \RuntimeException(
                        "the rows could not be read: {$writer->getErrorOutput()}{$writer->getOutput()}",
                    );
                }
                if (isset($counts['refused'])) {
                    throw Refused::because($counts['refused'], 'file', null, (array) $counts['params']);
                }
                // LOAD DATA leaves out quietly what it cannot take; then none of it stays.
                if ($loaded !== $counts['made']) {
                    throw new \RuntimeException("loaded $loaded rows of {$counts['made']}");
                }
                $records->many(static fn (): int => $loaded);
                (new PhotosOfRows($import, $layer))->attach();
                $import->update([
                    'state' => 'done',
                    'landed_at' => now(),
                    'problems' => null,
                    'counts' => ['waiting' => $counts['waiting'] + ($import->counts['waiting'] ?? 0)] +
                        (array) $import->counts +
                        $counts,
                ]);

                return $counts;
            },
            1,
        );
    }
}
