<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Geo\Box;
use PinYard\Geo\CoordinateText;
use PinYard\Geo\GeometryKind;
use PinYard\Geo\Position;
use PinYard\Geo\Shape;
use PinYard\Geo\Wkt;
use PinYard\Problem;
use PinYard\Refused;

/**
 * Finds where rows lie: from a pair of columns, from the text of a place or a pair, or from the geometry that came with
 * them.
 */
final class Locator
{
    /** Texts that are remembered, for places come again and again. */
    private const REMEMBERED = 20_000;

    private readonly PairReader $pairs;

    /** @var array<string, RowPlace> */
    private array $known = [];

    /** @param  Box  $area  where the programme works */
    public function __construct(
        private readonly ImportSettings $settings,
        private readonly GeometryKind $kind,
        private readonly Box $area,
        private readonly Gazetteer $gazetteer,
        private readonly Projection $projection,
    ) {
        $this->pairs = new PairReader($settings->inMetres(), self::around($area), $settings->mend);
    }

    /**
     * @param  list<array{list<string>, string|null}>  $rows  cells and well-known text
     * @return list<RowPlace>
     */
    public function locate(array $rows): array
    {
        return match ($this->settings->way) {
            'pair' => $this->settings->inMetres()
                ? $this->projected($rows)
                : array_map(fn (array $row): RowPlace => $this->pair($row[0]), $rows),
            'text' => array_map(fn (array $row): RowPlace => $this->text($row[0]), $rows),
            'geometry' => array_map(fn (array $row): RowPlace => $this->geometry($row[1] ?? ''), $rows),
            'none' => array_map(
                static fn (): RowPlace => RowPlace::nowhere(new Problem('intake_no_place', 'place')),
                $rows,
            ),
        };
    }

    /** One text, as a person mends it. */
    public function read(string $text): RowPlace
    {
        $text = trim($text);
        if ($text === '') {
            return RowPlace::nowhere(new Problem('intake_no_place', 'place'));
        }
        if (preg_match('/\d/', $text) === 1) {
            try {
                $read = CoordinateText::read($text);

                return $this->judged($read->position->lon, $read->position->lat, $read->lettered);
            } catch (Refused $e) {
                // Numbers alone can be nothing but a pair that went wrong.
                if (preg_match('/\pL{3,}/u', $text) !== 1) {
                    return RowPlace::nowhere($e->problems[0]);
                }
            }
        }
        if ($this->kind !== GeometryKind::Point) {
            return RowPlace::nowhere(new Problem('intake_point_only', 'place'));
        }
        $match = PlaceMatch::among($text, $this->gazetteer->candidates($text), $this->area, $this->settings->match);

        return match ($match->found) {
            'one' => RowPlace::at(Position::of($match->candidates[0]['lon'], $match->candidates[0]['lat']), 'matched'),
            'several' => RowPlace::nowhere(
                new Problem('intake_several', 'place', mb_substr($text, 0, 60), [
                    'value' => mb_substr($text, 0, 60),
                    'count' => count($match->candidates),
                ]),
                $match->candidates,
            ),
            'none' => RowPlace::nowhere(
                new Problem('intake_unknown_place', 'place', mb_substr($text, 0, 60), [
                    'value' => mb_substr($text, 0, 60),
                ]),
            ),
        };
    }

    /** @param  list<string>  $cells */
    private function pair(array $cells): RowPlace
    {
        [$x, $y] = $this->settings->placeColumns;
        $pair = $this->pairs->numbers($cells[$x] ?? '', $cells[$y] ?? '');

        return $pair instanceof Problem ? RowPlace::nowhere($pair) : $this->judged($pair[0], $pair[1], $pair[2]);
    }

    private function judged(float $x, float $y, bool $lettered = false): RowPlace
    {
        if ($this->kind !== GeometryKind::Point) {
            return RowPlace::nowhere(new Problem('intake_point_only', 'place'));
        }
        $at = $this->pairs->judged($x, $y, $lettered);

        return $at instanceof Problem ? RowPlace::nowhere($at) : RowPlace::at($at[0], $at[1]);
    }

