<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\BenchYard;
use App\Console\Stopwatch;
use App\Designs\DesignStore;
use App\Layers\LayerRows;
use App\Layers\PlaceColumns;
use App\Maps\FieldSpread;
use App\Maps\MapFeatures;
use App\Maps\Tallies\AreaTallies;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Records\BringToldPlaces;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use App\Sync\SyncRound;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Process;
use PinYard\Audience\Rule;
use PinYard\Carto\Look;
use PinYard\Carto\Tally;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Box;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Geo\ZOrder;
use PinYard\Record\RecordId;
use PinYard\Stats\Classes;
use PinYard\Stats\Method;
use PinYard\Stats\Spread;

/** Times what maps of a large layer must be quick at, each beside the raw limit of the same machine in the same run. */
final class BenchMaps extends Command
{
    use BenchYard;
    use Stopwatch;

    protected $signature = 'bench:maps {--rows=1000000} {--areas=500}';

    /** As many as a layer's numbers are grouped into. */
    private const RUNS = 4_096;

    /** At most so much for each row whose place is told less sharply than it is. */
    private const OF_TOLD = '1.2; for a million';

    protected $description = 'Measures classes of numbers and areas coloured by records as ratios to raw limits';

    public function handle(): int
    {
        $rows = (int) $this->option('rows');
        [$programme, $user] = $this->yard('Bench maps');
        $this->line(sprintf('%-66s %10s %10s %7s', "A map of $rows records", 'ours', 'raw', 'ratio'));
        $layer = $this->points($programme, $rows);
        $this->natural(100_000);
        $this->classes($layer, $user);
        $this->blurred($layer);
        $areas = $this->areas($programme, $layer, $user, (int) $this->option('areas'));
        $this->toldByAreas($layer, $areas);
        $this->toldByCells($areas);

        return self::SUCCESS;
    }

    private function classes(Layer $layer, User $user): void
    {
        $field = $layer->design()->field('girth') ?? throw new \LogicException;
        $visible = VisibleRecords::for($user, $layer)->showing(['girth']);
        $group = static fn () => DB::select(
            'select floor((f_girth - 10) / 0.1) as bin, count(*), avg(f_girth), min(f_girth), max(f_girth), '
                ."var_pop(f_girth) from {$layer->table()} where deleted = 0 group by bin order by bin",
        );
        $raw = $this->median(3, fn (): float => $this->time($group));
        $breaks = [];
        $find = static function () use ($visible, $field, &$breaks): void {
            $breaks = Classes::breaks(FieldSpread::of($visible, $field), Method::Natural, 7);
        };
        $ours = $this->median(3, fn (): float => $this->time($find));
        $every = Spread::ofValues(
            DB::table($layer->table())->pluck('f_girth')->map(static fn (mixed $v): float => (float) $v)->all(),
        );
        $this->tell(
            sprintf(
                'seven natural classes (loss %.4fx of all values’ own), against grouping',
                Classes::loss($every, $breaks) / Classes::loss($every, Classes::breaks($every, Method::Natural, 7)),
            ),
            $ours,
            $raw,
            1.5,
        );
    }

    /** What a link gets of a layer whose places are blurred, against the same as they are: a list, and what is in a box. */
    private function blurred(Layer $layer): void
    {
        $look = Look::suggest($layer->design());
        // Several: how well one of them goes with quarters of the Z-order is luck.
        $boxes = array_map(
            static fn (int $i): Box => Box::of(
                -11.71 + 0.027 * $i,
                -14.68 + 0.019 * $i,
                -11.61 + 0.033 * $i,
                -14.58 + 0.023 * $i,
            ),
            range(0, 4),
        );
        $ways = [
            '100,000 blurred records as rows, for each' => static fn (VisibleRecords $records): int => count(
                $records->rows()->limit(100_000)->get(['id', 'lon', 'lat', 'f_girth'])->all(),
            ),
            'a list of 20,000 blurred records, for each' => static fn (VisibleRecords $records): int => count(
                MapFeatures::features($records, $look)['features'],
            ),
            'blurred records in five boxes, for each' => static fn (VisibleRecords $records): int => array_sum(
                array_map(
                    static fn (Box $box): int => count(MapFeatures::features($records, $look, $box)['features']),
                    $boxes,
                ),
            ),
        ];
        $seen = static fn (): VisibleRecords => VisibleRecords::of(
            Viewer::anyone(),
            Layer::query()->with('programme')->findOrFail($layer->id),
        )->showing(['girth']);
        $rule = ['rows' => 'all', 'place' => 'cell', 'metres' => 500, 'fields' => null, 'photos' => false];
        foreach ($ways as $what => $take) {
            // Rows alone are asked for by what counts and exports, and have no limit of their own.
            $limit = str_contains($what, 'rows') ? null : self::OF_TOLD;
            $this->eachRow($what, $layer, $rule, static fn (): int => $take($seen()), $limit);
        }
        self::say($layer, null);
    }

