<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Import\RowWriter;
use App\Models\Import;
use App\Models\Layer;
use Illuminate\Console\Command;
use PinYard\Refused;

/** The other half of App\Import\LandImport: writes lines for LOAD DATA into a pipe. */
final class WriteImportRows extends Command
{
    protected $signature = 'import:rows {import} {layer} {change-number} {pipe}';

    protected $description = 'Write the rows of an import for LOAD DATA (part of landing it)';

    protected $hidden = true;

    public function handle(): int
    {
        $import = Import::query()->with('programme')->findOrFail((int) $this->argument('import'));
        $layer = Layer::query()->with('programme')->findOrFail((int) $this->argument('layer'));
        $writer = new RowWriter($import, $layer);
        touch("{$this->argument('pipe')}.ready");
        $out = fopen((string) $this->argument('pipe'), 'wb') ?: throw new \RuntimeException('no pipe');
        try {
            $counts = $writer->write($out, (int) $this->argument('change-number'));
        } catch (Refused $e) {
            $counts = ['refused' => $e->problems[0]->code, 'params' => $e->problems[0]->params];
        }
        fclose($out);
        file_put_contents(
            "{$this->argument('pipe')}.counts",
            json_encode($counts + ['memory' => memory_get_peak_usage(true)], JSON_THROW_ON_ERROR),
        );

        return self::SUCCESS;
    }
}