    /**
     * @param  list<array{list<string>, string|null}>  $rows
     * @return list<RowPlace>
     */
    private function projected(array $rows): array
    {
        [$x, $y] = $this->settings->placeColumns;
        $located = $pairs = [];
        foreach ($rows as $i => [$cells]) {
            $pair = $this->pairs->numbers($cells[$x] ?? '', $cells[$y] ?? '');
            $pair instanceof Problem ? ($located[$i] = RowPlace::nowhere($pair)) : ($pairs[$i] = [$pair[0], $pair[1]]);
        }
        foreach (
            array_combine(array_keys($pairs), $this->projection
                ->degrees(array_values($pairs), $this->settings->system)) as $i => $degrees
        ) {
            $located[$i] =
                $degrees === null
                    ? RowPlace::nowhere(
                        new Problem('intake_outside_system', 'place', implode(', ', $pairs[$i]), [
                            'value' => implode(', ', $pairs[$i]),
                            'system' => $this->settings->system,
                        ]),
                    )
                    : $this->judged($degrees[0], $degrees[1]);
        }
        ksort($located);

        return array_values($located);
    }

    /** @param  list<string>  $cells */
    private function text(array $cells): RowPlace
    {
        // A pair of coordinates in one of the columns is the place, whatever town or region stands beside it.
        foreach ($this->settings->placeColumns as $i) {
            $one = trim($cells[$i] ?? '');
            if (count($this->settings->placeColumns) > 1 && self::isPair($one)) {
                return $this->known[$one] ??= $this->read($one);
            }
        }
        $text = implode(
            ', ',
            array_filter(
                array_map(static fn (int $i): string => trim($cells[$i] ?? ''), $this->settings->placeColumns),
                static fn (string $t): bool => $t !== '',
            ),
        );
        if (count($this->known) > self::REMEMBERED) {
            $this->known = [];
        }

        return $this->known[$text] ??= $this->read($text);
    }

    private static function isPair(string $text): bool
    {
        if (preg_match('/\d.*[ ,;°NSEW].*\d/iu', $text) !== 1) {
            return false;
        }
        try {
            CoordinateText::read($text);

            return true;
        } catch (Refused) {
            return false;
        }
    }

    private function geometry(string $wkt): RowPlace
    {
        if ($wkt === '') {
            return RowPlace::nowhere(new Problem('intake_no_place', 'place'));
        }
        try {
            $geometry = Wkt::geometry($wkt);
            if ($geometry === null) {
                return RowPlace::nowhere(new Problem('intake_no_place', 'place'));
            }
            // A "multi" of one is that one.
            if (
                str_starts_with($geometry['type'], 'Multi') &&
                is_array($geometry['coordinates']) &&
                count($geometry['coordinates']) === 1
            ) {
                $geometry = ['type' => substr($geometry['type'], 5), 'coordinates' => $geometry['coordinates'][0]];
            }
            $wanted = $this->kind->geoJson();
            if (
                $geometry['type'] !== $wanted &&
                ($geometry['type'] !== "Multi$wanted" || $this->kind === GeometryKind::Point)
            ) {
                return RowPlace::nowhere(
                    new Problem('intake_other_shape', 'place', $geometry['type'], [
                        'is' => $geometry['type'],
                        'wanted' => $wanted,
                    ]),
                );
            }
            if ($this->kind === GeometryKind::Point) {
                $at = Position::fromGeoJson($geometry);

                return $this->judged($at->lon, $at->lat);
            }

            return RowPlace::at(Shape::fromGeoJson($geometry, $this->kind));
        } catch (Refused $e) {
            return RowPlace::nowhere($e->problems[0]);
        }
    }

    /** The area with half its size around it: what lies just outside is a matter for Check, not a slip of the pen. */
    private static function around(Box $area): Box
    {
        $width = fmod($area->east - $area->west + 360, 360);
        $height = $area->north - $area->south;
        if ($width * 2 >= 360) {
            return $area;
        }
        $wrap = static fn (float $lon): float => $lon > 180 ? $lon - 360 : ($lon < -180 ? $lon + 360 : $lon);

        return Box::of(
            $wrap($area->west - $width / 2),
            max(-90.0, $area->south - $height / 2),
            $wrap($area->east + $width / 2),
            min(90.0, $area->north + $height / 2),
        );
    }
}
