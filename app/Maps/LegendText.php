<?php

declare(strict_types=1);

namespace App\Maps;

use App\Maps\Tallies\AreaTallies;
use App\Maps\Tallies\TallyText;
use App\Texts;
use PinYard\Carto\Look;
use PinYard\Carto\Marks\ByClasses;
use PinYard\Carto\Marks\Crossed;
use PinYard\Carto\Marks\Density;
use PinYard\Carto\Marks\Shades;
use PinYard\Carto\Tally;

/** The legend of a look with its classes in words; the phone says the same (shared/map/legendText.ts). */
final class LegendText
{
    /**
     * @param  array<array-key, int>  $counts  records by class
     * @param  AreaTallies|null  $tallies  what areas are coloured by, where it is that
     * @return list<array<string, mixed>>
     */
    public static function of(Look $look, array $counts, ?AreaTallies $tallies = null): array
    {
        $unit = match (true) {
            $tallies !== null => TallyText::unit($tallies->tally),
            $look->marks->fields() === [] => '',
            default => self::unit($look, 0),
        };

        return array_map(static function (array $line) use ($look, $unit, $tallies): array {
            if ($tallies !== null && $line['code'] === Tally::FEW) {
                $line['label'] = TallyText::few($tallies->tally, $tallies->counted);
            }
            if (isset($line['ramp'])) {
                $line['ends'] = array_map(
                    static fn (float $end): string => self::number($end).$unit,
                    [$line['from'], $line['to']],
                );
                $line['label'] = Texts::of('legend.ramp', ['from' => $line['ends'][0], 'to' => $line['ends'][1]]);
            } elseif (isset($line['at'])) {
                $line['ends'] = [
                    self::range($line['ranges'][0][0], $line['ranges'][0][1], $unit),
                    self::range($line['ranges'][1][0], $line['ranges'][1][1], self::unit($look, 1)),
                ];
                $line['label'] = Texts::of('legend.both', ['a' => $line['ends'][0], 'b' => $line['ends'][1]]);
            } elseif ($look->marks->fills()) {
                $line['label'] ??=
                    $line['code'] === null
                        ? Texts::of($tallies === null ? 'legend.missing' : 'tally.none')
                        : self::range($line['from'] ?? null, $line['to'] ?? null, $unit);
            }
            unset($line['from'], $line['to'], $line['ranges']);

            return $line;
        }, $look->legend($counts));
    }

    /**
     * What sizes mean: a few to read others by, with their pixels on the map.
     *
     * @return array{by: string, marks: list<array{text: string, pixels: float}>, missing: int}|null
     */
    public static function sizes(Look $look, int $missing): ?array
    {
        $size = $look->size;
        if ($size === null) {
            return null;
        }
        $unit = $size->field->unit === null ? '' : " {$size->field->unit}";

        return [
            'by' => $size->field->label,
            'marks' => array_map(
                static fn (array $mark): array => [
                    'text' => self::number($mark['value']).$unit,
                    'pixels' => round($mark['size'] * $size->pixels, 1),
                ],
                $size->marks($look->geometry),
            ),
            'missing' => $missing,
        ];
    }

    private static function unit(Look $look, int $which): string
    {
        $marks = $look->marks;
        $field = match (true) {
            $marks instanceof ByClasses, $marks instanceof Density, $marks instanceof Shades => $marks->field,
            $marks instanceof Crossed => $marks->of[$which] ?? null,
            default => null,
        };

        return $field?->unit === null ? '' : " $field->unit";
    }

    public static function range(?float $from, ?float $to, string $unit): string
    {
        return match (true) {
            $from === null && $to === null => Texts::of('legend.any'),
            $from === null => Texts::of('legend.under', ['to' => self::number((float) $to).$unit]),
            $to === null => Texts::of('legend.over', ['from' => self::number($from).$unit]),
            default => Texts::of('legend.range', ['from' => self::number($from), 'to' => self::number($to).$unit]),
        };
    }

    /** As short as it can be told; breaks are round where they can be. */
    public static function number(float $number): string
    {
        $text = rtrim(rtrim(number_format($number, 6, '.', ''), '0'), '.');

        return $text === '-0' ? '0' : str_replace('-', '−', Texts::number($text));
    }
}
