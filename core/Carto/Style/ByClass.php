<?php

declare(strict_types=1);

namespace PinYard\Carto\Style;

use PinYard\Carto\Look;
use PinYard\Carto\Peg;

/** Expressions of the style specification by the class that a feature carries. */
final class ByClass
{
    /**
     * What is said of each mark; where all say the same, just that.
     *
     * @param  callable(Peg): (string|int|float)  $draw
     */
    public static function value(Look $look, callable $draw): mixed
    {
        $other = $draw($look->marks->other);
        $match = ['match', ['get', 'class']];
        $same = true;
        foreach ($look->marks->classes as $code => $peg) {
            $value = $draw($peg);
            $same = $same && $value === $other;
            array_push($match, (string) $code, $value);
        }
        $match[] = $other;

        return $same ? $other : $match;
    }

    /**
     * The marks parted by what is said of them, each part with a filter for its features.
     *
     * @param  callable(Peg): ?string  $of
     * @return array<string, list<mixed>|null> by what is said, without those of which nothing is; null: all
     */
    public static function parted(Look $look, callable $of): array
    {
        $codes = [];
        foreach ($look->marks->classes as $code => $peg) {
            $codes[(string) $of($peg)][] = (string) $code;
        }
        $other = (string) $of($look->marks->other);
        if ($codes === [] || array_keys($codes) === [$other]) {
            return $other === '' ? [] : [$other => null];
        }
        $in = static fn (array $of): array => ['in', ['coalesce', ['get', 'class'], ''], ['literal', $of]];
        $all = array_merge(...array_values($codes));
        $parts = array_map($in, $codes);
        // What is in none of the classes has the mark of the rest.
        $rest = ['!', $in($all)];
        $parts[$other] = isset($parts[$other]) ? ['any', $parts[$other], $rest] : $rest;
        unset($parts['']);

        return $parts;
    }

    /**
     * @param  list<mixed>|null  ...$filters
     * @return array{filter?: list<mixed>} of a layer; none where there is nothing to filter by
     */
    public static function filter(?array ...$filters): array
    {
        $given = array_values(array_filter($filters, static fn (?array $f): bool => $f !== null));

        return match (count($given)) {
            0 => [],
            1 => ['filter' => $given[0]],
            default => ['filter' => ['all', ...$given]],
        };
    }
}
