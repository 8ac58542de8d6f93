<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\Stopwatch;
use App\Designs\DesignStore;
use App\Export\RunExport;
use App\Import\IncomingFiles;
use App\Import\LandImport;
use App\Import\ReadImport;
use App\Import\RowWriter;
use App\Layers\LayerRows;
use App\Layers\PlaceColumns;
use App\Models\Export;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Recalculation\AreasInBulk;
use App\Recalculation\Recalculate;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkb;
use PinYard\Record\RecordId;
use Symfony\Component\Process\Process;

/** Times bringing in, taking out and finding areas, each beside the raw limit of the same machine in the same run. */
final class BenchExchange extends Command
{
    use Stopwatch;

    protected $signature = 'bench:exchange {--rows=1000000} {--areas=500} {--runs=1} {--without-export}';

    protected $description = 'Measures bringing in and taking out as ratios to raw limits';

    /** @var array<string, array{ours: float, raw: float, ratio: float, limit: float|null}> */
    private array $results = [];

    public function handle(): int
    {
        config(['queue.default' => 'sync']);
        $rows = (int) $this->option('rows');
        $user = User::query()->firstOrCreate(
            ['email' => 'bench@example.test'],
            ['name' => 'Bench', 'password' => bin2hex(random_bytes(8))],
        );
        $programme = Programme::query()->create([
            'name' => 'Exchange',
            'purpose' => '',
            'time_zone' => 'UTC',
            'west' => -12,
            'south' => -15,
            'east' => -11,
            'north' => -14,
        ]);
        $programme->members()->create(['user_id' => $user->id, 'role' => Role::Coordinator]);
        $this->line(sprintf('%-62s %10s %10s %7s', "$rows rows of 12 columns", 'ours', 'raw', 'ratio'));
        $layer = $this->import($programme, $user, $rows);
        if (! $this->option('without-export')) {
            $this->export($layer, $user);
        }
        $this->areas($programme, $layer, (int) $this->option('areas'));
        file_put_contents(
            (string) getenv('PINYARD_VAR').'/exchange.json',
            json_encode(['rows' => $rows, 'results' => $this->results], JSON_PRETTY_PRINT),
        );

        return self::SUCCESS;
    }

    private function import(Programme $programme, User $user, int $rows): Layer
    {
        $csv = sys_get_temp_dir().'/bench.csv';
        $this->csv($csv, $rows);
        $import = IncomingFiles::announce(
            $programme,
            $user,
            [['name' => 'bench.csv', 'bytes' => (int) filesize($csv)]],
            null,
            null,
        );
        copy($csv, $import->file(0));
        $import->update(['state' => 'reading']);
        $this->tell(
            'reading the file and guessing its columns (once, at upload)',
            $this->time(static fn () => (new ReadImport($import->id))->handle()),
            0.0,
            null,
        );
        $import->refresh();
        $ours = [];
        $raw = [];
        $layer = null;
        for ($run = 0; $run < max(1, (int) $this->option('runs')); $run++) {
            $import->update(['state' => 'landing', 'settings' => ['mode' => 'new'] + (array) $import->settings]);
            memory_reset_peak_usage();
            $ours[] = $this->time(static fn () => (new LandImport($import->id))->handle());
            $import->refresh();
            $layer = Layer::query()->findOrFail($import->layer_id);
            // The same rows, already as lines, into the same table made anew.
            $lines = sys_get_temp_dir().'/bench.tsv';
            $out = fopen($lines, 'wb') ?: throw new \RuntimeException('cannot write');
            (new RowWriter($import, $layer))->write($out, 0);
            fclose($out);
            DB::table('import_rows')->where('import_id', $import->id)->delete();
            DB::statement("create table bench_raw like {$layer->table()}");
            $columns = RowWriter::columns($layer, \App\Import\RowMapper::for($import, $layer->design()));
            $raw[] = $this->time(
                static fn () => DB::connection()
                    ->getPdo()
                    ->exec(
                        'load data local infile '.
                            DB::connection()->getPdo()->quote($lines).
                            ' into table bench_raw character set utf8mb4 '
                                ."($columns) set id = unhex(@id), version = 1, design_version = 1, collected_at = "
                                    .'utc_timestamp(3), received_at = utc_timestamp(3)',
                    ),
            );
            DB::statement('drop table bench_raw');
        }
        sort($ours);
        sort($raw);
        $counts = (array) $import->counts;
        $memory = max(memory_get_peak_usage(true), (int) ($counts['memory'] ?? 0)) >> 20;
        $this->tell(
            "landing CSV ({$counts['made']} rows, $memory MiB), against LOAD DATA of the same",
            $ours[intdiv(count($ours), 2)],
            $raw[intdiv(count($raw), 2)],
            2.0,
        );

        return $layer ?? throw new \LogicException('nothing landed');
    }

