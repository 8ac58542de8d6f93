<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Console\Stopwatch;
use App\Designs\DesignStore;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use App\Sync\SyncRound;
use GuzzleHttp\Promise\Utils;
use Illuminate\Console\Command;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Str;
use PinYard\Design\LayerDesign;
use PinYard\Record\RecordId;
use StandIns\Phones\Line;

/**
 * Times sync rounds: in one process against bare multi-row inserts, and 200 phones at once against the running server.
 */
final class BenchSync extends Command
{
    use Stopwatch;

    protected $signature = 'bench:sync {--url= : of the running server; without it only one process is timed}';

    protected $description = 'Measures sync rounds';

    private int $seq = 0;

    // Above all that rounds write, so that a history has no version twice.
    private int $version = 1_000;

    public function handle(): int
    {
        $programme = Programme::query()->create([
            'name' => 'Bench sync',
            'purpose' => '',
            'time_zone' => 'UTC',
            'west' => -12,
            'south' => -15,
            'east' => -11,
            'north' => -14,
        ]);
        $layer = DesignStore::createLayer(
            $programme,
            LayerDesign::fromArray([
                'title' => 'Bench sync',
                'geometry' => 'point',
                'rights' => ['crew' => ['change' => 'all']],
                'fields' => [
                    ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'required' => true],
                    [
                        'key' => 'clutch',
                        'label' => 'Clutch',
                        'kind' => 'whole_number',
                        'limits' => ['lowest' => 1, 'highest' => 250],
                    ],
                    ['key' => 'laid_on', 'label' => 'Laid on', 'kind' => 'date'],
                    ['key' => 'double', 'label' => 'Double', 'kind' => 'calculated', 'formula' => 'clutch * 2'],
                ],
            ]),
            null,
        );
        $user = $this->person($programme);
        $device = RecordId::make()->text;

        $this->line(sprintf('%-62s %10s %12s', 'Sync', 'seconds', 'a second'));
        [$round, $raw] = $this->inTurn(9, function () use ($user, $device, $layer): float {
            $batch = array_map(fn (): array => $this->add($layer), range(1, 1_000));

            return $this->time(fn () => SyncRound::for($user, $device)->take($batch));
        }, fn (): float => $this->rows($layer, 1_000));
        $this->tell('1,000 rows into records, history and ledger, bare inserts', $raw, 1_000);
        $this->tell('a round of 1,000 new records', $round, 1_000, $round / $raw);
        $added = array_map(fn (): array => $this->add($layer), range(1, 1_000));
        SyncRound::for($user, $device)->take($added);
        // The bare rows go over records of their own: they keep no versions in order.
        $others = array_map(fn (): array => $this->add($layer), range(1, 1_000));
        SyncRound::for($user, $device)->take($others);
        $there = array_map(static fn (array $op): string => RecordId::of($op['record'], '')->bytes(), $others);
        // Every change knows what it replaces: clashes would write rows of their own, and none over the record.
        $version = 1;
        $was = $added[0]['values']['clutch'];
        [$changes, $upserts] = $this->inTurn(9, function () use (
            $user,
            $device,
            $layer,
            $added,
            &$version,
            &$was,
        ): float {
            $becomes = $was === 250 ? 1 : $was + 1;
            $batch = array_map(
                fn (array $op): array => [
                    ...$this->add($layer),
                    'kind' => 'change',
                    'record' => $op['record'],
                    'base' => $version,
                    'values' => ['clutch' => $becomes],
                    'was' => ['clutch' => $was],
                    'geometry' => null,
                ],
                $added,
            );
            $version++;
            $was = $becomes;

            return $this->time(fn () => SyncRound::for($user, $device)->take($batch));
        }, fn (): float => $this->rows($layer, 1_000, $there));
        $this->tell('1,000 rows over those that are there, history and ledger, bare', $upserts, 1_000);
        $this->tell('a round of 1,000 changes', $changes, 1_000, $changes / $upserts, 'of the bare upserts');
        [$many, $each] = $this->inTurn(5, function () use ($user, $layer): float {
            $batches = array_map(
                fn (): array => array_map(fn (): array => $this->add($layer), range(1, 100)),
                range(1, 100),
            );

            return $this->time(function () use ($user, $batches): void {
                foreach ($batches as $batch) {
                    SyncRound::for($user, RecordId::make()->text)->take($batch);
                }
            });
        }, fn (): float => array_sum(array_map(fn (): float => $this->rows($layer, 100), range(1, 100))));
        $this->tell('100 transactions of 100 rows into the three tables, bare', $each, 10_000);
        $this->tell(
            '100 phones with 100 records each, one after the other',
            $many,
            10_000,
            $many / $each,
            'of the bare transactions',
        );
        if ($this->option('url') !== null) {
            $this->overHttp((string) $this->option('url'), $programme, $layer);
        }
        $this->line(sprintf('memory: %d MiB', memory_get_peak_usage(true) >> 20));