    /** @param  array<string, mixed>|null  $rule */
    private static function say(Layer $layer, ?array $rule): void
    {
        $areas = is_int($rule['areas'] ?? null) ? [$rule['areas']] : [];
        Layer::query()->findOrFail($layer->id)->update(['seen_by' => $rule === null ? null : [
            'link' => Rule::read($rule, $layer->design(), [], $areas)->toStored(),
        ]]);
    }

    /**
     * Tells what each row costs under a rule, against the same as they are.
     *
     * @param  array<string, mixed>  $rule
     * @param  \Closure(): int  $take
     */
    private function eachRow(
        string $what,
        Layer $layer,
        array $rule,
        \Closure $take,
        ?string $limit = self::OF_TOLD,
    ): void {
        $rows = $each = [[], []];
        for ($i = 0; $i < 7; $i++) {
            // By turns, for what else the machine does is not even.
            foreach ([null, $rule] as $which => $under) {
                self::say($layer, $under);
                $rows[$which][] = $take();
                $each[$which][] = $this->time($take) / max(1, $rows[$which][0]);
            }
        }
        sort($each[0]);
        sort($each[1]);
        $this->tell($what, $each[1][3] * 1e6, $each[0][3] * 1e6, $limit);
    }

    /** What is told of records by the areas that they lie in: worked out the first time, and then as rows. */
    private function toldByAreas(Layer $layer, Layer $areas): void
    {
        $rule = ['rows' => 'all', 'place' => 'area', 'areas' => $areas->id, 'fields' => null, 'photos' => false];
        $this->toldFirst('the area of each of all records, the first time, against writing them', $layer, $rule);
        $look = Look::suggest($layer->design());
        $this->eachRow('20,000 records told by their areas, for each', $layer, $rule, static fn (): int => count(
            MapFeatures::features(self::seen($layer)->showing(['girth']), $look)['features'],
        ));
        self::say($layer, null);
    }

    /** What is told of areas by the cells that they touch. */
    private function toldByCells(Layer $areas): void
    {
        $rule = ['rows' => 'all', 'place' => 'cell', 'metres' => 500, 'fields' => null, 'photos' => false];
        $this->toldFirst('the cells of each of all areas, the first time, against writing them', $areas, $rule);
        $look = Look::suggest($areas->design());
        $this->eachRow('areas told by their cells, for each', $areas, $rule, static fn (): int => count(
            MapFeatures::features(self::seen($areas), $look)['features'],
        ));
        self::say($areas, null);
    }

    /** @param  array<string, mixed>  $rule */
    private function toldFirst(string $what, Layer $layer, array $rule): void
    {
        self::say($layer, $rule);
        $ours = $this->time(static fn () => (new BringToldPlaces($layer->id))->handle());
        $raw = $this->time(static function (): void {
            DB::statement('create temporary table told_raw like told_places');
            DB::statement('insert into told_raw select * from told_places');
            DB::statement('drop temporary table told_raw');
        });
        $this->tell($what, $ours, $raw, null);
    }

    private static function seen(Layer $layer): VisibleRecords
    {
        return VisibleRecords::of(Viewer::anyone(), Layer::query()->with('programme')->findOrFail($layer->id));
    }

    /** Of values at hand, against ckmeans of simple-statistics on the same. */
    private function natural(int $count): void
    {
        mt_srand(5);
        $values = [];
        for ($i = 0; $i < $count; $i++) {
            $values[] = round(exp(2 * (mt_rand() + mt_rand() + mt_rand()) / mt_getrandmax()), 3);
        }
        $breaks = [];
        $find = static function () use ($values, &$breaks): void {
            $breaks = Classes::breaks(Spread::ofValues($values)->runs(self::RUNS), Method::Natural, 5);
        };
        $ours = $this->median(3, fn (): float => $this->time($find));
        $file = (string) tempnam(sys_get_temp_dir(), 'bench');
        file_put_contents($file, json_encode($values));
        $said = Process::path(base_path())
            ->timeout(120)
            ->run(['node', 'tests/bench/ckmeans.mjs', $file, '5'])
            ->throw()
            ->output();
        unlink($file);
        ['seconds' => $raw, 'loss' => $best] = json_decode($said, true, flags: JSON_THROW_ON_ERROR);
        $this->tell(
            sprintf(
                'five natural classes of %s values (loss %.4fx), against ckmeans',
                number_format($count),
                Classes::loss(Spread::ofValues($values), $breaks) / $best,
            ),
            $ours,
            $raw,
            1.2,
        );
    }

