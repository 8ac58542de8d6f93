<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Designs\DesignStore;
use App\Models\Layer;
use App\Models\Programme;
use App\Models\Role;
use App\Models\User;
use Illuminate\Console\Command;
use Illuminate\Support\Str;
use PinYard\Design\LayerDesign;
use Random\Engine\Mt19937;
use Random\Randomizer;
use StandIns\Phones\FaultMachine;
use StandIns\Phones\Line;
use StandIns\Phones\Phone;
use StandIns\Phones\Verdict;
use Symfony\Component\Process\Process;

/** The fault machine against the running server, in a programme of its own. */
final class SyncFaults extends Command
{
    protected $signature = 'sync:faults {--rounds=300} {--phones=6} {--gathered=0 : records in the first phone\'s '
        .'outbox before it has signal} {--seed=} {--url= : of the running server} {--kill= : fpm, mariadb or both, '
            .'separated by a comma; needs PINYARD_VAR} {--keep : leave the programme there}';

    protected $description = 'Drive simulated phones and the real server through faults, and tell whether anything '
        .'was lost';

    public function handle(): int
    {
        $seed = (int) ($this->option('seed') ?? random_int(1, 1_000_000));
        $rounds = max(1, (int) $this->option('rounds'));
        $url = (string) ($this->option('url') ?? config('app.url'));
        $this->line("fault machine: seed $seed, $rounds rounds, {$this->option('phones')} phones, $url");
        $programme = Programme::query()->create([
            'name' => "Fault machine $seed ".Str::random(4),
            'purpose' => '',
            'time_zone' => 'Atlantic/St_Helena',
            'west' => -12,
            'south' => -15,
            'east' => -11,
            'north' => -14,
        ]);
        $layer = DesignStore::createLayer($programme, self::design(1), null);
        $visits = DesignStore::createLayer($programme, self::visits(), null);
        $phones = [];
        for ($i = 0; $i < max(2, (int) $this->option('phones')); $i++) {
            $email = Str::lower(Str::random(12)).'@example.test';
            $user = User::query()->create([
                'name' => "Phone $i",
                'email' => $email,
                'password' => 'fault-machine-phone',
            ]);
            $programme->members()->create(['user_id' => $user->id, 'role' => Role::Crew]);
            // Each fourth has a clock that is an hour wrong, and knows it.
            // The third and the sixth are the phone of who comes before them, in other hands.
            $shared = $i % 3 === 2 ? $phones[$i - 1] : null;
            $phones[] = $phone = new Phone(
                new Line($url, $email, 'fault-machine-phone'),
                "phone $i",
                $i % 4 === 3 ? 3_600 : 0,
                $user->id,
                $shared,
            );
            $phone->own->signIn();
            $phone->cursors = [$layer->id => 0, $visits->id => 0];
        }
        $machine = new FaultMachine(
            $phones,
            $layer->id,
            $visits->id,
            new Randomizer(new Mt19937($seed)),
            $this->upheavals($layer),
        );
        $this->machine = $machine;
        $began = microtime(true);
        $machine->run(
            $rounds,
            (int) $this->option('gathered'),
            fn (int $round) => ($round + 1) % 1_000 === 0
                ? $this->line('  '.($round + 1).' rounds, '.round(microtime(true) - $began).' s')
                : null,
        );
        $wrong = Verdict::of($machine, $phones, $layer, $visits);
        $outcomes = array_count_values(
            array_merge(...array_map(static fn (Phone $p): array => array_values($p->outcomes), $phones)),
        );
        ksort($outcomes);
        ksort($machine->faults);
        $this->line(
            sprintf(
                '%d operations, %d files, %d values followed, %.0f s',
                $machine->operations,
                $machine->files,
                count($machine->saved),
                microtime(true) - $began,
            ),
        );
        $this->line('outcomes: '.json_encode($outcomes));
        $this->line('faults:   '.json_encode($machine->faults));
        foreach ($wrong as $line) {
            $this->error("seed $seed: $line");
        }
        $this->line($wrong === [] ? 'nothing lost, nothing doubled' : count($wrong).' things are wrong');
        if (! $this->option('keep')) {
            $programme->forceDelete();
        }

        return $wrong === [] ? self::SUCCESS : self::FAILURE;
    }

    private FaultMachine $machine;

    /** @return array<string, \Closure(): void> */
    private function upheavals(Layer $layer): array
    {
        $version = 1;
        $kill = array_filter(explode(',', (string) $this->option('kill')));
        $var = (string) getenv('PINYARD_VAR');
        $pid = static fn (string $name): int => (int) @file_get_contents("$var/run/$name.pid");

        return [
            'design changed' => function () use ($layer, &$version): void {
                if ($version >= 6) {
                    return;
                }
                // Phones go on with the design that they have, and learn of the one before.
                $this->machine->design = $version;
                DesignStore::saveNext(
                    Layer::query()->findOrFail($layer->id),
                    self::design($version + 1),
                    $version,
                    null,
                );
                $version++;
            },
            ...in_array('fpm', $kill, true)
                ? [
                    'php-fpm killed' => static function () use ($pid): void {
                        Process::fromShellCommandline(
                            '(sleep 0.00'.random_int(1, 9).'; pkill -9 -P '.$pid('fpm').') >/dev/null 2>&1 &',
                        )->run();
                    },
                ]
                : [],
            ...in_array('mariadb', $kill, true)
                ? [
                    'MariaDB killed' => static function () use ($pid, $var): void {
                        (new Process(
                            [
                                'bash',
                                '-c',
                                'kill -9 '.
                                $pid('mariadb').
                                '; sleep 0.2; source bin/lib.sh; start_mariadb "$(sed -n s/^DB_PORT=//p '
                                    .'"$PINYARD_VAR/.env")"',
                            ],
                            base_path(),
                            ['PINYARD_VAR' => $var],
                            timeout: 90,
                        ))->mustRun();
                        \Illuminate\Support\Facades\DB::purge();
                    },
                ]
                : [],
        ];
    }

    /**
     * The first design and what becomes of it: a field more, then limits that are drawn narrower, so that something is
     * held.
     */
    private static function design(int $version): LayerDesign
    {
        return LayerDesign::fromArray([
            'title' => 'Faults',
            'geometry' => 'point',
            'fields' => [
                ['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'required' => true],
                ['key' => 'note', 'label' => 'Note', 'kind' => 'long_text'],
                [
                    'key' => 'count',
                    'label' => 'Count',
                    'kind' => 'whole_number',
                    'limits' => ['lowest' => 1, 'highest' => 100 - 8 * $version],
                ],
                ...$version >= 2 ? [['key' => 'more', 'label' => 'More', 'kind' => 'decimal']] : [],
            ],
            'photos' => ['allowed' => true, 'most' => 8],
            'altitude' => ['unit' => 'm'],
            'rights' => ['crew' => ['add' => true, 'see' => 'all', 'change' => 'all', 'delete' => 'all']],
        ]);
    }

    private static function visits(): LayerDesign
    {
        return LayerDesign::fromArray([
            'title' => 'Visits',
            'visits_of' => 'Faults',
            'geometry' => 'point',
            'photos' => ['allowed' => false],
            'fields' => [['key' => 'seen', 'label' => 'Seen', 'kind' => 'short_text']],
            'rights' => ['crew' => ['add' => true, 'see' => 'all', 'change' => 'all', 'delete' => 'all']],
        ]);
    }
}
