<?php

declare(strict_types=1);

namespace PinYard\Export;

/** Field names as a shapefile can hold them: ten characters of ASCII at the most, none twice (dBASE IV). */
final class ShortNames
{
    private const MOST = 10;

    /**
     * @param  list<string>  $keys
     * @return array<string, string> short name by key
     */
    public static function of(array $keys): array
    {
        $names = [];
        foreach ($keys as $key) {
            $short = rtrim(substr($key, 0, self::MOST), '_');
            for ($n = 2; in_array(strtolower($short), array_map(strtolower(...), $names), true); $n++) {
                $short = substr($key, 0, self::MOST - strlen((string) $n) - 1)."_$n";
            }
            $names[$key] = $short;
        }

        return $names;
    }
}
