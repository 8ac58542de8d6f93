<?php

declare(strict_types=1);

namespace PinYard\Publish;

use PinYard\Refused;

/** A colour that people chose, and what can be read on it. */
final readonly class Colour
{
    private function __construct(public string $hex)
    {
    }

    /** @throws Refused for anything but #RRGGBB */
    public static function read(mixed $in, string $at): self
    {
        if (! is_string($in) || preg_match('/\A#[0-9A-Fa-f]{6}\z/', $in) !== 1) {
            throw Refused::because('colour_form', $at, is_scalar($in) ? $in : null);
        }

        return new self(strtoupper($in));
    }

    /** White or black, whichever stands out more: one of the two always reaches 4.5 : 1. */
    public function text(): string
    {
        return self::contrast($this->hex, '#FFFFFF') >= self::contrast($this->hex, '#000000') ? '#FFFFFF' : '#000000';
    }

    /** Contrast ratio of two colours, 1 to 21 (WCAG 2.2, "contrast ratio"). */
    public static function contrast(string $a, string $b): float
    {
        [$low, $high] = [min(self::luminance($a), self::luminance($b)), max(self::luminance($a), self::luminance($b))];

        return ($high + 0.05) / ($low + 0.05);
    }

    /** Relative luminance, 0 to 1 (WCAG 2.2, "relative luminance"). */
    private static function luminance(string $hex): float
    {
        $linear = static function (int $at) use ($hex): float {
            $share = (int) hexdec(substr($hex, $at, 2)) / 255;

            return $share <= 0.04045 ? $share / 12.92 : (($share + 0.055) / 1.055) ** 2.4;
        };

        return 0.2126 * $linear(1) + 0.7152 * $linear(3) + 0.0722 * $linear(5);
    }
}