    private function export(Layer $layer, User $user): void
    {
        $dump = sys_get_temp_dir().'/bench.dump';
        $config = config('database.connections.mariadb');
        $client = $this->time(
            static fn () => (new Process(
                [
                    'sh',
                    '-c',
                    'mariadb --no-defaults --quick -N -h "$0" -P "$1" -u "$2" --password="$3" "$4" -e "$5" > "$6"',
                    $config['host'],
                    (string) $config['port'],
                    $config['username'],
                    $config['password'],
                    $config['database'],
                    "select * from {$layer->table()} where deleted = 0 order by id",
                    $dump,
                ],
                null,
                null,
                null,
                600,
            ))->mustRun(),
        );
        unlink($dump);
        foreach (['csv' => 1.5, 'geojson' => 1.5] as $format => $limit) {
            [$seconds, $export] = $this->write($layer, $user, $format);
            $this->tell(
                "writing $format (".($export->bytes >> 20).' MiB), against the database client’s dump',
                $seconds,
                $client,
                $limit,
            );
            if ($format === 'geojson') {
                copy($export->path(), sys_get_temp_dir().'/bench.geojson');
            }
        }
        $out = sys_get_temp_dir().'/bench.gpkg';
        @unlink($out);
        $gdal = $this->time(
            static fn () => (new Process(
                ['ogr2ogr', '-f', 'GPKG', $out, sys_get_temp_dir().'/bench.geojson'],
                null,
                ['OGR_GEOJSON_MAX_OBJ_SIZE' => '0'],
                null,
                1_200,
            ))->mustRun(),
        );
        unlink($out);
        [$seconds] = $this->write($layer, $user, 'gpkg');
        $this->tell('writing gpkg, against ogr2ogr from the GeoJSON', $seconds, $gdal, 1.1);
        unlink(sys_get_temp_dir().'/bench.geojson');
    }

    /** @return array{float, Export} */
    private function write(Layer $layer, User $user, string $format): array
    {
        $export = Export::query()->create([
            'layer_id' => $layer->id,
            'user_id' => $user->id,
            'state' => 'working',
            'name' => "bench.$format",
            'settings' => ['format' => $format, 'choices' => 'codes', 'times' => 'utc'],
        ]);

        return [$this->time(static fn () => (new RunExport($export->id))->handle()), $export->refresh()];
    }

