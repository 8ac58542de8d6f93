<?php

declare(strict_types=1);

namespace Tests\Running;

use GuzzleHttp\Exception\TransferException;
use GuzzleHttp\Promise\PromiseInterface;
use PinYard\Record\RecordId;
use Psr\Http\Message\ResponseInterface;
use StandIns\Phones\Line;

/**
 * A phone that only adds records, for tests that kill the server under it; the whole phone is StandIns\Phones\Phone.
 */
final class Phone
{
    private readonly Line $line;

    private readonly string $device;

    private int $seq = 0;

    public function __construct(string $email, string $password)
    {
        $this->device = RecordId::make()->text;
        $this->line = new Line((string) getenv('PINYARD_TEST_URL'), $email, $password);
        $this->line->signIn();
    }

    public function post(string $to, array $body, float $timeout = 30): ResponseInterface
    {
        return $this->line->send('POST', $to, $body, $timeout);
    }

    public function sending(string $to, array $body, float $timeout = 30): PromiseInterface
    {
        return $this->line->sending('POST', $to, $body, $timeout);
    }

    public function get(string $from): array
    {
        return $this->line->get($from);
    }

    /** @return list<array<string, mixed>> */
    public function records(int $layer, int $count): array
    {
        return array_map(
            fn (): array => [
                'op' => RecordId::make()->text,
                'kind' => 'add',
                'seq' => ++$this->seq,
                'layer' => $layer,
                'design' => 1,
                'record' => RecordId::make()->text,
                'captured_at' => gmdate('Y-m-d\TH:i:s\Z'),
                'values' => ['code' => "K-{$this->seq}"],
                'geometry' => ['type' => 'Point', 'coordinates' => [-11.6, -14.2]],
                'photos' => [],
            ],
            range(1, $count),
        );
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
