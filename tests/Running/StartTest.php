<?php

declare(strict_types=1);

use GuzzleHttp\Client;
use Symfony\Component\Process\Process;

/* bin/start and bin/stop, beside the copy that runs the tests: another folder, other ports. */
beforeEach(function (): void {
    $this->var = sys_get_temp_dir().'/pinyard-second-'.getmypid();
    $this->port = 8700 + getmypid() % 200;
    $this->script = function (string ...$command): Process {
        $process = new Process([base_path("bin/$command[0]"), ...array_slice($command, 1)], base_path(), [
            'PINYARD_VAR' => $this->var, 'PINYARD_PORT' => (string) $this->port, 'PINYARD_DB_PORT' => (string) ($this->port + 300),
            // What phpunit.xml sets for this process must not leak into the other copy.
            'APP_ENV' => false, 'DB_DATABASE' => false, 'SESSION_DRIVER' => false, 'CACHE_STORE' => false, 'QUEUE_CONNECTION' => false, 'LOG_CHANNEL' => false,
        ], timeout: 120);
        $process->run();

        return $process;
    };
});

afterEach(function (): void {
    ($this->script)('stop');
    (new Process(['rm', '-rf', $this->var]))->run();
});

it('starts an empty copy side by side, keeps its data over a quick second start, and stops just that', function (): void {
    $started = ($this->script)('start', '--empty');
    expect($started->isSuccessful())->toBeTrue($started->getOutput().$started->getErrorOutput());
    preg_match('/First account: (\S+), password (\w+)/', $started->getOutput(), $account);
    expect($account)->toHaveCount(3);

    $http = new Client(['base_uri' => "http://127.0.0.1:{$this->port}", 'cookies' => true, 'http_errors' => false]);
    $signIn = function () use ($http, $account): int {
        $http->get('/api/v1/me');
        $token = collect($http->getConfig('cookies')->toArray())->firstWhere('Name', 'XSRF-TOKEN')['Value'];

        return $http->post('/api/v1/session', ['json' => ['email' => $account[1], 'password' => $account[2]], 'headers' => ['X-XSRF-TOKEN' => urldecode($token)]])->getStatusCode();
    };
    expect($signIn())->toBe(200)
        ->and(json_decode((string) $http->get('/api/v1/programmes')->getBody(), true))->toBe([]);

    $before = microtime(true);
    $again = ($this->script)('start', '--empty');
    expect($again->isSuccessful())->toBeTrue()
        ->and(microtime(true) - $before)->toBeLessThan(30)
        ->and($again->getOutput())->not->toContain('First account')
        ->and($signIn())->toBe(200);

    expect(($this->script)('stop')->isSuccessful())->toBeTrue();
    $closed = @fsockopen('127.0.0.1', $this->port, timeout: 1);
    expect($closed)->toBeFalse();
    // The copy that runs these tests has not noticed.
    expect((new Client)->get(getenv('PINYARD_TEST_URL').'/health')->getStatusCode())->toBe(200);
});

it('says what is wrong instead of starting half', function (): void {
    $unknown = ($this->script)('start', '--fast');
    expect($unknown->isSuccessful())->toBeFalse()
        ->and($unknown->getErrorOutput())->toContain("unknown word '--fast'", '--empty');
});
