<?php

declare(strict_types=1);

namespace PinYard\Device;

/**
 * File formats that are taken in, told apart by their first bytes and never by a file's name.
 *
 * Signatures: JPEG (ITU T.81 B.1.1.3), PNG (RFC 2083, 3.1), WebP (RFC 9649), MPEG audio (ISO 11172-3, 2.4.2.3; ID3v2),
 * ISO media (ISO 14496-12, 4.3), Ogg (RFC 3533, 6), WAVE (RIFF), WebM (EBML, RFC 8794, 11.2), PDF (ISO 32000-1, 7.5.2);
 * from memory.
 */
enum FileType: string
{
    case Jpeg = 'image/jpeg';
    case Png = 'image/png';
    case Webp = 'image/webp';
    case Mp3 = 'audio/mpeg';
    case M4a = 'audio/mp4';
    case Ogg = 'audio/ogg';
    case Wav = 'audio/wav';
    case WebmAudio = 'audio/webm';
    case Mp4 = 'video/mp4';
    case Mov = 'video/quicktime';
    case Webm = 'video/webm';
    case Pdf = 'application/pdf';

    /** So many bytes are needed to tell. */
    public const HEAD = 12;

    /** @param  string  $head  at least the first 12 bytes of the file */
    public function fits(string $head): bool
    {
        $brand = substr($head, 4, 4) === 'ftyp' ? substr($head, 8, 4) : null;

        return match ($this) {
            self::Jpeg => str_starts_with($head, "\xFF\xD8\xFF"),
            self::Png => str_starts_with($head, "\x89PNG\r\n\x1A\n"),
            self::Webp => str_starts_with($head, 'RIFF') && substr($head, 8, 4) === 'WEBP',
            // An ID3 tag, or the eleven set bits of a frame.
            self::Mp3 => str_starts_with($head, 'ID3') ||
                (strlen($head) > 1 && $head[0] === "\xFF" && (ord($head[1]) & 0xE6) === 0xE2),
            self::M4a, self::Mp4 => $brand !== null &&
                $brand !== 'qt  ' &&
                ! in_array($brand, ['heic', 'heix', 'mif1', 'avif'], true),
            self::Mov => $brand === 'qt  ' || in_array(substr($head, 4, 4), ['moov', 'mdat', 'wide'], true),
            self::Ogg => str_starts_with($head, 'OggS'),
            self::Wav => str_starts_with($head, 'RIFF') && substr($head, 8, 4) === 'WAVE',
            self::WebmAudio, self::Webm => str_starts_with($head, "\x1A\x45\xDF\xA3"),
            self::Pdf => str_starts_with($head, '%PDF-'),
        };
    }

    /** The first format that fits; a container that may carry sound or pictures counts as the first of the two. */
    public static function fromBytes(string $head): ?self
    {
        foreach (self::cases() as $type) {
            if ($type->fits($head)) {
                return $type;
            }
        }

        return null;
    }

    public function kind(): FileKind
    {
        return $this === self::Pdf
            ? FileKind::Pdf
            : FileKind::from(
                ['image' => 'photo', 'audio' => 'audio', 'video' => 'video'][explode('/', $this->value)[0]],
            );
    }

    public function extension(): string
    {
        return match ($this) {
            self::Jpeg => 'jpg',
            self::Mp3 => 'mp3',
            self::M4a => 'm4a',
            self::WebmAudio, self::Webm => 'webm',
            self::Mov => 'mov',
            default => explode('/', $this->value)[1],
        };
    }
}
