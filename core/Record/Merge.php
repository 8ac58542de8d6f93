<?php

declare(strict_types=1);

namespace PinYard\Record;

/**
 * Three-way merge of one record, value by value: what somebody changed from a base, over what it has become since.
 * Both sides changing a value to the same thing is no clash.
 */
final readonly class Merge
{
    /**
     * @param  array<string, mixed>  $values  the record as it is afterwards
     * @param  list<string>  $clashes  keys that both sides changed, each to something else; these keep the present
     *     value
     * @param  bool  $others  whether others had changed anything since the base
     */
    private function __construct(public array $values, public array $clashes, public bool $others)
    {
    }

    /**
     * @param  array<string, mixed>  $base
     * @param  array<string, mixed>  $present
     * @param  array<string, mixed>  $changes  only what was changed
     */
    public static function of(array $base, array $present, array $changes): self
    {
        $clashes = [];
        $merged = $present;
        foreach ($changes as $key => $value) {
            $was = $base[$key] ?? null;
            $is = $present[$key] ?? null;
            if ($is === $was || $is === $value) {
                $merged[$key] = $value;
            } elseif ($value !== $was) {
                $clashes[] = $key;
            }
        }
        $others = false;
        foreach (array_keys($base + $present) as $key) {
            $others = $others || ($base[$key] ?? null) !== ($present[$key] ?? null);
        }

        return new self($merged, $clashes, $others);
    }
}