        return self::SUCCESS;
    }

    /**
     * Medians of two works that are done in turn, so that a machine that is busier for a while is so for both.
     *
     * @param  \Closure(): float  $ours
     * @param  \Closure(): float  $raw
     * @return array{float, float}
     */
    private function inTurn(int $times, \Closure $ours, \Closure $raw): array
    {
        $all = [[], []];
        for ($i = 0; $i < $times; $i++) {
            $all[0][] = $ours();
            $all[1][] = $raw();
        }
        sort($all[0]);
        sort($all[1]);

        return [$all[0][intdiv($times, 2)], $all[1][intdiv($times, 2)]];
    }

    private function overHttp(string $url, Programme $programme, Layer $layer): void
    {
        // One person's session for all: signing in is no part of a round.
        $user = $this->person($programme);
        $line = new Line($url, $user->email, 'bench-phone');
        $line->signIn();
        $post = static fn (array $operations, array $cursors) => $line->sending(
            'POST',
            'api/v1/sync',
            ['device' => RecordId::make()->text, 'operations' => $operations, 'cursors' => (object) $cursors],
            120,
        );
        $cursor = $layer->refresh()->change_number;
        $idle = $this->median(60, fn (): float => $this->time(fn () => $post([], [$layer->id => $cursor])->wait()));
        $me = $this->median(60, fn (): float => $this->time(fn () => $line->get('api/v1/me')));
        $this->tell('an idle round over HTTP', $idle, 1, $idle / $me, 'against GET /me');
        $batches = array_map(fn (): array => array_map(fn (): array => $this->add($layer), range(1, 50)),
            range(1, 200));
        $failed = 0;
        $all = $this->time(function () use ($batches, $post, $cursor, $layer, &$failed): void {
            foreach (
                Utils::settle(array_map(static fn (array $b) => $post($b, [$layer->id => $cursor]), $batches))
                    ->wait() as $one
            ) {
                $body = $one['state'] === 'fulfilled' ? json_decode((string) $one['value']->getBody(), true) : null;
                $failed += array_unique(array_column($body['outcomes'] ?? [], 'outcome')) === ['applied'] ? 0 : 1;
            }
        });
        $this->tell("200 phones at once, 50 records each, over HTTP ($failed failed)", $all, 10_000);
    }

    private function person(Programme $programme): User
    {
        $user = User::query()->create([
            'name' => 'Bench',
            'email' => Str::lower(Str::random(12)).'@example.test',
            'password' => 'bench-phone',
        ]);
        $programme->members()->create(['user_id' => $user->id, 'role' => Role::Crew]);

        return $user;
    }

    /** @return array<string, mixed> */
    private function add(Layer $layer): array
    {
        return [
            'op' => RecordId::make()->text,
            'kind' => 'add',
            'seq' => ++$this->seq,
            'layer' => $layer->id,
            'design' => 1,
            'record' => RecordId::make()->text,
            'captured_at' => now()->format('Y-m-d\TH:i:s.v\Z'),
            'values' => ['code' => "B-{$this->seq}", 'clutch' => 100, 'laid_on' => '2026-05-01'],
            'geometry' => ['type' => 'Point', 'coordinates' => [-11.5, -14.5]],
            'fix' => ['accuracy' => 4.0],
            'photos' => [],
        ];
    }

    /**
     * What a round cannot be quicker than: rows of the same columns in one transaction, without deciding anything.
     *
     * @param  list<string>|null  $over  ids of records that are read and written over; null for new ones
     */
    private function rows(Layer $layer, int $count, ?array $over = null): float
    {
        $now = now()->format('Y-m-d H:i:s.v');
        $by = (int) User::query()->max('id');
        $device = RecordId::make()->bytes();
        $text = RecordId::make()->text;
        $record = $history = $ledger = [];
        for ($i = 0; $i < $count; $i++) {
            $op = RecordId::make()->bytes();
            $id = $over[$i] ?? $op;
            $record[] = [
                'id' => $id,
                'lon' => -11.5,
                'lat' => -14.5,
                'z' => 1,
                'version' => 1,
                'change_number' => 1,
                'design_version' => 1,
                'created_by' => $by,
                'collected_at' => $now,
                'received_at' => $now,
                'accuracy' => 4.0,
                'f_code' => "B-$i",
                'f_clutch' => 100,
                'f_laid_on' => '2026-05-01',
                'f_double' => 200,
            ];
            $history[] = [
                'layer_id' => $layer->id,
                'record_id' => $id,
                'version' => ++$this->version,
                'kind' => 'add',
                'op' => $op,
                'user_id' => $by,
                'design_version' => 1,
                'captured_at' => $now,
                'received_at' => $now,
                'device' => $device,
                'lon' => -11.5,
                'lat' => -14.5,
                'values' => "{\"code\":\"B-$i\",\"clutch\":100,\"laid_on\":\"2026-05-01\",\"double\":200}",
            ];
            $ledger[] = [
                'op' => $op,
                'layer_id' => $layer->id,
                'user_id' => $by,
                'device' => $device,
                'seq' => $i,
                'outcome' => 'applied',
                'answer' => (string) json_encode(
                    ['op' => $text, 'outcome' => 'applied', 'record' => $text, 'version' => 1],
                ),
                'received_at' => $now,
            ];
        }

        return $this->time(
            fn () => DB::transaction(function () use ($layer, $record, $history, $ledger, $over): void {
                if ($over !== null) {
                    DB::table($layer->table())->whereIn('id', $over)->lockForUpdate()->get();
                }
                foreach (array_chunk($record, 500) as $some) {
                    $over === null
                        ? DB::table($layer->table())->insert($some)
                        : DB::table($layer->table())->upsert($some, 'id');
                }
                foreach ([['record_history', $history], ['sync_ledger', $ledger]] as [$table, $rows]) {
                    foreach (array_chunk($rows, 500) as $some) {
                        DB::table($table)->insert($some);
                    }
                }
            }),
        );
    }

    private function tell(
        string $what,
        float $seconds,
        int $count,
        ?float $ratio = null,
        string $against = 'of the bare inserts',
    ): void {
        $this->line(
            sprintf(
                '%-62s %10.4f %12s %s',
                $what,
                $seconds,
                $count === 1 ? '' : number_format($count / $seconds),
                $ratio === null ? '' : sprintf('%.2fx %s', $ratio, $against),
            ),
        );
    }
}
