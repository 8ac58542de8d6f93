<?php

declare(strict_types=1);

namespace PinYard\Carto;

/**
 * Rows of colours for numbers: from light to dark, or to both sides of a middle. Made by going through CIELAB from one
 * of our colours to the next, so that steps look alike; tests/units/colours.test.ts holds that neighbours can be told
 * apart, also by eyes that lack a kind of cone.
 */
enum Scheme: string
{
    case Tide = 'tide';
    case Ember = 'ember';
    case Dusk = 'dusk';
    case Shore = 'shore';

    /** @return non-empty-list<string> colours that it goes through */
    private function stops(): array
    {
        return match ($this) {
            self::Tide => ['#E6F4EA', '#5DA79C', '#0A3F3A'],
            self::Ember => ['#F8E7B8', '#E0873A', '#6B1710'],
            self::Dusk => ['#E3DDEF', '#8C72B2', '#2C1A47'],
            // Brown to green-blue over a light middle, which most kinds of colour blindness leave apart.
            self::Shore => ['#7A4309', '#D3AC5F', '#F1EEE2', '#55ADA4', '#01564F'],
        };
    }

    /**
     * @param  int  $count  at least 1
     * @return list<string>
     */
    public function colours(int $count): array
    {
        $stops = array_map(Lab::ofHex(...), $this->stops());
        $last = count($stops) - 1;
        $out = [];
        for ($i = 0; $i < $count; $i++) {
            $at = $count === 1 ? $last / 2 : ($i / ($count - 1)) * $last;
            $from = min($last - 1, (int) floor($at));
            $out[] = $stops[$from]->towards($stops[$from + 1], $at - $from)->hex();
        }

        return $out;
    }
}
