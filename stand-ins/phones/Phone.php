<?php

declare(strict_types=1);

namespace StandIns\Phones;

use GuzzleHttp\Exception\TransferException;
use PinYard\Record\RecordId;
use RuntimeException;

/**
 * A simulated phone with a store of its own: records as it was told, an outbox, a cursor for each layer, files that
 * wait. It keeps the promises that the field app keeps: an operation leaves the outbox only when its outcome is known,
 * and a file only when the server has it; whatever is cut off is asked again.
 */
final class Phone
{
    public readonly string $device;

    /** @var array<int, int> cursor by layer */
    public array $cursors = [];

    /**
     * @var array<int, array<string, array{version: int, values: array<string, mixed>, lon: float, lat: float,
     *     altitude: float|null}>> as the server told them, by layer and id
     */
    public array $records = [];

    /**
     * @var array<string, array<string, mixed>> operations whose outcome is not known yet, in the order in which they
     *     were made
     */
    public array $outbox = [];

    /** @var array<string, array{bytes: string, upload: string|null}> files whose bytes are not all there yet, by id */
    public array $files = [];

    /** @var array<string, string> outcome of each operation, as the server named it */
    public array $outcomes = [];

    /** @var array<string, Moment> when each operation was done, as only the simulation knows */
    public array $moments = [];

    /** Whose session its browser has at the moment: its own person's, unless somebody else has signed in meanwhile. */
    public Line $line;

    /** How often its clock has been set. */
    private int $settings = 0;

    /** How often it had been set when the server was last heard. */
    private int $settingsHeard = 0;

    /** Seconds by which it knows its clock to be behind. */
    private int $knownOff;

    private ?string $heardAt = null;

    private int $seq = 0;

    /**
     * @param  int  $clockOff  seconds by which this phone's clock is behind
     * @param  int|null  $person  number of who bears it
     * @param  self|null  $shared  of somebody else: the same phone in other hands
     */
    public function __construct(
        public readonly Line $own,
        public readonly string $name,
        private int $clockOff = 0,
        public readonly ?int $person = null,
        public readonly ?self $shared = null,
    ) {
        $this->device = $shared->device ?? RecordId::make()->text;
        $this->knownOff = $clockOff;
        $this->line = $own;
    }

    /** @param  int  $by  seconds by which somebody sets its clock back */
    public function setClock(int $by): void
    {
        $this->clockOff += $by;
        $this->settings++;
    }

    /**
     * Saves something that a person did; from now on it is this phone's to bring.
     *
     * @param  array<string, mixed>  $what  kind, layer, design, values, geometry…
     * @param  array<string, string>  $files  bytes by id
     * @return string the record's id
     */
    public function keep(array $what, array $files = [], ?float $at = null): string
    {
        $op = RecordId::make()->text;
        // Of a moment that is only made up, the last round says nothing.
        $heard = $at === null ? $this->heardAt : null;
        $at = ($at ?? microtime(true)) - $this->clockOff;
        $this->outbox[$op] = [
            'op' => $op,
            'seq' => ++$this->seq,
            'record' => RecordId::make()->text,
            'values' => [],
            'geometry' => null,
            'fix' => null,
            'captured_at' => gmdate('Y-m-d\TH:i:s', (int) floor($at)).sprintf('.%03dZ',
                (int) (1000 * ($at - floor($at)))),
            'clock_off' => $this->knownOff,
            ...$heard === null ? [] : ['heard_at' => $heard],
            ...$what,
            'photos' => array_map(
                static fn (string $id, string $bytes): array => [
                    'id' => $id,
                    'name' => 'p.jpg',
                    'type' => 'image/jpeg',
                    'bytes' => strlen($bytes),
                    'sha256' => hash('sha256', $bytes),
                ],
                array_keys($files),
                $files,
            ),
        ];
        foreach ($files as $id => $bytes) {
            $this->files[$id] = ['bytes' => $bytes, 'upload' => null];
        }

        $this->moments[$op] = new Moment(
            $at + $this->clockOff,
            $heard === null ? null : (float) strtotime($heard),
            $this->settings === $this->settingsHeard,
            $this->settings,
        );

        return $this->outbox[$op]['record'];
    }

    /** Whether everything has arrived and its outcome is known. */
    public function isEmpty(): bool
    {
        return $this->outbox === [] && $this->files === [];
    }

