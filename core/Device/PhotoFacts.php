<?php

declare(strict_types=1);

namespace PinYard\Device;

/**
 * What a photo says of itself: when, where, in which direction, how high. From the tags of EXIF 2.32 (CIPA DC-008,
 * 4.6.5 and 4.6.6), as PHP's `exif_read_data` gives them. What is damaged or makes no sense is left out.
 */
final readonly class PhotoFacts
{
    /**
     * @param  string|null  $taken  `2026-05-01 06:30:00`, with an offset where the camera told one
     * @param  float|null  $direction  degrees from north
     * @param  float|null  $altitude  metres
     * @param  bool  $sideless  whether it names degrees but not on which side of the equator or of Greenwich: then it
     *     has no place
     */
    private function __construct(
        public ?string $taken,
        public ?float $lon,
        public ?float $lat,
        public ?float $direction,
        public ?float $altitude,
        public bool $sideless,
    ) {
    }

    /** @param  array<array-key, mixed>  $tags */
    public static function of(array $tags): self
    {
        $taken = null;
        foreach (['DateTimeOriginal', 'DateTimeDigitized', 'DateTime'] as $tag) {
            if (
                $taken === null &&
                is_string($tags[$tag] ?? null) &&
                preg_match('/^(\d{4}):(\d\d):(\d\d) (\d\d:\d\d:\d\d)/', $tags[$tag], $m) === 1 &&
                checkdate((int) $m[2], (int) $m[3], (int) $m[1])
            ) {
                $taken = "$m[1]-$m[2]-$m[3] $m[4]";
            }
        }
        $offset = $tags['OffsetTimeOriginal'] ?? ($tags['UndefinedTag:0x9011'] ?? null);
        if ($taken !== null && is_string($offset) && preg_match('/^[+-]\d\d:\d\d/', $offset) === 1) {
            $taken .= substr($offset, 0, 6);
        }
        $lat = self::angle($tags['GPSLatitude'] ?? null, $tags['GPSLatitudeRef'] ?? null, 'S');
        $lon = self::angle($tags['GPSLongitude'] ?? null, $tags['GPSLongitudeRef'] ?? null, 'W');
        // Nought and nought is what a camera writes that never had a fix.
        $placed =
            $lat !== null && $lon !== null && abs($lat) <= 90 && abs($lon) <= 180 && ! ($lat === 0.0 && $lon === 0.0);
        // EXIF 2.32, 4.6.6: the reference is a tag of its own; without it nobody can tell north from south.
        $side = static fn (mixed $letter, string $of): bool => is_string($letter) &&
            $letter !== '' &&
            stripos($of, trim($letter, " \0")) !== false &&
            trim($letter, " \0") !== '';
        $sideless =
            $placed &&
            (! $side($tags['GPSLatitudeRef'] ?? null, 'NS') || ! $side($tags['GPSLongitudeRef'] ?? null, 'EW'));
        $placed = $placed && ! $sideless;
        $direction = self::fraction($tags['GPSImgDirection'] ?? null);
        $altitude = self::fraction($tags['GPSAltitude'] ?? null);
        $below = in_array($tags['GPSAltitudeRef'] ?? "\0", ["\1", 1, '1'], true);

        return new self(
            $taken,
            $placed ? $lon : null,
            $placed ? $lat : null,
            $direction !== null && $direction >= 0 && $direction <= 360 ? fmod($direction, 360) : null,
            $altitude !== null && abs($altitude) < 20_000 ? ($below ? -$altitude : $altitude) : null,
            $sideless,
        );
    }

    private static function angle(mixed $parts, mixed $letter, string $negative): ?float
    {
        if (! is_array($parts) || count($parts) < 1) {
            return null;
        }
        $degrees = 0.0;
        foreach (array_values($parts) as $i => $part) {
            $number = self::fraction($part);
            if ($number === null || $i > 2) {
                return null;
            }
            $degrees += $number / 60 ** $i;
        }

        return is_string($letter) && strtoupper(trim($letter, " \0")) === $negative ? -$degrees : $degrees;
    }

    /** `105/10`; nothing where it divides by nought. */
    private static function fraction(mixed $text): ?float
    {
        if (! is_string($text) || preg_match('#^(-?\d+(?:\.\d+)?)(?:/(\d+))?$#D', trim($text), $m) !== 1) {
            return null;
        }
        $by = (float) ($m[2] ?? 1);

        return $by === 0.0 ? null : (float) $m[1] / $by;
    }
}
