<?php

declare(strict_types=1);

namespace PinYard\Device;

/** What a slot takes. */
enum FileKind: string
{
    case Photo = 'photo';
    case Audio = 'audio';
    case Video = 'video';
    case Pdf = 'pdf';

    /** More than this no design may allow (bytes). */
    public function mostBytes(): int
    {
        return $this === self::Video ? 524_288_000 : 104_857_600;
    }

    /** Where the design names no size. */
    public function usualBytes(): int
    {
        return $this === self::Video ? 209_715_200 : ($this === self::Audio ? 52_428_800 : 26_214_400);
    }

    /** @return list<FileType> */
    public function types(): array
    {
        return array_values(array_filter(FileType::cases(), fn (FileType $t): bool => $t->kind() === $this));
    }
}