    private function areas(Programme $programme, Layer $layer, int $count): void
    {
        $areas = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Wards',
                'geometry' => 'area',
                'name_field' => 'name',
                'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
            ]),
            null,
        );
        $side = (int) ceil(sqrt($count));
        for ($i = 0; $i < $count; $i++) {
            [$lon, $lat] = [-12 + (0.5 + ($i % $side)) / $side, -15 + (0.5 + intdiv($i, $side)) / $side];
            $ring = [];
            for ($k = 0; $k < 1_000; $k++) {
                // A coast with bays: the border wanders by a tenth of its distance.
                $r = (0.48 / $side) * (1 + 0.1 * sin($k * 0.37 + $i) * cos($k * 0.11));
                $ring[] = [$lon + $r * cos((2 * M_PI * $k) / 1_000), $lat + $r * sin((2 * M_PI * $k) / 1_000)];
            }
            LayerRows::all($areas)->insert([
                'id' => RecordId::make()->bytes(),
                ...PlaceColumns::of(Shape::of(GeometryKind::Area, [[...$ring, $ring[0]]]), true),
                'version' => 1,
                'change_number' => $i + 1,
                'design_version' => 1,
                'collected_at' => now(),
                'received_at' => now(),
                'f_name' => "Ward $i",
            ]);
        }
        $document = $layer->design()->toArray();
        $document['fields'][] = [
            'key' => 'ward',
            'label' => 'Ward',
            'kind' => 'calculated',
            'formula' => 'area_of("Wards")',
        ];
        $layer = Layer::query()->findOrFail($layer->id);
        // Saving works it out; it is done once more for the clock.
        $layer = DesignStore::saveNext(
            $layer,
            LayerDesign::fromArray($document, $layer->neighbours()),
            $layer->design_version,
            null,
        );
        DB::update("update {$layer->table()} set f_ward = null");
        $this->finding($layer, $areas, $count);
        $ours = $this->time(static fn () => (new Recalculate($layer->id, ['ward']))->handle());
        $raw = $this->time(
            static fn () => DB::update("update {$layer->table()} set f_ward = concat('Ward ', floor(lon * 20))"),
        );
        $this->tell('putting the area into every record as well, against one UPDATE', $ours, $raw, null);
    }

    /** In which area each record lies, read from the table and written to a file; against reading alone. */
    private function finding(Layer $layer, Layer $areas, int $count): void
    {
        $rings = LayerRows::all($areas)
            ->orderBy('area_m2')
            ->pluck('shape')
            ->map(static fn (string $shape): array => Wkb::allRings($shape))
            ->all();
        $names = array_map(static fn (int $i): string => "Ward $i", array_keys($rings));
        $file = (string) tempnam(sys_get_temp_dir(), 'bench');
        $ours = $this->time(static fn () => AreasInBulk::find($layer, array_values($rings), $names, $file));
        unlink($file);
        $raw = $this->time(static function () use ($layer): void {
            foreach (LayerRows::all($layer)->select('id', 'z', 'lon', 'lat')->orderBy('z')->cursor() as $row) {
            }
        });
        $this->tell(
            "in which of $count areas of 1,000 corners each lies (at most 15 s), against reading them",
            $ours,
            $raw,
            null,
        );
    }

    private function csv(string $path, int $rows): void
    {
        mt_srand(41);
        $out = fopen($path, 'wb') ?: throw new \RuntimeException('cannot write');
        fwrite($out, "code,latitude,longitude,girth,height,count,seen,species,healthy,time,visited,remark\n");
        $text = '';
        for ($i = 1; $i <= $rows; $i++) {
            $text .= sprintf(
                "T-%07d,%.6f,%.6f,%.1f,%.2f,%d,2025-%02d-%02d,%s,%s,%02d:%02d,2025-06-%02dT%02d:30:00Z,%s\n",
                $i,
                -15 + mt_rand() / mt_getrandmax(),
                -12 + mt_rand() / mt_getrandmax(),
                mt_rand(200, 2000) / 10,
                mt_rand(100, 3000) / 100,
                mt_rand(0, 500),
                mt_rand(1, 12),
                mt_rand(1, 28),
                ['Oak', 'Ash', 'Beech', 'Lime'][$i % 4],
                $i % 3 ? 'yes' : 'no',
                $i % 24,
                $i % 60,
                ($i % 28) + 1,
                $i % 24,
                $i % 5 ? '' : '"seen by two, once"',
            );
            if (strlen($text) > 262_144) {
                fwrite($out, $text);
                $text = '';
            }
        }
        fwrite($out, $text);
        fclose($out);
    }

    private function tell(string $what, float $ours, float $raw, ?float $limit): void
    {
        $this->results[$what] = [
            'ours' => $ours,
            'raw' => $raw,
            'ratio' => $raw > 0 ? $ours / $raw : 0.0,
            'limit' => $limit,
        ];
        $this->line(
            sprintf(
                '%-62s %8.2f s %8.2f s %6.2f×%s',
                $what,
                $ours,
                $raw,
                $raw > 0 ? $ours / $raw : 0,
                $limit === null ? '' : ($raw > 0 && $ours / $raw > $limit ? "  over $limit" : "  within $limit"),
            ),
        );
    }
}
