<?php

declare(strict_types=1);

namespace PinYard\Formula;

use PinYard\Refused;

/** A formula that was checked against a layer's fields: its type, what it reads, and its portable tree. */
final readonly class Formula
{
    /**
     * @param  list<mixed>  $tree  see {@see Checker}
     * @param  list<string>  $fields  keys that it reads
     * @param  bool  $changes  its value moves with the clock
     * @param  bool  $visited  it reads visits
     * @param  list<string>  $areas  titles of layers of areas that it reads
     */
    private function __construct(
        public string $text,
        public array $tree,
        public Type $type,
        public array $fields,
        public bool $changes,
        public bool $visited,
        public array $areas,
    ) {
    }

    /**
     * @param  Type|null  $wanted  what it must give, where that matters (a condition gives yes or no)
     *
     * @throws Refused with `at` and `length` (characters) of what is off
     */
    public static function read(string $text, Scope $scope, ?Type $wanted = null): self
    {
        $node = Parser::parse($text);
        $checker = new Checker($text, $scope);
        [$tree, $type] = $checker->check($node);
        if ($wanted !== null && ! $type->fits($wanted)) {
            throw Place::refuse($text, 'formula_result', $node->at, $node->length, [
                'type' => $type->value,
                'wanted' => $wanted->value,
            ]);
        }

        return new self(
            $text,
            $tree,
            $type,
            array_map(strval(...), array_keys($checker->fields)),
            $checker->changes,
            $checker->visited,
            array_map(strval(...), array_keys($checker->areas)),
        );
    }

    /**
     * Whether its value tells something of the place: coordinates, sizes, distances, the area it lies in.
     *
     * @param  string|null  $but  title of the layer of whose areas it may tell in which one it lies
     */
    public function readsPlace(?string $but = null): bool
    {
        return array_diff($this->areas, $but === null ? [] : [$but]) !== []
            // Which areas are asked for, is said above.
            || self::holds($this->tree, array_values(array_diff(Functions::OF_PLACE, ['area_of'])));
    }

    /**
     * @param  array<mixed>  $tree
     * @param  list<string>  $operations
     */
    private static function holds(array $tree, array $operations): bool
    {
        if (is_string($tree[0] ?? null) && in_array($tree[0], $operations, true)) {
            return true;
        }
        foreach ($tree as $part) {
            if (is_array($part) && self::holds($part, $operations)) {
                return true;
            }
        }

        return false;
    }

    /** The value for one record: float, string, bool, or null where it is missing. */
    public function value(Surroundings $in): float|string|bool|null
    {
        $value = (new Evaluator($in))->value($this->tree);

        return is_array($value) ? implode(',', $value) : $value;
    }
}
