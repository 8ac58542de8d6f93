<?php

declare(strict_types=1);

namespace StandIns\Receiver;

use PinYard\Device\Receiver;

/**
 * Hands the sentences of a receiver on: raw to whoever opens the socket, and as fixes in JSON to browsers, which cannot
 * open one (server-sent events, WHATWG HTML section 9.2). On loopback alone.
 */
final class Bridge
{
    /** @var list<resource> */
    private array $raw = [];

    /** @var list<resource> */
    private array $browsers = [];

    private readonly Receiver $receiver;

    /** @var resource */
    private $socket;

    /** @var resource */
    private $events;

    public function __construct(int $socket, int $events)
    {
        $this->receiver = new Receiver;
        $this->socket = self::listen($socket);
        $this->events = self::listen($events);
    }

    /** @param  string  $bytes  as the receiver gave them */
    public function pass(string $bytes): void
    {
        $this->welcome();
        $this->raw = array_values(
            array_filter($this->raw, static fn ($c): bool => @fwrite($c, $bytes) !== false && ! feof($c)),
        );
        $fixes = $this->receiver->feed($bytes);
        // Without a fix that is told too, so that nobody goes on with an old one.
        $text = 'data: '.json_encode($fixes === [] ? null : end($fixes))."\n\n";
        $this->browsers = array_values(
            array_filter($this->browsers, static fn ($c): bool => @fwrite($c, $text) !== false && ! feof($c)),
        );
    }

    private function welcome(): void
    {
        while ($client = @stream_socket_accept($this->socket, 0)) {
            stream_set_blocking($client, false);
            $this->raw[] = $client;
        }
        while ($client = @stream_socket_accept($this->events, 0)) {
            stream_set_timeout($client, 1);
            fread($client, 4_096);
            fwrite(
                $client,
                "HTTP/1.1 200 OK\r\nContent-Type: text/event-stream\r\nCache-Control: "
                    ."no-store\r\nAccess-Control-Allow-Origin: *\r\nConnection: close\r\n\r\n",
            );
            stream_set_blocking($client, false);
            $this->browsers[] = $client;
        }
    }

    /** @return resource */
    private static function listen(int $port)
    {
        $server = stream_socket_server("tcp://127.0.0.1:$port", $code, $why);
        if ($server === false) {
            throw new \RuntimeException("Port $port cannot be opened: $why");
        }
        stream_set_blocking($server, false);

        return $server;
    }
}
