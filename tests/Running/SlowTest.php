<?php

declare(strict_types=1);

use GuzzleHttp\Client;

/*
 * Strangers who send slowly, or nothing at all: everybody else is answered. Against the server that bin/test has
 * started.
 */
it('is not stopped by strangers who hold uploads open, nor by thousands of half-open heads', function (): void {
    // As many as this machine lets one process hold; what the server may hold is its own affair.
    $limit = posix_getrlimit()['soft openfiles'] ?? 1_024;
    $heads = min(2_500, (is_numeric($limit) ? (int) $limit : 20_000) - 400);
    $url = parse_url((string) getenv('PINYARD_TEST_URL'));
    $open = static function (string $text) use ($url): mixed {
        $socket = stream_socket_client(
            "tcp://{$url['host']}:{$url['port']}",
            $code,
            $why,
            5,
            STREAM_CLIENT_CONNECT | STREAM_CLIENT_ASYNC_CONNECT,
        );
        if ($socket !== false) {
            stream_set_blocking($socket, false);
            usleep(200);
            @fwrite($socket, $text);
        }

        return $socket;
    };
    $sockets = [];
    // Uploads whose bytes never come, as forms as well, which PHP reads before anything of ours runs.
    for ($i = 0; $i < 60; $i++) {
        $type = $i % 2 ? 'application/x-www-form-urlencoded' : 'application/offset+octet-stream';
        $sockets[] = $open(
            "PATCH /api/v1/uploads/0192f0f0-0000-7000-8000-000000000000 HTTP/1.1\r\nHost: "
                ."{$url['host']}\r\nContent-Type: "
                    ."$type\r\nContent-Length: 400000\r\nUpload-Offset: 0\r\nTus-Resumable: 1.0.0\r\n\r\nabc",
        );
    }
    for ($i = 0; $i < 200; $i++) {
        $sockets[] = $open(
            "POST /api/v1/session HTTP/1.1\r\nHost: "
                ."{$url['host']}\r\nContent-Type: application/json\r\nContent-Length: 50000\r\n\r\n{",
        );
    }
    for ($i = 0; $i < $heads; $i++) {
        $sockets[] = $open("GET /api/v1/me HTTP/1.1\r\nHost: {$url['host']}\r\nX-Slow: ");
    }
    expect(count(array_filter($sockets)))->toBeGreaterThan((int) (0.8 * $heads));
    $http = new Client(['base_uri' => getenv('PINYARD_TEST_URL'), 'http_errors' => false, 'timeout' => 10]);
    $slowest = 0.0;
    for ($i = 0; $i < 10; $i++) {
        $began = microtime(true);
        expect($http->get('/health')->getStatusCode())
            ->toBe(200)
            ->and($http->get('/api/v1/me')->getStatusCode())
            ->toBe(401);
        $slowest = max($slowest, microtime(true) - $began);
    }
    expect($slowest)->toBeLessThan(5.0);
    foreach (array_filter($sockets) as $socket) {
        fclose($socket);
    }
});

it('asks who sends before it takes the bytes of an upload, and large bodies only where they belong', function (): void {
    $http = new Client(['base_uri' => getenv('PINYARD_TEST_URL'), 'http_errors' => false, 'timeout' => 20]);
    $answer = $http->post('/api/v1/uploads', ['headers' => ['Upload-Length' => '5', 'Tus-Resumable' => '1.0.0']]);
    expect($answer->getStatusCode())->toBe(401)->and(json_decode((string) $answer->getBody())->code)->toBe('sign_in');
    expect($http->get('/signed-in')->getStatusCode())->toBe(404);
    foreach (['/api/v1/session', '/api/v1/password/forgot', '/api/v1/join/x'] as $path) {
        expect(
            $http
                ->post($path, ['body' => str_repeat('[', 100_000), 'headers' => ['Content-Type' => 'application/json']])
                ->getStatusCode(),
        )->toBe(413);
    }
    $began = microtime(true);
    expect(
        $http
            ->post('/api/v1/sync', [
                'body' => str_repeat('[', 30_000_000),
                'headers' => ['Content-Type' => 'application/json'],
            ])
            ->getStatusCode(),
    )
        ->toBe(401)
        ->and(microtime(true) - $began)
        ->toBeLessThan(5.0);
});