    /**
     * One round. `$bend` changes the batch on its way, `$timeout` breaks the round off, `$forget` loses the answer when
     * it is here.
     *
     * @param  (\Closure(list<array<string, mixed>>): list<array<string, mixed>>)|null  $bend
     * @return bool whether there is more to fetch or send
     */
    public function round(int $most = 100, ?\Closure $bend = null, float $timeout = 60, bool $forget = false): bool
    {
        $batch = array_slice(array_values($this->outbox), 0, $most);
        $this->line->bearer = $this->person;
        try {
            $answer = $this->line->send(
                'POST',
                'api/v1/sync',
                [
                    'device' => $this->device,
                    ...$this->person === null ? [] : ['person' => $this->person],
                    'sent_at' => gmdate('Y-m-d\TH:i:s\Z', time() - $this->clockOff),
                    'waiting' => count($this->outbox) + count($this->files) - count($batch),
                    'operations' => $bend === null ? $batch : $bend($batch),
                    'cursors' => (object) $this->cursors,
                ],
                $timeout,
            );
        } catch (TransferException) {
            return true;
        }
        if ($this->line !== $this->own && $answer->getStatusCode() === 200) {
            throw new RuntimeException("{$this->name} was answered in the session of somebody else");
        }
        $body = $answer->getStatusCode() === 200 ? json_decode((string) $answer->getBody(), true) : null;
        if (! is_array($body) || $forget) {
            return true;
        }
        foreach ($body['outcomes'] as $outcome) {
            if (isset($this->outbox[$outcome['op'] ?? ''])) {
                $this->outcomes[$outcome['op']] =
                    $outcome['outcome'].
                    ($outcome['outcome'] === 'refused'
                        ? ' '.$outcome['problems'][0]['code'].' '.$this->outbox[$outcome['op']]['kind']
                        : '');
                $this->moments[$outcome['op']]->settled($this->settings);
                unset($this->outbox[$outcome['op']]);
            }
        }
        $more = false;
        foreach ($body['news'] as $layer => $news) {
            foreach ($news['records'] as $r) {
                $this->records[$layer][$r['id']] = [
                    'version' => $r['version'],
                    'values' => $r['values'],
                    'lon' => $r['lon'],
                    'lat' => $r['lat'],
                    'altitude' => $r['altitude'] ?? null,
                ];
            }
            foreach ($news['gone'] as $gone) {
                unset($this->records[$layer][$gone]);
            }
            $this->cursors[$layer] = $news['cursor'];
            $more = $more || $news['more'];
        }

        $this->heardAt = $body['server_time'];
        $this->knownOff = $this->clockOff;
        $this->settingsHeard = $this->settings;

        return $more || $this->outbox !== [];
    }

    /**
     * Sends the bytes of files whose records have arrived.
     *
     * @param  (\Closure(int): (int|null))|null  $cut  of a length: after how many bytes the connection breaks
     */
    public function sendFiles(?\Closure $cut = null): void
    {
        $this->line->bearer = $this->person;
        $unsent = [];
        foreach ($this->outbox as $op) {
            foreach ($op['photos'] as $photo) {
                $unsent[$photo['id']] = true;
            }
        }
        foreach (array_diff_key($this->files, $unsent) as $id => $file) {
            try {
                $this->sendFile($id, $file['bytes'], $cut);
            } catch (TransferException) {
                // It goes on where it was cut, next time.
            }
        }
    }

    private function sendFile(string $id, string $bytes, ?\Closure $cut): void
    {
        $upload = $this->files[$id]['upload'];
        if ($upload === null) {
            $made = $this->line->bytes('POST', 'api/v1/uploads', '', [
                'Tus-Resumable' => '1.0.0',
                'Upload-Length' => (string) strlen($bytes),
                'Upload-Metadata' => 'attachment '.base64_encode($id),
            ]);
            if ($made->getStatusCode() === 410 || $made->getHeaderLine('Photo-State') === 'stored') {
                unset($this->files[$id]);

                return;
            }
            if ($made->getStatusCode() !== 201) {
                return;
            }
            $this->files[$id]['upload'] = $upload = ltrim(
                (string) parse_url($made->getHeaderLine('Location'), PHP_URL_PATH),
                '/',
            );
        }
        $head = $this->line->bytes('HEAD', $upload, '', ['Tus-Resumable' => '1.0.0']);
        if ($head->getStatusCode() !== 200) {
            // Expired, or there already: a new one says which.
            $this->files[$id]['upload'] = null;
            if ($head->getHeaderLine('Photo-State') === 'stored') {
                unset($this->files[$id]);
            }

            return;
        }
        $offset = (int) $head->getHeaderLine('Upload-Offset');
        if ($offset === strlen($bytes)) {
            unset($this->files[$id]);

            return;
        }
        $rest = substr($bytes, $offset);
        $sent = $this->line->bytes(
            'PATCH',
            $upload,
            $rest,
            [
                'Tus-Resumable' => '1.0.0',
                'Upload-Offset' => (string) $offset,
                'Content-Type' => 'application/offset+octet-stream',
            ],
            $cut === null ? null : $cut(strlen($rest)),
        );
        if ($sent->getStatusCode() === 204 && (int) $sent->getHeaderLine('Upload-Offset') === strlen($bytes)) {
            unset($this->files[$id]);
        }
    }
}
