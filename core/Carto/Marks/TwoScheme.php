<?php

declare(strict_types=1);

namespace PinYard\Carto\Marks;

use PinYard\Carto\Lab;

/**
 * Colours for two numbers at once: light where both are low, one hue where only the first is high, another where only
 * the second is, dark where both are. What lies between is mixed in CIELAB; tests/units/colours.test.ts holds that any
 * two of the nine can be told apart, also by eyes that lack a kind of cone.
 */
enum TwoScheme: string
{
    case Reef = 'reef';
    case Heath = 'heath';

    /** @return array{string, string, string, string} both low, first high, second high, both high */
    private function corners(): array
    {
        return match ($this) {
            self::Reef => ['#F3EEDF', '#E08A1E', '#3D8FC4', '#231A33'],
            self::Heath => ['#F1EEE2', '#B5489A', '#57A64A', '#16242B'],
        };
    }

    /**
     * @param  int  $first  classes of the first number, at least 1
     * @param  int  $second  of the second
     * @return array<string, string> by `i-j`
     */
    public function colours(int $first, int $second): array
    {
        [$low, $a, $b, $high] = array_map(Lab::ofHex(...), $this->corners());
        $out = [];
        for ($i = 0; $i < $first; $i++) {
            for ($j = 0; $j < $second; $j++) {
                $x = $first === 1 ? 0.5 : $i / ($first - 1);
                $y = $second === 1 ? 0.5 : $j / ($second - 1);
                $out["$i-$j"] = $low->towards($a, $x)->towards($b->towards($high, $x), $y)->hex();
            }
        }

        return $out;
    }
}
