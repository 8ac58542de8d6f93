<?php

declare(strict_types=1);

namespace PinYard\Merge;

/**
 * Two people have changed the same document: part by part, the change of whoever changed it counts. Maps are merged key
 * by key, lists of things with ids thing by thing; only where both changed one value to something else must somebody
 * decide. A thing that one has changed is not taken away by the other.
 */
final readonly class DocumentMerge
{
    /**
     * @param  list<array{path: string, theirs: mixed, mine: mixed}>  $clashes  JSON pointers (RFC 6901) without the
     *     first slash
     */
    private function __construct(public mixed $merged, public array $clashes)
    {
    }

    /**
     * @param  mixed  $was  as it was when the change was begun
     * @param  mixed  $theirs  as it is now
     * @param  mixed  $mine  as it shall be
     */
    public static function of(mixed $was, mixed $theirs, mixed $mine, string $path = ''): self
    {
        $clashes = [];
        $merged = self::merge($was, $theirs, $mine, $path, $clashes);

        return new self($merged, $clashes);
    }

    /** @param  list<array{path: string, theirs: mixed, mine: mixed}>  $clashes */
    private static function merge(mixed $was, mixed $theirs, mixed $mine, string $path, array &$clashes): mixed
    {
        if (self::same($was, $mine) || self::same($theirs, $mine)) {
            return $theirs;
        }
        if (self::same($was, $theirs)) {
            return $mine;
        }
        if (is_array($was) && is_array($theirs) && is_array($mine)) {
            if (self::isMap($was) && self::isMap($theirs) && self::isMap($mine)) {
                return self::maps($was, $theirs, $mine, $path, $clashes);
            }
            [$a, $b, $c] = [self::byId($was), self::byId($theirs), self::byId($mine)];
            if ($a !== null && $b !== null && $c !== null) {
                return self::lists($a, $b, $c, $path, $clashes);
            }
        }
        $clashes[] = ['path' => $path, 'theirs' => $theirs, 'mine' => $mine];

        return $theirs;
    }

    /**
     * @param  array<mixed>  $was
     * @param  array<mixed>  $theirs
     * @param  array<mixed>  $mine
     * @param  list<array{path: string, theirs: mixed, mine: mixed}>  $clashes
     * @return array<mixed>
     */
    private static function maps(array $was, array $theirs, array $mine, string $path, array &$clashes): array
    {
        $merged = [];
        foreach (array_keys($theirs + $mine) as $key) {
            $value = self::merge(
                $was[$key] ?? null,
                $theirs[$key] ?? null,
                $mine[$key] ?? null,
                ltrim("$path/$key", '/'),
                $clashes,
            );
            // What either has taken away is gone, unless the other has changed it.
            if ($value !== null || array_key_exists($key, $theirs) && array_key_exists($key, $mine)) {
                $merged[$key] = $value;
            }
        }

        return $merged;
    }

    /**
     * @param  array<string, array<mixed>>  $was  by id
     * @param  array<string, array<mixed>>  $theirs
     * @param  array<string, array<mixed>>  $mine
     * @param  list<array{path: string, theirs: mixed, mine: mixed}>  $clashes
     * @return list<mixed>
     */
    private static function lists(array $was, array $theirs, array $mine, string $path, array &$clashes): array
    {
        $kept = [];
        foreach ($theirs + $mine as $id => $one) {
            $before = $was[$id] ?? null;
            $here = $theirs[$id] ?? null;
            $wanted = $mine[$id] ?? null;
            $kept[$id] = match (true) {
                $here === null => $before === null || ! self::same($before, $wanted) ? $wanted : null,
                $wanted === null => $before === null || ! self::same($before, $here) ? $here : null,
                default => self::merge($before, $here, $wanted, ltrim("$path/$id", '/'), $clashes),
            };
        }
        // The order is that of whoever changed it; of two who did, mine, with what only they have behind it.
        $both = static fn (array $list): array => array_keys(array_intersect_key($list, $was, $theirs, $mine));
        $order = $both($mine) === $both($was) ? [...array_keys($theirs), ...array_keys($mine)]
            : [...array_keys($mine), ...array_keys($theirs)];
        $merged = [];
        foreach (array_unique($order) as $id) {
            if ($kept[$id] !== null) {
                $merged[] = $kept[$id];
            }
        }

        return $merged;
    }

    /**
     * @param  array<mixed>  $list
     * @return array<string, array<mixed>>|null null where its things have no ids of their own
     */
    private static function byId(array $list): ?array
    {
        if (! array_is_list($list)) {
            return null;
        }
        $found = [];
        foreach ($list as $one) {
            $id = is_array($one) ? $one['id'] ?? null : null;
            if (! is_array($one) || ! is_string($id) && ! is_int($id)) {
                return null;
            }
            $name = (is_string($one['kind'] ?? null) && is_int($id) ? $one['kind'].'-' : 'id-').$id;
            if (isset($found[$name])) {
                return null;
            }
            $found[$name] = $one;
        }

        return $found;
    }

    /** @param  array<mixed>  $value */
    private static function isMap(array $value): bool
    {
        return $value === [] ? false : ! array_is_list($value);
    }

    /** Keys in any order; 1 and 1.0 are the same number, as JSON has it. */
    private static function same(mixed $a, mixed $b): bool
    {
        if (is_array($a) && is_array($b)) {
            if (array_is_list($a) !== array_is_list($b) || count($a) !== count($b)) {
                return false;
            }
            foreach ($a as $key => $value) {
                if (! array_key_exists($key, $b) || ! self::same($value, $b[$key])) {
                    return false;
                }
            }

            return true;
        }

        return $a === $b || (is_int($a) || is_float($a)) && (is_int($b) || is_float($b)) && (float) $a === (float) $b;
    }
}
