<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Boards\BoardAnswers;
use App\Boards\BoardPicks;
use App\Boards\BoardSources;
use App\Console\BenchYard;
use App\Console\Stopwatch;
use App\Designs\DesignStore;
use App\Models\Audience;
use App\Models\Board;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\User;
use App\Records\Bits\BuildBits;
use App\Records\Stood\StoodDay;
use Illuminate\Console\Command;
use Illuminate\Http\Request;
use Illuminate\Support\Facades\DB;
use PinYard\Design\LayerDesign;
use PinYard\Filter\Filter;

/** Times a board of eight tiles over a large layer, beside the eight queries by hand that say the same. */
final class BenchBoards extends Command
{
    use BenchYard;
    use Stopwatch;

    protected $signature = 'bench:boards {--rows=1000000}';

    protected $description = 'Measures the first and the next answer of a board as ratios to raw queries';

    public function handle(): int
    {
        $rows = (int) $this->option('rows');
        [$programme, $user] = $this->yard('Bench boards');
        $layer = $this->layer($programme, $rows);
        $raw = $this->median(3, fn (): float => $this->time(fn () => $this->byHand($layer)));
        $board = $this->board($programme, $layer);
        $first = $this->median(3, function () use ($board, $user): float {
            // A board that was changed is answered anew.
            DB::table('boards')->where('id', $board->id)->update(
                ['updated_at' => now()->addMinutes(random_int(1, 9_999))],
            );

            return $this->time(fn () => $this->answer($board, $user));
        });
        $next = $this->median(9, fn (): float => $this->time(fn () => $this->answer($board, $user)));
        $this->line(sprintf('%-66s %10s %10s %7s', "A board of eight tiles on $rows records", 'ours', 'raw', 'ratio'));
        $this->tell('first answer, nothing kept, against the eight queries', $first, $raw, '0.35; 0.02 by bits');
        $this->tell('the same once more', $next, $raw, '0.02');
        $build = $this->time(fn () => (new BuildBits($layer->id))->handle());
        $this->tell('building what is counted by bits, against the eight queries', $build, $raw, '1.5');
        $anew = fn (array $picks): float => $this->median(5, function () use ($board, $user, $picks): float {
            DB::table('boards')->where('id', $board->id)->update(
                ['updated_at' => now()->addMinutes(random_int(1, 9_999))],
            );

            return $this->time(fn () => $this->answer($board, $user, null, $picks));
        });
        $this->tell('first answer by bits, against the eight queries', $anew([]), $raw, '0.02');
        $picks = ['t2' => 'k3', 't5' => '2025-07-01'];
        $this->tell('under two picks, by bits, against the eight queries', $anew($picks), $raw, '0.02');
        $this->change($layer, $rows);
        $this->tell('after 1,000 scattered changes, by bits', $anew([]), $raw, '0.02');
        $this->tell('after 1,000 scattered changes and under two picks', $anew($picks), $raw, '0.02');
        $stood = $this->time(fn () => $this->answer($board, $user, now()->subDay()->toDateString()));
        $this->tell('as it stood yesterday, 1,000 changed since, against a first answer', $stood, $first, '2');

        return self::SUCCESS;
    }

    /** @param  array<string, string>  $picks  by tile */
    private function answer(Board $board, User $user, ?string $on = null, array $picks = []): string
    {
        $sources = BoardSources::forPerson($board->id, $user) ?? throw new \LogicException;
        if ($on !== null) {
            $sources = $sources->on(StoodDay::of($on, false, $sources->board->programme));
        }

        $asked = Request::create('/', 'GET', ['pick' => json_encode($picks)]);

        return BoardAnswers::of($sources, BoardPicks::asked($asked))->text();
    }

