<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\Stopwatch;
use App\Designs\DesignStore;
use App\Fills\RunFill;
use App\Flags\FlagRound;
use App\Maps\FieldSpread;
use App\Models\Fill;
use App\Models\Layer;
use App\Models\Map;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Recalculation\Recalculate;
use App\Records\Acceptance;
use App\Records\VisibleRecords;
use App\Rights\Viewer;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Schema;
use PinYard\Design\LayerDesign;
use PinYard\Geo\Geodesic;
use PinYard\Stats\Classes;
use PinYard\Stats\Method;
use PinYard\Stats\Spread;

/** Times what the job must be quick at, beside the raw limit of the same machine in the same run. */
final class Bench extends Command
{
    use Stopwatch;

    protected $signature = 'bench {--rows=1000000}';

    protected $description = 'Measures speeds as ratios to raw limits';

    public function handle(): int
    {
        $rows = (int) $this->option('rows');
        $layer = $this->layer($rows);
        $this->line(sprintf('%-58s %10s %10s %7s', "A layer of $rows records", 'ours', 'raw', 'ratio'));

        $column = 0;
        $raw = $this->time(
            static fn () => Schema::table($layer->table(), static fn ($t) => $t->double('raw_'.++$column)->nullable()),
        );
        $document = $layer->design()->toArray();
        $document['fields'][] = ['key' => 'added', 'label' => 'Added', 'kind' => 'decimal'];
        $ours = $this->time(static fn () => DesignStore::saveNext($layer, LayerDesign::fromArray($document), 1, null));
        $this->tell('a field is added, against a bare ADD COLUMN', $ours, $raw);

        $layer = $layer->fresh() ?? throw new \LogicException;
        DB::statement("update {$layer->table()} set f_filled = null");
        $raw = $this->time(
            static fn () => DB::update(
                "update {$layer->table()} set f_filled = round(f_girth * 3), version = version + 1, change_number "
                    .'= change_number + 1',
            ),
        );
        DB::statement("update {$layer->table()} set f_filled = null, version = 1");
        memory_reset_peak_usage();
        $fill = Fill::query()->create([
            'layer_id' => $layer->id,
            'field' => 'filled',
            'formula' => 'round(girth * 3)',
            'state' => 'working',
        ]);
        $ours = $this->time(static fn () => (new RunFill($fill->id))->handle());
        $this->tell(
            sprintf(
                'a field is filled (%d changed, %d MiB), against one UPDATE',
                $fill->refresh()->changed,
                memory_get_peak_usage(true) >> 20,
            ),
            $ours,
            $raw,
        );
        $ours = $this->time(static fn () => RunFill::undo($fill->refresh(), null));
        $this->tell('the fill is undone, against the same UPDATE', $ours, $raw);

        $raw = $this->time(static fn () => DB::update('update '
            ."{$layer->table()} set f_shown = round(f_girth / 2.5, 1)"));
        DB::statement("update {$layer->table()} set f_shown = null");
        $ours = $this->time(static fn () => (new Recalculate($layer->id, ['shown']))->handle());
        $this->tell('a calculated field is worked out, against one UPDATE', $ours, $raw);

        $this->accepted($layer);
        $this->flagged($layer);

        $girth = $layer->design()->field('girth') ?? throw new \LogicException;
        $visible = VisibleRecords::of(Viewer::link((new Map)->forceFill(['id' => 1])), $layer)->showing(['girth']);
        $raw = $this->time(static fn () => DB::select(
            'select floor((f_girth - 10) / 0.1) as bin, count(*), avg(f_girth), min(f_girth), max(f_girth), '
                ."var_pop(f_girth) from {$layer->table()} where deleted = 0 group by bin order by bin",
        ));
        $ours = $this->time(static function () use ($visible, $girth, &$breaks): void {
            $breaks = Classes::breaks(FieldSpread::of($visible, $girth), Method::Natural, 7);
        });
        $every = Spread::ofValues(
            DB::table($layer->table())->where('deleted', 0)->pluck('f_girth')->map(
                static fn (mixed $v): float => (float) $v,
            )->all(),
        );
        $this->tell(
            sprintf(
                'seven natural classes (loss %.4fx of all values’ own), against grouping',
                Classes::loss($every, $breaks ?? []) /
                    Classes::loss($every, Classes::breaks($every, Method::Natural, 7)),
            ),
            $ours,
            $raw,
        );

        $lines = static fn (\Closure $metres) => static function () use ($metres): void {
            for ($i = 0; $i < 20_000; $i++) {
                $metres(-11.6, -14.2, -11.6 + $i / 1e5, -14.1);
            }
        };
        $raw = $this->time(
            $lines(
                static fn (float $a, float $b, float $c, float $d): float => 2 *
                    6_371_008.8 *
                    asin(
                        sqrt(
                            sin(deg2rad($d - $b) / 2) ** 2 +
                                cos(deg2rad($b)) * cos(deg2rad($d)) * sin(deg2rad($c - $a) / 2) ** 2,
                        ),
                    ),
            ),
        );
        $ours = $this->time($lines(Geodesic::metres(...)));
        $this->tell('20,000 geodesics, against as many great circles', $ours, $raw);

        return self::SUCCESS;
    }

