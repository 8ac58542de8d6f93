<?php

declare(strict_types=1);

namespace PinYard\Device;

/** Picture formats that are taken in, told apart by their first bytes and never by a file's name. */
enum PictureType: string
{
    case Jpeg = 'image/jpeg';
    case Png = 'image/png';
    case Webp = 'image/webp';

    /** @param  string  $head at least the first 12 bytes of the file */
    public static function fromBytes(string $head): ?self
    {
        return match (true) {
            str_starts_with($head, "\xFF\xD8\xFF") => self::Jpeg,
            str_starts_with($head, "\x89PNG\r\n\x1A\n") => self::Png,
            str_starts_with($head, 'RIFF') && substr($head, 8, 4) === 'WEBP' => self::Webp,
            default => null,
        };
    }

    public function extension(): string
    {
        return match ($this) {
            self::Jpeg => 'jpg',
            self::Png => 'png',
            self::Webp => 'webp',
        };
    }
}
