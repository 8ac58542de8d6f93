<?php

declare(strict_types=1);

use Demo\NestPatrol;
use GuzzleHttp\Client;
use Symfony\Component\Process\Process;

/*
 * Behind the TLS proxy of ops/tls-proxy.conf, as docs/behind-a-proxy.md says: the very file, with a certificate and
 * ports of this test.
 */
beforeEach(function (): void {
    $this->folder = sys_get_temp_dir().'/tls-'.getmypid();
    mkdir($this->folder);
    $this->port = 9200 + (getmypid() % 200);
    (new Process([
        'openssl',
        'req',
        '-x509',
        '-newkey',
        'rsa:2048',
        '-nodes',
        '-days',
        '2',
        '-subj',
        '/CN=yard.example.org',
        '-keyout',
        "$this->folder/yard.key",
        '-out',
        "$this->folder/yard.pem",
    ]))->mustRun();
    $conf = strtr((string) file_get_contents(base_path('ops/tls-proxy.conf')), [
        'listen 443' => "listen 127.0.0.1:$this->port",
        '/etc/ssl/' => "$this->folder/",
        '/tmp/pinyard-tls.pid' => "$this->folder/nginx.pid",
        'http://127.0.0.1:8420' => (string) getenv('PINYARD_TEST_URL'),
        'error_log stderr warn;' => "error_log $this->folder/error.log warn;",
        'access_log off;' => 'access_log off; client_body_temp_path '
            ."$this->folder/body; proxy_temp_path "
                ."$this->folder/proxy; fastcgi_temp_path "
                    ."$this->folder/f; uwsgi_temp_path $this->folder/u; scgi_temp_path $this->folder/s;",
    ]);
    file_put_contents("$this->folder/nginx.conf", (posix_getuid() === 0 ? "user root;\n" : '').$conf);
    (new Process(['nginx', '-c', "$this->folder/nginx.conf", '-e', "$this->folder/error.log"]))->mustRun();
    usleep(300_000);
    $this->http = new Client([
        'base_uri' => "https://127.0.0.1:$this->port",
        'verify' => false,
        'http_errors' => false,
        'headers' => ['Host' => 'yard.example.org'],
        'allow_redirects' => false,
    ]);
    $this->plain = new Client(['base_uri' => getenv('PINYARD_TEST_URL'), 'http_errors' => false]);
});

afterEach(function (): void {
    (new Process(['nginx', '-c', "$this->folder/nginx.conf", '-e', "$this->folder/error.log", '-s', 'stop']))->run();
    usleep(200_000);
    (new Process(['rm', '-rf', $this->folder]))->run();
});

it('marks cookies as secure and asks browsers to stay with TLS, for pages, answers and files', function (): void {
    $account = ['json' => ['email' => NestPatrol::COORDINATOR, 'password' => NestPatrol::PASSWORD]];
    $answer = $this->http->post('/api/v1/session', $account);
    expect($answer->getStatusCode())
        ->toBe(200)
        ->and($answer->getHeaderLine('Strict-Transport-Security'))
        ->toContain('max-age=31536000');
    foreach ($answer->getHeader('Set-Cookie') as $cookie) {
        expect(strtolower($cookie))->toContain('secure')->toContain('samesite=lax');
    }
    expect($answer->getHeader('Set-Cookie'))->not->toBe([]);
    foreach (['/desk', '/field', '/app/field-sw.js'] as $page) {
        expect($this->http->get($page)->getHeaderLine('Strict-Transport-Security'))->toContain('max-age');
    }
    // Without the proxy there is no TLS, and nothing that says so.
    $bare = $this->plain->post('/api/v1/session', $account);
    expect($bare->hasHeader('Strict-Transport-Security'))
        ->toBeFalse()
        ->and(strtolower($bare->getHeader('Set-Cookie')[0]))
        ->not->toContain('secure');
});

it('counts tries by the address of the visitor, not of the proxy', function (): void {
    $try = fn (string $from): int => $this->http
        ->post('/api/v1/session', [
            'json' => ['email' => "nobody-$from@example.test", 'password' => 'wrong'],
            'headers' => ['X-Forwarded-For' => $from],
        ])
        ->getStatusCode();
    $last = 0;
    for ($i = 0; $i < 12; $i++) {
        $last = $try('203.0.113.7');
    }
    expect($last)->toBe(429)->and($try('203.0.113.8'))->toBe(422);
});
