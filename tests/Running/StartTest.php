<?php

declare(strict_types=1);

use GuzzleHttp\Client;
use Symfony\Component\Process\Process;

/* bin/start and bin/stop, beside the copy that runs the tests: another folder, other ports. */
beforeEach(function (): void {
    $this->var = sys_get_temp_dir().'/pinyard-second-'.getmypid();
    $this->port = 8700 + (getmypid() % 200);
    $this->script = function (string ...$command): Process {
        $process = new Process(
            [base_path("bin/$command[0]"), ...array_slice($command, 1)],
            base_path(),
            [
                'PINYARD_VAR' => $this->var,
                'PINYARD_PORT' => (string) $this->port,
                'PINYARD_DB_PORT' => (string) ($this->port + 300),
                // A copy for use, not for tests: its services run as a user of their own.
                'PINYARD_ENV' => false,
                'PINYARD_DEMO' => false,
                'PINYARD_TRUSTED_PROXIES' => false,
                // What phpunit.xml sets for this process must not leak into the other copy.
                'APP_ENV' => false,
                'DB_DATABASE' => false,
                'SESSION_DRIVER' => false,
                'CACHE_STORE' => false,
                'QUEUE_CONNECTION' => false,
                'LOG_CHANNEL' => false,
            ],
            timeout: 120,
        );
        $process->run();

        return $process;
    };
});

afterEach(function (): void {
    ($this->script)('stop');
    (new Process(['rm', '-rf', $this->var]))->run();
});

