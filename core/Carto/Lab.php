<?php

declare(strict_types=1);

namespace PinYard\Carto;

/** A colour as CIELAB has it under D65 (CIE 15; sRGB by IEC 61966-2-1). */
final readonly class Lab
{
    private const WHITE = [0.95047, 1.0, 1.08883];

    private const RGB_TO_XYZ = [
        [0.4124564, 0.3575761, 0.1804375],
        [0.2126729, 0.7151522, 0.0721750],
        [0.0193339, 0.1191920, 0.9503041],
    ];

    private const XYZ_TO_RGB = [
        [3.2404542, -1.5371385, -0.4985314],
        [-0.9692660, 1.8760108, 0.0415560],
        [0.0556434, -0.2040259, 1.0572252],
    ];

    private function __construct(private float $l, private float $a, private float $b)
    {
    }

    /** @param  string  $hex  `#RRGGBB` */
    public static function ofHex(string $hex): self
    {
        $rgb = array_map(static function (string $pair): float {
            $c = hexdec($pair) / 255;

            return $c <= 0.04045 ? $c / 12.92 : (($c + 0.055) / 1.055) ** 2.4;
        }, str_split(ltrim($hex, '#'), 2));
        $f = [];
        foreach (self::RGB_TO_XYZ as $i => [$r, $g, $b]) {
            $t = ($r * $rgb[0] + $g * $rgb[1] + $b * $rgb[2]) / self::WHITE[$i];
            $f[] = $t > (6 / 29) ** 3 ? $t ** (1 / 3) : $t / (3 * (6 / 29) ** 2) + 4 / 29;
        }

        return new self(116 * $f[1] - 16, 500 * ($f[0] - $f[1]), 200 * ($f[1] - $f[2]));
    }

    /** @return array{float, float, float} L*, a*, b* */
    public function values(): array
    {
        return [$this->l, $this->a, $this->b];
    }

    /** @param  float  $share  0: this one, 1: the other */
    public function towards(self $other, float $share): self
    {
        return new self(
            $this->l + ($other->l - $this->l) * $share,
            $this->a + ($other->a - $this->a) * $share,
            $this->b + ($other->b - $this->b) * $share,
        );
    }

    /** What a screen cannot show is cut to what it can. */
    public function hex(): string
    {
        $y = ($this->l + 16) / 116;
        $xyz = [];
        foreach ([$y + $this->a / 500, $y, $y - $this->b / 200] as $i => $t) {
            $xyz[] = self::WHITE[$i] * ($t > 6 / 29 ? $t ** 3 : 3 * (6 / 29) ** 2 * ($t - 4 / 29));
        }
        $hex = '#';
        foreach (self::XYZ_TO_RGB as [$a, $b, $c]) {
            $v = max(0.0, min(1.0, $a * $xyz[0] + $b * $xyz[1] + $c * $xyz[2]));
            $v = $v <= 0.0031308 ? 12.92 * $v : 1.055 * $v ** (1 / 2.4) - 0.055;
            $hex .= sprintf('%02X', (int) round($v * 255));
        }

        return $hex;
    }
}
