<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Geo\Box;
use PinYard\Geo\CoordinateText;
use PinYard\Geo\Position;
use PinYard\Problem;
use PinYard\Refused;

/**
 * A place out of two cells. In degrees it notices pairs that are swapped, that lost a sign or that are nought and
 * nought, and puts right what can only have been meant one way: the one that falls into the area where the programme
 * works.
 */
final readonly class PairReader
{
    /** @param  Box|null  $area  where the places are expected; null where anywhere will do */
    public function __construct(private bool $metres, private ?Box $area, private bool $mend = true)
    {
    }

    /**
     * @return array{float, float, bool}|Problem x and y as numbers, not yet judged; whether a letter says which is
     *     which and on what side
     */
    public function numbers(string $x, string $y): array|Problem
    {
        if (trim($x) === '' || trim($y) === '') {
            return new Problem('intake_no_place', 'place');
        }
        $pair = [];
        $lettered = false;
        foreach (['lon' => $x, 'lat' => $y] as $axis => $text) {
            $number = NumberText::read($text, false) ?? NumberText::read($text, true);
            // A comma before three figures groups in a column of metres, and is a decimal comma in one of degrees.
            if (! $this->metres && is_int($number) && str_contains($text, ',')) {
                $number = NumberText::read($text, true);
            }
            if ($number === null) {
                $lettered = $lettered || preg_match('/[NSEW]/i', $text) === 1;
                try {
                    $number = CoordinateText::half($text, $axis);
                } catch (Refused $e) {
                    return new Problem('intake_coordinate', 'place', mb_substr($text, 0, 40), [
                        'value' => mb_substr($text, 0, 40),
                    ]);
                }
            }
            $pair[] = (float) $number;
        }

        return [$pair[0], $pair[1], $lettered];
    }

    /** @return array{Position, 'swapped'|'sign'|'outside'|null}|Problem the place, and what was done or noticed */
    public function judged(float $x, float $y, bool $lettered = false): array|Problem
    {
        if ($x === 0.0 && $y === 0.0) {
            return new Problem('intake_zero', 'place');
        }
        $here = self::at($x, $y);
        if ($here !== null && ($this->area === null || $this->area->contains($here))) {
            return [$here, null];
        }
        // Who wrote a letter beside it meant that side: a mistake there is no swapped pair.
        if ($this->mend && ! $this->metres && ! $lettered) {
            $mended = [];
            if ($this->area !== null) {
                foreach (
                    [
                        ['swapped', $y, $x],
                        ['sign', -$x, $y],
                        ['sign', $x, -$y],
                        ['sign', -$x, -$y],
                        ['swapped', -$y, $x],
                        ['swapped', $y, -$x],
                    ] as [$how, $lon, $lat]
                ) {
                    $at = self::at($lon, $lat);
                    if ($at !== null && $this->area->contains($at)) {
                        $mended["$at->lon $at->lat"] ??= [$at, $how];
                    }
                }
            }
            if (count($mended) === 1) {
                return array_values($mended)[0];
            }
            if ($here === null && ($turned = self::at($y, $x)) !== null) {
                return [$turned, 'swapped'];
            }
        }

        return $here === null
            ? new Problem('position_outside_world', 'place', "$x, $y", ['lon' => $x, 'lat' => $y])
            : [$here, 'outside'];
    }

    private static function at(float $lon, float $lat): ?Position
    {
        return abs($lon) <= 180 && abs($lat) <= 90 ? Position::of($lon, $lat) : null;
    }
}