    private function areas(Programme $programme, Layer $layer, User $user, int $count): Layer
    {
        $areas = $this->wards($programme, $count);
        $tally = Tally::read(
            ['layer' => $layer->id, 'measure' => 'mean', 'field' => 'girth'],
            $areas->design(),
            static fn (): LayerDesign => $layer->design(),
        );
        $told = static fn (): array => (new AreaTallies(
            $tally,
            Layer::query()->with('programme')->findOrFail($areas->id),
            Layer::query()->with('programme')->findOrFail($layer->id),
            null,
            null,
            Viewer::person($user),
        ))->all();
        $ours = $this->time(static fn () => $told());
        $raw = $this->time(static function () use ($layer): void {
            foreach (LayerRows::all($layer)->select('id', 'z', 'lon', 'lat', 'f_girth')->orderBy('z')->cursor() as $r) {
            }
        });
        $this->tell("the mean in each of $count areas, the first time, against reading them", $ours, $raw, null);
        $device = RecordId::make()->text;
        $seq = 0;
        $rounds = $updates = [];
        for ($i = 0; $i < 7; $i++) {
            $batch = array_map(static function () use ($layer, &$seq): array {
                return [
                    'op' => RecordId::make()->text,
                    'kind' => 'add',
                    'seq' => ++$seq,
                    'layer' => $layer->id,
                    'design' => $layer->design_version,
                    'record' => RecordId::make()->text,
                    'captured_at' => now()->format('Y-m-d\TH:i:s.v\Z'),
                    'values' => ['code' => "N$seq", 'girth' => $seq % 200],
                    'geometry' => [
                        'type' => 'Point',
                        'coordinates' => [-12 + mt_rand() / mt_getrandmax(), -15 + mt_rand() / mt_getrandmax()],
                    ],
                    'fix' => null,
                    'photos' => [],
                ];
            }, range(1, 1_000));
            $rounds[] = $this->time(static fn () => SyncRound::for($user, $device)->take($batch));
            $updates[] = $this->time(static fn () => $told());
        }
        sort($rounds);
        sort($updates);
        $this->tell('kept current after a round of 1,000 records, against that round', $updates[3], $rounds[3], 0.2);

        return $areas;
    }

    private function points(Programme $programme, int $rows): Layer
    {
        $layer = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Bench maps',
                'geometry' => 'point',
                'fields' => [
                    ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
                    ['key' => 'girth', 'label' => 'Girth', 'kind' => 'decimal', 'decimals' => 3],
                ],
            ]),
            null,
        );
        $path = (string) tempnam(sys_get_temp_dir(), 'bench');
        $out = fopen($path, 'wb') ?: throw new \RuntimeException('cannot write');
        mt_srand(41);
        for ($i = 1; $i <= $rows; $i++) {
            [$lon, $lat] = [-12 + mt_rand() / mt_getrandmax(), -15 + mt_rand() / mt_getrandmax()];
            fwrite($out, sprintf(
                "0193%012x7000%012x\t%.7F\t%.7F\t%d\t%.3F\t%d\n",
                $i,
                mt_rand(),
                $lon,
                $lat,
                ZOrder::of(Position::of(round($lon, 7), round($lat, 7))),
                20 + (mt_rand() / mt_getrandmax()) * 200,
                $i,
            ));
        }
        fclose($out);
        DB::connection()->getPdo()->exec(
            "load data local infile '$path' into table {$layer->table()} character set utf8mb4 "
                .'(@id, lon, lat, z, f_girth, change_number) set id = unhex(@id), version = 1, design_version = 1, '
                ."collected_at = now(), received_at = now(), f_code = concat('C', change_number)",
        );
        unlink($path);
        Layer::query()->whereKey($layer->id)->update(['change_number' => $rows]);

        return Layer::query()->with('programme')->findOrFail($layer->id);
    }

    private function wards(Programme $programme, int $count): Layer
    {
        $areas = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Wards of maps',
                'geometry' => 'area',
                'fields' => [['key' => 'name', 'label' => 'Name', 'kind' => 'short_text']],
            ]),
            null,
        );
        $side = (int) ceil(sqrt($count));
        for ($i = 0; $i < $count; $i++) {
            [$lon, $lat] = [-12 + (0.5 + ($i % $side)) / $side, -15 + (0.5 + intdiv($i, $side)) / $side];
            $ring = [];
            for ($k = 0; $k < 200; $k++) {
                // A coast with bays: the border wanders by a tenth of its distance.
                $r = (0.48 / $side) * (1 + 0.1 * sin($k * 0.37 + $i) * cos($k * 0.11));
                $ring[] = [$lon + $r * cos((2 * M_PI * $k) / 200), $lat + $r * sin((2 * M_PI * $k) / 200)];
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

        return Layer::query()->with('programme')->findOrFail($areas->id);
    }
}
