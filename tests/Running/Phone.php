<?php

declare(strict_types=1);

namespace Tests\Running;

use GuzzleHttp\Client;
use GuzzleHttp\Cookie\CookieJar;
use GuzzleHttp\Exception\TransferException;
use GuzzleHttp\Promise\PromiseInterface;
use PinYard\Record\RecordId;
use Psr\Http\Message\ResponseInterface;

/** A phone that speaks to the running server, with real cookies, over real HTTP. */
final class Phone
{
    private readonly Client $http;

    private readonly CookieJar $cookies;

    private readonly string $device;

    private int $seq = 0;

    public function __construct(string $email, string $password)
    {
        $this->cookies = new CookieJar;
        $this->device = RecordId::make()->text;
        $this->http = new Client(['base_uri' => getenv('PINYARD_TEST_URL'), 'cookies' => $this->cookies, 'http_errors' => false, 'timeout' => 30, 'headers' => ['Accept' => 'application/json']]);
        $this->http->get('/api/v1/me');
        $answer = $this->post('/api/v1/session', ['email' => $email, 'password' => $password]);
        if ($answer->getStatusCode() !== 200) {
            throw new \RuntimeException('The test phone cannot sign in: '.$answer->getBody());
        }
    }

    public function post(string $to, array $body, float $timeout = 30): ResponseInterface
    {
        return $this->sending($to, $body, $timeout)->wait();
    }

    public function sending(string $to, array $body, float $timeout = 30): PromiseInterface
    {
        $token = urldecode($this->cookies->getCookieByName('XSRF-TOKEN')?->getValue() ?? '');

        return $this->http->postAsync($to, ['json' => $body, 'timeout' => $timeout, 'headers' => ['X-XSRF-TOKEN' => $token]]);
    }

    public function get(string $from): array
    {
        return json_decode((string) $this->http->get($from)->getBody(), true, flags: JSON_THROW_ON_ERROR);
    }

    /** @return list<array<string, mixed>> */
    public function records(int $layer, int $count): array
    {
        return array_map(fn (): array => [
            'op' => RecordId::make()->text, 'kind' => 'add', 'seq' => ++$this->seq, 'layer' => $layer, 'design' => 1, 'record' => RecordId::make()->text,
            'captured_at' => gmdate('Y-m-d\TH:i:s\Z'), 'values' => ['code' => "K-{$this->seq}"], 'geometry' => ['type' => 'Point', 'coordinates' => [-11.6, -14.2]], 'photos' => [],
        ], range(1, $count));
    }

    public function round(array $operations): array
    {
        return ['device' => $this->device, 'operations' => $operations, 'cursors' => new \stdClass];
    }

    /** Tries until the server has answered, as the field app does; null is no answer. */
    public function persist(array $operations, int $tries = 60): ?array
    {
        for ($i = 0; $i < $tries; $i++) {
            try {
                $answer = $this->post('/api/v1/sync', $this->round($operations));
                if ($answer->getStatusCode() === 200) {
                    return json_decode((string) $answer->getBody(), true)['outcomes'];
                }
            } catch (TransferException) {
                // No answer: the phone cannot know whether anything was written, and asks again.
            }
            usleep(300_000);
        }

        return null;
    }
}