it(
    'starts an empty copy side by side, keeps its data over a quick second start, and stops just that',
    function (): void {
        $started = ($this->script)('start', '--empty');
        expect($started->isSuccessful())->toBeTrue($started->getOutput().$started->getErrorOutput());
        preg_match('/First account: (\S+), password (\w+)/', $started->getOutput(), $account);
        expect($account)->toHaveCount(3);

        $http = new Client(['base_uri' => "http://127.0.0.1:{$this->port}", 'cookies' => true, 'http_errors' => false]);
        $signIn = static function () use ($http, $account): int {
            // With the token of a session that there is: the second time somebody is signed in.
            $token = $http->getConfig('cookies')->getCookieByName('XSRF-TOKEN')?->getValue();

            return $http
                ->post('/api/v1/session', [
                    'json' => ['email' => $account[1], 'password' => $account[2]],
                    'headers' => $token === null ? [] : ['X-XSRF-TOKEN' => urldecode($token)],
                ])
                ->getStatusCode();
        };
        expect($signIn())
            ->toBe(200)
            ->and(json_decode((string) $http->get('/api/v1/programmes')->getBody(), true))
            ->toBe([]);

        // Who asks again is told by the short way just what the long way tells (App\Http\Polls\ShortWay).
        $make = static fn (string $path, array $what): array => json_decode((string) $http->post("/api/v1/$path", [
            'json' => $what,
            'headers' => ['X-XSRF-TOKEN' => urldecode(
                (string) $http->getConfig('cookies')->getCookieByName('XSRF-TOKEN')?->getValue(),
            )],
        ])->getBody(), true);
        $programme = $make('programmes', ['name' => 'P', 'time_zone' => 'UTC', 'area' => [-1, -1, 1, 1]])['id'];
        $board = $make("programmes/$programme/boards", ['title' => 'B', 'audience' => 'link', 'tiles' => []]);
        foreach (["boards/{$board['id']}/answers", 'open/boards/'.basename($board['address'])] as $path) {
            $ask = static fn (array $more) => $http->get("/api/v1/$path", [
                'headers' => ['Pin-Yard-Language' => 'de'] + $more,
            ]);
            $has = ['If-None-Match' => $ask([])->getHeaderLine('ETag')];
            [$short, $long] = [$ask($has), $ask($has + ['Authorization' => 'Basic x'])];
            [$told, $same] = [$short->getHeaders(), $long->getHeaders()];
            // The framework writes a date of its own, after the tag; nginx writes it before where nobody has.
            $at = static fn (array $of, string $name): int => (int) array_search($name, array_keys($of), true);
            expect($at($told, 'Date'))->toBeLessThan($at($told, 'ETag'))
                ->and($at($same, 'Date'))->toBeGreaterThan($at($same, 'ETag'));
            unset($told['Date'], $same['Date']);
            expect($short->getStatusCode())->toBe(304)
                ->and($long->getStatusCode())->toBe(304)
                ->and($told)->toEqualCanonicalizing($same)
                ->and((string) $short->getBody())->toBe('');
            // Nobody who is not signed in is told anything of what is no link.
            $answer = (new Client(['base_uri' => $http->getConfig('base_uri'), 'http_errors' => false]))
                ->get("/api/v1/$path", ['headers' => ['Pin-Yard-Language' => 'de'] + $has]);
            expect($answer->getStatusCode())->toBe(str_starts_with($path, 'open/') ? 304 : 401);
        }

        // The database lets nobody in without a password over TCP; what is kept is for its owner alone; root's rights
        // are not taken along.
        $tcp = new Process([
            'mariadb',
            '--no-defaults',
            '-h',
            '127.0.0.1',
            '-P',
            (string) ($this->port + 300),
            '-u',
            'root',
            '-e',
            'select 1',
        ]);
        $tcp->run();
        expect($tcp->isSuccessful())->toBeFalse();
        $mode = fn (string $path): string => sprintf('%o', fileperms("$this->var/$path") & 0o777);
        expect($mode('.'))->toBe('700')->and($mode('.env'))->toBe('600')->and($mode('cache/config.php'))->toBe('600');
        $owner = posix_getpwuid((int) fileowner("$this->var/.env"))['name'] ?? '';
        foreach (['mariadb', 'fpm', 'nginx', 'queue-default', 'queue-reading'] as $service) {
            $pid = trim((string) file_get_contents("$this->var/run/$service.pid"));
            expect(posix_getpwuid((int) fileowner("/proc/$pid"))['name'] ?? '')->toBe($owner, $service);
        }
        if (posix_getuid() === 0 && is_executable('/usr/bin/setpriv')) {
            // Root stays root only where nobody else may read the checkout, which bin/start says.
            expect($owner === 'root')->toBe(str_contains($started->getOutput(), 'so the services run as root'));
        }

        $before = microtime(true);
        $again = ($this->script)('start', '--empty');
        expect($again->isSuccessful())
            ->toBeTrue()
            ->and(microtime(true) - $before)
            ->toBeLessThan(30)
            ->and($again->getOutput())
            ->not->toContain('First account')
            ->and($signIn())
            ->toBe(200);

        expect(($this->script)('stop')->isSuccessful())->toBeTrue();
        $closed = @fsockopen('127.0.0.1', $this->port, timeout: 1);
        expect($closed)->toBeFalse();
        // The copy that runs these tests has not noticed.
        expect((new Client)->get(getenv('PINYARD_TEST_URL').'/health')->getStatusCode())->toBe(200);
    },
);

it('serves the demo on its own machine alone, and never beside people of its own', function (): void {
    $process = new Process([base_path('bin/start')], base_path(), [
        'PINYARD_VAR' => $this->var,
        'PINYARD_PORT' => (string) $this->port,
        'PINYARD_ENV' => false,
        'PINYARD_URL' => 'https://yard.example.org',
    ]);
    $process->run();
    expect($process->isSuccessful())->toBeFalse()->and($process->getErrorOutput())->toContain('bin/start --empty');
    expect(($this->script)('start', '--empty')->isSuccessful())->toBeTrue();
    expect(
        json_decode((string) (new Client)->get("http://127.0.0.1:{$this->port}/api/v1/about")->getBody(), true),
    )->toBe(['demo' => null]);
    $beside = ($this->script)('start');
    expect($beside->isSuccessful())
        ->toBeFalse()
        ->and($beside->getOutput().$beside->getErrorOutput())
        ->toContain('people of its own');
});

it('says what is wrong instead of starting half', function (): void {
    $unknown = ($this->script)('start', '--fast');
    expect($unknown->isSuccessful())
        ->toBeFalse()
        ->and($unknown->getErrorOutput())
        ->toContain("unknown word '--fast'", '--empty');
});
