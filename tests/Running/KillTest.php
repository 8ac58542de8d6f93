<?php

declare(strict_types=1);

use Demo\NestPatrol;
use GuzzleHttp\Promise\Utils;
use Symfony\Component\Process\Process;
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
    $this->eachOnce = function (array $sent): void {
        $known = [];
        $page = 0;
        do {
            $answer = $this->phone->get("/api/v1/layers/{$this->nests}/records?page=".$page++);
            array_push($known, ...array_column($answer['records'], 'id'));
        } while (count($answer['records']) === $answer['page_size']);
        $expected = array_column($sent, 'record');
        sort($expected);
        sort($known);
        expect($known)->toBe($expected, "seed {$this->seed}");
    };
});

it('writes each record exactly once when php-fpm is killed in the middle of rounds', function (): void {
    $sent = [];
    $broken = 0;
    for ($round = 0; $round < 14; $round++) {
        $batch = $this->phone->records($this->nests, 150);
        $command = 'sleep 0.0'.mt_rand(1, 9).'; pkill -9 -P '.($this->pid)('fpm');
        $killer = Process::fromShellCommandline($command);
        $killer->start();
        try {
            $broken += $this->phone->post('/api/v1/sync', $this->phone->round($batch))->getStatusCode() === 200 ? 0 : 1;
        } catch (Throwable) {
            $broken++;
        }
        $killer->wait();
        $outcomes = $this->phone->persist($batch);
        expect(array_unique(array_column($outcomes, 'outcome')))->toBe(['applied'], "seed {$this->seed}");
        array_push($sent, ...$batch);
    }
    // If no round was hit, nothing was tested.
    expect($broken)->toBeGreaterThan(3);
    ($this->eachOnce)($sent);
});

it(
    'writes each record exactly once when MariaDB is killed in the middle of rounds, and says that it is away',
    function (): void {
        $sent = $this->phone->records($this->nests, 20);
        expect($this->phone->persist($sent))->not->toBeNull();
        $broken = 0;
        for ($round = 0; $round < 3; $round++) {
            $batch = $this->phone->records($this->nests, 400);
            $killer = Process::fromShellCommandline(
                'sleep 0.0'.mt_rand(2, 9).'; kill -9 '.($this->pid)('mariadb'),
            );
            $killer->start();
            $answer = $this->phone->post('/api/v1/sync', $this->phone->round($batch));
            $broken += $answer->getStatusCode() === 200 ? 0 : 1;
            $killer->wait();
            usleep(200_000);
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
                timeout: 60,
            ))->mustRun();
            $outcomes = $this->phone->persist($batch);
            expect(array_unique(array_column($outcomes, 'outcome')))->toBe(['applied'], "seed {$this->seed}");
            array_push($sent, ...$batch);
        }
        expect($broken)->toBeGreaterThan(0);
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
            $outcomes = json_decode((string) $one['value']->getBody(), true)['outcomes'];
            expect(array_unique(array_column($outcomes, 'outcome')))->toBe(['applied'], "seed {$this->seed}");
        }
        array_push($sent, ...$batch);
    }
    ($this->eachOnce)($sent);
});
