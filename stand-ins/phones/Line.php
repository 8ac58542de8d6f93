<?php

declare(strict_types=1);

namespace StandIns\Phones;

use GuzzleHttp\Client;
use GuzzleHttp\Cookie\CookieJar;
use GuzzleHttp\Promise\PromiseInterface;
use Psr\Http\Message\ResponseInterface;
use RuntimeException;

/** What a phone speaks to the server with: real HTTP, real cookies, one person. */
final class Line
{
    private readonly Client $http;

    private readonly CookieJar $cookies;

    /** Whose phone it says it is, by number; null says nothing. */
    public ?int $bearer = null;

    public function __construct(string $url, private readonly string $email, private readonly string $password)
    {
        $this->cookies = new CookieJar;
        $this->http = new Client([
            'base_uri' => rtrim($url, '/').'/',
            'cookies' => $this->cookies,
            'http_errors' => false,
            'timeout' => 60,
            'headers' => ['Accept' => 'application/json'],
        ]);
    }

    public function signIn(): void
    {
        $this->http->get('api/v1/me');
        $answer = $this->send('POST', 'api/v1/session', ['email' => $this->email, 'password' => $this->password]);
        if ($answer->getStatusCode() !== 200) {
            throw new RuntimeException("{$this->email} cannot sign in: ".$answer->getBody());
        }
    }

    /** @param  array<mixed>|null  $body */
    public function send(string $method, string $to, ?array $body = null, float $timeout = 60): ResponseInterface
    {
        $answer = $this->sending($method, $to, $body, $timeout)->wait();
        assert($answer instanceof ResponseInterface);

        return $answer;
    }

    /**
     * The same without waiting, for phones that speak at once.
     *
     * @param  array<mixed>|null  $body
     */
    public function sending(string $method, string $to, ?array $body = null, float $timeout = 60): PromiseInterface
    {
        return $this->http->requestAsync($method, $to, [
            'timeout' => $timeout,
            'headers' => $this->token(),
            ...$body === null ? [] : ['json' => $body],
        ]);
    }

    /**
     * Bytes as they are, for uploads; `$cut` breaks the connection after so many of them.
     *
     * @param  array<string, string>  $headers
     */
    public function bytes(
        string $method,
        string $to,
        string $bytes,
        array $headers,
        ?int $cut = null,
    ): ResponseInterface {
        $options = ['headers' => [...$this->token(), ...$headers], 'body' => $bytes];
        if ($cut !== null) {
            $options['curl'] = [
                CURLOPT_NOPROGRESS => false,
                CURLOPT_XFERINFOFUNCTION => static fn (
                    mixed $ch,
                    int $down,
                    int $got,
                    int $up,
                    int $sent,
                ): int => (int) ($sent > $cut),
            ];
        }

        return $this->http->request($method, $to, $options);
    }

    /** @return array<mixed> */
    public function get(string $from): array
    {
        $answer = $this->http->get($from);
        if ($answer->getStatusCode() !== 200) {
            throw new RuntimeException("GET $from: {$answer->getStatusCode()}");
        }

        return (array) json_decode((string) $answer->getBody(), true, flags: JSON_THROW_ON_ERROR);
    }

    public function raw(string $from): string
    {
        return (string) $this->http->get($from)->getBody();
    }

    /** @return array<string, string> */
    private function token(): array
    {
        return [
            'X-XSRF-TOKEN' => urldecode((string) $this->cookies->getCookieByName('XSRF-TOKEN')?->getValue()),
            ...$this->bearer === null ? [] : ['Pin-Yard-Person' => (string) $this->bearer],
        ];
    }
}
