<?php

declare(strict_types=1);

namespace PinYard\Import;

use PinYard\Geo\Box;
use PinYard\Geo\Position;

/** Decides which of the places that a gazetteer proposes is meant. */
final readonly class PlaceMatch
{
    /** Two places less than this apart in score are both possible. */
    private const CLEAR = 0.03;

    private const FAR = 0.2;

    /**
     * @param  list<array{name: string, of: string, lon: float, lat: float, score: float}>  $candidates  the best first
     * @param  'one'|'several'|'none'  $found
     */
    private function __construct(public array $candidates, public string $found)
    {
    }

    /**
     * @param  list<array{name: string, of: string, lon: float, lat: float}>  $known  `of` says where it is: region,
     *     country
     * @param  float  $from  likeness from which on a place is taken
     */
    public static function among(string $text, array $known, Box $area, float $from): self
    {
        $wanted = PlaceName::of($text);
        $scored = [];
        foreach ($known as $place) {
            $score = $wanted->likeness(PlaceName::plain($place['name']));
            $of = ' '.PlaceName::plain($place['of']).' ';
            foreach ($wanted->context as $part) {
                $score *= str_contains($of, " $part ") ? 1.0 : 0.85;
            }
            $near = $area->contains(Position::of($place['lon'], $place['lat']));
            // What lies far off is less likely meant, also where town or region were named beside it: there it still
            // tells ties apart.
            $far = $near ? 0.0 : self::FAR * ($wanted->context === [] ? 1.0 : 0.25);
            $scored[] = [...$place, 'score' => round(max(0.0, min(1.0, $score) - $far), 3)];
        }
        usort($scored, static fn (array $a, array $b): int => $b['score'] <=> $a['score']);
        $good = array_values(array_filter($scored, static fn (array $c): bool => $c['score'] >= min($from, 0.6)));
        $taken = array_values(array_filter($good, static fn (array $c): bool => $c['score'] >= $from));
        $clear = $taken !== [] && (count($taken) === 1 || $taken[0]['score'] - $taken[1]['score'] >= self::CLEAR);

        return new self(array_slice($good, 0, 8), $good === [] ? 'none' : ($clear ? 'one' : 'several'));
    }
}
