<?php

declare(strict_types=1);

namespace App\Import;

use App\Models\Import;
use App\Texts;
use Illuminate\Bus\Queueable;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Bus\Dispatchable;
use PinYard\Geo\Wkt;
use PinYard\Import\HeadRow;
use PinYard\Import\ImportProposal;
use PinYard\Import\TableAnalysis;
use PinYard\Problem;
use PinYard\Refused;

/** Reads what was sent, guesses what its columns are, and proposes what to do with it. */
final class ReadImport implements ShouldQueue
{
    use Dispatchable;
    use Queueable;

    private const REPORT_EVERY = 5_000;

    public int $timeout = 3_600;

    public int $tries = 1;

    /**
     * @param  string|null  $table  of the file, where it has several
     * @param  string|null  $system  where the file does not say its own
     * @param  int|null  $headRow  where a person said which row the heads are
     */
    public function __construct(
        private readonly int $import,
        private readonly ?string $table = null,
        private readonly ?string $system = null,
        private readonly ?int $headRow = null,
    ) {
        $this->onQueue('reading');
    }

    public function handle(): void
    {
        $import = Import::query()->with('programme')->find($this->import);
        if ($import === null || $import->state !== 'reading') {
            return;
        }
        try {
            $this->read($import);
        } catch (Refused $e) {
            IncomingFiles::tidy($import);
            $stopped = $import->wantsStop();
            $import->update([
                'state' => $stopped ? 'cancelled' : 'failed',
                'problems' => Texts::problems($e->problems),
            ]);
        } catch (\Throwable $e) {
            IncomingFiles::tidy($import);
            $import->update([
                'state' => 'failed',
                'problems' => Texts::problems([new Problem('intake_failed', 'file')]),
            ]);
            throw $e;
        }
    }

    private function read(Import $import): void
    {
        $files = $import->files;
        foreach ($files as $n => $file) {
            $files[$n]['sha256'] = (string) hash_file('sha256', $import->file($n));
        }
        $import->files = $files;
        [$source, $notes] = CsvConversion::run($import, FileContents::of($import), $this->table, $this->system);
        $import->source = $source;
        $table = new ImportRows($import);
        $first = $table->first(50);
        if ($first === [] && ! ($source['wkt'] ?? false)) {
            throw Refused::because('intake_empty', 'file');
        }
        $heads =
            $this->headRow === null && $source['kind'] !== 'geo' && $source['kind'] !== 'photos'
                ? HeadRow::find($first)
                : HeadRow::at($first, $this->headRow ?? 1);
        if ($heads->names === [] && ! ($source['wkt'] ?? false)) {
            throw Refused::because('intake_no_columns', 'file');
        }
        $shapes = $source['wkt'] ?? false ? null : Wkt::column($first, $heads->row);
        if ($shapes !== null) {
            $source['wkt_column'] = $shapes;
            $import->source = $source;
        }
        $analysis = new TableAnalysis($heads->names, array_values((array) ($source['told'] ?? [])));
        foreach ($table->rows($heads->row) as [$cells, $wkt]) {
            $analysis->add($cells, $wkt);
            if ($analysis->rows % self::REPORT_EVERY === 0) {
                $import->progress($analysis->rows);
                if ($import->wantsStop()) {
                    throw Refused::because('intake_stopped', 'file');
                }
            }
        }
        array_push($notes, ...$heads->notes, ...$table->notes);
        $this->noteRows($analysis, $source, $notes);
        $guesses = $analysis->guesses();
        array_push($notes, ...$analysis->notes);
        $settings = ImportProposal::settings(
            $import->settings['title'] ?? pathinfo((string) $source['file'], PATHINFO_FILENAME),
            $heads->names,
            $analysis->tallies,
            $guesses,
            ($source['wkt'] ?? false) || $shapes !== null,
            $heads->row,
            $import->programme->time_zone,
            (string) ($source['table'] ?? ''),
            $import->programme->area(),
        );
        if ($source['kind'] === 'geo') {
            $settings['location']['system'] = (string) ($source['given'] ?? '');
        }
        if ($shapes !== null) {
            // It says where the row is, and need not be kept as a value too.
            $settings['columns'][$shapes]['take'] = false;
        }
        if ($source['kind'] === 'photos') {
            $settings['title'] = 'Photos';
        }
        $columns = [];
        foreach ($analysis->tallies as $i => $t) {
            $columns[] = [
                'name' => $heads->names[$i],
                'kind' => $guesses[$i]->kind->value,
                'confidence' => round($guesses[$i]->confidence, 3),
                'order' => $guesses[$i]->order,
                'comma' => $guesses[$i]->comma,
                'samples' => $t->samples,
                'filled' => $t->filled,
                'empty' => $t->empty,
                'distinct' => $t->many ? null : $t->distinct,
            ];
        }
        $import->fill([
            'state' => 'review',
            'problems' => null,
            'reading' => [
                'rows' => $analysis->rows,
                'columns' => $columns,
                'geometry' => $analysis->geometry(),
                'shapes' => $analysis->shapes,
                'notes' => Texts::problems($notes),
            ],
            'settings' => RememberedSettings::kept($import, $settings),
        ]);
        $import->save();
        $import->progress($analysis->rows);
    }

    /**
     * @param  array<string, mixed>  $source
     * @param  list<Problem>  $notes
     */
    private function noteRows(TableAnalysis $analysis, array $source, array &$notes): void
    {
        if ($analysis->rows === 0) {
            $notes[] = new Problem('intake_heads_only', 'file');
        }
        if ($analysis->longer > 0) {
            $notes[] = new Problem('intake_longer', 'file', $analysis->longer, ['count' => $analysis->longer]);
        }
        if (count(array_intersect_key($analysis->shapes, ['POINT' => 1, 'LINESTRING' => 1, 'POLYGON' => 1])) > 1) {
            $notes[] = new Problem('intake_mixed_shapes', 'file', null, [
                'points' => $analysis->shapes['POINT'] ?? 0,
                'lines' => $analysis->shapes['LINESTRING'] ?? 0,
                'areas' => $analysis->shapes['POLYGON'] ?? 0,
            ]);
        }
        $lost = (int) ($source['rows'] ?? 0) - $analysis->rows;
        if (($source['turned'] ?? false) && $lost > 0) {
            $notes[] = new Problem('intake_not_turned', 'file', $lost, ['count' => $lost]);
        }
        if (
            str_starts_with((string) ($source['kind'] ?? ''), 'csv') &&
            strlen((string) ($source['delimiter'] ?? '')) === 1 &&
            $source['delimiter'] !== ','
        ) {
            $notes[] = new Problem('intake_delimiter', 'file', null, [
                'delimiter' => $source['delimiter'] === "\t" ? 'tab' : $source['delimiter'],
            ]);
        }
    }
}