    /** All records that wait are accepted at once. */
    private function accepted(Layer $layer): void
    {
        $user = User::query()->firstOrCreate(
            ['email' => 'bench@example.test'],
            ['name' => 'Bench', 'password' => bin2hex(random_bytes(8))],
        );
        $layer->programme->members()->create(['user_id' => $user->id, 'role' => Role::Coordinator]);
        $wait = static fn (): int => DB::update("update {$layer->table()} set accepted_at = null, accepted_by = null");
        $wait();
        $raw = $this->time(static fn () => DB::update("update {$layer->table()} set accepted_at = now(3), "
            .'accepted_by = 1, change_number = change_number + 1'));
        $wait();
        $now = Layer::query()->with('programme')->findOrFail($layer->id);
        $ours = $this->time(static fn () => (new Acceptance($user, $now, true))->all([], PHP_INT_MAX));
        $this->tell('all records are accepted, against one UPDATE', $ours, $raw);
    }

    /** What speaks against a round of records that came in; where numbers lie is known, as it mostly is. */
    private function flagged(Layer $layer): void
    {
        FlagRound::run();
        $number = (int) Layer::query()->whereKey($layer->id)->value('change_number');
        DB::statement("set @n := $number");
        DB::update("update {$layer->table()} set accepted_at = null, "
            .'change_number = (@n := @n + 1) order by id limit 500');
        Layer::query()->whereKey($layer->id)->update(['change_number' => $number + 500]);
        $ids = DB::table($layer->table())->where('change_number', '>', $number)->pluck('id');
        $raw = $this->time(static function () use ($ids, $layer): void {
            foreach ($ids as $id) {
                DB::table($layer->table())->where('id', $id)->first();
            }
        });
        $now = Layer::query()->with('programme')->findOrFail($layer->id);
        $ours = $this->time(static fn () => FlagRound::catchUp($now));
        $this->tell('500 that came in are looked at, against reading each', $ours, $raw);
    }

    private function layer(int $rows): Layer
    {
        $programme = Programme::query()->create([
            'name' => 'Bench',
            'purpose' => '',
            'time_zone' => 'UTC',
            'west' => -12,
            'south' => -15,
            'east' => -11,
            'north' => -14,
        ]);
        $field = static fn (string $key, string $kind, array $more = []): array => [
            'key' => $key,
            'label' => ucfirst($key),
            'kind' => $kind,
            ...$more,
        ];
        $layer = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Bench',
                'geometry' => 'point',
                'fields' => [
                    $field('code', 'short_text'),
                    $field('girth', 'decimal'),
                    $field('filled', 'whole_number'),
                    $field('seen', 'date'),
                    $field('note', 'long_text'),
                    $field('size', 'one_choice', [
                        'choices' => [['code' => 'S', 'label' => 'Small'], ['code' => 'L', 'label' => 'Large']],
                    ]),
                    $field('a', 'whole_number'),
                    $field('b', 'decimal'),
                    $field('c', 'yes_no'),
                    $field('d', 'time'),
                    $field('e', 'date_time'),
                    $field('shown', 'calculated', ['formula' => 'round(girth / 2.5, 1)']),
                ],
            ]),
            null,
        );
        DB::statement('insert into '
            ."{$layer->table()} (id, lon, lat, z, version, change_number, design_version, collected_at, received_at,
                f_code, f_girth, f_seen, f_size, f_a)
            select unhex(concat('0193', lpad(hex(seq), 28, '0'))), -12 + rand(1), -15 + rand(2), seq, 1, seq, 1, now(), now(),
                concat('C', seq), 20 + rand(3) * 200, '2026-11-01', if(seq % 3, 'S', 'L'), seq % 100
            from seq_1_to_$rows");
        Layer::query()
            ->whereKey($layer->id)
            ->update(['change_number' => $rows]);

        return $layer->fresh() ?? throw new \LogicException;
    }

    private function tell(string $what, float $ours, float $raw): void
    {
        $this->line(sprintf('%-58s %8.3f s %8.3f s %6.2f×', $what, $ours, $raw, $ours / max($raw, 1e-6)));
    }
}
