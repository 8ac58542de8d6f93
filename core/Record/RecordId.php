<?php

declare(strict_types=1);

namespace PinYard\Record;

use PinYard\Refused;
use Symfony\Component\Uid\UuidV7;

/** An id made on the device: a UUID of version 7 (RFC 9562, section 5.7), in lower case. */
final class RecordId
{
    private const SHAPE = '/^[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-[89ab][0-9a-f]{3}-[0-9a-f]{12}$/D';

    private ?string $bytes = null;

    private function __construct(public readonly string $text)
    {
    }

    public static function make(): self
    {
        return new self((new UuidV7)->toRfc4122());
    }

    /** @throws Refused */
    public static function of(mixed $text, string $where = 'id'): self
    {
        if (! is_string($text) || preg_match(self::SHAPE, strtolower($text)) !== 1) {
            throw Refused::because('id_shape', $where, is_scalar($text) ? $text : null);
        }

        return new self(strtolower($text));
    }

    public static function fromBytes(string $bytes): self
    {
        return new self(UuidV7::fromBinary($bytes)->toRfc4122());
    }

    /** @return string 16 bytes, in network order */
    public function bytes(): string
    {
        return $this->bytes ??= (string) hex2bin(str_replace('-', '', $this->text));
    }
}