    private function layer(Programme $programme, int $rows): Layer
    {
        $layer = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Trees of boards',
                'geometry' => 'point',
                'fields' => [
                    ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text'],
                    ['key' => 'kind', 'label' => 'Kind', 'kind' => 'one_choice', 'choices' => array_map(
                        static fn (int $i): array => ['code' => "k$i", 'label' => "Kind $i"],
                        range(1, 6),
                    )],
                    ['key' => 'girth', 'label' => 'Girth', 'kind' => 'decimal', 'unit' => 'cm'],
                    ['key' => 'sound', 'label' => 'Sound', 'kind' => 'yes_no'],
                    ['key' => 'on', 'label' => 'On', 'kind' => 'date'],
                ],
            ]),
            null,
        );
        // The sequence engine makes them without a way through PHP; places are of no matter here.
        DB::statement(
            "insert into {$layer->table()} (id, lon, lat, z, version, change_number, design_version, collected_at, "
                .'received_at, f_code, f_kind, f_girth, f_sound, f_on) '
                ."select unhex(concat('018f0000000070008000', lpad(hex(seq), 12, '0'))), -11.5, -14.5, seq, 1, seq, 1, "
                ."date_add('2026-01-01', interval (seq * 7919) mod 20000000 second), now() - interval 2 day, concat('T-', seq), "
                ."elt(1 + (seq * 31) mod 7, 'k1', 'k2', 'k3', 'k4', 'k5', 'k6', null), "
                .'if(seq mod 11 = 0, null, 10 + (seq * 7907) mod 40000 / 100), (seq * 13) mod 3 = 0, '
                ."date_add('2025-01-01', interval (seq * 37) mod 365 day) from seq_1_to_$rows",
        );
        Layer::query()->whereKey($layer->id)->update(['change_number' => $rows]);

        return Layer::query()->with('programme')->findOrFail($layer->id);
    }

    /** A thousand records all over the layer were changed today; before that it was brought in, two days ago. */
    private function change(Layer $layer, int $rows): void
    {
        $t = $layer->table();
        $each = max(1, intdiv($rows, 1_000));
        DB::table('record_changes')->insert([
            'layer_id' => $layer->id, 'from_number' => 0, 'to_number' => $rows, 'cause' => 'import',
            'design_version' => 1, 'is_range' => true, 'made_at' => now()->subDays(2), 'heard_at' => now(),
        ]);
        foreach ([[1, 'import', 'r.received_at'], [2, 'change', 'now(3)']] as [$version, $kind, $at]) {
            DB::insert(
                'insert into record_history (layer_id, record_id, version, kind, design_version, captured_at, '
                    .'received_at, lon, lat, `values`) '
                    ."select ?, r.id, $version, '$kind', 1, r.collected_at, $at, r.lon, r.lat, json_object('code', "
                    ."r.f_code, 'kind', r.f_kind, 'girth', r.f_girth, 'sound', r.f_sound = 1, 'on', r.f_on) "
                    ."from $t r where r.change_number mod $each = 0",
                [$layer->id],
            );
        }
        DB::update("update $t set version = 2, f_girth = 5, change_number = change_number + $rows "
            ."where change_number mod $each = 0");
        Layer::query()->whereKey($layer->id)->update(['change_number' => 2 * $rows]);
    }

    /** A count, one under two conditions, counts and means by a choice, a sum, months, a distribution, the latest. */
    private function byHand(Layer $layer): void
    {
        $t = $layer->table();
        foreach ([
            "select count(*) from $t where deleted = 0",
            "select count(*) from $t where deleted = 0 and f_kind = 'k2' and f_sound = 1",
            "select f_kind, count(*) from $t where deleted = 0 group by f_kind",
            "select f_kind, avg(f_girth), count(f_girth) from $t where deleted = 0 group by f_kind",
            "select sum(f_girth) from $t where deleted = 0 and f_on >= '2025-07-01'",
            "select date_format(f_on, '%Y-%m-01') as m, count(*) from $t where deleted = 0 group by m",
            "select floor((f_girth - 10) / 20) as b, count(*) from $t where deleted = 0 group by b",
            "select * from $t where deleted = 0 order by collected_at desc limit 20",
        ] as $query) {
            DB::select($query);
        }
    }

    private function board(Programme $programme, Layer $layer): Board
    {
        $slice = static fn (string $name, array $conditions): int => $layer->slices()->create([
            'name' => $name,
            'filter' => Filter::read(['all' => $conditions], $layer->design())->toArray(),
        ])->id;
        $sound = $slice('Sound k2', [
            ['field' => 'kind', 'test' => 'is', 'value' => 'k2'],
            ['field' => 'sound', 'test' => 'is', 'value' => true],
        ]);
        $late = $slice('Since July', [['field' => 'on', 'test' => 'since', 'value' => '2025-07-01']]);
        $girth = static fn (string $of): array => ['measure' => ['of' => $of, 'field' => 'girth']];
        $tiles = [
            ['kind' => 'number'],
            ['kind' => 'number', 'slice' => $sound],
            ['kind' => 'breakdown', 'by' => ['field' => 'kind']],
            ['kind' => 'breakdown', 'by' => ['field' => 'kind']] + $girth('mean'),
            ['kind' => 'number', 'slice' => $late] + $girth('sum'),
            ['kind' => 'trend', 'by' => ['field' => 'on', 'step' => 'month']],
            ['kind' => 'spread', 'bars' => 20] + $girth('mean'),
            ['kind' => 'latest', 'count' => 20, 'fields' => ['kind']],
        ];
        $full = [];
        foreach ($tiles as $i => $tile) {
            $full[] = $tile + ['id' => "t$i", 'title' => "T$i", 'layer' => $layer->id, 'width' => 3, 'height' => 2];
        }

        $board = $programme->boards()->make(['title' => 'Bench', 'tiles' => $full]);
        $board->openTo(Audience::Programme);

        return $board;
    }
}
