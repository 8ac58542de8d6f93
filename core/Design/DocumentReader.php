<?php

declare(strict_types=1);

namespace PinYard\Design;

use PinYard\Problem;

/**
 * Takes values out of a document and collects what is wrong with them, so that everything can be said at once.
 * Places are JSON pointers (RFC 6901).
 *
 * @internal
 */
final class DocumentReader
{
    /** @var list<Problem> */
    public array $problems = [];

    /** @param  array<mixed>  $in */
    public function text(array $in, string $key, string $at, int $least, int $most): string
    {
        $value = $in[$key] ?? '';
        if (! is_string($value)) {
            $this->off('must_be_text', "$at/$key", $value);

            return '';
        }
        $length = mb_strlen($value);
        if (trim($value) === '' && $least > 0) {
            $this->off('empty', "$at/$key", $value);
        } elseif ($length > $most) {
            $this->off('too_long', "$at/$key", mb_substr($value, 0, 40).'…', ['length' => $length, 'most' => $most]);
        }

        return $value;
    }

    /** @param  array<mixed>  $in */
    public function whole(array $in, string $key, string $at, int $lowest, int $highest, int $default): int
    {
        $value = $in[$key] ?? $default;
        if (is_float($value) && floor($value) === $value && abs($value) <= Field::WHOLE_MOST) {
            $value = (int) $value;
        }
        if (! is_int($value)) {
            $this->off('must_be_whole', "$at/$key", $value);

            return $default;
        }
        if ($value < $lowest || $value > $highest) {
            $this->off('out_of_range', "$at/$key", $value, ['lowest' => $lowest, 'highest' => $highest]);

            return $default;
        }

        return $value;
    }

    /** @param  array<mixed>  $in */
    public function flag(array $in, string $key, string $at, bool $default): bool
    {
        $value = $in[$key] ?? $default;
        if (! is_bool($value)) {
            $this->off('must_be_yes_no', "$at/$key", $value);

            return $default;
        }

        return $value;
    }

    /**
     * @param  array<mixed>  $in
     * @return list<mixed>
     */
    public function list(array $in, string $key, int $most, string $at = ''): array
    {
        $value = $in[$key] ?? [];
        if (! is_array($value) || ! array_is_list($value)) {
            $this->off('must_be_list', "$at/$key", $value);

            return [];
        }
        if (count($value) > $most) {
            $this->off('too_many', "$at/$key", count($value), ['most' => $most, 'count' => count($value)]);

            return array_slice($value, 0, $most);
        }

        return $value;
    }

    /**
     * A part that is an object, or empty where it is missing; null where it is something else, which is said.
     *
     * @param  array<mixed>  $in
     * @param  list<string>  $known
     * @return array<mixed>|null
     */
    public function part(array $in, string $key, string $at, array $known): ?array
    {
        $value = $in[$key] ?? [];
        if (! is_array($value)) {
            $this->off('must_be_object', "$at/$key", $value);

            return null;
        }
        $this->noOthers($value, $known, "$at/$key");

        return $value;
    }

    /**
     * @param  array<mixed>  $in
     * @param  list<string>  $known
     */
    public function noOthers(array $in, array $known, string $at): void
    {
        foreach (array_keys($in) as $key) {
            if (! in_array($key, $known, true)) {
                $this->off('word_unknown', "$at/$key", null, [
                    'word' => (string) $key,
                    'known' => implode(', ', $known),
                ]);
            }
        }
    }

    /**
     * @template T
     *
     * @param  list<T>  $list
     * @param  callable(T): string  $by
     */
    public function noDoubles(array $list, callable $by, string $code, string $at, string $part): void
    {
        $seen = [];
        foreach ($list as $i => $one) {
            $what = $by($one);
            if ($what !== '' && isset($seen[$what])) {
                $this->off($code, "$at/$i$part", $what, ['first' => $seen[$what] + 1, 'second' => $i + 1]);
            }
            $seen[$what] ??= $i;
        }
    }

    /** @param  array<string, scalar|null>  $params */
    public function off(string $code, string $at, mixed $value = null, array $params = []): void
    {
        $this->problems[] = new Problem($code, $at, $value, $params);
    }
}
