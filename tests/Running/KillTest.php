<?php

declare(strict_types=1);

use Demo\NestPatrol;
use GuzzleHttp\Promise\Utils;
use Symfony\Component\Process\Process;
use Tests\Running\KillMoment;
use Tests\Running\Phone;

/*
 * Against the server that bin/test has started: nginx, php-fpm and MariaDB of its own, which are really killed.
 * The seed of the waiting times is printed when a test fails.
 */
beforeEach(function (): void {
    $this->var = (string) getenv('PINYARD_VAR');
    expect(getenv('PINYARD_TEST_URL'))->toBeString('run this through bin/test, which starts the server');
    $this->phone = new Phone(NestPatrol::COORDINATOR, NestPatrol::PASSWORD);
    $programme = $this->phone->get('/api/v1/programmes')[0]['id'];
    $made = $this->phone->post("/api/v1/programmes/$programme/layers", [
        'title' => 'Kill '.bin2hex(random_bytes(4)),
        'geometry' => 'point',
        'fields' => [['key' => 'code', 'label' => 'Code', 'kind' => 'short_text', 'required' => true]],
    ]);
    $this->nests = json_decode((string) $made->getBody(), true)['id'];
    $this->pid = fn (string $name): int => (int) file_get_contents("{$this->var}/run/$name.pid");
    $this->seed = random_int(1, 1_000_000);
    mt_srand($this->seed);
    // A round that nobody disturbs tells how long one takes here; what it wrote is counted with the rest.
    $this->moment = function (int $records): KillMoment {
        $batch = $this->phone->records($this->nests, $records);
        $this->phone->persist($batch);
        array_push($this->undisturbed, ...$batch);
        $began = microtime(true);
        $batch = $this->phone->records($this->nests, $records);
        $this->phone->persist($batch);
        array_push($this->undisturbed, ...$batch);

        return new KillMoment(microtime(true) - $began);
    };
    $this->undisturbed = [];
    // A killed process that has much memory takes its time to go; until then its port may still answer.
    $this->databaseIsGone = function (): void {
        preg_match('/^DB_PORT=(\d+)/m', (string) file_get_contents("{$this->var}/.env"), $port);
        $until = microtime(true) + 30;
        while (is_resource($open = @fsockopen('127.0.0.1', (int) $port[1], timeout: 1)) && microtime(true) < $until) {
            fclose($open);
            usleep(50_000);
        }
    };
    $this->eachOnce = function (array $sent): void {
        $known = [];
        $page = 0;
        do {
            $answer = $this->phone->get("/api/v1/layers/{$this->nests}/records?page=".$page++);
            array_push($known, ...array_column($answer['records'], 'id'));
        } while (count($answer['records']) === $answer['page_size']);
        $expected = array_column([...$this->undisturbed, ...$sent], 'record');
        sort($expected);
        sort($known);
        expect($known)->toBe($expected, "seed {$this->seed}");
    };
});

it('writes each record exactly once when php-fpm is killed in the middle of rounds', function (): void {
    $moment = ($this->moment)(150);
    $sent = [];
    $broken = 0;
    for ($round = 0; $round < 10 || $broken < 4; $round++) {
        expect($round)->toBeLessThan(80, "no round was hit, so nothing is tested, seed {$this->seed}");
        $batch = $this->phone->records($this->nests, 150);
        $hit = $moment->hit($this->phone, $batch, 'pkill -9 -P '.($this->pid)('fpm'));
        $broken += $hit ? 1 : 0;
        $outcomes = $this->phone->persist($batch);
        expect(array_unique(array_column($outcomes ?? [], 'outcome')))->toBe(['applied'], "seed {$this->seed}");
        array_push($sent, ...$batch);
    }
    ($this->eachOnce)($sent);
});

it(
    'writes each record exactly once when MariaDB is killed in the middle of rounds, and says that it is away',
    function (): void {
        $moment = ($this->moment)(400);
        $sent = [];
        $broken = 0;
        for ($round = 0; $round < 3 || $broken < 1; $round++) {
            expect($round)->toBeLessThan(20, "no round was hit, so nothing is tested, seed {$this->seed}");
            $batch = $this->phone->records($this->nests, 400);
            $broken += $moment->hit($this->phone, $batch, 'kill -9 '.($this->pid)('mariadb')) ? 1 : 0;
            ($this->databaseIsGone)();
            $away = $this->phone->post('/api/v1/sync', $this->phone->round($batch));
            expect($away->getStatusCode())
                ->toBe(503)
                ->and(json_decode((string) $away->getBody(), true)['code'])
                ->toBe('database_away')
                ->and($away->getHeaderLine('Retry-After'))
                ->not->toBe('');
            (new Process(
                ['bash', '-c', 'source bin/lib.sh; start_mariadb "$(sed -n s/^DB_PORT=//p "$PINYARD_VAR/.env")"'],
                base_path(),
                ['PINYARD_VAR' => $this->var],
                timeout: 120,
            ))->mustRun();
            $outcomes = $this->phone->persist($batch);
            expect(array_unique(array_column($outcomes ?? [], 'outcome')))->toBe(['applied'], "seed {$this->seed}");
            array_push($sent, ...$batch);
        }
        ($this->eachOnce)($sent);
    },
);

it('writes each record exactly once when answers are lost and batches overlap', function (): void {
    $sent = [];
    for ($round = 0; $round < 10; $round++) {
        $batch = $this->phone->records($this->nests, 60);
        // The phone hangs up while the server is at work, and sends again at once, twice side by side.
        try {
            $this->phone->post('/api/v1/sync', $this->phone->round($batch), mt_rand(5, 40) / 1000);
        } catch (Throwable) {
        }
        $both = Utils::settle([
            $this->phone->sending('/api/v1/sync', $this->phone->round($batch)),
            $this->phone->sending('/api/v1/sync', $this->phone->round(array_reverse($batch))),
        ])->wait();
        foreach ($both as $one) {
            $outcomes = json_decode((string) $one['value']->getBody(), true)['outcomes'] ?? [];
            expect(array_unique(array_column($outcomes, 'outcome')))->toBe(['applied'], "seed {$this->seed}");
        }
        array_push($sent, ...$batch);
    }
    ($this->eachOnce)($sent);
});
